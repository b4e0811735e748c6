"""What sounded in a partner run at a moment that is known: the signals of its rounds."""

from __future__ import annotations

from collections.abc import Sequence

from hastatus.core.film.line_up import RunSound
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.round_signal import MAT_AFTER_S, round_signals
from hastatus.core.run.partner_events import Mark, RoundBegun, RoundOver


def pair_sounds(sheet: FeedSheet, marks: Sequence[Mark]) -> list[RunSound]:
    """The signal after each round's beginning and after its end, on the run's clock."""
    signals = round_signals(sheet.seed, len(sheet.rounds))
    sounds = []
    for mark in marks:
        if not isinstance(mark, RoundBegun | RoundOver) or mark.round > len(signals):
            continue
        of_round = signals[mark.round - 1]
        clip = of_round.begins if isinstance(mark, RoundBegun) else of_round.ends
        sounds.append(RunSound(mark.at_ms / 1000 + MAT_AFTER_S, clip.name, signal=True))
    return sorted(sounds, key=lambda sound: sound.at_s)
