"""Films of rounds lined up with their run, by sound alone.

Every film is made up (`hastatus.demo.filmed_run`), so the truth is known. Rooms, noise, clocks and
beginnings are drawn anew for each.
"""

from __future__ import annotations

from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.signal import resample_poly

from benchmarks.figure import Figure
from hastatus.core.drill.solo import Drill
from hastatus.core.film.heard_signals import rises_of
from hastatus.core.film.heard_sounds import FILM_RATE, SoundMeter
from hastatus.core.film.line_up import LineUp, Refusal, line_up
from hastatus.core.film.reading import heard_in
from hastatus.core.film.run_sounds import PageOfRun, pages_of_run
from hastatus.core.film.scene import Film
from hastatus.core.motion.meter import MotionMeter
from hastatus.core.plan.run_plan import RunPlan, plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch
from hastatus.core.run.setup import Setup
from hastatus.core.sound import named, tones
from hastatus.core.starter import STARTERS
from hastatus.demo.film_sound import Hall
from hastatus.demo.filmed_run import FilmedRun, Filming
from hastatus.demo.student import Habits, simulate

LINE_UPS, LOOSE_LINE_UPS = 200, 8
DRILLS = ("one thing more", "roll under", "compact guard", "wide swing", "baseline", "head cover")
SILENT_DRILLS = ("high and low targets", "keep the distance")
"""Their cues are lights alone: their films are lined up by the signals of their rounds."""


class Samples(dict[str, NDArray[np.float64]]):
    """The sounds that are made without espeak-ng, by name."""

    def __missing__(self, name: str) -> NDArray[np.float64]:
        self[name] = named.samples(name.removeprefix("tone:"))
        return self[name]

    def __contains__(self, name: object) -> bool:
        return str(name).startswith("tone:")


SAMPLES = Samples()


def figures(pool: ProcessPoolExecutor, loose: bool) -> Iterator[Figure]:
    """By cues, and by the signals of rounds where no cue sounds."""
    seeds = range(LOOSE_LINE_UPS if loose else LINE_UPS)
    yield from _figures("", list(pool.map(_lined_up, seeds)))
    yield from _figures(" by signals alone", list(pool.map(_signalled, seeds)))


@dataclass(frozen=True)
class Played:
    """A simulated run of a starter."""

    drill: Drill
    plan: RunPlan
    batches: list[Batch]

    @classmethod
    def of(cls, name: str, seed: int) -> Played:
        """A run of a starter at its first rung."""
        drill = STARTERS[name]()
        plan = plan_run(drill, seed=seed)
        batches, _ = simulate(Setup(drill, plan, Device()), Habits(), seed)
        return cls(drill, plan, list(batches))

    @property
    def page(self) -> PageOfRun:
        """Its one page, with the sounds that are made without espeak-ng."""
        page = pages_of_run(self.drill, self.plan, self.batches)[0]
        page.sounds = [sound for sound in page.sounds if sound.name in SAMPLES]
        return page


@dataclass(frozen=True)
class Fit:
    """One film's line-up. off_ms: the worst over its sounds and cues; None: it was not lined up.
    wrong: line-ups with runs that it does not show. heard: sounds of the run on the line. outside:
    whether it is off by more than twice what it says."""

    off_ms: float | None
    wrong: int
    heard: int = 0
    outside: bool = False


def _lined_up(seed: int) -> Fit:
    """A film of 45 s to 3 minutes somewhere in a run, with or without its beginning."""
    rng = np.random.default_rng((seed, 31))
    filming = Filming(
        length_s=float(rng.uniform(45, 180)),
        starts_s=float(rng.uniform(-25, 25)),
        drift=float(rng.uniform(-1e-4, 1e-4)),
        hall=hall(rng, music=seed % 4 == 3),
    )
    return _fitted(DRILLS[seed % len(DRILLS)], DRILLS[(seed + 1) % len(DRILLS)], filming, seed)


def _signalled(seed: int) -> Fit:
    """A film from a little before a round to somewhere in it, or to after its end."""
    rng = np.random.default_rng((seed, 32))
    name, other = SILENT_DRILLS[seed % 2], SILENT_DRILLS[(seed + 1) % 2]
    signals = Played.of(name, seed).page.sounds
    begins = [one.at_s for one in signals if one.signal][::2]
    begin_s = begins[int(rng.integers(len(begins)))]
    filming = Filming(
        length_s=float(rng.uniform(30, 200)),
        starts_s=float(rng.uniform(1, 20)) - begin_s,
        drift=float(rng.uniform(-1e-4, 1e-4)),
        hall=hall(rng, music=False),
    )
    return _fitted(name, other, filming, seed)


def _fitted(name: str, other: str, filming: Filming, seed: int) -> Fit:
    """A film of a run of one drill, and what two runs that it does not show make of it."""
    filmed = FilmedRun(Played.of(name, seed).page, filming, ("lead_hand", "rear_hand"), seed)
    meter = SoundMeter()
    heard = resample_poly(filmed.sound(SAMPLES), 1, tones.RATE // FILM_RATE)
    meter.add(heard.astype(np.float32))
    film = Film(filming.length_s, MotionMeter(()).motion, meter.rises())
    fit = _fit(film, filmed.page)
    others = [Played.of(name, seed + 10_000).page, Played.of(other, seed + 20_000).page]
    wrong = sum(isinstance(_fit(film, page), LineUp) for page in others)
    if not isinstance(fit, LineUp):
        return Fit(None, wrong)
    off_s = {at_s: abs(fit.film_s(at_s) - filmed.film_s(at_s)) for at_s in _within(filmed)}
    outside = any(off > 2 * fit.spread_at(at_s) for at_s, off in off_s.items())
    return Fit(1000 * max(off_s.values()), wrong, fit.heard, outside)


def _within(filmed: FilmedRun) -> list[float]:
    length_s = filmed.filming.length_s
    times = [one.at_s for one in filmed.page.sounds]
    times += [cue.t_ms / 1000 for cue in filmed.page.cues]
    return [at_s for at_s in times if 0 <= filmed.film_s(at_s) < length_s]


def _fit(film: Film, page: PageOfRun) -> LineUp | Refusal:
    rises = {sound.name: rises_of(sound.name, SAMPLES[sound.name]) for sound in page.sounds}
    return line_up(page.sounds, heard_in(film, [page.sounds], rises), film.length_s)


def hall(rng: np.random.Generator, *, music: bool) -> Hall:
    """Some hall or other."""
    return Hall(
        decay_s=float(rng.uniform(0.3, 1.5)),
        noise_db=float(rng.uniform(5, 30)),
        strike_db=float(rng.uniform(0, 12)),
        music_db=float(rng.uniform(6, 15)) if music else None,
    )


def _figures(how: str, fits: list[Fit]) -> Iterator[Figure]:
    sure = [fit for fit in fits if fit.off_ms is not None]
    off_ms = [fit.off_ms for fit in sure if fit.off_ms is not None and fit.heard > 1]
    yield Figure(f"line-up of {len(off_ms)} films{how}, worst", max(off_ms), "ms", 10)
    outside = 100 * sum(fit.outside for fit in sure) / len(sure)
    yield Figure(f"films{how} further off than twice what is said, of {len(sure)}", outside, "%", 5)
    refused = 100 * (1 - len(sure) / len(fits))
    yield Figure(f"films of their own run{how} that are refused, of {len(fits)}", refused, "%", 3)
    name = f"films lined up{how} with a run that they do not show, of {2 * len(fits)}"
    yield Figure(name, sum(fit.wrong for fit in fits), "", 0)
