"""What a coach saw of a pair in a block, and what that says of the next time.

As at the mat, by exception: what was watched and not tapped was kept out.
"""

from __future__ import annotations

import uuid
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.hall.attention import PairSeen
from hastatus.core.hall.pair_mark import PairMark
from hastatus.core.read.carry_over import CarryOver, Chances, carry_over
from hastatus.core.read.partner_run import NextStep, Share, what_next
from hastatus.core.read.proportion import wilson

IN_A_ROW_S = 20.0
"""Two attacks that got through are in a row when no more time is between them (no source)."""
_PACE_STEP = 0.1
_LEAST_PACE, _MOST_PACE = 0.5, 1.5


@dataclass(frozen=True, slots=True)
class PairReview:
    """A pair in a block.

    watched_s: how long somebody watched. exchanges: that began while somebody did; None: nobody
    knows when they began, since the feeders chose. through: attacks that got through. pace: of the
    feed, as a share of the sheet's. faults: how often each, by whose it is. forfeits: by whom.
    knocked: who had a head knock. notes: in order. carry_over: None: no chance was marked.
    """

    watched_s: float
    exchanges: int | None
    through: int
    pace: float
    faults: Counter[tuple[str, uuid.UUID | None]]
    forfeits: Counter[uuid.UUID]
    knocked: tuple[uuid.UUID, ...]
    notes: tuple[str, ...]
    carry_over: CarryOver | None = None


def pair_review(marks: Sequence[PairMark], starts_s: Sequence[float] | None) -> PairReview:
    """A pair's marks of one block read. marks: that stand, in order. starts_s: when its exchanges
    begin, on the clock of the block; None: nobody knows."""
    watched = watched_spans(marks)
    through = sum(mark.kind == "through" for mark in marks)
    exchanges = None
    if starts_s is not None:
        seen = sum(any(low <= at_s < high for low, high in watched) for at_s in starts_s)
        exchanges = max(seen, through)
    return PairReview(
        watched_s=sum(high - low for low, high in watched),
        exchanges=exchanges,
        through=through,
        pace=pace(marks),
        faults=Counter((mark.words, mark.student) for mark in marks if mark.kind == "fault"),
        forfeits=Counter(
            mark.student for mark in marks if mark.kind == "forfeit" and mark.student is not None
        ),
        knocked=tuple(mark.student for mark in marks if mark.kind == "knock" and mark.student),
        notes=tuple(mark.words for mark in marks if mark.kind == "note" and mark.words),
        carry_over=carried_over(marks),
    )


def carried_over(marks: Iterable[PairMark]) -> CarryOver | None:
    """How often a drilled answer turned up, of the chances that a coach marked in free rounds."""
    kinds = Counter(mark.kind for mark in marks)
    return carry_over([Chances(0, None, kinds["carried_over"], kinds["chance_missed"])])


def watched_spans(marks: Sequence[PairMark]) -> list[tuple[float, float]]:
    """When somebody watched, from and to, on the clock of the block; two coaches at once count
    once."""
    spans = sorted(
        (max(0.0, mark.at_s - mark.seconds), mark.at_s) for mark in marks if mark.kind == "watched"
    )
    merged = list[tuple[float, float]]()
    for low, high in spans:
        if merged and low <= merged[-1][1]:
            merged[-1] = (merged[-1][0], max(high, merged[-1][1]))
        else:
            merged.append((low, high))
    return merged


def pace(marks: Sequence[PairMark]) -> float:
    """The feed's pace after the coach's changes, as a share of the sheet's: a tenth at a time."""
    share = 1.0
    for mark in marks:
        step = {"slower": -_PACE_STEP, "quicker": _PACE_STEP}.get(mark.kind, 0.0)
        share = min(_MOST_PACE, max(_LEAST_PACE, share + step))
    return round(share, 2)


def pair_seen(
    pair: str, marks: Sequence[PairMark], *, began: datetime | None, now: datetime
) -> PairSeen:
    """How things are with a pair. marks: of this block, that stand, in order. began: when the block
    did; None: it has not."""
    since = began or now
    looks = [mark.at for mark in marks]
    tapped = [mark.at for mark in marks if mark.kind not in ("seen", "word")]
    last = max(tapped, default=None)
    return PairSeen(
        pair=pair,
        unseen_s=max(0.0, (now - max(looks, default=since)).total_seconds()) if began else 0.0,
        quiet_s=(now - last).total_seconds() if last else None,
        through=_in_a_row(marks),
        knocked=any(mark.kind == "knock" for mark in marks),
    )


def _in_a_row(marks: Sequence[PairMark]) -> int:
    """How many of the last attacks got through, one after another; none once a coach has watched
    one that did not."""
    count, last_s = 0, None
    for mark in marks:
        if mark.kind == "through":
            near = last_s is not None and mark.at_s - last_s <= IN_A_ROW_S
            count, last_s = (count + 1 if near else 1), mark.at_s
        elif mark.kind == "watched" and last_s is not None and mark.at_s - last_s > IN_A_ROW_S:
            count, last_s = 0, None
    return count


def block_proposal(
    drill: PartnerDrill, rung: int, pairs: Sequence[PairReview]
) -> tuple[Share, NextStep]:
    """What a class's pairs say together of a rung: how much was kept out, and what comes next, by
    the rule of a single pair's run."""
    known = [one for one in pairs if one.exchanges is not None]
    graded = sum(one.exchanges or 0 for one in known)
    clean = graded - sum(one.through for one in known)
    interval = wilson(clean, graded) if graded else None
    share = Share(name="all pairs", clean=clean, graded=graded, interval=interval)
    return share, what_next(drill, rung, [], share)
