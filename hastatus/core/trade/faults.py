"""The faults that a coach tags, each with its owner (common practice, no source)."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal

from hastatus.core.fields import Document, Line

Owner = Literal["defender", "feeder"]
"""Whose fault it is. Alone, whoever answers the cues is the defender."""
OWNER_NAMES: dict[Owner, str] = {"defender": "the defender", "feeder": "the feeder"}

_DEFENDERS = (
    "reaches too far from the body",
    "stops the blow instead of letting it pass",
    "only blocks, no counter",
    "static guard",
    "elbow flares",
    "hand not home",
    "drops the other hand",
    "guard hand floats off the head",
    "hands spread",
    "eyes shut / flinches",
    "stands upright in the roll",
    "leans in / hunches (structure drills)",
    "anticipates",
    "waits for the partner",
    "skips the body shot",
    "standing heel not turned",
    "side or toes of the foot land",
    "extra step up",
    "too far for the hook (wrist at risk)",
    "stands still",
    "shows the back",
    "leg left where it is",
)
_FEEDERS = (
    "ahead of the rhythm",
    "pushes through",
    "cocks the strike first",
    "feed aimed to miss",
    "never gives way",
    "no visible weight shift",
)


class OwnedFault(Document):
    """A fault and whose it is."""

    name: Line
    owner: Owner | None = None


FAULT_OWNERS: Mapping[str, Owner] = MappingProxyType(
    {**dict.fromkeys(_DEFENDERS, "defender"), **dict.fromkeys(_FEEDERS, "feeder")}
)
"""Every fault of the trade's list, and whose it is; the defender's first."""
