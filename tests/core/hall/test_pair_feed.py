"""What each pair feeds, what a coach marks of it, and what that comes to."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from hastatus.core.hall.attention import in_order
from hastatus.core.hall.class_voice import block_calls
from hastatus.core.hall.evening import Block
from hastatus.core.hall.evening_limits import evening_limits, pair_limit
from hastatus.core.hall.numbered_call import cards
from hastatus.core.hall.pair_feed import (
    PairFeed,
    block_seed,
    card_feeds,
    card_places,
    pair_sheets,
    places,
    sheet_feeds,
)
from hastatus.core.hall.pair_mark import PairMark, PairMarkKind, standing
from hastatus.core.hall.pair_review import block_proposal, pair_review, pair_seen
from hastatus.core.hall.readiness import STEPS, step_proposal
from hastatus.core.hall.stretch import Lengthening, lengthened, pieces, stretch_at, stretches
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.core.starter.partner import PARTNER_STARTERS

SEVEN = datetime(2026, 11, 24, 19, tzinfo=UTC)
EVENING = uuid.UUID(int=7)
DRILL = uuid.UUID(int=1)
PAIR, RING = ("ada", "bo"), ("ada", "bo", "cy")


def block(**rest: Any) -> Block:
    given = {"key": "one", "kind": "partner", "name": "one", "drill_id": DRILL, **rest}
    return Block.model_validate(given)


@pytest.mark.parametrize("name", list(PARTNER_STARTERS))
@pytest.mark.parametrize("members", [PAIR, RING], ids=["pair", "ring"])
def test_exchanges_fall_into_rounds_and_never_run_into_each_other(
    name: str, members: tuple[str, ...]
) -> None:
    drill = PARTNER_STARTERS[name]()
    done = pieces(block(minutes=6, stances="both"), drill, 1)
    row = stretches(done)
    feeds = sheet_feeds(pair_sheets(drill, done, members, seed=5), row, members)
    before: PairFeed | None = None
    for feed in feeds:
        place = stretch_at(row, feed.at_s)
        assert place is not None
        assert row[place].kind == "work"
        assert {feed.feeder, feed.defender} <= set(members)
        assert feed.feeder != feed.defender
        assert (feed.out is None) == (len(members) == 2)
        if before and stretch_at(row, before.at_s) == place and not drill.rungs[0].alternates:
            assert feed.at_s >= before.at_s
        before = feed


def test_everybody_in_a_ring_feeds_and_no_two_pairs_feed_alike() -> None:
    drill = PARTNER_STARTERS["touch and away"]()
    done = pieces(block(minutes=20), drill, 1)
    row = stretches(done)
    ring = sheet_feeds(pair_sheets(drill, done, RING, seed=5), row, RING)
    assert {feed.feeder for feed in ring} == {feed.defender for feed in ring} == set(RING)
    assert {feed.out for feed in ring} == set(RING)
    orders = set()
    for number in range(10):
        members = (f"a{number}", f"b{number}")
        seed = block_seed(EVENING, "one", *members)
        fed = sheet_feeds(pair_sheets(drill, done, members, seed), row, members)
        orders.add(tuple((feed.passages, feed.at_s) for feed in fed))
    assert len(orders) == 10


def test_a_longer_round_goes_on_and_a_slower_pace_holds_from_the_next_round() -> None:
    drill = PARTNER_STARTERS["touch and away"]()
    done = pieces(block(minutes=10), drill, 1)
    row = stretches(done)
    sheets = pair_sheets(drill, done, PAIR, seed=5)
    usual = sheet_feeds(sheets, row, PAIR)
    longer = lengthened(row, [Lengthening(10.0, 30.0)])
    assert max(f.at_s for f in sheet_feeds(sheets, longer, PAIR) if f.at_s < longer[0].ends_s) > (
        row[0].ends_s
    )
    slower = sheet_feeds(sheets, row, PAIR, lambda at_s: 0.5 if at_s > row[0].ends_s else 1.0)
    first = [feed for feed in usual if feed.at_s < row[0].ends_s]
    assert slower[: len(first)] == first
    assert len(slower) - len(first) < 0.7 * (len(usual) - len(first))


def test_a_pair_gives_what_its_card_says_on_each_number_that_is_called() -> None:
    drill = PARTNER_STARTERS["touch and away"]()
    done = pieces(block(minutes=8, feeds="numbered"), drill, 1)
    row = stretches(done)
    calls = block_calls(drill, done, seed=3)
    own = [
        [card for card in cards(one.drill.shares(one.drill.rungs[one.rung - 1]), one.rounds, 3, 3)
         if card.pair == 1]
        for one in calls
    ]  # fmt: skip
    feeds = card_feeds(calls, own, row, PAIR)
    assert len(feeds) == sum(len(round_.calls) for one in calls for round_ in one.rounds)
    for feed in feeds:
        card = next(
            card for card in own[0]
            if card.attacks[(feed.number or 0) - 1 : feed.number] == feed.passages
        )  # fmt: skip
        assert card.pair == 1
    assert [card_places(RING, number)[0] for number in (1, 2, 3, 4)] == ["ada", "bo", "cy", "ada"]
    assert places(PAIR, 2) == PAIR
    assert places(RING, 2) == ("bo", "cy", "ada")


def mark(kind: PairMarkKind, at_s: float, seconds: float = 0.0, **rest: Any) -> PairMark:
    members = (uuid.UUID(int=1), uuid.UUID(int=2))
    at = SEVEN + timedelta(seconds=at_s)
    return PairMark(
        id=uuid.uuid4(), at=at, block="one", members=members, kind=kind, at_s=at_s,
        seconds=seconds, **rest,
    )  # fmt: skip


def test_what_is_watched_and_not_tapped_was_kept_out() -> None:
    ada = uuid.UUID(int=1)
    slip = mark("through", 26)
    marks = standing(
        [
            mark("watched", 40, 20),
            mark("watched", 45, 10),
            mark("through", 25),
            slip,
            mark("back", 27, of=slip.id),
            mark("fault", 30, student=ada, words="elbow flares"),
            mark("fault", 31, student=ada, words="elbow flares"),
            mark("slower", 32),
        ]
    )
    review = pair_review(marks, [5, 21, 25, 30, 44, 46])
    assert (review.watched_s, review.exchanges, review.through) == (25, 4, 1)
    assert review.faults == {("elbow flares", ada): 2}
    assert review.pace == 0.9
    assert pair_review(marks, None).exchanges is None


def test_a_pair_that_presses_is_looked_at_first() -> None:
    now = SEVEN + timedelta(seconds=300)
    knocked = pair_seen("knocked", [mark("knock", 290)], began=SEVEN, now=now)
    unseen = pair_seen("unseen", [mark("seen", 20)], began=SEVEN, now=now)
    pressed = pair_seen(
        "pressed", [mark("through", 200), mark("through", 210)], began=SEVEN, now=now
    )
    calm = pair_seen("calm", [mark("watched", 200, 20)], began=SEVEN, now=now)
    order = in_order([calm, pressed, unseen, knocked])
    assert [one.pair for one in order] == ["knocked", "unseen", "pressed", "calm"]
    assert order[1].why == ("not seen for 5 min", "nothing marked for a while") or order[1].why == (
        "not seen for 5 min",
    )
    assert "two got through in a row" in order[2].why
    held = [mark("through", 200), mark("through", 210), mark("watched", 260, 60)]
    assert pair_seen("held", held, began=SEVEN, now=now).through == 0
    assert pair_seen("not begun", [], began=None, now=now).unseen_s == 0


def test_the_next_rung_is_proposed_by_the_rule_of_a_single_pair() -> None:
    drill = PARTNER_STARTERS["touch and away"]()
    clean = [pair_review([mark("watched", 100, 100)], list(range(0, 100, 4))) for _ in range(3)]
    share, step = block_proposal(drill, 1, clean)
    assert (share.clean, share.graded) == (75, 75)
    assert step.kind in ("next", "faster")
    much = [
        pair_review([mark("watched", 100, 100), *(mark("through", n) for n in range(15))],
                    list(range(0, 100, 4)))
        for _ in range(3)
    ]  # fmt: skip
    assert block_proposal(drill, 2, much)[1].kind in ("slower", "back")
    assert "too few" in block_proposal(drill, 1, [])[1].reason


def test_a_pair_keeps_to_the_gentler_of_both() -> None:
    assert pair_limit("firm", ["firm", "touch"]) == "touch at most, instead of firm"
    assert pair_limit("touch", ["firm", "touch"]) == ""
    assert pair_limit("light", ["none", "firm"]).startswith("no contact")
    assert pair_limit("light", ["firm", "firm"], no_touch=True).startswith("no contact")
    assert pair_limit("none", ["none", "none"], no_touch=True) == ""


def test_the_ladder_gates_contact_and_is_climbed_by_what_was_said() -> None:
    order = [evening_limits("firm", readiness=step).contact for step in STEPS]
    assert order == ["none", "touch", "touch", "light", "firm"]
    assert evening_limits("touch", readiness="free").contact == "touch"
    hold = MedicalHold(since=SEVEN, off_until=SEVEN + timedelta(hours=24), cleared=False)
    held = evening_limits("firm", hold=hold)
    assert held.contact == "none"
    assert held.off
    assert evening_limits("firm", no_touch=True).contact == "none"
    assert evening_limits("firm", consent="needed").contact == "none"
    assert step_proposal("light", 8, None, ("too_much", "right")).readiness == "blocks"  # type: ignore[union-attr]
    assert step_proposal("light", 2, None, ()).readiness == "blocks"  # type: ignore[union-attr]
    assert step_proposal("light", 8, 8, ("too_easy",)).readiness == "free"  # type: ignore[union-attr]
    assert step_proposal("distance", 1, 1, ("too_much",)) is None
    assert step_proposal("free", 9, 9, ("too_easy",)) is None
    assert step_proposal("light", 5, 5, ("too_easy",)) is None
