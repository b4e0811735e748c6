"""A made-up film of a partner run: two who face each other in front of a phone."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np

from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.film.pair_sounds import PairRun, pair_sounds
from hastatus.core.film.pair_steps import pair_steps, parts_of
from hastatus.core.motion.zone import BodyPart, CameraPlace
from hastatus.core.plan.feed_sheet import Feed, Turn
from hastatus.core.run.sheet_clock import round_clock
from hastatus.demo.film import write_film
from hastatus.demo.film_picture import Move, Painter
from hastatus.demo.film_sound import Samples, film_sound
from hastatus.demo.filmed_run import Filming

STANDS = (0.34, 0.66)
"""Where the two stand in the picture."""
_OUT_M: dict[BodyPart, tuple[float, float]] = {
    "head": (-0.24, -0.1),
    "lead_hand": (0.42, 0.06),
    "rear_hand": (0.46, 0.06),
    "hips": (-0.22, -0.05),
    "feet": (0.3, 0.05),
}


@dataclass(frozen=True, slots=True)
class Exchanged:
    """What was really done in an exchange; all times on the film's clock, s. at_s: its time on the
    sheet. counter, landed_s: of the defender's counter, None: none was asked."""

    round: int
    number: int
    at_s: float
    fed: Move
    answered: Move
    counter: Move | None
    landed_s: float | None


@dataclass(slots=True)
class FilmedPair:
    """A partner run, and what the two did in front of the camera. ahead: share of the exchanges in
    which the defender moves first."""

    run: PairRun
    filming: Filming
    seed: int
    ahead: float = 0.1
    exchanges: list[Exchanged] = field(init=False)
    painter: Painter = field(init=False)

    def __post_init__(self) -> None:
        rng = np.random.default_rng((self.seed, 9))
        self.exchanges = list(self._exchanges(rng))
        moves = [
            move
            for one in self.exchanges
            for move in (one.fed, one.answered, one.counter)
            if move is not None
        ]
        self.painter = Painter(replace(self.filming.look, stands=STANDS), moves, self.seed)

    @property
    def place(self) -> CameraPlace:
        """The zones of both while they wait."""
        return self.painter.place()

    def film_s(self, run_s: float) -> float:
        """The moment of the film that is `run_s` in the run."""
        return self.filming.starts_s + (1 + self.filming.drift) * run_s

    def sound(self, samples: Mapping[str, Samples]) -> Samples:
        """What the film hears. samples: of each signal, by name."""
        filming = self.filming
        signals = [(self.film_s(one.at_s), one.name) for one in pair_sounds(self.run)]
        strikes = [one.landed_s for one in self.exchanges if one.landed_s is not None]
        return film_sound(filming.length_s, signals, samples, strikes, filming.hall, self.seed)

    def write(self, path: Path, samples: Mapping[str, Samples]) -> None:
        """Write the film."""
        sound, filming = self.sound(samples), self.filming
        write_film(path, filming.length_s, self.painter.at, sound, filming.camera, self.seed)

    def _exchanges(self, rng: np.random.Generator) -> Iterator[Exchanged]:
        sheet = self.run.sheet
        for round_ in sheet.rounds:
            clock = round_clock(self.run.marks, round_.number, sheet.tempo_bpm)
            for turn in round_.turns if clock else ():
                for feed in turn.every_feed:
                    ends_s = feed.ends_s(sheet.beat_s)
                    reached = clock.reached(feed.at_s, ends_s) if clock else None
                    if reached:
                        at_s = self.film_s(reached[0] / 1000)
                        beat_s = (reached[1] - reached[0]) / 1000 / feed.beats
                        yield self._exchange(round_.number, turn, feed, at_s, beat_s, rng)

    def _exchange(
        self,
        round_: int,
        turn: Turn,
        feed: Feed,
        at_s: float,
        beat_s: float,
        rng: np.random.Generator,
    ) -> Exchanged:
        feeder, defender = turn.roles(feed)
        steps = pair_steps(self.run.drill, feed)
        fed = self._move(feeder, steps.attack, at_s + float(rng.normal(-0.1, 0.08)), rng)
        after_s = 0.2 + 0.1 * float(rng.lognormal(0, 0.4))
        if rng.random() < self.ahead:
            after_s = -float(rng.uniform(0.2, 0.35))
        answered = self._move(defender, steps.answer, fed.onset_s + after_s, rng)
        counter, landed_s = None, None
        if steps.counter is not None:
            asked_s = at_s + (steps.counter.beat - 1) * beat_s
            begins_s = max(asked_s, answered.onset_s + 0.35) + float(rng.uniform(0, 0.15))
            counter = self._move(defender, steps.counter, begins_s, rng)
            landed_s = counter.onset_s + counter.takes_s
        return Exchanged(round_, feed.number, at_s, fed, answered, counter, landed_s)

    def _move(
        self, partner: int, step: PartnerStep | None, onset_s: float, rng: np.random.Generator
    ) -> Move:
        parts = parts_of(self.run.drill, step)
        part: BodyPart = parts[0] if parts else "head"
        towards, up = _OUT_M[part]
        size = float(rng.uniform(0.8, 1.1))
        return Move(
            part,
            onset_s,
            float(rng.uniform(0.2, 0.32)),
            (size * towards, size * up),
            stays_s=0.05,
            back_s=0.3,
            person=0 if partner == self.run.left else 1,
        )
