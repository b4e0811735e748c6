"""Films of rounds: what moved told when it moved.

Every film is made up (`hastatus.demo.filmed_run`), so the truth is known. Populations are drawn
anew for each film: rooms, noise, distance, sway, pictures a second, compression.
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

import av
import numpy as np

from benchmarks.figure import Figure, percentile
from benchmarks.film_line_up import SAMPLES, Played, hall
from benchmarks.film_line_up import figures as line_up_figures
from benchmarks.film_pair import figures as pair_figures
from hastatus.core.film.heard_signals import rises_of
from hastatus.core.film.reading import CueSeen, read_film
from hastatus.core.motion.zone import BodyPart
from hastatus.demo.film import Camera
from hastatus.demo.film_picture import Look
from hastatus.demo.filmed_run import Answer, FilmedRun, Filming
from hastatus.film_io.film_file import read_film_file

FILMS, LOOSE_FILMS = 36, 4
NEAR_S = 0.15
"""An onset further from the true one than this is of something else."""
LONG_S, LOOSE_LONG_S = 1795.0, 80.0
"""A film of half an hour is the longest that is read."""
EVERY_S = 20.1
"""A film of 20 s is repeated so often, to make a long one."""


def figures(loose: bool) -> Iterator[Figure]:
    """Line-ups by sound alone, then whole films, then how long reading takes."""
    with ProcessPoolExecutor(2) as pool:
        yield from line_up_figures(pool, loose)
        films = range(LOOSE_FILMS if loose else FILMS)
        yield from _seen_figures("clean", list(pool.map(_clean, films)))
        yield from _seen_figures(
            "with people behind and a shaken camera", list(pool.map(_busy, films))
        )
        yield from pair_figures(pool, loose)
    yield from _cost(LOOSE_LONG_S if loose else LONG_S)


@dataclass
class Seen:
    """One film's onsets. frame_ms: between two pictures. off_ms, spread_ms: of what was found.

    moved: movements that were made; still: cues about which nothing was done; false: onsets that
    are none. silent: movements for which no onset is told and no reason but "still".
    """

    frame_ms: float
    moved: int = 0
    still: int = 0
    false: int = 0
    off_ms: list[float] = field(default_factory=list)
    spread_ms: list[float] = field(default_factory=list)
    home_ms: list[float] = field(default_factory=list)
    home_spread_ms: list[float] = field(default_factory=list)
    strikes: int = 0
    strike_ms: list[float] = field(default_factory=list)

    def add(self, answer: Answer, cue: CueSeen) -> None:
        """Set what the film told of a cue against what was done about it."""
        move = answer.move
        zone = next(zone for zone in cue.zones if zone.part == (move.part if move else "head"))
        shift_ms = 1000 * (cue.film_s - answer.cue_s)
        self.moved += move is not None
        self.still += move is None
        if zone.onset_ms is not None:
            off_ms = (
                np.inf
                if move is None
                else zone.onset_ms + shift_ms - 1000 * (move.onset_s - answer.cue_s)
            )
            if abs(off_ms) > 1000 * NEAR_S:
                self.false += 1
                return
            self.off_ms.append(float(off_ms))
            self.spread_ms.append(zone.spread_ms)
            if move and zone.home_ms is not None:
                self.home_ms.append(zone.home_ms + shift_ms - 1000 * (move.home_s - answer.cue_s))
                self.home_spread_ms.append(zone.home_spread_ms)
        if answer.strike_s is not None:
            self.strikes += 1
            true_ms = 1000 * (answer.strike_s - answer.cue_s)
            off = [strike_ms + shift_ms - true_ms for strike_ms in cue.strikes_ms]
            near = [one for one in off if abs(one) < 30]
            self.strike_ms += sorted(near, key=abs)[:1]


def _clean(seed: int) -> Seen:
    rng = np.random.default_rng((seed, 32))
    look = Look(
        tall=float(rng.uniform(0.5, 0.95)),
        sway_m=float(rng.uniform(0.003, 0.012)),
        noise=float(rng.uniform(1, 4)),
        flicker_hz=(None, 50.0, 60.0)[seed % 3],
        flicker=float(rng.uniform(0.02, 0.08)),
        exposes=float(rng.uniform(0, 0.15)),
        exposure_s=float(rng.uniform(0.004, 0.014)),
    )
    return _seen(seed, look, rng)


def _busy(seed: int) -> Seen:
    rng = np.random.default_rng((seed, 33))
    look = Look(
        tall=float(rng.uniform(0.6, 0.9)),
        sway_m=float(rng.uniform(0.003, 0.012)),
        shake_px=float(rng.uniform(0.4, 1.5)),
        bystanders=True,
    )
    return _seen(seed + 500, look, rng)


def _seen(seed: int, look: Look, rng: np.random.Generator) -> Seen:
    """A film of 45 s of somebody who slips with the head or strikes with the hands."""
    rate_hz = float(rng.choice([24.0, 25.0, 30.0, 50.0, 60.0]))
    filming = Filming(
        look=look,
        hall=hall(rng, music=False),
        camera=Camera(rate_hz, uneven=seed % 4 == 1, crf=int(rng.integers(20, 31))),
        starts_s=float(rng.uniform(-6, 0)),
        length_s=45.0,
        drift=float(rng.uniform(-1e-4, 1e-4)),
    )
    played = Played.of("one thing more", seed + 20_000)
    parts: tuple[BodyPart, ...] = ("head",) if seed % 2 else ("lead_hand", "rear_hand")
    filmed = FilmedRun(played.page, filming, parts, seed)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "film.mp4"
        filmed.write(path, SAMPLES)
        film, _ = read_film_file(path, filmed.place.zones)
    rises = {
        name: rises_of(name, SAMPLES[name]) for name in {one.name for one in filmed.page.sounds}
    }
    reading = read_film(played.drill, played.plan, played.batches, filmed.place, film, rises)
    assert not reading.refusal, f"film {seed}: {reading.refused}"
    seen = Seen(1000 / rate_hz)
    answers = {(one.cue.round, one.cue.slot): one for one in filmed.answers}
    for cue in reading.cues:
        if 0.6 < cue.film_s < filming.length_s - 2.0:
            seen.add(answers[cue.round, cue.slot], cue)
    return seen


def _seen_figures(where: str, films: list[Seen]) -> Iterator[Figure]:
    moved = sum(film.moved for film in films)
    cues = moved + sum(film.still for film in films)
    off = np.array([one for film in films for one in film.off_ms])
    frames = np.array([film.frame_ms for film in films for _ in film.off_ms])
    spread = np.array([one for film in films for one in film.spread_ms])
    clean = where == "clean"
    missed = 100 * (1 - len(off) / moved)
    yield Figure(
        f"films, {where}: movements not found, of {moved}", missed, "%", 3 if clean else 10
    )
    false = 100 * sum(film.false for film in films) / cues
    yield Figure(f"films, {where}: onsets that are none, of {cues} cues", false, "%", 2)
    if clean:
        over = float(np.median(np.abs(off) - frames / 2))
        yield Figure(f"films, {where}: onset's error over half a picture, median", over, "ms", 5)
        over = percentile(list(np.abs(off) / frames), 0.95)
        yield Figure(f"films, {where}: onset's error, 95 %", over, "pictures", 1.5)
    outside = 100 * float(np.mean(np.abs(off) > spread))
    yield Figure(f"films, {where}: onsets outside their interval", outside, "%", 7)
    home = np.array([one for film in films for one in film.home_ms])
    home_spread = np.array([one for film in films for one in film.home_spread_ms])
    outside = 100 * float(np.mean(np.abs(home) > home_spread))
    yield Figure(f"films, {where}: {len(home)} times home outside their interval", outside, "%", 7)
    strikes = sum(film.strikes for film in films)
    heard = [abs(one) for film in films for one in film.strike_ms]
    missed = 100 * (1 - len(heard) / strikes)
    yield Figure(f"films, {where}: strikes not heard, of {strikes}", missed, "%", 5)
    yield Figure(f"films, {where}: strikes' error, 95 %", percentile(heard, 0.95), "ms", 6)


def _cost(long_s: float) -> Iterator[Figure]:
    """How long a film at 720p30 takes to read on one core, and the most memory that it needs."""
    played = Played.of("one thing more", 1)
    look = Look(width=1280, height=720)
    filmed = FilmedRun(played.page, Filming(look=look, length_s=20.0, starts_s=-3.0), ("head",), 1)
    with tempfile.TemporaryDirectory() as folder:
        short, long = Path(folder) / "short.mp4", Path(folder) / "long.mp4"
        filmed.write(short, SAMPLES)
        _repeat(short, long, int(long_s / EVERY_S))
        place = Path(folder) / "place.json"
        place.write_text(filmed.place.model_dump_json())
        done = subprocess.run(
            [sys.executable, "-m", "benchmarks.film", str(long), str(place)],
            stdout=subprocess.PIPE, text=True, check=True,
        )  # fmt: skip
    took_s, length_s, memory_mb = json.loads(done.stdout)
    name = f"film at 720p30, {length_s / 60:.0f} minutes: time to read it, of its own length"
    yield Figure(name, took_s / length_s, "", 0.25, 3)
    yield Figure("its memory", memory_mb, "MB", 500)


def _repeat(short: Path, long: Path, times: int) -> None:
    """The same packets again and again, without encoding them anew."""
    with av.open(str(long), "w") as out:
        with av.open(str(short)) as film:
            streams = {one.index: out.add_stream_from_template(one) for one in film.streams}
        for number in range(times):
            with av.open(str(short)) as film:
                for packet in film.demux():
                    if packet.dts is None or packet.pts is None or packet.time_base is None:
                        continue
                    shift = round(EVERY_S * number / packet.time_base)
                    packet.pts, packet.dts = packet.pts + shift, packet.dts + shift
                    packet.stream = streams[packet.stream.index]
                    out.mux(packet)


def _read_once(film: Path, place: Path) -> None:
    """Read a film on one core; print how long that took, its length and the memory it needed."""
    import os
    import resource
    import time

    from hastatus.core.motion.zone import CameraPlace

    os.sched_setaffinity(0, {min(os.sched_getaffinity(0))})
    zones = CameraPlace.model_validate_json(place.read_text()).zones
    began = time.perf_counter()
    _, facts = read_film_file(film, zones)
    took_s = time.perf_counter() - began
    memory_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(json.dumps([took_s, facts.length_s, memory_mb]))


if __name__ == "__main__":
    _read_once(Path(sys.argv[1]), Path(sys.argv[2]))
