"""From raw events to responses.

The rules, in the order they are applied:

- A cue listens from its onset to its *listening limit*: answer window plus grace, but never past
  the next onset on the same channel.
- The first answer inside the limit counts. Where a sound and a light listen at once, an answer
  goes to the cue it answers exactly; else to one of the same technique; else of the same side;
  else to the earlier one. An answer that nobody could have given yet goes to another cue if it can.
- *Jumped*: sooner than the jump cut. *Clean*: the right answer inside the window. *Late*: the right
  answer after it, its time is kept. *Wrong*: another answer, or any answer to a catch cue.
  *Held*: none to a catch cue. *Missed*: none, censored at the limit.
- Input outside every limit, and a second answer, is *stray*. It is kept and judges nothing.
- Cues in a pause, a reload or a distrusted stretch are kept, marked with the reason, and left out
  of every figure.

Scoring is a fold over batches in number order, so a score kept up to date batch by batch equals
one made afresh.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal, NamedTuple

from hastatus.core.catalogue import Side
from hastatus.core.drill import Channel, Cue, Drill
from hastatus.core.events import (
    Batch,
    CueCancelled,
    CueShown,
    Device,
    Distrust,
    Event,
    Finish,
    Input,
    Pause,
    RoundEnd,
    RoundStart,
)
from hastatus.core.plan import RunPlan, controls
from hastatus.core.response import OpenCue, Outcome, Response, ScoreState, Stray

SCORING_VERSION = 1


class Asked(NamedTuple):
    """What a cue asks for, at hand without looking through the drill; None for a catch cue."""

    channel: Channel
    technique: str | None
    side: Side | None

    @classmethod
    def of(cls, cue: Cue) -> Asked:
        """What `cue` asks for."""
        if cue.answer is None:
            return cls(cue.channel, None, None)
        return cls(cue.channel, cue.answer.technique, cue.answer.side)


@dataclass(frozen=True, slots=True)
class Meaning:
    """The answer a control stands for."""

    technique: str
    side: Side


class Scorer:
    """Folds batches of one run into responses.

    drill, plan, device: fixed for the run. state: where to go on; it is changed in place.
    """

    def __init__(
        self, drill: Drill, plan: RunPlan, device: Device, state: ScoreState | None = None
    ) -> None:
        self.state = state or ScoreState()
        self.strays: list[Stray] = []
        self._asked = {cue.key: Asked.of(cue) for cue in drill.cues}
        self._grace_ms = drill.judging.grace_s * 1000
        self._cut_ms = drill.judging.jump_cut_s * 1000
        self._latency = {"key": device.key_ms, "touch": device.touch_ms}
        self._meaning = {
            control.control: Meaning(control.technique, control.side)  # type: ignore[arg-type]
            for control in controls(plan.stance)
        }

    def fold(self, batch: Batch) -> list[Response]:
        """Take one batch; return the responses that are certain now, in onset order."""
        state = self.state
        responses: list[Response] = []
        if batch.epoch != state.epoch:
            self._take_waiting(float("inf"), responses)
            self._leave_out("reload")
            self._emit(responses)
            state.epoch, state.paused = batch.epoch, False
        state.waiting += [(self._time(event), event) for event in batch.events]
        self._take_waiting(float("inf") if batch.last else batch.until_ms, responses)
        if state.open:
            self._close(float("inf") if batch.last else batch.until_ms)
            self._emit(responses)
        return responses

    def stop(self) -> list[Response]:
        """End a run whose last batch never came; what still listens is left out."""
        responses: list[Response] = []
        self._take_waiting(float("inf"), responses)
        self._leave_out("stopped")
        self._emit(responses)
        return responses

    def _time(self, event: Event) -> float:
        if isinstance(event, Input):
            return event.t_ms - self._latency[event.device]
        return event.t_ms

    def _take_waiting(self, until_ms: float, responses: list[Response]) -> None:
        state = self.state
        if len(state.waiting) > 1:
            state.waiting.sort(key=_time_of)
        taken = 0
        for t_ms, event in state.waiting:
            if t_ms > until_ms:
                break
            taken += 1
            if state.open:
                self._close(t_ms)
                self._emit(responses)
            self._take(t_ms, event)
        del state.waiting[:taken]

    def _take(self, t_ms: float, event: Event) -> None:
        if isinstance(event, Input):
            self._answer(t_ms, event)
        elif isinstance(event, CueShown):
            self._open(event)
        elif isinstance(event, Pause):
            self.state.paused = True
            self._leave_out("paused")
        elif isinstance(event, Distrust):
            for cue in self.state.open:
                if cue.limit_ms >= event.from_ms and cue.onset_ms <= event.t_ms:
                    cue.left_out = cue.left_out or event.reason
        elif isinstance(event, CueCancelled):
            for cue in self.state.open:
                if (cue.round, cue.slot) == (event.round, event.slot):
                    cue.left_out, cue.closed = cue.left_out or "cancelled", True
        else:
            self._mark(event)

    def _mark(self, event: Event) -> None:
        state = self.state
        if event.type == "resume":
            state.paused = False
        elif isinstance(event, RoundStart) and event.round not in state.started_rounds:
            state.started_rounds.append(event.round)
        elif isinstance(event, RoundEnd):
            if event.reason == "stopped":
                self._leave_out("stopped")
            if event.round not in state.ended_rounds:
                state.ended_rounds.append(event.round)
        elif isinstance(event, Finish):
            self._leave_out("stopped")
            state.finished = state.finished or event.reason

    def _open(self, event: CueShown) -> None:
        state = self.state
        if (event.round, event.slot) <= state.last_cue:
            return  # the same cue logged again: the first log stands
        state.last_cue = (event.round, event.slot)
        cue = OpenCue(
            event.round,
            event.slot,
            event.cue,
            event.at_s,
            event.t_ms,
            event.window_ms,
            event.t_ms + event.window_ms + self._grace_ms,
            event.revision,
            event.source,
            event.spread_ms,
        )
        channel = self._asked[event.cue].channel
        for other in state.open:
            if other.closed:
                continue
            if self._asked[other.cue].channel == channel:
                other.limit_ms, other.closed = event.t_ms, True
            elif other.onset_ms + other.window_ms > event.t_ms:
                cue.gap_ms = event.t_ms - other.onset_ms
                other.gap_ms = other.gap_ms or cue.gap_ms
        state.open.append(cue)

    def _answer(self, t_ms: float, event: Input) -> None:
        meaning = self._meaning.get(event.control)
        if meaning is None:
            self._stray(t_ms, event, "unknown")
            return
        queue = self.state.open
        free = [cue for cue in queue if not cue.closed and cue.answered_ms is None]
        if not free or self.state.paused:
            second = any(not cue.closed for cue in queue)
            self._stray(t_ms, event, "second" if second else "outside")
            return
        cue = free[0]
        if len(free) > 1:
            cue = min(free, key=lambda cue: self._rank(cue, t_ms, meaning))
        cue.answered_ms, cue.technique, cue.side = t_ms, meaning.technique, meaning.side

    def _rank(self, cue: OpenCue, t_ms: float, meaning: Meaning) -> tuple[bool, int, float]:
        """Smaller fits better; see the module's rules."""
        asked = self._asked[cue.cue]
        if asked.technique is None:
            fit = 3
        elif asked.technique == meaning.technique:
            fit = 0 if asked.side == meaning.side else 1
        else:
            fit = 2 if asked.side == meaning.side else 3
        return t_ms - cue.onset_ms < self._cut_ms, fit, cue.onset_ms

    def _stray(
        self, t_ms: float, event: Input, why: Literal["outside", "second", "unknown"]
    ) -> None:
        self.state.strays += 1
        self.strays.append(Stray(t_ms, event.control, why))

    def _leave_out(self, reason: str) -> None:
        """Close what still listens, without judging it."""
        for cue in self.state.open:
            if not cue.closed:
                cue.left_out, cue.closed = cue.left_out or reason, True

    def _close(self, t_ms: float) -> None:
        for cue in self.state.open:
            if cue.limit_ms < t_ms:
                cue.closed = True

    def _emit(self, responses: list[Response]) -> None:
        """Judge from the front, so that responses come in onset order."""
        queue = self.state.open
        while queue and queue[0].closed:
            responses.append(self._judge(queue.pop(0)))

    def _judge(self, cue: OpenCue) -> Response:
        asked = self._asked[cue.cue]
        time_ms = None if cue.answered_ms is None else cue.answered_ms - cue.onset_ms
        outcome = self._outcome(asked, cue, time_ms)
        return Response(
            cue.round,
            cue.slot,
            cue.cue,
            asked.channel,
            asked.technique,
            asked.side,
            cue.at_s,
            cue.onset_ms,
            cue.window_ms,
            outcome,
            time_ms,
            cue.limit_ms - cue.onset_ms if outcome == "missed" else None,
            cue.technique,
            cue.side,
            cue.gap_ms,
            cue.left_out,
            cue.revision,
            cue.source,
            cue.spread_ms,
        )

    def _outcome(self, asked: Asked, cue: OpenCue, time_ms: float | None) -> Outcome:
        if time_ms is None:
            return "missed" if asked.technique else "held"
        if time_ms < self._cut_ms:
            return "jumped"
        if asked.technique != cue.technique or asked.side != cue.side:
            return "wrong"
        return "clean" if time_ms <= cue.window_ms else "late"


def _time_of(pair: tuple[float, Event]) -> float:
    return pair[0]


def score(
    drill: Drill, plan: RunPlan, device: Device, batches: Iterable[Batch]
) -> tuple[list[Response], Scorer]:
    """Score all batches of a run, in number order; also the scorer, for its state and strays."""
    scorer = Scorer(drill, plan, device)
    responses: list[Response] = []
    for batch in sorted(batches, key=lambda batch: batch.number):
        responses.extend(scorer.fold(batch))
    return responses, scorer
