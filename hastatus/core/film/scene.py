"""A film that is lined up with its run: when its zones move after a moment, and what struck."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from hastatus.core.film.film_strikes import OwnSound, strikes_heard
from hastatus.core.film.heard_sounds import Rises
from hastatus.core.motion.meter import Array, Motion
from hastatus.core.motion.movement import EARLIEST_S, Movement
from hastatus.core.motion.zone import CameraPlace
from hastatus.core.motion.zone_watch import SETTLES_S, ZoneWatch, backwards

SOUND_M_S = 343.0
"""Speed of sound in air at 20 °C, m/s (ISO 9613-1:1993)."""
Span = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Film:
    """What is taken from a film. rises: of its sound, None without one."""

    length_s: float
    motion: Motion
    rises: Rises | None


class Scene:
    """The zones and strikes of a film. Every time is on the clock of the film's pictures."""

    def __init__(
        self, film: Film, place: CameraPlace, busy: Sequence[Span], own: Sequence[OwnSound]
    ) -> None:
        """busy: when something is asked, in order; a cue is at one moment. own: sounds of the app,
        as the film hears them."""
        self._travels_s = place.sound_m / SOUND_M_S
        asked = [float(at_s) for span in busy for at_s in _moments(span)]
        zones = range(len(place.zones))
        self._watches = [ZoneWatch(film.motion, zone, asked) for zone in zones]
        turned = backwards(film.motion)
        settled = [-at_s - SETTLES_S for at_s in asked]
        self._back = [ZoneWatch(turned, zone, settled) for zone in zones]
        assert film.rises is not None
        self._strikes = strikes_heard(film.rises, own) - self._travels_s

    def moved(self, zone: int, from_s: float, until_s: float) -> Movement:
        """The first movement of a zone that begins after a moment and is seen before another."""
        return self._watches[zone].after(from_s, until_s)

    def home(self, zone: int, onset_s: float, until_s: float) -> Movement:
        """When a zone was still again: when it begins to move in the film that runs backwards."""
        home = self._back[zone].after(-until_s, -onset_s)
        if home.onset_s is None:
            return home
        if -home.onset_s < onset_s:
            return Movement(None, reason="still")
        return Movement(-home.onset_s, home.spread_s)

    def strikes(self, from_s: float, until_s: float) -> Array:
        """The strikes heard from just after a moment on, until another."""
        return self._strikes[(self._strikes > from_s + EARLIEST_S) & (self._strikes < until_s)]


def _moments(span: Span) -> Array:
    """Moments so near one another that no zone is taken to be idle between them."""
    from_s, to_s = span
    return np.arange(from_s, max(to_s, from_s + 1e-9), 0.8 * SETTLES_S)
