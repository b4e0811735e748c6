"""Distance, time and feeding of partner drills against values from outside."""

from __future__ import annotations

from collections import Counter, defaultdict
from itertools import pairwise
from math import pi

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.adapt.needed_time import needed, needed_time
from hastatus.core.adapt.needed_time_belief import CAREFUL, need
from hastatus.core.drill.checks.gap import gap_findings
from hastatus.core.drill.gap_line import start_gap
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import walks
from hastatus.core.drill.settings import Balanced
from hastatus.core.plan.feed_pace import BEHIND_S, feed_pace
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.feed_turns import EARLY_S, roles
from hastatus.core.plan.guess import predictable
from hastatus.core.plan.order import BalancedOrder
from hastatus.core.read.defender_time import DefendedAttack
from hastatus.core.read.expected_share import Measured
from hastatus.core.read.proportion import TOO_FEW
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.attack_time import (
    AttackTime,
    attack_time,
    path_of_flight,
    path_ratio,
)
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.limbs import Body, estimated, limbs
from hastatus.core.trade.pair import Pair
from hastatus.core.trade.reach import DEPTH_M, bands, safe_gap, strike_m

HEIGHTS = st.floats(1.4, 2.1)

# Drillis and Contini 1966, as tabulated by Winter (shares of height, from memory).
WINTER = {
    "upper_arm": 0.186, "forearm": 0.146, "hand": 0.108, "thigh": 0.245, "shank": 0.246,
    "foot_height": 0.039, "foot_length": 0.152, "half_shoulders": 0.129,
}  # fmt: skip


@pytest.mark.parametrize("name", WINTER)
def test_limbs_from_height(name: str) -> None:
    assert getattr(estimated(1.80), name) == pytest.approx(WINTER[name] * 1.80)


@given(HEIGHTS)
def test_the_arm_reaches_the_fingertips_and_a_fist_half_a_hand_less(height: float) -> None:
    """Winter's arm sum reaches the fingertips; a fist is about half a hand shorter (memory)."""
    body = estimated(height)
    assert body.arm == pytest.approx((0.186 + 0.146 + 0.108) * height)
    straight = TECHNIQUES["straight"]
    fingers, fist, palm = (strike_m(straight, body, each) for each in ("fingers", "fist", "palm"))
    assert fingers - fist == pytest.approx(body.hand / 2)
    assert fingers > fist > palm  # common practice, no source


@given(HEIGHTS, st.floats(0.9, 1.1), st.floats(0.9, 1.1))
def test_what_is_measured_holds(height: float, longer: float, taller: float) -> None:
    """A measured arm or leg is what is used; the rest stays as estimated."""
    usual = estimated(height)
    arm, leg = (usual.arm - usual.hand / 2) * longer, usual.leg * taller
    found = limbs(Body(height_m=height, arm_m=arm, leg_m=leg))
    assert found.arm - found.hand / 2 == pytest.approx(arm)
    assert found.leg == pytest.approx(leg)
    assert found.half_shoulders == usual.half_shoulders


@given(HEIGHTS, HEIGHTS)
def test_bands_and_the_safe_gap(one: float, other: float) -> None:
    """Clinch, elbow, punch, kick from near to far; the taller one's leg says what is safe
    (common practice, no source)."""
    a, b = estimated(one), estimated(other)
    ends = [band.to_m for band in bands(a, b)]
    assert ends == sorted(ends)
    assert bands(a, b) == bands(b, a)
    tallest = estimated(max(one, other))
    assert safe_gap(a, b) == pytest.approx(safe_gap(tallest, tallest))
    farthest = max(
        strike_m(technique, tallest) for technique in TECHNIQUES.values()
        if technique.use == "attack"
    )  # fmt: skip
    assert farthest + DEPTH_M <= safe_gap(a, b) + 1e-9


def test_a_half_circle_swing_is_half_pi_times_the_straight_line() -> None:
    """Geometry: arc rθ against chord 2r sin(θ/2)."""
    assert path_ratio(pi) == pytest.approx(pi / 2)
    assert path_ratio(0.0) == 1.0
    angle, r = 1.3, 0.7
    assert path_ratio(angle) == pytest.approx(r * angle / (2 * r * np.sin(angle / 2)))
    body, gap = estimated(1.75), 0.9
    straight = path_of_flight(TECHNIQUES["straight"], body, gap)
    swing = path_of_flight(TECHNIQUES["wide_swing"], body, gap)
    assert swing == pytest.approx(straight * pi / 2)


@given(st.floats(20, 300))
def test_a_beat_is_60_seconds_over_bpm(tempo: float) -> None:
    """By definition."""
    rung = PARTNER_STARTERS["two-beat counter"]().rungs[1]
    assert rung.model_copy(update={"tempo_bpm": tempo}).beat_s == pytest.approx(60 / tempo)


def test_a_straight_is_sooner_than_a_swing_and_a_trimmed_tell_sooner_than_a_big_one() -> None:
    """Common practice, no source."""
    body, gap = estimated(1.75), 0.9

    def full(key: str, tell: str) -> float:
        found: AttackTime = attack_time(
            TECHNIQUES[key], body, gap, tell=tell, footwork="hold"  # type: ignore[arg-type]
        )  # fmt: skip
        return found.full_s

    assert full("straight", "plain") < full("hook", "plain") < full("wide_swing", "plain")
    assert full("straight", "trimmed") < full("straight", "plain") < full("straight", "big")


def test_the_feed_pace_holds_the_share_it_promises() -> None:
    """From simulated answers, wrong ones among them, the promised share is inside the pace."""
    rng = np.random.default_rng(4)
    full = AttackTime(0.1, 0.1, 0.2, 0.5)
    for target in (0.7, 0.84, 0.9):
        times = rng.normal(520, 40, 2000) + rng.exponential(120, 2000)
        lapsed = rng.random(2000) < 0.04
        answers = [Measured(not bad, float(t)) for t, bad in zip(times, lapsed, strict=True)]
        pace = feed_pace(full, needed_time(target, solo=answers))
        inside = np.mean([a.right and (a.time_ms or 0) / 1000 <= pace.start_to_arrival_s + 1e-3
                          for a in answers])  # fmt: skip
        assert inside == pytest.approx(target, abs=0.002)
        assert pace.source == "solo"
        assert pace.of_full == pytest.approx(0.4 / pace.start_to_arrival_s, abs=1e-3)
        held = [DefendedAttack(0.6, True)] * TOO_FEW
        in_pairs = feed_pace(full, needed_time(target, partner=held, solo=answers))
        assert (in_pairs.source, in_pairs.need) == ("partner", need(held, target))
        assert in_pairs.start_to_arrival_s < 0.6  # each of them was kept out
        assert needed_time(target, partner=held[1:], solo=answers).source == "solo"


@pytest.mark.parametrize("target", [0.7, 0.84, 0.9])
def test_the_pace_from_partner_rounds_is_the_defenders_own_quantile(target: float) -> None:
    """Attacks of any speed at defenders whose time is known: the belief finds it.

    Current-status data: only whether the attack was kept out is seen. 600 attacks; with the seed
    fixed the bound of 60 ms is some three standard errors.
    """
    rng = np.random.default_rng(9)
    needs = rng.normal(0.45, 0.06, 600) + rng.exponential(0.09, 600)
    had = rng.uniform(0.3, 1.1, 600)
    held = [DefendedAttack(float(d), bool(t <= d)) for d, t in zip(had, needs, strict=True)]
    found = need(held, target)
    assert found is not None
    assert found.time_s == pytest.approx(float(np.quantile(needs, target)), abs=0.06)
    assert found.low_s < found.time_s < found.high_s
    assert found.time_s <= found.feed_s
    assert not found.at_least


def test_too_few_attacks_and_too_fast_ones() -> None:
    assert need([DefendedAttack(0.5, True)] * (TOO_FEW - 1), 0.84) is None
    struck = [DefendedAttack(0.3 + place / 100, False) for place in range(20)]
    found = need(struck, 0.84)
    assert found is not None
    assert found.at_least  # nothing slower was tried
    assert found.time_s == pytest.approx(struck[-1].start_to_arrival_s, abs=0.06)
    assert found.high_s > found.time_s + 0.1


def test_a_feed_is_suggested_that_is_probably_slow_enough() -> None:
    """Of 200 defenders at most one in five is fed so that under 75 % are kept out."""
    rng = np.random.default_rng(4)
    too_fast = 0
    for _ in range(200):
        middle = float(rng.uniform(0.4, 0.6))
        needs = middle + rng.exponential(0.07, 5000)
        had = np.maximum(0.2, rng.normal(0.58, 0.12, 12))
        found = need(
            [DefendedAttack(float(a), bool(n <= a)) for a, n in zip(had, needs, strict=False)], 0.84
        )
        assert found is not None
        too_fast += float(np.mean(needs <= found.feed_s)) < 0.75
    assert too_fast <= 200 * 0.2
    assert CAREFUL > 0.8


def test_with_nothing_measured_half_a_second_is_the_rule() -> None:
    """Rule of thumb, no source; and no feed is faster than full speed."""
    few = [Measured(True, 300.0)] * 7
    assert needed(few, 0.84) is None
    pace = feed_pace(AttackTime(0.1, 0.0, 0.2, 0.5), needed_time(0.84, solo=few))
    assert (pace.start_to_arrival_s, pace.source, pace.answers) == (BEHIND_S, "rule", 0)
    slow = feed_pace(AttackTime(0.4, 0.3, 0.3, 0.5), needed_time(0.84))
    assert (slow.start_to_arrival_s, slow.of_full) == (1.0, 1.0)
    never = [Measured(False, None)] * 20
    assert needed_time(0.84, solo=never).source == "rule"


def every_feed(sheet: FeedSheet) -> list[tuple[float, float]]:
    return [
        (feed.at_s, feed.ends_s(sheet.beat_s))
        for round_ in sheet.rounds
        for turn in round_.turns
        for feed in turn.feeds
    ]


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_feeds_keep_the_beat_and_the_turns(pattern: str) -> None:
    """On a kept tempo every exchange starts on a beat; none overlaps; each is early enough."""
    drill = PARTNER_STARTERS[pattern]()
    for number in range(1, len(drill.rungs) + 1):
        sheet = feed_sheet(drill, seed=9, rung=number)
        assert sheet == feed_sheet(drill, seed=9, rung=number)
        for round_ in sheet.rounds:
            for turn in round_.turns:
                times = [(feed.at_s, feed.ends_s(sheet.beat_s)) for feed in turn.feeds]
                assert all(end <= nxt + 1e-3 for (_, end), (nxt, _) in pairwise(times))
                if times:
                    in_turn = drill.rungs[number - 1].alternates and turn.from_s
                    assert times[0][0] - turn.from_s >= (0 if in_turn else EARLY_S) - 2e-3
                    assert times[-1][1] <= round_.duration_s + 1e-3
                if sheet.tempo_bpm:
                    for at, _ in times:
                        beats = at / sheet.beat_s
                        assert abs(beats - round(beats)) < 2e-3 / sheet.beat_s
                assert {turn.feeder, turn.defender} <= set(range(drill.place.people))
                assert turn.feeder != turn.defender


def test_random_feeds_are_in_balance_and_cannot_be_guessed() -> None:
    drill = PARTNER_STARTERS["read the entry"]()
    long = {"count": 1, "ends": "time", "duration_s": 1800.0}
    rung = drill.rungs[-1]
    rung = rung.model_copy(update={"rounds": rung.rounds.model_copy(update=long)})
    drill = drill.model_copy(update={"rungs": (rung,)})
    feeds = feed_sheet(drill, seed=2).rounds[0].turns[0].feeds
    keys = [feed.path[0].passage for feed in feeds]
    counts = Counter(keys)
    assert len(keys) > 150
    assert max(counts.values()) - min(counts.values()) <= 6  # within a bag of 40
    order = rung.order
    assert isinstance(order, Balanced)
    runs = 1
    for one, other in pairwise(keys):
        runs = runs + 1 if one == other else 1
        assert runs <= order.repeat_cap
    follows = Counter(pairwise(keys))
    best = sum(max(count for (one, _), count in follows.items() if one == key) for key in counts)
    assert best / (len(keys) - 1) < 0.58  # one in two by chance; bound from the seed, wide


def test_branches_come_in_their_shares() -> None:
    drill = PARTNER_STARTERS["third-beat answer"]()
    rung = drill.rungs[-1]
    long = rung.rounds.model_copy(update={"count": 1, "ends": "time", "duration_s": 1800.0})
    drill = drill.model_copy(update={"rungs": (rung.model_copy(update={"rounds": long}),)})
    feeds = feed_sheet(drill, seed=2).rounds[0].turns[0].feeds
    followed = sum(len(feed.path) == 2 for feed in feeds)
    assert followed / len(feeds) == pytest.approx(1 / 4, abs=0.03)  # balanced in bags of forty


def test_the_overhand_comes_in_its_share_and_cannot_be_waited_for() -> None:
    """As the defender drops for the body shot, or not at all (common practice, no source); by the
    last two exchanges nobody guesses it better than by its share."""
    drill = PARTNER_STARTERS["two-beat counter"]()
    rung = drill.rungs[-1]
    long = rung.rounds.model_copy(update={"count": 12, "ends": "time", "duration_s": 1150.0})
    drill = drill.model_copy(update={"rungs": (rung.model_copy(update={"rounds": long}),)})
    came = [
        ["+over" in feed.path[0].passage for turn in round_.turns for feed in turn.feeds]
        for round_ in feed_sheet(drill, seed=2).rounds
    ]
    every = [over for round_ in came for over in round_]
    share = drill.passages[0].choices[0].share
    assert sum(every) / len(every) == pytest.approx(share, abs=0.01)
    after: dict[tuple[bool, bool], list[bool]] = {}
    for round_ in came:
        for one, two, three in zip(round_, round_[1:], round_[2:], strict=False):
            after.setdefault((one, two), []).append(three)
    right = sum(max(sum(next_), len(next_) - sum(next_)) for next_ in after.values())
    assert right / sum(map(len, after.values())) <= 1 - share + 0.05


def test_counters_pause_for_no_more_than_four_blocks() -> None:
    """At most four blocks in a row without a counter (common practice, no source)."""
    drill = PARTNER_STARTERS["low kick against the lead straight"]()
    rungs = tuple(rung.model_copy(update={"counter_share": 0.2}) for rung in drill.rungs)
    drill = drill.model_copy(update={"rungs": rungs})
    for round_ in feed_sheet(drill, seed=3, rung=3).rounds:
        asked = [feed.counter for turn in round_.turns for feed in turn.feeds]
        assert any(not each for each in asked)
        assert all(any(asked[at : at + 5]) for at in range(len(asked) - 4))


def test_rings_of_three_rotate() -> None:
    """Everybody feeds, defends and rests in turn, and feeds whoever defended against nobody else
    before them."""
    turns = [roles(turn, 3) for turn in range(6)]
    assert turns[:3] == turns[3:]
    for each in range(3):
        assert [turn.index(each) for turn in turns[:3]] != [0, 0, 0]
        assert sorted(turn.index(each) for turn in turns[:3]) == [0, 1, 2]
    assert [roles(turn, 2)[:2] for turn in range(2)] == [(0, 1), (1, 0)]


@given(HEIGHTS)
def test_who_opens_the_gap_by_60_cm_reaches_nothing_at_once(height: float) -> None:
    """Two of a size, whatever it is: 60 cm more, and the first strike of each exchange is short."""
    drill = PARTNER_STARTERS["stop and hit"]()
    pair = Pair(estimated(height), estimated(height))
    away = drill.model_copy(update={"start_m": start_gap(drill, pair) + 0.6})
    for walk in walks(away):
        short = list(gap_findings(away, walk, pair))
        first = next(step for step in walk.steps if step.strikes)
        assert (short[0].passage, short[0].step) == (first.passage.key, first.index)
        assert short[0].check in ("reach", "surface")


def test_the_last_two_feeds_tell_next_to_nothing() -> None:
    """Named by the two before it, the next is right at most 0.05 above chance for the shares."""
    orders = {
        (tuple(drill.shares(rung).values()), rung.order)
        for drill in (start() for start in PARTNER_STARTERS.values())
        for rung in drill.rungs
        if isinstance(rung.order, Balanced) and len(drill.shares(rung)) > 1
    }
    assert len(orders) > 5
    for shares, order in orders:
        named = {str(index): share for index, share in enumerate(shares)}
        after: dict[tuple[str, str], Counter[str]] = defaultdict(Counter)
        told = right = 0
        for seed in range(40):
            rng = np.random.default_rng(seed)
            drawn = BalancedOrder(named, order.bag, order.repeat_cap, rng).take(400)
            for first, second, third in zip(drawn, drawn[1:], drawn[2:], strict=False):
                if seed < 20:
                    after[first, second][third] += 1
                else:
                    told += 1
                    right += after[first, second].most_common(1)[0][0] == third
        assert right / told <= max(shares) + 0.05


def test_how_predictable_the_next_exchange_is() -> None:
    """Against a defender who counts what came on long feed sheets, and names the likeliest next.

    A known order is known; of a random one at least what chance gives is known.
    """
    for start in list(PARTNER_STARTERS.values())[::4]:
        drill = start()
        for number, rung in enumerate(drill.rungs, start=1):
            told = predictable(drill, rung)
            shares = drill.shares(rung)
            if told is None or not shares:
                assert rung.order.kind in ("free", "both")
            elif rung.order.kind != "balanced" or len(shares) == 1:
                assert told == 1.0
            else:
                assert max(shares.values()) <= told < 1.0
                assert told >= _by_the_last_two(drill, number) - 0.06


def _by_the_last_two(drill: PartnerDrill, rung: int) -> float:
    """Share of exchanges named right by the two before them, counted on other sheets."""
    after: dict[tuple[str, ...], Counter[str]] = defaultdict(Counter)
    named = right = 0
    for seed in range(40):
        for round_ in feed_sheet(drill, seed=seed, rung=rung).rounds:
            begun = [
                feed.path[0].passage for turn in round_.turns for feed in turn.feeds
                if not feed.goes_on
            ]  # fmt: skip
            for first, second, third in zip(begun, begun[1:], begun[2:], strict=False):
                seen = after[first, second]
                if seed >= 20 and seen:
                    named += 1
                    right += seen.most_common(1)[0][0] == third
                else:
                    seen[third] += 1
    return right / named if named else 0.0
