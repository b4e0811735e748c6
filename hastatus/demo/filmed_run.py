"""A made-up film of a run: somebody answers each of its cues in front of a phone."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from hastatus.core.drill.solo import Drill
from hastatus.core.film.run_sounds import PageOfRun, pages_of_run
from hastatus.core.motion.zone import BodyPart, CameraPlace
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.events import Batch, CueShown
from hastatus.demo.film import Camera, write_film
from hastatus.demo.film_picture import Look, Move, Painter
from hastatus.demo.film_sound import Hall, Samples, film_sound

_OUT_M: dict[BodyPart, tuple[float, float]] = {
    "head": (0.26, -0.1),
    "lead_hand": (0.05, 0.3),
    "rear_hand": (-0.3, 0.15),
    "hips": (0.22, -0.05),
    "feet": (0.35, 0.0),
}
_STRIKES: tuple[BodyPart, ...] = ("lead_hand", "rear_hand")


@dataclass(frozen=True, slots=True)
class Filming:
    """How a run is filmed. film = starts_s + (1 + drift) · run; the film is `length_s` long.

    answers: share of cues that something is done about. quick_s: the quickest reaction; slower_s:
    the median of what is added to it.
    """

    look: Look = field(default_factory=Look)
    hall: Hall = field(default_factory=Hall)
    camera: Camera = field(default_factory=Camera)
    starts_s: float = 0.0
    length_s: float = 60.0
    drift: float = 0.0
    answers: float = 0.92
    quick_s: float = 0.22
    slower_s: float = 0.14


@dataclass(frozen=True, slots=True)
class Answer:
    """What was really done about a cue: all times on the film's clock, s. move: None: nothing."""

    cue: CueShown
    cue_s: float
    move: Move | None
    strike_s: float | None


@dataclass(slots=True)
class FilmedRun:
    """A run, and what was done about it in front of the camera."""

    page: PageOfRun
    filming: Filming
    parts: Sequence[BodyPart]
    seed: int
    times_ms: Mapping[tuple[int, int], float] = field(default_factory=dict)
    """When each answer landed after its cue, by round and slot; none: the run does not know."""
    answers: list[Answer] = field(init=False)
    painter: Painter = field(init=False)

    def __post_init__(self) -> None:
        rng = np.random.default_rng((self.seed, 8))
        self.answers = list(self._answers(rng))
        moves = [answer.move for answer in self.answers if answer.move]
        self.painter = Painter(self.filming.look, moves, self.seed)

    @classmethod
    def of(
        cls,
        drill: Drill,
        plan: RunPlan,
        batches: Sequence[Batch],
        filming: Filming,
        seed: int,
        parts: Sequence[BodyPart] = ("head",),
        times_ms: Mapping[tuple[int, int], float] | None = None,
    ) -> FilmedRun:
        """The first page of a run, filmed. parts: that move in answer, drawn by chance."""
        return cls(pages_of_run(drill, plan, batches)[0], filming, parts, seed, times_ms or {})

    @property
    def place(self) -> CameraPlace:
        """The zones around where each part is while somebody waits."""
        return self.painter.place()

    def film_s(self, run_s: float) -> float:
        """The moment of the film that is `run_s` in the run."""
        return self.filming.starts_s + (1 + self.filming.drift) * run_s

    def sound(self, samples: Mapping[str, Samples]) -> Samples:
        """What the film hears. samples: of each of the run's sounds, by name."""
        filming = self.filming
        sounds = [(self.film_s(one.at_s), one.name) for one in self.page.sounds]
        strikes = [one.strike_s for one in self.answers if one.strike_s is not None]
        return film_sound(filming.length_s, sounds, samples, strikes, filming.hall, self.seed)

    def write(self, path: Path, samples: Mapping[str, Samples]) -> None:
        """Write the film."""
        sound = self.sound(samples)
        filming = self.filming
        write_film(path, filming.length_s, self.painter.at, sound, filming.camera, self.seed)

    def _answers(self, rng: np.random.Generator) -> Iterator[Answer]:
        for cue in self.page.cues:
            cue_s = self.film_s(cue.t_ms / 1000)
            part = self.parts[int(rng.integers(len(self.parts)))]
            reaction = self.filming.quick_s + self.filming.slower_s * float(rng.lognormal(0, 0.45))
            takes, size = float(rng.uniform(0.22, 0.4)), float(rng.uniform(0.7, 1.2))
            landed_ms = self.times_ms.get((cue.round, cue.slot))
            if landed_ms is not None:
                takes = min(takes, 0.6 * landed_ms / 1000)
                reaction = landed_ms / 1000 - takes
            elif self.times_ms or rng.random() > self.filming.answers:
                yield Answer(cue, cue_s, None, None)
                continue
            right, up = _OUT_M[part]
            side = 1.0 if part in _STRIKES or rng.random() < 0.5 else -1.0
            move = Move(part, cue_s + reaction, takes, (side * size * right, size * up))
            strike_s = move.onset_s + takes if part in _STRIKES else None
            yield Answer(cue, cue_s, move, strike_s)
