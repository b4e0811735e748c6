"""The tempo of made-up rounds of two, and running ahead that was planted in them.

What the detector does to a strike (15 dB over the noise) is measured on some rounds as recordings;
the errors it makes there are then given to the strikes of all of them. Bare times tell what strikes
that are lost, or that nobody asked for, make of a count; recordings with the next pair in the room
what the ear makes of those; and drills on a metronome what pads and the microphone make of it.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from benchmarks.figure import Figure
from benchmarks.hearing import Found, Outside
from benchmarks.strikes import rounds_scene
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.read.kept_tempo import asked_strikes, tempos
from hastatus.core.read.rhythm import Rhythm, rhythm
from hastatus.core.run.partner_events import Mark, RoundBegun, Strike
from hastatus.core.starter.partner import PARTNER_STARTERS

Way = Literal["around a kept pulse", "adding up", "half and half"]
BEATS = 128
NOISE_DB = 15.0
LOST = 0.05
AHEAD_BEATS = 8
UNEVEN: dict[Way, tuple[float, float]] = {
    "around a kept pulse": (0.0, 0.08),
    "adding up": (0.04, 0.0),
    "half and half": (0.04 / np.sqrt(2), 0.04 / np.sqrt(2)),
}
"""Standard deviations of the beat and of a strike beside it, in beats."""
FASTER: dict[Way, float] = {
    "around a kept pulse": 0.06,
    "adding up": 0.18,
    "half and half": 0.12,
}


@dataclass(frozen=True)
class Round:
    """A made-up round. strikes_s: those that are not lost. mean_s: of the beats outside the
    stretch."""

    beat_s: float
    strikes_s: NDArray[np.float64]
    mean_s: float
    ahead_from: int | None


@dataclass(frozen=True)
class Judged:
    """What came of a round. off: error of the mean beat, as a share; None where it is not told."""

    off: float | None
    found: bool


def make_round(seed: int, way: Way, *, ahead: bool) -> Round:
    """A round of 128 beats at 60 to 140 a minute, the two striking in turn."""
    rng = np.random.default_rng((seed, list(UNEVEN).index(way), int(ahead)))
    beat_s = 60 / float(rng.uniform(60, 140))
    clock, motor = UNEVEN[way]
    intervals = beat_s * (1 + clock * rng.standard_normal(BEATS - 1))
    start = int(rng.integers(8, BEATS - 24)) if ahead else None
    outside = np.ones(BEATS - 1, dtype=bool)
    if start is not None:
        intervals[start : start + AHEAD_BEATS] *= 1 - FASTER[way]
        outside[start : start + AHEAD_BEATS] = False
    times = np.concatenate([[0.0], np.cumsum(intervals)])
    times = times + beat_s * motor * rng.standard_normal(BEATS)
    mean_s = float(np.diff(times)[outside].mean())
    heard = rng.random(BEATS) >= LOST
    return Round(beat_s, times[heard] - times[heard][0], mean_s, start)


def heard_errors(count: int) -> tuple[NDArray[np.float64], float]:
    """What the detector makes of some rounds: errors of its onsets in s, share it misses."""
    found = Found()
    with tempfile.TemporaryDirectory() as folder:
        detector = Outside(Path(folder))
        for number in range(count):
            made = make_round(number, list(UNEVEN)[number % 3], ahead=number % 2 == 1)
            recording = rounds_scene(number, list(made.strikes_s), NOISE_DB)
            found.add(recording.strikes_s, detector.hear(recording))
    errors = np.asarray(found.errors_ms) / 1000
    return errors, 1 - len(errors) / found.strikes


def judge(seed: int, way: Way, ahead: bool, errors: NDArray[np.float64], missed: float) -> Judged:
    """A round as it would be heard, against what it was."""
    made = make_round(seed, way, ahead=ahead)
    rng = np.random.default_rng((seed, 3))
    strikes = made.strikes_s[rng.random(made.strikes_s.size) >= missed]
    strikes = np.sort(strikes + rng.choice(errors, strikes.size))
    told = rhythm(strikes.tolist(), made.beat_s)
    assert told is not None
    ran, start = told.ran_ahead, made.ahead_from
    off = abs(told.beat_s / made.mean_s - 1) if told.beat_s else None
    # Beats are counted from the first that was heard, which may not be the first there was.
    there = (
        ran is not None
        and start is not None
        and ran.from_beat < start + AHEAD_BEATS
        and ran.from_beat + ran.beats > start - 4
    )
    return Judged(off, there if start is not None else ran is not None)


@dataclass(frozen=True)
class Trouble:
    """How the strikes of a round come. clock, motor, swing: in beats; motor_s: in seconds. lost,
    extra: of the beats. faster: how much those who run ahead are."""

    clock: float = 0.0
    motor: float = 0.0
    motor_s: float = 0.0
    swing: float = 0.0
    lost: float = 0.05
    extra: float = 0.05
    faster: float = 0.06


TROUBLES = {
    "around a kept pulse, 15 % lost, 10 % extra": Trouble(motor=0.08, lost=0.15, extra=0.1),
    "adding up, 15 % lost, 10 % extra": Trouble(clock=0.04, lost=0.15, extra=0.1, faster=0.18),
    "swing of 0.12, 15 % lost, 10 % extra": Trouble(
        clock=0.01, motor=0.02, swing=0.12, lost=0.15, extra=0.1, faster=0.12
    ),
    "jitter of 0.12, 15 % lost, 10 % extra": Trouble(
        clock=0.01, motor=0.12, lost=0.15, extra=0.1, faster=0.12
    ),
    "20 % lost, 30 % extra": Trouble(motor=0.08, lost=0.2, extra=0.3),
    "spread of 40 ms, 5 % lost, 5 % extra": Trouble(motor_s=0.04),
}
"""Bare times, the tempo kept up to 6 % beside the one that was asked."""


@dataclass(frozen=True)
class Statements:
    """What was stated of rounds. tempo: whether it was right, where it was told. ahead: whether
    running ahead was told; right: where and by whom it was."""

    tempo: bool | None
    ahead: bool
    right: bool

    @property
    def wrong(self) -> bool:
        return self.tempo is False or (self.ahead and not self.right)


def bare(seed: int, trouble: Trouble, ahead: bool) -> Statements:
    """A round of bare times, judged."""
    rng = np.random.default_rng((seed, 5, int(ahead)))
    asked_s = 60 / float(rng.uniform(60, 140))
    beat_s = asked_s * (1 + float(rng.uniform(-0.06, 0.06)))
    intervals = beat_s * (1 + trouble.clock * rng.standard_normal(BEATS - 1))
    start = int(rng.integers(8, BEATS - 24))
    outside = np.ones(BEATS - 1, dtype=bool)
    if ahead:
        intervals[start : start + AHEAD_BEATS] *= 1 - trouble.faster
        outside[start : start + AHEAD_BEATS] = False
    true = np.concatenate([[0.0], np.cumsum(intervals)])
    beside = trouble.motor * beat_s + trouble.motor_s
    times = true + beside * rng.standard_normal(BEATS)
    times = times + trouble.swing * beat_s * (np.arange(BEATS) % 2)
    extra = rng.uniform(times.min(), times.max(), rng.poisson(trouble.extra * BEATS))
    heard = np.sort(np.concatenate([times[rng.random(BEATS) >= trouble.lost], extra]))
    told = rhythm((heard - heard[0]).tolist(), asked_s)
    assert told is not None
    mean_s = float(intervals[outside].mean())
    within = (true[start] - heard[0], true[start + AHEAD_BEATS] - heard[0]) if ahead else None
    return _stated(told, mean_s, within)


def _stated(told: Rhythm, mean_s: float, within: tuple[float, float] | None) -> Statements:
    if told.beat_s is None:
        return Statements(None, False, False)
    ran, right = told.ran_ahead, False
    if ran and within:
        began_s, over_s = ran.from_beat * told.beat_s, (ran.from_beat + ran.beats) * told.beat_s
        near_s = 3 * told.beat_s
        right = began_s < within[1] + near_s and over_s > within[0] - near_s
    return Statements(abs(told.beat_s / mean_s - 1) <= 0.01, ran is not None, right)


def neighbours(count: int) -> list[Statements]:
    """Rounds with the next pair in the room, 12 dB below, as they are heard."""
    stated = []
    with tempfile.TemporaryDirectory() as folder:
        detector = Outside(Path(folder))
        for number in range(count):
            rng = np.random.default_rng((number, 6))
            made = make_round(number, list(UNEVEN)[number % 3], ahead=False)
            theirs_s = made.beat_s * float(rng.uniform(0.94, 1.06))
            beats = np.arange(int(made.strikes_s[-1] / theirs_s)) + float(rng.uniform(0, 1))
            next_pair = theirs_s * (beats + 0.03 * rng.standard_normal(beats.size))
            recording = rounds_scene(number, list(made.strikes_s), NOISE_DB, list(next_pair))
            told = rhythm(detector.hear(recording), made.beat_s)
            assert told is not None
            stated.append(_stated(told, made.mean_s, None))
    return stated


@dataclass(frozen=True)
class Metronome:
    """A drill on a metronome. pads: else the microphone. back: they fall back to the pulse, four
    beats after the stretch. off: how much slower than the pulse both are."""

    pads: bool
    extra: float = 0.05
    back: bool = False
    off: float = 0.0


def on_metronome(seed: int, how: Metronome, ahead: bool) -> Statements:
    """Four minutes of turn about, strikes 40 ms beside the beat; one runs ahead by 5 %."""
    drill = PARTNER_STARTERS["turn about"]()
    rung = drill.rungs[0]
    rounds = rung.rounds.model_copy(update={"count": 1, "ends": "time", "duration_s": 240.0})
    drill = drill.model_copy(update={"rungs": (rung.model_copy(update={"rounds": rounds}),)})
    sheet = feed_sheet(drill, seed=seed)
    assert sheet.tempo_bpm is not None
    rng = np.random.default_rng((seed, 7, int(ahead)))
    asked = asked_strikes(drill, sheet, sheet.rounds[0])
    who = int(rng.integers(2)) if ahead else None
    last_s = max(at_s for at_s, _ in asked)
    begun = float(rng.uniform(10, last_s / sheet.beat_s - 30))
    marks: list[Mark] = [RoundBegun(at_ms=0, round=1)]

    def struck(at_s: float, partner: int) -> None:
        marks.append(
            Strike(
                at_ms=round(max(0.0, 1000 * at_s), 1),
                source="pad" if how.pads else "microphone",
                partner=partner if how.pads else None,
            )
        )

    for at_s, partner in asked:
        beat = at_s / sheet.beat_s
        since = beat - begun if partner == who else 0.0
        lead = 0.05 * min(max(since, 0.0), AHEAD_BEATS)
        if how.back and since > AHEAD_BEATS + 4:
            lead = 0.0
        if rng.random() >= LOST:
            at_beat = beat * (1 + how.off) - lead
            struck(at_beat * sheet.beat_s + float(rng.normal(0, 0.04)), partner)
    for at_s in rng.uniform(0, last_s, rng.poisson(how.extra * len(asked))):
        struck(float(at_s), int(rng.integers(2)))
    (told,) = tempos(drill, sheet, marks)
    named = [partner.partner for partner in told.alone]
    tempo = None
    if told.rhythm.beat_s is not None:
        tempo = abs(told.rhythm.beat_s / (sheet.beat_s * (1 + how.off)) - 1) <= 0.01
    stated = bool(named) or told.rhythm.ran_ahead is not None
    return Statements(tempo, stated, ahead and set(named) <= {who})


METRONOMES = {
    "on a metronome, pads": Metronome(pads=True),
    "on a metronome, microphone": Metronome(pads=False),
    "on a metronome, pads, 30 % extra": Metronome(pads=True, extra=0.3),
    "on a metronome, microphone, 30 % extra": Metronome(pads=False, extra=0.3),
    "on a metronome, pads, fallen back to it": Metronome(pads=True, back=True),
    "beside a metronome by 6 %, pads": Metronome(pads=True, off=0.06),
}


def _of_statements(
    name: str, rounds: int, without: list[Statements], planted: list[Statements]
) -> Iterator[Figure]:
    every = [*without, *planted]
    told = [trial for trial in every if trial.tempo is not None]
    of = f"{name}, {rounds} rounds"
    wrong = 100 * float(np.mean([trial.wrong for trial in every]))
    yield Figure(f"{of}: something wrong stated", wrong, "%", 2, 3)
    off = 100 * float(np.mean([not trial.tempo for trial in told])) if told else 0.0
    yield Figure(f"{of}: tempo off by more than 1 %, where told", off, "%", 2, 3)
    untold = 100 * (1 - len(told) / len(every))
    yield Figure(f"{of}: tempo not told", untold, "%", _UNTOLD.get(name, 100))
    if planted:
        unfound = 100 * float(np.mean([not (trial.ahead and trial.right) for trial in planted]))
        yield Figure(f"{of}: running ahead not found", unfound, "%", _UNFOUND.get(name, 100), 2)


_UNTOLD = {"spread of 40 ms, 5 % lost, 5 % extra": 5.0}
_UNFOUND = {
    "spread of 40 ms, 5 % lost, 5 % extra": 10.0,
    "on a metronome, pads": 10.0,
    "on a metronome, microphone": 10.0,
    "on a metronome, pads, 30 % extra": 10.0,
    "on a metronome, microphone, 30 % extra": 10.0,
}
"""Where no bound is promised a figure is told for what it is worth."""


def figures(loose: bool) -> Iterator[Figure]:
    """Judge 100 rounds of each way, with and without running ahead; the suite takes fewer."""
    rounds = 2 if loose else 100
    errors, missed = heard_errors(1 if loose else 6)
    yield Figure("strikes of two over noise by 15 dB, missed", 100 * missed, "%", 4.0)
    with ProcessPoolExecutor(2) as pool:
        for way in UNEVEN:
            judged = {
                ahead: list(
                    pool.map(
                        partial(judge, way=way, ahead=ahead, errors=errors, missed=missed),
                        range(rounds),
                        chunksize=5,
                    )
                )
                for ahead in (False, True)
            }
            every = judged[False] + judged[True]
            off = 100 * float(np.mean([trial.off is None or trial.off > 0.01 for trial in every]))
            unfound = 100 * float(np.mean([not trial.found for trial in judged[True]]))
            false = 100 * float(np.mean([trial.found for trial in judged[False]]))
            name = f"uneven {way}, {rounds} rounds"
            yield Figure(f"{name}, tempo not told, or off by more than 1 %", off, "%", 5)
            yield Figure(f"{name}, running ahead not found", unfound, "%", 5)
            yield Figure(f"{name}, running ahead told where none was", false, "%", 2, 2)
        few = 2 if loose else rounds // 2
        kinds = [(name, partial(bare, trouble=kind)) for name, kind in TROUBLES.items()]
        kinds += [(name, partial(on_metronome, how=kind)) for name, kind in METRONOMES.items()]
        for name, judged_by in kinds:
            stated = [
                list(pool.map(partial(judged_by, ahead=ahead), range(few), chunksize=5))
                for ahead in (False, True)
            ]
            yield from _of_statements(name, few, *stated)
    count = 1 if loose else 20
    yield from _of_statements("the next pair at -12 dB", count, neighbours(count), [])
