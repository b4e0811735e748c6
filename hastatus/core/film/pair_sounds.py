"""What sounded in a partner run at a moment that is known: the signals of its rounds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.film.heard_signals import rises_of_signal, signal_of
from hastatus.core.film.heard_sounds import Rises
from hastatus.core.film.line_up import RunSound
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.round_signal import MAT_AFTER_S, round_signals
from hastatus.core.run.partner_events import Mark, RoundBegun, RoundOver


@dataclass(frozen=True, slots=True)
class PairRun:
    """A partner run that was filmed. left: who stands left in the picture, from 0."""

    drill: PartnerDrill
    sheet: FeedSheet
    marks: Sequence[Mark]
    left: int = 0


def pair_sounds(run: PairRun) -> list[RunSound]:
    """The signal after each round's beginning and after its end, on the run's clock."""
    signals = round_signals(run.sheet.seed, len(run.sheet.rounds))
    sounds = []
    for mark in run.marks:
        if not isinstance(mark, RoundBegun | RoundOver) or mark.round > len(signals):
            continue
        of_round = signals[mark.round - 1]
        clip = of_round.begins if isinstance(mark, RoundBegun) else of_round.ends
        sounds.append(RunSound(mark.at_ms / 1000 + MAT_AFTER_S, clip.name, signal=True))
    return sorted(sounds, key=lambda sound: sound.at_s)


def signal_rises(run: PairRun) -> dict[str, Rises]:
    """The rises of the signals of a run, by name."""
    return {
        sound.name: rises_of_signal(word)
        for sound in pair_sounds(run)
        if (word := signal_of(sound.name)) is not None
    }
