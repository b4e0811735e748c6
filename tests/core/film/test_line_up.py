"""Lining films up with runs: sounds found where they are, and lines, or refused where none is."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.film.film_strikes import OwnSound, strikes_heard
from hastatus.core.film.heard_sounds import (
    FILM_RATE,
    Heard,
    Rises,
    SoundMeter,
    film_sound,
    find,
    rises_of_sound,
)
from hastatus.core.film.line_up import LineUp, RunSound, line_up
from hastatus.core.sound import tones
from hastatus.demo.film_sound import RATE, Hall
from hastatus.demo.film_sound import film_sound as sound_of_film

SAMPLES = {name: tones.named(name) for name in tones.SOUNDS}


def rises(samples: np.ndarray) -> Rises:
    meter = SoundMeter()
    for part in np.array_split(film_sound(samples), 7):
        meter.add(part)
    return meter.rises()


@pytest.mark.parametrize("name", sorted(SAMPLES))
def test_each_sound_is_found_in_a_room_to_three_milliseconds(name: str) -> None:
    at_s = [1.0, 2.3, 4.05, 6.2]
    hall = Hall(decay_s=0.9, noise_db=15)
    film = sound_of_film(8.0, [(one, name) for one in at_s], SAMPLES, [], hall, seed=3)
    found = find(rises(film), rises_of_sound(film_sound(SAMPLES[name])), len(at_s))
    assert found.times_s == pytest.approx(at_s, abs=0.003)


def test_strikes_are_heard_beside_the_apps_own_sounds() -> None:
    strikes = [2.0, 3.31, 4.5, 6.02, 7.4]
    cues = [(strike_s - 0.4, "bell") for strike_s in strikes]
    film = sound_of_film(9.0, cues, SAMPLES, strikes, Hall(), seed=4)
    own = rises_of_sound(film_sound(SAMPLES["bell"]))
    heard = strikes_heard(rises(film), [OwnSound(at_s, own) for at_s, _ in cues])
    assert heard == pytest.approx(strikes, abs=0.006)
    quiet = sound_of_film(9.0, cues, SAMPLES, [], Hall(), seed=4)
    assert not len(strikes_heard(rises(quiet), [OwnSound(at_s, own) for at_s, _ in cues]))


def run_of(rng: np.random.Generator, count: int) -> list[RunSound]:
    at_s = 5.0 + np.cumsum(1.5 + rng.exponential(1.0, count))
    return [RunSound(float(one), str(rng.choice(["bell", "bang"]))) for one in at_s]


def heard_of(
    rng: np.random.Generator, sounds: list[RunSound], starts_s: float, rate: float, film_s: float
) -> dict[str, Heard]:
    """What a film hears: nine in ten of the sounds, to a millisecond, and as much that is none."""
    heard = {}
    for name in ("bell", "bang"):
        true = [starts_s + rate * one.at_s for one in sounds if one.name == name]
        true = [one for one in true if 0 <= one < film_s and rng.random() < 0.9]
        times = [*(one + rng.normal(0, 0.001) for one in true), *rng.uniform(0, film_s, len(true))]
        heard[name] = Heard(np.sort(times), rng.uniform(0.5, 0.9, len(times)))
    return heard


@given(seed=st.integers(0, 10**6), starts_s=st.floats(-60, 30), drift=st.floats(-2e-4, 2e-4))
@settings(max_examples=40, deadline=None)
def test_a_film_is_lined_up_whatever_its_beginning_and_its_clock(
    seed: int, starts_s: float, drift: float
) -> None:
    rng = np.random.default_rng(seed)
    sounds = run_of(rng, 60)
    heard = heard_of(rng, sounds, starts_s, 1 + drift, 120.0)
    fit = line_up(sounds, heard, 120.0)
    assert isinstance(fit, LineUp)
    for at_s in (sound.at_s for sound in sounds):
        film_s = starts_s + (1 + drift) * at_s
        if 0 <= film_s < 120:
            assert fit.film_s(at_s) == pytest.approx(film_s, abs=fit.spread_s)
            assert fit.run_s(fit.film_s(at_s)) == pytest.approx(at_s, abs=1e-9)


@given(seed=st.integers(0, 10**6))
@settings(max_examples=40, deadline=None)
def test_a_film_of_another_run_is_refused(seed: int) -> None:
    rng = np.random.default_rng(seed)
    heard = heard_of(rng, run_of(rng, 60), -5.0, 1.0, 120.0)
    assert line_up(run_of(rng, 60), heard, 120.0) in ("other_run", "two_fit")


def test_what_comes_too_evenly_fits_in_two_places() -> None:
    rng = np.random.default_rng(1)
    sounds = [RunSound(2.0 * number, "bell") for number in range(1, 40)]
    heard = heard_of(rng, sounds, 0.0, 1.0, 60.0)
    assert line_up(sounds, heard, 60.0) == "two_fit"


def test_nothing_heard_and_nothing_sounded_are_told_apart() -> None:
    sounds = run_of(np.random.default_rng(2), 20)
    nothing = {"bell": Heard(np.zeros(0), np.zeros(0))}
    assert line_up(sounds, nothing, 60.0) == "none_heard"
    assert line_up([], nothing, 60.0) == "nothing_sounded"


@pytest.mark.parametrize(
    ("at_s", "likeness", "told"),
    [
        ([7.5], [0.8], 7.5),
        ([7.5, 30.0], [0.8, 0.4], 7.5),
        ([7.5], [0.4], "none_heard"),
        ([7.5, 31.0], [0.8, 0.9], "other_run"),
    ],
)
def test_where_only_lights_come_the_one_signal_must_be_sure(
    at_s: list[float], likeness: list[float], told: float | str
) -> None:
    heard = {"signal": Heard(np.array(at_s), np.array(likeness))}
    fit = line_up([RunSound(2.0, "signal", signal=True)], heard, 60.0)
    assert (fit.film_s(2.0) if isinstance(fit, LineUp) else fit) == told


def test_silence_tells_nothing() -> None:
    silent = rises(np.zeros(3 * RATE))
    assert not silent.any()
    assert not len(find(silent, rises_of_sound(film_sound(SAMPLES["bell"])), 5).times_s)
    assert len(SoundMeter().rises()) == 0
    assert FILM_RATE * 3 == tones.RATE
