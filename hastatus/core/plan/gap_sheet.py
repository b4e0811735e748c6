"""The gap sheet of a pair on one drill: reaches, bands, the gap line, and the time budgets."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from hastatus.core.drill.exchange_answers import answers_on
from hastatus.core.drill.gap_line import SHORT_M, STOPPED_M, GapAtStep, gaps_at_steps, start_gap
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.paths import Walk, Walked, walks
from hastatus.core.fields import Key, PassageKey
from hastatus.core.plan.feed_pace import (
    FeedPace,
    Needs,
    by_rule,
    feed_pace,
    rests_on,
    speed_in_words,
)
from hastatus.core.trade.attack_time import AttackTime, attack_time
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.gear import PADDLE_M, Gear
from hastatus.core.trade.label_packs import PLAIN, Labels
from hastatus.core.trade.limbs import Limbs
from hastatus.core.trade.pair import Pair, Person
from hastatus.core.trade.reach import Band, bands, gap_reached, safe_gap, strike_m


@dataclass(frozen=True, slots=True)
class GapPoint:
    """The gap once a step is made. reached_m: how far it reaches; None: no strike. short: by how
    much it ends short of the other, m; None where it reaches."""

    beat: float
    gap_m: float
    passage: Key
    step: int
    reached_m: float | None
    short_m: float | None


@dataclass(frozen=True, slots=True)
class WalkedStep:
    """A step where it stands on a walk. beat, until: absolute. person: who does it."""

    passage: Key
    step: int
    beat: float
    until: float | None
    person: Person


@dataclass(frozen=True, slots=True)
class Way:
    """One way through the drill as it is drawn.

    passages, names: with the choices that come in them. share: of the rung's exchanges that go this
    way or further on it. starts: each passage's offset, in beats. beats: its length. start_m: the
    gap before it; back at the end.
    """

    passages: tuple[PassageKey, ...]
    names: tuple[str, ...]
    share: float
    starts: tuple[float, ...]
    beats: float
    steps: tuple[WalkedStep, ...]
    gap: tuple[GapPoint, ...]
    start_m: float


@dataclass(frozen=True, slots=True)
class Budget:
    """The time budget of one attack, and how fast to feed it.

    answer: the defender's answer to it; None: there is none. speed: the pace in words. rests_on:
    what the pace comes from, in words.
    """

    passage: Key
    step: int
    name: str
    answer: str | None
    gap_m: float
    time: AttackTime
    full_s: float
    pace: FeedPace
    speed: str
    rests_on: str


@dataclass(frozen=True, slots=True)
class Reaches:
    """The largest gaps that one of the two reaches, in metres, gloves and paddles added.

    elbow, fist, paddle (None: there is none), shin, foot.
    """

    elbow_m: float
    fist_m: float
    paddle_m: float | None
    shin_m: float
    foot_m: float


@dataclass(frozen=True, slots=True)
class GapSheet:
    """Everything about distance and time of a pair on a rung. reaches: of the one who feeds first,
    and of the other."""

    reaches: tuple[Reaches, ...]
    bands: tuple[Band, ...]
    safe_gap_m: float
    start_m: float
    ways: tuple[Way, ...]
    budgets: tuple[Budget, ...]


def gap_sheet(
    drill: PartnerDrill,
    rung: PartnerRung,
    pair: Pair,
    *,
    needs: Needs = by_rule,
    labels: Labels = PLAIN,
) -> GapSheet:
    """The sheet of a drill that can be followed."""
    every = walks(drill)
    worn = drill.gear_on(rung)
    stood = [tuple(gaps_at_steps(drill, walk, pair, worn)) for walk in every]
    budgets: dict[tuple[str, int], Budget] = {}
    for walk, stand in zip(every, stood, strict=True):
        for budget in _budgets(walk, stand, rung, pair, needs, labels):
            budgets.setdefault((budget.passage, budget.step), budget)
    return GapSheet(
        reaches=(_reaches(worn, pair.a), _reaches(worn, pair.b)),
        bands=bands(pair.a, pair.b),
        safe_gap_m=safe_gap(pair.a, pair.b),
        start_m=round(start_gap(drill, pair), 3),
        ways=tuple(
            _way(drill, rung, walk, stand, pair) for walk, stand in zip(every, stood, strict=True)
        ),
        budgets=tuple(budgets.values()),
    )


def _reaches(worn: Collection[Gear], body: Limbs) -> Reaches:
    def reached(key: str) -> float:
        strike = strike_m(TECHNIQUES[key], body, glove="gloves" in worn)
        return gap_reached(strike)

    paddle = reached("tag") + PADDLE_M if "paddles" in worn else None
    return Reaches(
        elbow_m=reached("round_elbow"),
        fist_m=reached("straight"),
        paddle_m=paddle,
        shin_m=reached("body_kick"),
        foot_m=reached("front_kick"),
    )


def _way(
    drill: PartnerDrill, rung: PartnerRung, walk: Walk, stood: tuple[GapAtStep, ...], pair: Pair
) -> Way:
    starts, offset = [], 0.0
    for passage in walk.passages:
        starts.append(offset)
        offset += passage.beats
    return Way(
        passages=tuple(passage.key for passage in walk.passages),
        names=tuple(passage.name for passage in walk.passages),
        share=round(_share(drill, rung, walk), 4),
        starts=tuple(starts),
        beats=walk.beats,
        steps=tuple(_step(step) for step in walk.steps),
        gap=tuple(_point(gap) for gap in stood),
        start_m=round(start_gap(drill, pair), 3),
    )


def _share(drill: PartnerDrill, rung: PartnerRung, walk: Walk) -> float:
    keys = [passage.key.split("+") for passage in walk.passages]
    share = drill.shares(rung).get(keys[0][0], 0.0)
    for passage, (following, *_) in zip(walk.passages, keys[1:], strict=False):
        total = sum(branch.share for branch in passage.then)
        here = sum(branch.share for branch in passage.then if branch.to == following)
        share *= here / total if rung.branches else 0.0
    for passage, (_, *came) in zip(walk.passages, keys, strict=True):
        for choice in passage.choices:
            comes = choice.share if rung.branches else 0.0
            share *= comes if choice.key in came else 1 - comes
    return share


def _step(walked: Walked) -> WalkedStep:
    until = walked.step.until
    return WalkedStep(
        walked.written,
        walked.index,
        walked.beat,
        None if until is None else walked.beat + until - walked.step.beat,
        walked.person,
    )


def _point(stand: GapAtStep) -> GapPoint:
    step = stand.walked
    stopped = step.step.contact == "none" and step.step.pad is None
    short = stand.reached_m is not None and stand.short_m > (STOPPED_M if stopped else SHORT_M)
    return GapPoint(
        beat=step.beat,
        gap_m=round(stand.gap_m, 3),
        passage=step.written,
        step=step.index,
        reached_m=None if stand.reached_m is None else round(stand.reached_m, 3),
        short_m=round(stand.short_m, 3) if short else None,
    )


def _budgets(
    walk: Walk,
    stood: tuple[GapAtStep, ...],
    rung: PartnerRung,
    pair: Pair,
    needs: Needs,
    labels: Labels,
) -> Iterator[Budget]:
    """One for each attack of the feeder's; the step in is part of it, so it starts further out."""
    answers = answers_on(walk)
    for stand in stood:
        step = stand.walked
        if step.lane != "feeder" or step.technique.use != "attack":
            continue
        if step.technique.family == "grip":
            continue
        time = attack_time(
            step.technique,
            pair.of(step.person),
            stand.gap_m,
            tell=rung.tell,
            footwork=step.step.footwork,
        )
        answer = answers.get((step.passage.key, step.index))
        key, side = (answer.step.technique, answer.side) if answer else (None, step.side)
        pace = feed_pace(time, needs(key, side))
        yield Budget(
            passage=step.written,
            step=step.index,
            name=step.step.name(labels),
            answer=answer.step.name(labels) if answer else None,
            gap_m=round(stand.gap_m, 3),
            time=time,
            full_s=round(time.full_s, 3),
            pace=pace,
            speed=speed_in_words(pace.of_full),
            rests_on=rests_on(pace),
        )
