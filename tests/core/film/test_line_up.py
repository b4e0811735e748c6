"""Lining films up with runs: sounds found where they are, and lines, or refused where none is."""

from __future__ import annotations

from collections import Counter
from itertools import product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.film.film_strikes import OwnSound, strikes_heard
from hastatus.core.film.heard_signals import find_signal
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
from hastatus.core.sound import signal_code, tones
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
@settings(max_examples=40)
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
@settings(max_examples=40)
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


ROUNDS = [(10.0, "a"), (70.0, "b"), (100.0, "c"), (160.0, "d")]
"""Two rounds of a minute: when each of their signals came."""


@pytest.mark.parametrize(
    ("heard", "told"),
    [
        ({"a": [17.5]}, (7.5, 1)),
        ({"b": [12.0]}, (-58.0, 1)),
        ({"a": [17.5], "b": [77.5], "c": [107.5], "d": [167.51]}, (7.5, 4)),
        ({"a": [17.5, 40.0], "b": [77.5]}, (7.5, 2)),
        ({"a": [17.5, 40.0]}, "two_fit"),
        ({"a": [17.5], "c": [40.0]}, "two_fit"),
        ({"a": []}, "none_heard"),
    ],
)
def test_where_only_lights_come_the_signals_of_the_rounds_line_a_film_up(
    heard: dict[str, list[float]], told: tuple[float, int] | str
) -> None:
    sounds = [RunSound(at_s, name, signal=True) for at_s, name in ROUNDS]
    sounds.append(RunSound(150.0, "spoken:ten seconds"))
    film_s = max((max(at_s, default=0) for at_s in heard.values()), default=0) + 5.0
    places = {name: Heard(np.array(at_s), np.full(len(at_s), 0.8)) for name, at_s in heard.items()}
    fit = line_up(sounds, places, film_s)
    if isinstance(fit, LineUp):
        assert (fit.film_s(0.0), fit.heard) == (pytest.approx(told[0], abs=0.02), told[1])
        assert fit.spread_at(fit.pivot_s) <= 0.01 < fit.spread_at(fit.pivot_s + 400)
    else:
        assert fit == told


@pytest.mark.parametrize("seed", range(4))
def test_a_signal_is_heard_in_a_hall_and_no_other_is_taken_for_it(seed: int) -> None:
    own, others = signal_code.drawn(seed, 4), signal_code.drawn(seed + 1000, 4)
    samples = {word: signal_code.samples(word) for word in own + others}
    calls = [(3.0 + 4.5 * place, word) for place, word in enumerate(own + others)]
    hall = Hall(decay_s=1.2, noise_db=10)
    film = rises(sound_of_film(42.0, calls, samples, [2.0, 9.1, 20.6], hall, seed=seed))
    for at_s, word in calls[: len(own)]:
        assert find_signal(film, word).times_s == pytest.approx([at_s], abs=0.003)


def test_no_signal_becomes_another_by_one_note() -> None:
    for word in signal_code.drawn(7, 80):
        assert signal_code.is_word(word)
        for place, changed in product(range(len(word)), "0123456"):
            other = word[:place] + changed + word[place + 1 :]
            assert signal_code.is_word(other) == (other == word)
    assert not any(signal_code.is_word(word) for word in ("", "041302", "0413026x", "00130264"))


def test_two_runs_hardly_ever_share_a_signal() -> None:
    """Whose film a single signal tells: of ten thousand pairs of runs fewer than one shares one."""
    runs, each = 1500, 4
    shared = Counter(word for seed in range(runs) for word in signal_code.drawn(seed, each))
    pairs = sum(count * (count - 1) / 2 for count in shared.values())
    assert pairs < 1e-4 * runs * (runs - 1) / 2
    assert len(set(signal_code.drawn(7, 80))) == 80


def test_a_signal_is_read_whatever_its_word_is() -> None:
    """In silence, of words that drawing came by; the way through the notes is right."""
    for word in signal_code.drawn(11, 20):
        film = rises(
            sound_of_film(3.0, [(1.0, word)], {word: signal_code.samples(word)}, [], Hall(), seed=1)
        )
        assert find_signal(film, word).times_s == pytest.approx([1.0], abs=0.003)


def test_the_word_that_is_read_is_more_like_what_is_heard_than_any_other() -> None:
    rng = np.random.default_rng(5)
    heard = rng.normal(size=(6, signal_code.COUNT, len(signal_code.PITCHES))).astype(np.float32)
    like, words = signal_code.likeliest(heard)
    notes = np.arange(signal_code.COUNT)
    others = np.array([[int(digit) for digit in word] for word in signal_code.drawn(3, 3000)])
    for start, word in enumerate(words):
        assert signal_code.is_word(word)
        own = heard[start, notes, [int(digit) for digit in word]].sum()
        assert like[start] == pytest.approx(own, abs=1e-4)
        assert own >= heard[start, notes, others].sum(axis=1).max() - 1e-4


def test_silence_tells_nothing() -> None:
    silent = rises(np.zeros(3 * RATE))
    assert not silent.any()
    assert not len(find(silent, rises_of_sound(film_sound(SAMPLES["bell"])), 5).times_s)
    assert len(SoundMeter().rises()) == 0
    assert FILM_RATE * 3 == tones.RATE
