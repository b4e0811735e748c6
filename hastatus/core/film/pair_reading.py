"""What a film of a partner run tells of each exchange: who moved when, and what landed.

The phone sees both from the side: each has zones of their own, left and right in the picture.
Whatever enters a zone moves it, an arm that reaches it too; a movement of the defender's that comes
with the arrival of the attack may be the attack.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.fields import Document, Seconds
from hastatus.core.film.exchange_seen import Began, ExchangeSeen, Partner, PartnerSeen, defended
from hastatus.core.film.heard_sounds import Rises
from hastatus.core.film.line_up import LineUp, Refusal, line_up
from hastatus.core.film.pair_sounds import PairRun, pair_sounds
from hastatus.core.film.pair_steps import PairSteps, pair_steps, parts_of
from hastatus.core.film.reading import LinedUp, heard_in, lined_up, own_sounds
from hastatus.core.film.scene import SOUND_M_S, Film, Scene
from hastatus.core.motion.movement import EARLIEST_S, Movement
from hastatus.core.motion.zone import CameraPlace, Person
from hastatus.core.plan.feed_sheet import Feed, Turn
from hastatus.core.read.kept_tempo import KeptTempo, tempos
from hastatus.core.run.partner_events import Mark, Strike
from hastatus.core.run.sheet_clock import TIMING, RoundClock, round_clock

BEFORE_S = 0.8
"""An exchange may begin so long before its time on the sheet, at the most."""
EARLY = 0.25
"""A counter begins so much of a beat before it is asked, at the most."""
CROSSES_S = 0.3
"""A limb that answers may cross the zone of another of the same person for so long."""
LANDS_S = 1.0
"""A counter lands so long after the answer began, at the most (common practice, no source)."""


class PairFilmReading(Document):
    """A reading of a film of a partner run. left: who stands left in the picture, from 0.

    exchanges: those within the film that were done whole. partners: of each as defender. kept: the
    tempo that was kept, by the strikes heard in the film. refusal: why there is no reading.
    """

    kind: Literal["hastatus-pair-film-reading"] = "hastatus-pair-film-reading"
    schema_version: Literal[1] = 1
    length_s: Seconds
    left: Partner
    line_up: LinedUp | None = None
    refusal: Refusal | None = None
    exchanges: tuple[ExchangeSeen, ...] = ()
    partners: tuple[PartnerSeen, ...] = ()
    kept: tuple[KeptTempo, ...] = ()


def read_pair_film(
    run: PairRun, place: CameraPlace, film: Film, sounds: Mapping[str, Rises]
) -> PairFilmReading:
    """Read a film of a partner run. sounds: the rises of its signals, by name."""
    fit = _fit(run, place, film, sounds)
    if not isinstance(fit, LineUp):
        return PairFilmReading(length_s=film.length_s, left=run.left, refusal=fit)
    seen = _ExchangesSeen(run, place, film, fit, sounds)
    exchanges = tuple(seen.exchanges())
    return PairFilmReading(
        length_s=film.length_s,
        left=run.left,
        line_up=lined_up(0, fit),
        exchanges=exchanges,
        partners=tuple(defended(exchanges, partner) for partner in (0, 1)),
        kept=tuple(tempos(run.drill, run.sheet, seen.marks_heard())),
    )


def _fit(
    run: PairRun, place: CameraPlace, film: Film, sounds: Mapping[str, Rises]
) -> LineUp | Refusal:
    if run.sheet.people != 2:
        return "three_people"
    if not place.of_two:
        return "no_people"
    if film.rises is None:
        return "no_sound"
    signals = pair_sounds(run)
    return line_up(signals, heard_in(film, [signals], sounds), film.length_s)


@dataclass(frozen=True, slots=True)
class _Fed:
    """An exchange that was begun. from_s, to_s: on the clock of the film's pictures. beat_s: as it
    went. whole: it was done to its end."""

    round: int
    turn: Turn
    feed: Feed
    from_s: float
    to_s: float
    spread_s: float
    beat_s: float
    whole: bool

    def asked_s(self, step: PartnerStep) -> float:
        """When a step is to be done."""
        return self.from_s + (step.beat - 1) * self.beat_s


class _ExchangesSeen:
    """The exchanges of a run in a film that is lined up with it."""

    def __init__(
        self,
        run: PairRun,
        place: CameraPlace,
        film: Film,
        fit: LineUp,
        sounds: Mapping[str, Rises],
    ) -> None:
        self._run, self._place, self._fit = run, place, fit
        self._travels_s = place.sound_m / SOUND_M_S
        self._length_s = film.length_s
        every = sorted(self._all_fed(), key=lambda fed: fed.from_s)
        self._fed = [
            fed for fed in every if fed.whole and 0 <= fed.from_s < fed.to_s < film.length_s
        ]
        busy = [(fed.from_s - BEFORE_S, fed.to_s) for fed in every]
        own = own_sounds(pair_sounds(run), fit, sounds)
        self._scene = Scene(film, place, busy, own)

    def exchanges(self) -> Iterator[ExchangeSeen]:
        before_s = -np.inf
        for fed in self._fed:
            yield self._exchange(fed, max(fed.from_s - BEFORE_S, before_s))
            before_s = fed.to_s - EARLIEST_S

    def marks_heard(self) -> list[Mark]:
        """The run's clock with the strikes that the film heard, instead of those of pads and
        microphone."""
        timing = [mark for mark in self._run.marks if isinstance(mark, TIMING)]
        heard = [
            Strike(at_ms=max(0.0, 1000 * self._run_s(float(at_s))), source="microphone")
            for at_s in self._scene.strikes(-1.0, self._length_s)
        ]
        return sorted([*timing, *heard], key=lambda mark: mark.at_ms)

    def _run_s(self, film_s: float) -> float:
        return self._fit.run_s(film_s + self._travels_s)

    def _all_fed(self) -> Iterator[_Fed]:
        """Every exchange that was begun, whole or not: nobody is idle in it."""
        sheet = self._run.sheet
        for round_ in sheet.rounds:
            clock = round_clock(self._run.marks, round_.number, sheet.tempo_bpm)
            for turn in round_.turns if clock else ():
                for feed in turn.every_feed:
                    assert clock is not None
                    fed = self._one_fed(round_.number, turn, feed, clock)
                    if fed:
                        yield fed

    def _one_fed(self, number: int, turn: Turn, feed: Feed, clock: RoundClock) -> _Fed | None:
        ends_s = feed.ends_s(self._run.sheet.beat_s)
        reached = clock.reached(feed.at_s, ends_s)
        from_ms, to_ms = reached or (clock.at_ms(feed.at_s), clock.at_ms(ends_s))
        if from_ms >= clock.over_ms:
            return None
        from_s, to_s = (self._fit.film_s(ms / 1000) - self._travels_s for ms in (from_ms, to_ms))
        spread_s = self._fit.spread_at(from_ms / 1000)
        beat_s = (to_s - from_s) / feed.beats
        return _Fed(number, turn, feed, from_s, to_s, spread_s, beat_s, reached is not None)

    def _exchange(self, fed: _Fed, from_s: float) -> ExchangeSeen:
        feeder, defender = fed.turn.roles(fed.feed)
        steps = pair_steps(self._run.drill, fed.feed)
        strikes = [float(at_s) for at_s in self._scene.strikes(from_s, fed.to_s)]
        began = self._first_moved(feeder, steps.attack, fed, from_s)
        answered = self._first_moved(defender, steps.answer, fed, from_s)
        counter, landed_ms = None, None
        if steps.counter:
            counter = self._counter(defender, steps.counter, answered, fed, from_s)
            landed_ms = _landed_ms(steps.counter, fed, answered, strikes)
        return ExchangeSeen(
            round=fed.round,
            number=fed.feed.number,
            passage=fed.feed.path[0].passage,
            film_s=fed.from_s,
            feeder=feeder,
            defender=defender,
            fed=began,
            answered=answered,
            counter=counter,
            landed_ms=landed_ms,
            strikes_ms=tuple(1000 * (at_s - fed.from_s) for at_s in strikes),
            reacts=_reacts(steps),
        ).reckoned()

    def _first_moved(
        self, partner: int, step: PartnerStep | None, fed: _Fed, from_s: float
    ) -> Began:
        """When somebody began: by the zone of the step, else by whichever of theirs moved first."""
        zone = self._zone(partner, step)
        zones = [zone] if zone is not None else self._zones(partner)
        found = [(one, self._scene.moved(one, from_s, fed.to_s)) for one in zones]
        moved = [(one, it) for one, it in found if it.onset_s is not None]
        if moved:
            return self._began(*min(moved, key=lambda pair: pair[1].onset_s or 0.0), fed)
        return self._began(*found[0], fed) if found else Began()

    def _counter(
        self, partner: int, step: PartnerStep, answered: Began, fed: _Fed, from_s: float
    ) -> Began:
        """When the countering limb began. Where it goes along with the answer, a second beginning
        cannot be told from the first movement's end."""
        zone = self._zone(partner, step)
        if zone is None:
            return Began()
        moved = self._scene.moved(zone, from_s, fed.to_s)
        earliest_s = fed.asked_s(step) - EARLY * fed.beat_s
        if answered.at_ms is not None:
            earliest_s = max(earliest_s, fed.from_s + answered.at_ms / 1000 + CROSSES_S)
        if moved.onset_s is not None and moved.onset_s < earliest_s:
            moved = Movement(None, reason="moving_before")
        return self._began(zone, moved, fed)

    def _began(self, zone: int, moved: Movement, fed: _Fed) -> Began:
        part = self._place.zones[zone].part
        if moved.onset_s is None:
            return Began(part=part, reason=moved.reason)
        return Began(
            part=part,
            at_ms=1000 * (moved.onset_s - fed.from_s),
            spread_ms=1000 * float(np.hypot(moved.spread_s, fed.spread_s)),
        )

    def _zones(self, partner: int) -> list[int]:
        side: Person = "left" if partner == self._run.left else "right"
        return self._place.of(side)

    def _zone(self, partner: int, step: PartnerStep | None) -> int | None:
        """The zone in which a partner's step is seen; None: none is drawn."""
        drawn = {self._place.zones[zone].part: zone for zone in self._zones(partner)}
        parts = parts_of(self._run.drill, step)
        return next((drawn[part] for part in parts if part in drawn), None)


def _reacts(steps: PairSteps) -> bool:
    """Whether the defender's first step answers the attack, and does not come before it."""
    attack, answer = steps.attack, steps.answer
    return attack is not None and answer is not None and answer.beat >= attack.beat


def _landed_ms(
    counter: PartnerStep, fed: _Fed, answered: Began, strikes: Sequence[float]
) -> float | None:
    """The strike nearest to when the counter is asked, within half a beat before and one after,
    where beats are short as long after the answer as it takes, and not before the answer began."""
    asked_s = fed.asked_s(counter)
    earliest_s, latest_s = asked_s - 0.5 * fed.beat_s, asked_s + fed.beat_s
    if answered.at_ms is not None:
        answered_s = fed.from_s + answered.at_ms / 1000
        earliest_s = max(earliest_s, answered_s + EARLIEST_S)
        latest_s = max(latest_s, answered_s + LANDS_S)
    near = [at_s for at_s in strikes if earliest_s < at_s < latest_s]
    if not near:
        return None
    return 1000 * (min(near, key=lambda at_s: abs(at_s - asked_s)) - fed.from_s)
