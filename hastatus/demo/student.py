"""A simulated student with a simulated player in front of it.

Response times are ex-Gaussian (normal plus exponential), with lapses, jumped and wrong answers, a
slower rear side, tiring within the run, and a second answer that has to queue behind the first
when two cues overlap (a bottleneck; Pashler 1994, from memory).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from hastatus.core.drill.requirement import Asked, AskedStep
from hastatus.core.loop.live_run import RunState, Tail, begin, fold_batch, revise
from hastatus.core.plan.timeline import Asking, PlacedCue
from hastatus.core.run.controls import Control, controls
from hastatus.core.run.events import (
    Batch,
    Committed,
    CueShown,
    Event,
    Finish,
    Input,
    RoundEnd,
    RoundStart,
)
from hastatus.core.run.setup import Setup
from hastatus.core.trade.technique import Stance
from hastatus.demo.simulated_camera import SimulatedCamera, Slip

COMMIT_HORIZON_MS = 250.0
COUNT_IN_MS = 3000.0
AFTER_ROUND_MS = 1500.0
BOTTLENECK_MS = 160.0


@dataclass(frozen=True, slots=True)
class Habits:
    """What a simulated student is like. Times in ms, shares from 0 to 1.

    mu_ms, sigma_ms, tau_ms: ex-Gaussian response time. rear_ms: how much slower the rear side is.
    hear_ms: how much quicker sound is answered than light. tiring_ms: slower by this a minute.
    choice_ms: slower by this for each bit of choice between the cues of the round.
    """

    mu_ms: float = 520.0
    sigma_ms: float = 50.0
    tau_ms: float = 120.0
    rear_ms: float = 40.0
    hear_ms: float = 30.0
    tiring_ms: float = 10.0
    choice_ms: float = 0.0
    lapses: float = 0.02
    wrong: float = 0.04
    jumps: float = 0.01
    answers_catch: float = 0.12


Post = Callable[[Batch], Tail | None]


@dataclass(frozen=True, slots=True)
class Done:
    """What the simulated student really did about a cue.

    what: the answer it made up its mind to. time_ms: from the onset to the answer; None: none came.
    chain: steps of the chain that were done, the answer among them.
    """

    round: int
    slot: int
    what: Literal["right", "wrong", "jumped", "nothing"]
    time_ms: float | None = None
    chain: int = 0


@dataclass(slots=True)
class SimulatedPlayer:
    """Plays a run: commits cues a horizon ahead, records answers, posts batches, takes tails."""

    setup: Setup
    habits: Habits
    rng: np.random.Generator
    post: Post
    _number: int = 0
    _revision: int = 0
    _events: list[Event] = field(default_factory=list)
    _free_ms: float = 0.0
    _clock_ms: float = 4000.0
    _asking: Asking = field(init=False)
    _camera: SimulatedCamera | None = field(init=False, default=None)
    _controls: dict[Stance, list[Control]] = field(default_factory=dict)
    done: list[Done] = field(default_factory=list)

    def __post_init__(self) -> None:
        drill = self.setup.drill
        self._asking = Asking(drill, drill.rungs[self.setup.plan.rung - 1])
        zones = self.setup.device.zones
        if zones:
            delay_ms = self.setup.device.latency_ms("camera")
            self._camera = SimulatedCamera(zones, self.rng, delay_ms=delay_ms)

    def play(self, rounds: int | None = None) -> None:
        """Play the first `rounds` rounds (all when None) to their end."""
        plan = self.setup.plan
        last = rounds or len(plan.rounds)
        tail: tuple[PlacedCue, ...] | None = None
        for round_plan in plan.rounds[:last]:
            self._clock_ms += COUNT_IN_MS
            zero_ms = self._clock_ms
            self._events.append(RoundStart(t_ms=zero_ms, round=round_plan.number))
            self._round(round_plan.number, zero_ms, tail or round_plan.cues)
            end_ms = zero_ms + round_plan.duration_s * 1000
            self._events.append(RoundEnd(t_ms=end_ms, round=round_plan.number, reason="time"))
            self._clock_ms = end_ms + AFTER_ROUND_MS
            tail = None
            if round_plan.number < last:
                answer = self._send(self._clock_ms, Committed(round=round_plan.number + 1))
                tail = answer.cues if answer else None
                self._clock_ms += plan.rest_s * 1000
        self._events.append(Finish(t_ms=self._clock_ms, reason="complete"))
        self._send(self._clock_ms, None, last=True)

    def _round(self, number: int, zero_ms: float, cues: tuple[PlacedCue, ...]) -> None:
        upcoming, done = list(cues), list[PlacedCue]()
        while upcoming:
            tail = self._send(
                max(zero_ms, zero_ms + upcoming[0].at_s * 1000 - COMMIT_HORIZON_MS),
                Committed(round=number, placed=tuple(done[-4:])),
            )
            if tail:
                upcoming = list(tail.cues)
                if not upcoming:
                    break
            placed = upcoming.pop(0)
            done.append(placed)
            self._show(number, zero_ms, placed)

    def _show(self, number: int, zero_ms: float, placed: PlacedCue) -> None:
        cue = self.setup.drill.cue(placed.cue)
        hear = cue.channel == "hear"
        spread = 2.0 if hear else 8.0
        onset = zero_ms + placed.at_s * 1000 + (0.0 if hear else float(self.rng.uniform(0, 16)))
        self._events.append(
            CueShown(
                t_ms=onset,
                round=number,
                slot=placed.slot,
                cue=placed.cue,
                at_s=placed.at_s,
                window_ms=placed.window_s * 1000,
                revision=self._revision,
                source="audio" if hear else "presentation",
                spread_ms=spread,
            )
        )
        round_plan = self.setup.plan.rounds[number - 1]
        asked = self._asking.of(round_plan.slots[placed.slot])
        steps = asked.chains[0].sensed if asked.chains else ()
        if asked.timed_by == "not_sensed" and not self._camera:
            return  # nothing of it is seen
        side = steps[0].side if steps else "lead"
        answer_ms = self._answer_ms(cue.channel, cue.is_catch, side, onset - zero_ms)
        if self._camera and not steps:
            self._slip(number, placed.slot, onset, answer_ms)
            return
        if answer_ms is None or not self._keys(number):
            self.done.append(Done(number, placed.slot, "nothing"))
            return
        if self.habits.choice_ms and answer_ms > 150:
            answer_ms += self.habits.choice_ms * self._bits(number)
        if steps and answer_ms > 150:
            answer_ms += steps[0].offset_s * 600
        at = onset + answer_ms
        if answer_ms > 150:
            at = max(at, self._free_ms + BOTTLENECK_MS)
        self._free_ms = at
        first, right = self._control(steps[0] if steps else None, number)
        self._events.append(Input(t_ms=at, device="key", control=first))
        what: Literal["right", "wrong", "jumped"] = "right" if right else "wrong"
        what = "jumped" if answer_ms <= 150 else what
        self.done.append(Done(number, placed.slot, what, at - onset, len(steps)))
        self._follow_up(asked, steps, at, number)

    def _slip(self, number: int, slot: int, onset: float, answer_ms: float | None) -> None:
        """Move before the camera, as an answer that lands on nothing."""
        if answer_ms is None or not self._camera:
            self.done.append(Done(number, slot, "nothing"))
            return
        rng = self.rng
        aside = float(rng.choice((-1.0, 1.0)) * rng.uniform(0.08, 0.16))
        takes_ms = float(rng.uniform(220, 380))
        self._camera.slips.append(Slip(0, onset + answer_ms, takes_ms, (aside, 0.02)))
        what: Literal["right", "jumped"] = "jumped" if answer_ms <= 150 else "right"
        self.done.append(Done(number, slot, what, answer_ms))

    def _bits(self, number: int) -> float:
        """Choice between the cues of a round that ask for something, in bits."""
        drill, plan = self.setup.drill, self.setup.plan
        here = drill.cues_on(drill.rungs[plan.rung - 1], plan.rounds[number - 1].turn)
        return float(np.log2(sum(not cue.is_catch for cue in here)))

    def _follow_up(
        self, asked: Asked, steps: tuple[AskedStep, ...], at: float, number: int
    ) -> None:
        """The later steps of a chain, each a while after the one before."""
        before = steps[0].offset_s if steps else 0.0
        for step in steps[1:]:
            at += max(180.0, float(self.rng.normal((step.offset_s - before) * 650, 60)))
            before = step.offset_s
            control, _ = self._control(step, number)
            self._events.append(Input(t_ms=at, device="key", control=control))

    def _answer_ms(self, channel: str, catch: bool, side: str, into_ms: float) -> float | None:
        habits, rng = self.habits, self.rng
        if rng.random() < habits.lapses or (catch and rng.random() > habits.answers_catch):
            return None
        if rng.random() < habits.jumps:
            return float(rng.uniform(20, 140))
        mu = habits.mu_ms + habits.tiring_ms * into_ms / 60_000
        mu += habits.rear_ms if side == "rear" else 0.0
        mu -= habits.hear_ms if channel == "hear" else 0.0
        time = rng.normal(mu, habits.sigma_ms) + rng.exponential(habits.tau_ms)
        return max(160.0, float(time))

    def _control(self, step: AskedStep | None, number: int) -> tuple[str, bool]:
        """The key for the right answer, or now and then for another one; whether it is right."""
        keys = self._keys(number)
        right = [
            key for key in keys if step and (key.technique, key.side) == (step.technique, step.side)
        ]
        others = [key for key in keys if key not in right]
        if not right or (others and self.rng.random() < self.habits.wrong):
            return others[int(self.rng.integers(len(others)))].control, False
        return right[0].control, True

    def _keys(self, number: int) -> list[Control]:
        stance = self.setup.plan.rounds[number - 1].stance
        if stance not in self._controls:
            drill = self.setup.drill
            rung = drill.rungs[self.setup.plan.rung - 1]
            inputs = controls(drill, rung, stance)
            self._controls[stance] = [control for control in inputs if control.label]
        return self._controls[stance]

    def _send(
        self, until_ms: float, committed: Committed | None, last: bool = False
    ) -> Tail | None:
        """Post what has happened by `until_ms`; answers still to come stay for the next batch."""
        if self._camera:
            self._events += self._camera.until(until_ms)
        now = [event for event in self._events if last or event.t_ms <= until_ms]
        self._events = [event for event in self._events if not last and event.t_ms > until_ms]
        batch = Batch(
            number=self._number,
            epoch=0,
            until_ms=until_ms,
            revision=self._revision,
            committed=committed,
            last=last,
            events=tuple(sorted(now, key=lambda event: event.t_ms)),
        )
        self._number += 1
        tail = self.post(batch)
        if tail:
            self._revision = tail.revision
        return tail


def simulate(setup: Setup, habits: Habits, seed: int) -> tuple[list[Batch], RunState]:
    """Let a simulated student do a run; its batches and the folded state at the end."""
    batches: list[Batch] = []
    state = begin(setup)

    def post(batch: Batch) -> Tail | None:
        batches.append(batch)
        fold_batch(setup, state, batch)
        return revise(setup, state, batch)

    SimulatedPlayer(setup, habits, np.random.default_rng(seed), post).play()
    return batches, state
