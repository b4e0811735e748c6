"""The one clock of a class: what the coaches did with it, and what it shows.

Acts are kept, never changed; what the clock shows is told from them in the order of their moments,
so that an act that arrives late, after a lost connection, counts from when it was done.
"""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.fields import Document, Instant, Key
from hastatus.core.hall.stretch import Lengthening

ActKind = Literal["begin", "pause", "go_on", "lengthen", "stop_word", "end", "reopen"]
LONGEST_CHANGE_S = 4 * 3600.0
TOGETHER_S = 5.0
"""The same block is not begun again so soon, seconds."""


class Act(Document):
    """Something a coach did with the clock. id: made on the device, so that it may be sent again.
    at: when, by the server's clock. block: that begins, of begin. seconds: of lengthen: so much
    longer; less than 0: shorter; of begin: so far it is already, to go back to where it was. reopen
    takes an end back. version, waves: of the drill, and of the block, as they were when it began,
    so that neither changes under it; the server says them."""

    id: uuid.UUID
    at: Instant
    kind: ActKind
    block: Key | None = None
    seconds: Annotated[
        float, Field(ge=-LONGEST_CHANGE_S, le=LONGEST_CHANGE_S, allow_inf_nan=False)
    ] = 0.0
    version: Annotated[int | None, Field(ge=1)] = None
    waves: Annotated[int, Field(ge=1, le=200)] = 1


@dataclass(frozen=True, slots=True)
class ClassClock:
    """What the clock shows.

    block: that is on; None: none has begun. since: the moment at which it would have begun had it
    never stopped; None while it stands. held_s: where it stands, seconds of the block. changes: how
    its stretches were lengthened. stopped: by the stop word. ended: the evening is over. begun:
    the act by which each block was begun last, and `first` the first time.
    """

    block: str | None = None
    since: datetime | None = None
    held_s: float = 0.0
    changes: tuple[Lengthening, ...] = ()
    stopped: bool = False
    ended: bool = False
    begun: dict[str, Act] = field(default_factory=dict)
    first: dict[str, datetime] = field(default_factory=dict)

    def elapsed_s(self, now: datetime) -> float:
        """How far the block is, seconds, whatever stopped meanwhile."""
        return self.held_s if self.since is None else (now - self.since).total_seconds()


def class_clock(acts: Iterable[Act]) -> ClassClock:
    """The clock after these acts. What changes nothing, like a second pause, is passed over."""
    clock = ClassClock()
    for act in sorted(acts, key=lambda one: (one.at, str(one.id))):
        clock = _after(clock, act)
    return clock


def _after(clock: ClassClock, act: Act) -> ClassClock:
    if act.kind == "reopen":
        return replace(clock, ended=False)
    if clock.ended:
        return clock
    if act.kind == "begin":
        return _begun(clock, act)
    if clock.block is None and act.kind != "end":
        return clock
    at_s = clock.elapsed_s(act.at)
    standing = replace(clock, since=None, held_s=at_s)
    if act.kind == "pause":
        return standing
    if act.kind == "stop_word":
        return replace(standing, stopped=True)
    if act.kind == "go_on":
        since = clock.since or act.at - timedelta(seconds=clock.held_s)
        return replace(clock, since=since, stopped=False)
    if act.kind == "lengthen":
        return replace(clock, changes=(*clock.changes, Lengthening(at_s, act.seconds)))
    return replace(standing, ended=True)


def _begun(clock: ClassClock, act: Act) -> ClassClock:
    """A block begins; two coaches who begin it together from its start begin it once."""
    again = act.block == clock.block and not act.seconds and clock.elapsed_s(act.at) < TOGETHER_S
    if act.block is None or again:
        return clock
    return ClassClock(
        block=act.block,
        since=act.at - timedelta(seconds=max(0.0, act.seconds)),
        begun={**clock.begun, act.block: act},
        first={act.block: act.at, **clock.first},
    )
