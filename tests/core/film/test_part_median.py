"""What a film tells in the middle: medians of what was seen, and how much that was."""

from __future__ import annotations

import numpy as np
import pytest

from hastatus.core.film.part_median import part_medians
from hastatus.core.film.reading import CueSeen, FilmReading, LinedUp, ZoneSeen
from hastatus.core.motion.zone import BodyPart

LINED = LinedUp(epoch=0, starts_s=1.0, rate=1.0, spread_ms=3, heard=9, asked=9)


def reading(onsets_ms: list[float | None], part: BodyPart = "head") -> FilmReading:
    cues = tuple(
        CueSeen(
            epoch=0, round=1, slot=slot, cue="a", film_s=3.0 * slot, answer=part,
            zones=(
                ZoneSeen(part=part, onset_ms=at, home_ms=None if at is None else at + 600),
                ZoneSeen(part="hips", onset_ms=5000),
            ),
        )
        for slot, at in enumerate(onsets_ms)
    )  # fmt: skip
    return FilmReading(length_s=100, line_ups=(LINED,), cues=cues)


def test_the_median_of_the_answering_part_is_told_with_its_interval() -> None:
    onsets = [300.0 + 10 * place for place in range(21)]
    (found,) = part_medians(reading([*onsets, None, None]))
    assert (found.part, found.seen, found.asked) == ("head", 21, 23)
    assert found.onset_ms == np.median(onsets) == 400
    assert found.home_ms == 1000
    assert found.low_ms is not None
    assert found.high_ms is not None
    # Ranks 6 and 16 of 21 hold the median in 97 % of samples, 7 and 15 in 92 % (binomial).
    assert (found.low_ms, found.high_ms) == pytest.approx((350, 450), abs=11)
    assert found.words == (
        f"Head: moved 0.40 s after the cue ({found.low_ms / 1000:.2f} to "
        f"{found.high_ms / 1000:.2f} s), home after 1.00 s; seen after 21 of 23 cues"
    )


def test_of_a_few_no_median_is_told() -> None:
    (found,) = part_medians(reading([300.0, None, 320.0]))
    assert found.onset_ms is None
    assert "seen after 2 of 3 cues, too few for a median" in found.words


def test_cues_whose_answer_no_zone_shows_tell_nothing() -> None:
    cues = tuple(cue.model_copy(update={"answer": None}) for cue in reading([300.0] * 20).cues)
    assert part_medians(reading([]).model_copy(update={"cues": cues})) == []
