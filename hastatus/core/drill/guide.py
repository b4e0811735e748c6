"""Guided rounds: the app counts, keeps time and calls. Nothing is a cue, and no answer is timed.

A swinging ball, a bag, a rope or a wall is a partner that is its own cue; a base by the count and a
position that is held need none.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count, cycle
from typing import Annotated, Literal, NamedTuple

from pydantic import Field

from hastatus.core.fields import Document, Line, Seconds

Against = Literal["air", "ball", "bag", "rope", "wall"]
_Said = Annotated[Line, Field(max_length=40)]
BEGINS_S = 1.5
"""The first word comes so long after the start of a round, once its own calls are said, s."""
NO_ROOM_S = 0.5
"""Nothing is begun so shortly before the end of a round, s."""


class Said(NamedTuple):
    """What is said, and when, in seconds into the round."""

    at_s: float
    words: str


class Count(Document):
    """Counted work, set after set.

    against: what it is done against. of: what is counted, a set of each in turn; empty: the same
    throughout. to: numbers in a set. every_s: from one number to the next. after: said when a set
    is done. pause_s: from there to the next set.
    """

    kind: Literal["count"] = "count"
    against: Against = "air"
    of: Annotated[tuple[_Said, ...], Field(max_length=20)] = ()
    to: Annotated[int, Field(ge=1, le=50)] = 10
    every_s: Annotated[Seconds, Field(ge=0.6, le=30)] = 2.0
    after: _Said | None = None
    pause_s: Annotated[Seconds, Field(ge=1, le=60)] = 5.0


class Hold(Document):
    """Something that is held: what to let go of meanwhile, and when to change sides.

    against: what it is held against. start: said as it begins. let_go: said one after another,
    every_s apart, as often as it takes; `still` once each time round. change_s: sides are changed
    after so long; None: they are not. end: said when the round is over.
    """

    kind: Literal["hold"] = "hold"
    against: Against = "air"
    start: _Said = "hold"
    let_go: Annotated[tuple[_Said, ...], Field(max_length=10)] = ()
    still: _Said = "still there"
    every_s: Annotated[Seconds, Field(ge=3, le=120)] = 15.0
    change_s: Annotated[Seconds | None, Field(ge=10, le=600)] = None
    end: _Said = "and rest"


Guide = Annotated[Count | Hold, Field(discriminator="kind")]


def said(guide: Count | Hold, duration_s: float) -> Iterator[Said]:
    """What is said in a round of `duration_s`, in order, but for its end."""
    left_s = duration_s - BEGINS_S
    spoken = _count(guide) if guide.kind == "count" else _hold(guide, left_s)
    for line in spoken:
        if line.at_s > left_s - NO_ROOM_S:
            return
        yield Said(round(BEGINS_S + line.at_s, 3), line.words)


def _count(guide: Count) -> Iterator[Said]:
    at_s = 0.0
    for what in cycle(guide.of or (None,)):
        if what is not None:
            yield Said(at_s, what)
            at_s += guide.every_s
        for number in range(1, guide.to + 1):
            yield Said(at_s, str(number))
            at_s += guide.every_s
        if guide.after:
            yield Said(at_s, guide.after)
        at_s += guide.pause_s


def _hold(guide: Hold, duration_s: float) -> Iterator[Said]:
    """Each side by itself: its start, then what to let go of until the next begins."""
    side_s = guide.change_s or duration_s
    for side in count():
        begins_s = side * side_s
        yield Said(begins_s, "change sides" if side else guide.start)
        reminders = cycle((*guide.let_go, guide.still))
        at_s = begins_s + guide.every_s
        while at_s < min(begins_s + side_s, duration_s) - NO_ROOM_S:
            yield Said(at_s, next(reminders))
            at_s += guide.every_s
        if begins_s + side_s >= duration_s:
            return
