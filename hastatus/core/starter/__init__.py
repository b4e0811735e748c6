"""The drills every club starts with: each pattern of the trade that can be done alone.

Which patterns there are is common practice of the trade, no source; the words are our own.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from types import MappingProxyType

from hastatus.core.drill.solo import Drill
from hastatus.core.starter.baseline import five_minute_test
from hastatus.core.starter.footwork import (
    base,
    frame_and_step,
    keep_the_distance,
    side_roll,
    three_kicks_back,
)
from hastatus.core.starter.guards import cover_and_drive, small_guard, trace_and_meet
from hastatus.core.starter.swings import under_the_swing, wide_swing
from hastatus.core.starter.targets import (
    block_on_sound_strike_on_light,
    high_and_low,
    one_thing_more,
)

STARTERS: Mapping[str, Callable[[], Drill]] = MappingProxyType(
    {
        "sound blocks, light strikes": block_on_sound_strike_on_light,
        "compact guard": small_guard,
        "high and low targets": high_and_low,
        "wide swing": wide_swing,
        "frame and step": frame_and_step,
        "roll under": under_the_swing,
        "three kicks back": three_kicks_back,
        "one thing more": one_thing_more,
        "head cover": cover_and_drive,
        "solo side roll": side_roll,
        "zone tracing": trace_and_meet,
        "keep the distance": keep_the_distance,
        "base by count": base,
        "baseline": five_minute_test,
    }
)
"""The starter drills by the pattern they are made for."""

__all__ = ["STARTERS", "block_on_sound_strike_on_light"]
