"""Strikes heard: the detector over made-up recordings with known onsets, outside the browser."""

from __future__ import annotations

import json
import subprocess
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from benchmarks.figure import Figure
from benchmarks.strikes import DISTURBANCES, Scene, busy_scene, disturbed_scene, scene
from hastatus.core.read.microphone_trust import MOST_EXTRA, microphone_doubt
from hastatus.core.sound.tones import RATE, SOUNDS

ROOMS = 10
MATCHED_S = 0.05
LATENCY_OFF_MS = 3.0
"""How far the calibrated latency, and so the moment of a cue's arrival, is off at most."""
ROOT = Path(__file__).resolve().parents[1]
ROLLDOWN = ROOT / "ui" / "node_modules" / ".bin" / "rolldown"


@dataclass
class Found:
    """Counted over all rooms. errors_ms: of the strikes that were found."""

    strikes: int = 0
    false: int = 0
    errors_ms: list[float] = field(default_factory=list)
    minutes: float = 0.0

    @property
    def false_a_minute(self) -> float:
        return self.false / self.minutes

    def add(self, strikes_s: list[float], heard_s: list[float]) -> None:
        """Pair each strike with the nearest onset that no other strike has."""
        free = sorted(heard_s)
        for strike_s in strikes_s:
            near = [onset_s for onset_s in free if abs(onset_s - strike_s) < MATCHED_S]
            if near:
                nearest = min(near, key=lambda onset_s: abs(onset_s - strike_s))
                free.remove(nearest)
                self.errors_ms.append(1000 * (nearest - strike_s))
        self.strikes += len(strikes_s)
        self.false += len(free)


def figures(loose: bool) -> Iterator[Figure]:
    """Run all rooms at both levels of noise; the suite takes fewer rooms, with the same bounds."""
    rooms, busy = (1, 1) if loose else (ROOMS, 2 * ROOMS)
    with tempfile.TemporaryDirectory() as folder:
        detector = Outside(Path(folder))
        for noise_db, missed, apart, false in ((20.0, 1.0, 5.0, 1.0), (10.0, 8.0, 10.0, 2.0)):
            found = _run(detector, [scene(seed, noise_db) for seed in range(rooms)])
            off = np.abs(found.errors_ms)
            late = 100 * float(np.mean(off > 5.0))
            heard = f"strikes over noise by {noise_db:g} dB, {found.strikes} of them"
            missing = 100 * (1 - len(found.errors_ms) / found.strikes)
            yield Figure(f"{heard}, missed", missing, "%", missed)
            yield Figure(f"{heard}, off by more than 5 ms", late, "%", apart)
            yield Figure(f"{heard}, heard where none was", 100 * found.false / found.strikes,
                         "%", false)  # fmt: skip

        for noise_db, least in ((20.0, 97.0), (10.0, 95.0)):
            scenes = [busy_scene(seed, noise_db) for seed in range(busy)]
            found = _run(detector, scenes)
            off = np.abs(found.errors_ms)
            heard = f"combinations near cues over noise by {noise_db:g} dB, {found.strikes} strikes"
            missing = 100 * (1 - len(found.errors_ms) / found.strikes)
            few = 2.0 if loose else 1.0  # of few rooms one hard one is a lot
            yield Figure(f"{heard}, missed", missing, "%", few * (100 - least))
            late = 100 * float(np.mean(off > 5.0))
            yield Figure(f"{heard}, off by more than 5 ms", late, "%", 5)
            yield Figure(f"{heard}, heard where none was", found.false_a_minute, "a minute", 2)
        yield from _disturbed(detector, rooms)


def _disturbed(detector: Outside, rooms: int) -> Iterator[Figure]:
    """Rooms with so many false strikes that the run has to say so, and does not."""
    for kind in DISTURBANCES:
        scenes = [disturbed_scene(seed, kind) for seed in range(rooms)]
        with ThreadPoolExecutor(2) as pool:
            heard = list(pool.map(detector.hear, scenes))
        unsaid, most = 0, 0.0
        for made, heard_s in zip(scenes, heard, strict=True):
            found = Found()
            found.add(made.strikes_s, heard_s)
            minutes = made.samples.size / RATE / 60
            told = microphone_doubt(_extra(made, heard_s), minutes)
            unsaid += found.false / minutes > MOST_EXTRA and told is None
            most = max(most, found.false / minutes)
        name = f"{kind}, {rooms} rooms, up to {most:.0f} false strikes a minute"
        yield Figure(f"{name}, rooms over {MOST_EXTRA:g} in which nothing is said", unsaid, "", 0)


def _extra(made: Scene, heard_s: list[float]) -> int:
    """What would answer no cue: all but the first that is heard in the 1.2 s after each."""
    answers = set()
    for _, at_s in made.cues:
        after = [
            onset_s
            for onset_s in heard_s
            if at_s + 0.03 < onset_s < at_s + 1.2 and onset_s not in answers
        ]
        answers.update(after[:1])
    return len(heard_s) - len(answers)


def _run(detector: Outside, scenes: list[Scene]) -> Found:
    found = Found()
    with ThreadPoolExecutor(2) as pool:
        for made, heard_s in zip(scenes, pool.map(detector.hear, scenes), strict=True):
            found.add(made.strikes_s, heard_s)
            found.minutes += made.samples.size / RATE / 60
    return found


class Outside:
    """The detector, bundled for Node, with files in `folder`."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._script = folder / "scene.mjs"
        source = str(ROOT / "benchmarks" / "scene.mjs")
        command = [str(ROLLDOWN), source, "--platform", "node", "-o", str(self._script)]
        subprocess.run(command, check=True, capture_output=True)
        for name, make in SOUNDS.items():
            make().astype("<f4").tofile(folder / f"{name}.f32")

    def hear(self, made: Scene) -> list[float]:
        """Onsets (s) that are found in a scene."""
        name = str(id(made))
        samples = self._folder / f"{name}.f32"
        made.samples.astype("<f4").tofile(samples)
        rng = np.random.default_rng(len(made.samples))
        off_s = float(rng.uniform(-LATENCY_OFF_MS, LATENCY_OFF_MS)) / 1000
        wanted = self._folder / f"{name}.json"
        wanted.write_text(
            json.dumps(
                {
                    "rate": RATE,
                    "samples": str(samples),
                    "sounds": {sound: str(self._folder / f"{sound}.f32") for sound in SOUNDS},
                    "cues": [{"name": cue, "at_s": at_s + off_s} for cue, at_s in made.cues],
                }
            )
        )
        command = ["node", str(self._script), str(wanted)]
        done = subprocess.run(command, check=True, capture_output=True, text=True)
        return [float(load["at_s"]) for load in json.loads(done.stdout)]
