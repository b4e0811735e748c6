"""Which pair a coach who walks round should look at next, and why."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

UNSEEN_S = 240.0
"""Every pair is to be seen at least so often."""
SOON_S = 150.0
_QUIET_S = 60.0
_IN_A_ROW = 2


@dataclass(frozen=True, slots=True)
class PairSeen:
    """How things are with a pair. unseen_s: since a coach looked at it, seconds; quiet_s: since
    anything was marked, None: nothing is marked in this block. through: attacks that got through in
    a row. knocked: somebody has had a head knock."""

    pair: str
    unseen_s: float
    quiet_s: float | None = None
    through: int = 0
    knocked: bool = False


@dataclass(frozen=True, slots=True)
class Attention:
    """A pair's place in the order of looking. why: in words; empty: nothing presses."""

    pair: str
    urgency: float
    why: tuple[str, ...]


def in_order(pairs: Sequence[PairSeen]) -> list[Attention]:
    """Pairs in the order in which to look at them.

    A head knock comes before everything, a pair that nobody has seen for four minutes before what
    goes wrong elsewhere, and that before who has been unseen the longest. Whoever always looks at
    the first one has seen each of n pairs after n looks, as long as nothing presses twice.
    """
    return sorted(map(_attention, pairs), key=lambda one: -one.urgency)


def _attention(seen: PairSeen) -> Attention:
    why = []
    urgency = seen.unseen_s / UNSEEN_S
    if seen.knocked:
        why.append("head knock")
        urgency += 100
    if seen.unseen_s >= UNSEEN_S:
        why.append(f"not seen for {seen.unseen_s / 60:.0f} min")
        urgency += 10
    if seen.through >= _IN_A_ROW and seen.unseen_s > 0:
        why.append(f"{_NUMBERS.get(seen.through, seen.through)} got through in a row")
        urgency += 0.6
    if seen.quiet_s is not None and seen.quiet_s >= _QUIET_S:
        why.append("nothing marked for a while")
        urgency += 0.2
    return Attention(seen.pair, urgency, tuple(why))


_NUMBERS = {2: "two", 3: "three", 4: "four"}
