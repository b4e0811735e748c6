"""Films of partner runs: who began when, what landed and who moved first, against what was done.

Every film is made up (`hastatus.demo.filmed_pair`); drills, tempo, who stands where, the hall and
the picture are drawn anew for each.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from benchmarks.figure import Figure, percentile
from benchmarks.film_line_up import SAMPLES, hall
from hastatus.core.film.exchange_seen import Began, ExchangeSeen
from hastatus.core.film.pair_reading import read_pair_film
from hastatus.core.film.pair_sounds import PairRun, signal_rises
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.demo.film import Camera
from hastatus.demo.film_picture import Look
from hastatus.demo.filmed_pair import Exchanged, FilmedPair
from hastatus.demo.filmed_run import Filming
from hastatus.demo.pairs import Pair, batches
from hastatus.film_io.film_file import read_film_file

FILMS, LOOSE_FILMS = 24, 4
DRILLS = (
    "third-beat answer",
    "stop and hit",
    "wide swing",
    "low kick against the lead straight",
    "return above the arm",
    "two-beat counter",
)
NEAR_MS = 150.0
"""An onset further from the true one than this is of something else."""
SAME_MS = 60.0
"""Of two who began so near one another nobody can say who was first."""
FROM_S = 1.2
"""What begins before an exchange of this time or later is in the film, and that both stood still
before it, too."""


@dataclass
class Told:
    """What one film told. off_frames: of onsets, in pictures; ratio: against what is said."""

    asked: int = 0
    found: int = 0
    false: int = 0
    off_frames: list[float] = field(default_factory=list)
    ratio: list[float] = field(default_factory=list)
    landed_ms: list[float] = field(default_factory=list)
    landed_of: int = 0
    ahead: int = 0
    ahead_found: int = 0
    ahead_false: int = 0
    exchanges: int = 0

    def add(self, seen: ExchangeSeen, done: Exchanged, frame_ms: float) -> None:
        """One exchange."""
        self.exchanges += 1
        fed_ms, answered_ms = (
            1000 * (move.onset_s - seen.film_s) for move in (done.fed, done.answered)
        )
        self._onset(seen.fed, fed_ms, frame_ms)
        self._onset(seen.answered, answered_ms, frame_ms)
        first = answered_ms < fed_ms - SAME_MS
        self.ahead += first
        self.ahead_found += first and seen.ran_ahead
        self.ahead_false += seen.ran_ahead and answered_ms > fed_ms
        if done.landed_s is not None:
            self.landed_of += 1
            if seen.landed_ms is not None:
                self.landed_ms.append(abs(seen.landed_ms - 1000 * (done.landed_s - seen.film_s)))

    def _onset(self, began: Began, true_ms: float, frame_ms: float) -> None:
        self.asked += 1
        if began.at_ms is None:
            return
        off_ms = abs(began.at_ms - true_ms)
        if off_ms > NEAR_MS:
            self.false += 1
            return
        self.found += 1
        self.off_frames.append(off_ms / frame_ms)
        self.ratio.append(off_ms / began.spread_ms)


def figures(pool: ProcessPoolExecutor, loose: bool) -> Iterator[Figure]:
    """Clean scenes, of which what cannot be told says so."""
    films = list(pool.map(_told, range(LOOSE_FILMS if loose else FILMS)))
    asked = sum(film.asked for film in films)
    missed = 100 * (1 - sum(film.found for film in films) / asked)
    false = 100 * sum(film.false for film in films) / asked
    off = [one for film in films for one in film.off_frames]
    outside = [one > 1 for film in films for one in film.ratio]
    yield Figure(f"films of two: of {asked} beginnings not told", missed, "%", 6)
    yield Figure("films of two: told of another movement", false, "%", 3)
    yield Figure("films of two: median error", percentile(off, 0.5), "pictures", 0.5)
    yield Figure("films of two: 95 % within", percentile(off, 0.95), "pictures", 1.5)
    yield Figure("films of two: outside their interval", 100 * float(np.mean(outside)), "%", 5)
    landed = [one for film in films for one in film.landed_ms]
    heard = 100 * (1 - len(landed) / sum(film.landed_of for film in films))
    yield Figure("films of two: counters that landed and were not heard", heard, "%", 5)
    yield Figure("films of two: 95 % of landings within", percentile(landed, 0.95), "ms", 15)
    ahead = sum(film.ahead for film in films)
    found = 100 * (1 - sum(film.ahead_found for film in films) / max(ahead, 1))
    yield Figure(f"films of two: of {ahead} who moved first not told", found, "%", 10)
    exchanges = sum(film.exchanges for film in films)
    wrong = 100 * sum(film.ahead_false for film in films) / exchanges
    yield Figure("films of two: falsely told to have moved first", wrong, "%", 2)


def _told(seed: int) -> Told:
    rng = np.random.default_rng((seed, 41))
    drill = PARTNER_STARTERS[DRILLS[seed % len(DRILLS)]]()
    sheet = feed_sheet(drill, seed=seed + 300, tempo_bpm=float(rng.uniform(45, 80)))
    marked = batches(drill, sheet, Pair(clean=0.8), rng)
    run = PairRun(drill, sheet, [mark for one in marked for mark in one.marks], seed % 2)
    rate_hz = float(rng.choice([25.0, 30.0, 50.0]))
    filming = Filming(
        look=Look(
            width=480,
            height=270,
            tall=float(rng.uniform(0.65, 0.85)),
            sway_m=float(rng.uniform(0.003, 0.012)),
            flicker_hz=float(rng.choice([50.0, 60.0])) if seed % 3 == 0 else None,
        ),
        hall=hall(rng, music=False),
        camera=Camera(rate_hz, uneven=seed % 4 == 1, crf=int(rng.integers(20, 29))),
        starts_s=float(rng.uniform(2, 5)),
        length_s=36.0,
        drift=float(rng.uniform(-1e-4, 1e-4)),
    )
    filmed = FilmedPair(run, filming, seed, ahead=0.2)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "film.mp4"
        filmed.write(path, SAMPLES)
        film, _ = read_film_file(path, filmed.place.zones)
    reading = read_pair_film(run, filmed.place, film, signal_rises(run))
    assert not reading.refusal, f"film {seed}: {reading.refusal}"
    done = {(one.round, one.number): one for one in filmed.exchanges}
    told = Told()
    for seen in reading.exchanges:
        if seen.film_s > FROM_S:
            told.add(seen, done[seen.round, seen.number], 1000 / rate_hz)
    return told
