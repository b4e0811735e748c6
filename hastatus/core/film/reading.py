"""What a film of a solo run tells of each cue: when each zone moved, when it was back, what struck.

Nothing here changes what keys, pads or a microphone said: both stand side by side.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from hastatus.core.drill.solo import Drill
from hastatus.core.fields import Document, Key, Seconds
from hastatus.core.film.film_strikes import STRIKE_SPREAD_S, OwnSound
from hastatus.core.film.heard_signals import find_signal, signal_of
from hastatus.core.film.heard_sounds import Heard, Rises, find
from hastatus.core.film.line_up import REFUSAL_NAMES, LineUp, Refusal, RunSound, line_up
from hastatus.core.film.run_sounds import PageOfRun, pages_of_run
from hastatus.core.film.scene import SOUND_M_S, Film, Scene
from hastatus.core.motion.meter import Array
from hastatus.core.motion.movement import EARLIEST_S, Reason
from hastatus.core.motion.zone import BodyPart, CameraPlace, seen_in
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.plan.timeline import Asking
from hastatus.core.run.events import Batch, CueShown
from hastatus.core.trade.technique import Side

_LATER_S = 0.5
"""How long after the end of its answer window a movement is still looked for."""

_Ms = Annotated[float, Field(allow_inf_nan=False)]
_SpreadMs = Annotated[float, Field(ge=0, allow_inf_nan=False)]


class LinedUp(Document):
    """How a page of the run lies in the film. film = starts_s + rate · run, in seconds.

    spread_ms: half-width of a 95 % interval. heard: sounds of the page that are in the film; asked:
    how many should be.
    """

    epoch: Annotated[int, Field(ge=0)]
    starts_s: Annotated[float, Field(allow_inf_nan=False)]
    rate: Annotated[float, Field(gt=0.9, lt=1.1)]
    spread_ms: _SpreadMs
    heard: int
    asked: int


class ZoneSeen(Document):
    """What a zone did after a cue. onset_ms: when it began to move, after the cue; home_ms: when it
    was still again. Each with the half-width of its 95 % interval. reason: why there is none.
    corrected: by a coach, who looked."""

    part: BodyPart
    onset_ms: _Ms | None = None
    spread_ms: _SpreadMs = 0.0
    home_ms: _Ms | None = None
    home_spread_ms: _SpreadMs = 0.0
    reason: Reason | None = None
    corrected: bool = False


class CueSeen(Document):
    """What the film tells of one cue. film_s: when it came, in the film. answer: the zone of what
    was asked first; None where none is drawn. strikes_ms: strikes heard after it and before the
    next."""

    epoch: int
    round: int
    slot: int
    cue: Key
    film_s: float
    answer: BodyPart | None
    zones: tuple[ZoneSeen, ...]
    strikes_ms: tuple[float, ...] = ()

    @property
    def answered(self) -> ZoneSeen | None:
        """What the zone of the answer did."""
        return next((zone for zone in self.zones if zone.part == self.answer), None)


class FilmReading(Document):
    """A film's reading. refusal: why it is lined up with no page of the run."""

    kind: Literal["hastatus-film-reading"] = "hastatus-film-reading"
    schema_version: Literal[1] = 1
    length_s: Seconds
    line_ups: tuple[LinedUp, ...] = ()
    refusal: Refusal | None = None
    cues: tuple[CueSeen, ...] = ()
    strike_spread_ms: _SpreadMs = 1000 * STRIKE_SPREAD_S

    @model_validator(mode="after")
    def _is_lined_up_or_not(self) -> Self:
        if bool(self.line_ups) == bool(self.refusal):
            raise ValueError("a film is lined up with a page of the run, or it says why not")
        return self

    @property
    def refused(self) -> str:
        """Why it is not lined up, in words; nothing where it is."""
        return REFUSAL_NAMES[self.refusal] if self.refusal else ""


def read_film(
    drill: Drill,
    plan: RunPlan,
    batches: Sequence[Batch],
    place: CameraPlace,
    film: Film,
    sounds: Mapping[str, Rises],
) -> FilmReading:
    """Read a film of a run. sounds: the rises of each sound of the run, by name."""
    pages = pages_of_run(drill, plan, batches)
    if film.rises is None:
        return FilmReading(length_s=film.length_s, refusal="no_sound")
    heard = heard_in(film, [page.sounds for page in pages], sounds)
    found = [(page, line_up(page.sounds, heard, film.length_s)) for page in pages]
    fits = [(page, fit) for page, fit in found if isinstance(fit, LineUp)]
    if not fits:
        return FilmReading(length_s=film.length_s, refusal=_most_telling([fit for _, fit in found]))
    seen = _CuesSeen(drill, plan, place, film, fits, sounds)
    return FilmReading(
        length_s=film.length_s,
        line_ups=tuple(lined_up(page.epoch, fit) for page, fit in fits),
        cues=tuple(seen.cues()),
    )


def heard_in(
    film: Film, pages: Sequence[Sequence[RunSound]], sounds: Mapping[str, Rises]
) -> dict[str, Heard]:
    """Where each sound of a run may be in a film: more places than it can be in, the likeliest.

    pages: what sounded on each page. sounds: the rises of each, by name; one that is not among
    them is not looked for.
    """
    times: dict[str, list[Array]] = {}
    for page in pages:
        for name in {sound.name for sound in page} & set(sounds):
            at_s = np.array([sound.at_s for sound in page if sound.name == name])
            times.setdefault(name, []).append(at_s)
    assert film.rises is not None
    return {
        name: _heard(
            film.rises, name, sounds[name], max(_most_in(at, film.length_s) for at in all_)
        )
        for name, all_ in sorted(times.items())
    }


def _heard(rises: Rises, name: str, sound: Rises, most: int) -> Heard:
    word = signal_of(name)
    return find(rises, sound, 5 + 2 * most) if word is None else find_signal(rises, word)


def _most_in(times_s: Array, length_s: float) -> int:
    """How many of these times, which ascend, any film of that length can hold."""
    last = np.searchsorted(times_s, times_s + length_s)
    return int((last - np.arange(len(times_s))).max(initial=0))


_TELLING: tuple[Refusal, ...] = ("two_fit", "other_run", "none_heard", "no_sound")


def _most_telling(found: Sequence[LineUp | Refusal]) -> Refusal:
    return next((one for one in _TELLING if one in found), "nothing_sounded")


def lined_up(epoch: int, fit: LineUp) -> LinedUp:
    """How a page lies in a film, to be kept."""
    return LinedUp(
        epoch=epoch,
        starts_s=fit.starts_s,
        rate=fit.rate,
        spread_ms=1000 * fit.spread_s,
        heard=fit.heard,
        asked=fit.asked,
    )


def own_sounds(
    sounds: Sequence[RunSound], fit: LineUp, rises: Mapping[str, Rises]
) -> list[OwnSound]:
    """The app's own sounds as a film hears them."""
    return [
        OwnSound(fit.film_s(sound.at_s), rises[sound.name])
        for sound in sounds
        if sound.name in rises
    ]


@dataclass(frozen=True, slots=True)
class _Shown:
    """A cue in the film. film_s: when it came in the picture. spread_s: of that."""

    epoch: int
    event: CueShown
    film_s: float
    spread_s: float


class _CuesSeen:
    """The cues of a run in a film that is lined up with it."""

    def __init__(
        self,
        drill: Drill,
        plan: RunPlan,
        place: CameraPlace,
        film: Film,
        fits: Sequence[tuple[PageOfRun, LineUp]],
        sounds: Mapping[str, Rises],
    ) -> None:
        self._drill, self._plan, self._place = drill, plan, place
        self._asking = Asking(drill, drill.rungs[plan.rung - 1])
        self._travels_s = place.sound_m / SOUND_M_S
        self._shown = sorted(self._in_film(fits, film.length_s), key=lambda shown: shown.film_s)
        busy = [(shown.film_s, shown.film_s) for shown in self._shown]
        own = [sound for page, fit in fits for sound in own_sounds(page.sounds, fit, sounds)]
        self._scene = Scene(film, place, busy, own)

    def _in_film(
        self, fits: Sequence[tuple[PageOfRun, LineUp]], length_s: float
    ) -> Iterator[_Shown]:
        for page, fit in fits:
            for event in page.cues:
                film_s = fit.film_s(event.t_ms / 1000) - self._travels_s
                if 0 <= film_s < length_s:
                    spread_s = float(
                        np.hypot(fit.spread_at(event.t_ms / 1000), event.spread_ms / 1000)
                    )
                    yield _Shown(page.epoch, event, film_s, spread_s)

    def cues(self) -> Iterator[CueSeen]:
        following = [*self._shown[1:], None]
        for shown, after in zip(self._shown, following, strict=True):
            event = shown.event
            slot = self._plan.rounds[event.round - 1].slots[event.slot]
            asked = self._asking.of(slot, event.cue)
            answer = next((step for chain in asked.chains for step in chain.steps[:1]), None)
            over_s = shown.film_s + event.window_ms / 1000 + asked.after_s + _LATER_S
            next_s = after.film_s if after else np.inf
            yield CueSeen(
                epoch=shown.epoch,
                round=event.round,
                slot=event.slot,
                cue=event.cue,
                film_s=shown.film_s,
                answer=self._zone_of(answer.technique, answer.side) if answer else None,
                zones=tuple(self._zone(zone, shown, over_s, next_s) for zone in self._zones()),
                strikes_ms=tuple(
                    1000 * float(strike_s - shown.film_s)
                    for strike_s in self._scene.strikes(
                        shown.film_s, min(over_s, next_s + EARLIEST_S)
                    )
                ),
            )

    def _zones(self) -> range:
        return range(len(self._place.zones))

    def _zone(self, zone: int, shown: _Shown, over_s: float, next_s: float) -> ZoneSeen:
        part = self._place.zones[zone].part
        until_s = min(over_s, next_s + EARLIEST_S)
        moved = self._scene.moved(zone, shown.film_s, until_s)
        if moved.onset_s is None:
            return ZoneSeen(part=part, reason=moved.reason)
        home = self._scene.home(zone, moved.onset_s, min(over_s + _LATER_S, next_s))
        return ZoneSeen(
            part=part,
            onset_ms=1000 * (moved.onset_s - shown.film_s),
            spread_ms=1000 * float(np.hypot(moved.spread_s, shown.spread_s)),
            home_ms=1000 * (home.onset_s - shown.film_s) if home.onset_s is not None else None,
            home_spread_ms=1000 * float(np.hypot(home.spread_s, shown.spread_s)),
        )

    def _zone_of(self, technique: str, side: Side) -> BodyPart | None:
        """The drawn zone in which an answer is seen first."""
        known = self._drill.technique(technique)
        if known is None:
            return None
        drawn = {zone.part for zone in self._place.zones}
        return next((part for part in seen_in(known.limb, side) if part in drawn), None)
