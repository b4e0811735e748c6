"""The partner drills every club starts with: each pattern of the trade that is done in twos.

Which patterns there are is common practice of the trade, no source; the words are our own.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from types import MappingProxyType

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.starter.partner import contact, games, guard, hands, kicks, swings

PARTNER_STARTERS: Mapping[str, Callable[[], PartnerDrill]] = MappingProxyType(
    {
        "touch and away": hands.touch_and_away,
        "turn about": hands.turn_about,
        "return above the arm": hands.above_the_arm,
        "stop and hit": hands.stop_and_hit,
        "angled deflection": hands.same_arm,
        "third-beat answer": hands.third_beat,
        "compact guard": guard.small_guard_together,
        "kick pairs with footwork": kicks.kick_pairs,
        "contact loop": contact.contact_loop,
        "high and low targets": swings.high_low_together,
        "guard at the wall": guard.at_the_wall,
        "low kick against the lead straight": kicks.low_kick_on_the_lead,
        "close redirect": contact.close_redirect,
        "wide swing": swings.wide_swing_together,
        "read the entry": swings.read_the_entry,
        "frame and step": guard.frame_together,
        "swing out of the loop": contact.swing_out,
        "pressure branch, ring of three": contact.three_pressures,
        "roll under": swings.under_together,
        "three kicks back": kicks.three_back_together,
        "tag": games.tag,
        "together on ten": kicks.together_on_ten,
        "blocks only": kicks.blocks_only,
        "two-beat counter": hands.two_beat_counter,
        "elbow loop": contact.elbow_loop,
        "one thing more": hands.one_more_together,
        "bare hands, gloves": hands.bare_then_gloved,
        "head cover": guard.cover_together,
        "sound blocks, light strikes": swings.sound_and_target,
        "side roll": contact.held_and_rolling,
        "forearm touch and cover": contact.touch_then_cover,
        "zone tracing": guard.trace_together,
        "keep the distance": games.keep_away_together,
        "base by count": games.base_by_count,
    }
)
"""The partner starters by the pattern they are made for."""

STREAMS = (
    "turn about", "compact guard", "contact loop", "guard at the wall", "close redirect",
    "blocks only",
)  # fmt: skip
"""Patterns in which an attack follows the last at once or within a beat or two."""
