"""The rhythm of two: what is even, what is lost, and what stands out."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.read.rhythm import FEWEST, rhythm


@given(st.floats(0.42, 1.0), st.integers(3, 140), st.sets(st.integers(1, 120), max_size=12))
@settings(max_examples=40)
def test_an_even_beat_is_found_exactly_whatever_is_lost(
    beat_s: float, beats: int, lost: set[int]
) -> None:
    heard = [beat * beat_s for beat in range(beats) if beat not in lost or beat == beats - 1]
    told = rhythm(heard, beat_s)
    if len(heard) < 3:
        assert told is None
        return
    assert told is not None
    assert told.beat_s == pytest.approx(beat_s, rel=1e-6)
    assert told.tempo_bpm == pytest.approx(60 / beat_s, rel=1e-6)  # by definition
    assert told.ran_ahead is None
    assert told.uneven < 1e-3


def test_a_beat_that_was_asked_for_but_not_kept() -> None:
    """Asked at 100, kept at 92: the count goes on, and what was kept is told."""
    heard = list(np.arange(60) * 60 / 92)
    told = rhythm(heard, 60 / 100)
    assert told is not None
    assert told.tempo_bpm == pytest.approx(92, abs=0.01)


def test_half_beats_are_counted_as_such() -> None:
    """Strikes on beats one, two and three and a half of five, at 66 a minute."""
    beat_s = 60 / 66
    heard = [beat_s * (5 * bar + place) for bar in range(20) for place in (0, 1, 2.5)]
    told = rhythm(heard, beat_s, parts=2)
    assert told is not None
    assert told.tempo_bpm == pytest.approx(66, abs=0.01)
    assert told.ran_ahead is None


def test_a_pulse_is_kept_through_long_pauses() -> None:
    """Exchanges of three strikes, up to twenty beats apart, on a metronome: nobody ran ahead."""
    rng = np.random.default_rng(12)
    beat_s = 60 / 66
    starts = np.cumsum(rng.integers(6, 20, size=30))
    at = [start + place for start in starts for place in (0, 1, 2.5)]
    heard = [beat_s * each + float(rng.normal(0, 0.045)) for each in at]
    told = rhythm(heard, beat_s, parts=2, pulse=True)
    assert told is not None
    assert told.tempo_bpm == pytest.approx(66, abs=0.2)
    assert told.ran_ahead is None


def test_two_who_strike_on_one_beat_are_one_beat() -> None:
    rng = np.random.default_rng(3)
    one = np.arange(40) * 0.8 + rng.normal(0, 0.01, 40)
    other = np.arange(40) * 0.8 + rng.normal(0, 0.01, 40)
    told = rhythm([*one, *other], 0.8)
    assert told is not None
    assert (told.strikes, told.ran_ahead) == (80, None)


def test_running_ahead_is_told_with_its_place_and_size() -> None:
    """Eight beats 12 % faster around a kept pulse; seed fixed."""
    rng = np.random.default_rng(8)
    intervals = np.full(99, 0.7)
    intervals[40:48] *= 0.88
    heard = np.concatenate([[0.0], np.cumsum(intervals)]) + rng.normal(0, 0.02, 100)
    told = rhythm(list(heard), 0.7)
    assert told is not None
    assert told.ran_ahead is not None
    assert abs(told.ran_ahead.from_beat - 40) <= 3
    assert told.ran_ahead.faster == pytest.approx(0.12, abs=0.05)
    assert told.beat_s == pytest.approx(0.7, rel=0.01)
    assert told.motor > 0.5  # around a kept pulse, nothing adds up
    slower = np.concatenate([[0.0], np.cumsum(1.4 - intervals)]) + rng.normal(0, 0.02, 100)
    falling_back = rhythm(list(slower), 0.7)
    assert falling_back is not None
    assert falling_back.ran_ahead is None


def test_too_few_strikes_say_nothing_of_running_ahead() -> None:
    heard = [0.7 * beat for beat in range(FEWEST - 1)]
    heard = heard[:10] + [time - 0.3 for time in heard[10:]]
    told = rhythm(heard, 0.7)
    assert told is not None
    assert told.ran_ahead is None
    assert rhythm([], 0.7) is None
    assert rhythm([0.0, 0.7], 0.7) is None


def test_strikes_that_nobody_asked_for_change_nothing() -> None:
    """A round at 92 of 100 asked, every tenth beat lost, as many strikes beside it; seed fixed."""
    rng = np.random.default_rng(21)
    beats = np.arange(120) * 60 / 92 + rng.normal(0, 0.03, 120)
    kept = beats[rng.random(120) > 0.1]
    beside = rng.uniform(0, beats[-1], 25)
    told = rhythm(sorted([*kept, *beside]), 60 / 100)
    assert told is not None
    assert told.tempo_bpm == pytest.approx(92, rel=0.005)
    assert told.ran_ahead is None


def test_a_count_that_hangs_on_a_few_strikes_is_not_told() -> None:
    """As many strikes at random as on the beat; or beats that are hardly any."""
    rng = np.random.default_rng(22)
    beats = np.arange(60) * 0.7
    crowd = rng.uniform(0, beats[-1], 80)
    told = rhythm(sorted([*beats, *crowd]), 0.7)
    assert told is not None
    assert (told.tempo_bpm, told.ran_ahead) == (None, None)
    nothing_but_noise = rhythm(sorted(rng.uniform(0, 60, 80)), 0.7)
    assert nothing_but_noise is not None
    assert nothing_but_noise.tempo_bpm is None


def test_who_leaves_the_metronome_is_not_said_to_keep_it() -> None:
    """6 % beside the pulse for a whole round: the sheet's strikes are not heard on their beats."""
    heard = [0.9 * 1.06 * beat for beat in range(120)]
    told = rhythm(heard, 0.9, pulse=True, asked=list(range(120)))
    assert told is not None
    assert told.tempo_bpm is None
