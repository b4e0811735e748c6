"""A live camera: slips told against made-up pictures whose truth is known, and what they do to the
answer window.
"""

from __future__ import annotations

from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field, replace
from functools import partial

import numpy as np

from benchmarks.figure import Figure, percentile
from hastatus.core.motion.camera_watch import UNIT, CameraState, CameraWatch
from hastatus.core.motion.meter import MotionMeter
from hastatus.core.motion.movement import Movement
from hastatus.demo.film_picture import Look, Move, Painter
from hastatus.demo.student import Habits
from tests.harness.slips import slip_drill, slip_run

RATE_HZ = 30
FILM_S, LOOSE_FILM_S = 62.0, 32.0
FIRST_S = 5.0
WINDOW_S = 1.6
SIZE = Look(width=320, height=240)
CLEAN = (
    SIZE,
    replace(SIZE, sway_m=0.016),
    replace(SIZE, flicker_hz=50),
    replace(SIZE, flicker_hz=60, exposes=0.15),
    replace(SIZE, tall=0.5),
)
DISTURBED = (replace(SIZE, bystanders=True), replace(SIZE, shake_px=0.6))
TARGET = 0.84
CUES = 66


@dataclass
class Told:
    """What was told of the cues of some films. off_ms: of slips, with `spread_ms` beside them."""

    slips: int = 0
    still: int = 0
    false: int = 0
    found: int = 0
    said: int = 0
    off_ms: list[float] = field(default_factory=list)
    spread_ms: list[float] = field(default_factory=list)

    def take(self, cue_s: float, onset_s: float | None, movement: Movement) -> None:
        """One cue. onset_s: when the slip really began; None: there was none."""
        near = onset_s is not None and movement.onset_s is not None
        if onset_s is None:
            self.still += 1
            self.false += movement.onset_s is not None
            return
        self.slips += 1
        if not near or movement.onset_s is None:
            self.said += movement.reason not in (None, "still")
            return
        off_ms = 1000 * (movement.onset_s - onset_s)
        if abs(off_ms) > 100:
            self.false += 1
            return
        self.found += 1
        self.off_ms.append(off_ms)
        self.spread_ms.append(1000 * movement.spread_s)


def figures(loose: bool) -> Iterator[Figure]:
    """Watch films as a page does, then students whose slips a camera sees."""
    each, film_s = (1, LOOSE_FILM_S) if loose else (8, FILM_S)
    watch = partial(_watch, film_s=film_s)
    with ProcessPoolExecutor(2) as pool:
        yield from _told("clean scenes", list(pool.map(watch, _films(CLEAN, each))), 3, 2)
        disturbed = list(pool.map(watch, _films(DISTURBED, each)))
        yield from _told("people behind, a shaken camera", disturbed, 10, 6)
        students = range(4 if loose else 120)
        shares = np.array(list(pool.map(_clean_share, students)))
    off = float(shares.mean()) - TARGET
    name = f"slips seen by a camera: clean share of cues 11 on from {TARGET} ({off:+.3f})"
    yield Figure(name, abs(off), "", 0.03, 2.0 if loose else 1.0)


def _films(looks: tuple[Look, ...], each: int) -> list[tuple[Look, int]]:
    return [(look, len(looks) * turn + place) for turn in range(each)
            for place, look in enumerate(looks)]  # fmt: skip


def _told(where: str, films: list[Told], lost: float, false: float) -> Iterator[Figure]:
    slips, cues = sum(one.slips for one in films), sum(one.slips + one.still for one in films)
    off = np.array([off for one in films for off in one.off_ms])
    spread = np.array([spread for one in films for spread in one.spread_ms])
    missed = 100 * (1 - (sum(one.found for one in films) + sum(o.said for o in films)) / slips)
    name = f"live camera, {where}: {slips} slips neither told nor said to be unclear"
    yield Figure(name, missed, "%", lost)
    told = 100 * sum(one.false for one in films) / cues
    yield Figure(f"live camera, {where}: told falsely, of {cues} cues", told, "%", false)
    picture_ms = 1000 / RATE_HZ
    middle = percentile(list(np.abs(off)), 0.5)
    yield Figure(f"live camera, {where}: onset, median", middle, "ms", picture_ms / 2 + 5)
    most = percentile(list(np.abs(off)), 0.95)
    yield Figure(f"live camera, {where}: onset, 95 %", most, "ms", 1.5 * picture_ms)
    outside = 100 * float(np.mean(np.abs(off) > spread))
    yield Figure(f"live camera, {where}: onsets outside their interval", outside, "%", 7)


def _watch(film: tuple[Look, int], film_s: float) -> Told:
    """A film of `film_s` seconds as page and server see it: picture by picture, cue by cue."""
    look, seed = film
    rng = np.random.default_rng((seed, 3))
    cues: list[tuple[float, float | None]] = []
    moves: list[Move] = []
    at_s = FIRST_S
    while at_s < film_s:
        onset_s = at_s + float(rng.uniform(0.25, 0.7)) if rng.random() < 0.8 else None
        if onset_s is not None:
            aside = float(rng.choice((-1.0, 1.0)) * rng.uniform(0.18, 0.31))
            moves.append(Move("head", onset_s, float(rng.uniform(0.22, 0.4)), (aside, -0.1)))
        cues.append((at_s, onset_s))
        at_s += float(rng.uniform(2.4, 4.2))
    painter = Painter(look, moves, seed)
    zones = [zone for zone in painter.place().zones if zone.part == "head"]
    meter = MotionMeter(zones)
    for number in range(round((film_s + 4) * RATE_HZ)):
        meter.add(number / RATE_HZ, painter.at(number / RATE_HZ))
    motion = meter.motion
    raw = np.concatenate([motion.moved[:, 0] + motion.shaken, motion.shaken], axis=1)
    told, state, watch = Told(), CameraState(), CameraWatch(zones, [0])
    ahead, waiting = list(cues), list[tuple[float, float | None]]()
    for time_s, row in zip(motion.times_s, np.round(raw / UNIT).astype(int), strict=True):
        while ahead and ahead[0][0] <= time_s:
            waiting.append(ahead.pop(0))
            watch.asked(state, waiting[-1][0])
        while waiting and time_s > waiting[0][0] + WINDOW_S:
            cue_s, onset_s = waiting.pop(0)
            told.take(cue_s, onset_s, watch.after(state, 0, cue_s, cue_s + WINDOW_S))
        watch.add(state, float(time_s), row.tolist(), look.height, look.width)
        watch.forget(state, min((cue_s for cue_s, _ in waiting), default=float(time_s)))
    return told


def _clean_share(seed: int) -> float:
    """Of a simulated student's slips from the eleventh cue on, as they were scored."""
    rng = np.random.default_rng((seed, 9))
    habits = Habits(
        mu_ms=float(rng.uniform(350, 600)), sigma_ms=float(rng.uniform(30, 70)),
        tau_ms=float(rng.uniform(60, 160)), rear_ms=0, tiring_ms=0, jumps=0,
    )  # fmt: skip
    run = slip_run(slip_drill(cues=CUES, catch_share=0.0), seed, habits)
    later = [heard for _, heard in run.pairs() if heard.slot >= 10 and heard.counts]
    return float(np.mean([heard.outcome == "clean" for heard in later]))
