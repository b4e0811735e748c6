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
- A chain is timed by its first step that lands; a window then reaches to that step's limit. Once
  that step is right, the cue goes on listening for the later ones, each clean inside its own
  limit, late in its grace, wrong or missed. A cue none of whose steps land is *not sensed*.
- Input outside every limit, and a second answer, is *stray*. It is kept and judges nothing.
- Cues in a pause, a reload or a distrusted stretch are kept, marked with the reason, and left out
  of every figure.

Scoring is a fold over batches in number order, so a score kept up to date batch by batch equals
one made afresh.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from hastatus.core.catalogue import Stance
from hastatus.core.chain import AskedStep
from hastatus.core.controls import controls
from hastatus.core.drill import Drill
from hastatus.core.events import (
    Batch,
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
from hastatus.core.layout import Asking
from hastatus.core.listening import Expected, Meaning, begun, later_steps
from hastatus.core.plan import RunPlan
from hastatus.core.response import (
    Landed,
    OpenCue,
    Outcome,
    Response,
    ScoreState,
    Stray,
)

SCORING_VERSION = 2


class Scorer:
    """Folds batches of one run into responses.

    drill, plan, device: fixed for the run. state: where to go on; it is changed in place.
    """

    def __init__(
        self, drill: Drill, plan: RunPlan, device: Device, state: ScoreState | None = None
    ) -> None:
        self.state = state or ScoreState()
        self.strays: list[Stray] = []
        self._plan = plan
        self._rung = drill.rungs[plan.rung - 1]
        self._asking = Asking(drill, self._rung)
        self._expected: dict[int, Expected] = {}
        # Where every slot asks for the whole of its cue, the cue's key says enough.
        self._alike = self._rung.stacking is None and self._rung.counters is None
        self._by_cue: dict[str, Expected] = {}
        self._grace_ms = drill.judging.grace_s * 1000
        early = drill.judging.early == "asked"
        self._cut_ms = 0.0 if early else drill.judging.jump_cut_s * 1000
        self._latency = {"key": device.key_ms, "touch": device.touch_ms}
        stances: set[Stance] = {round_plan.stance for round_plan in plan.rounds}
        self._meanings = {
            stance: {
                control.control: Meaning(control.technique, control.side)
                for control in controls(drill, self._rung, stance)
            }
            for stance in stances
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
        expected = self._expect(event)
        cue = OpenCue(
            event.round,
            event.slot,
            event.cue,
            event.at_s,
            event.t_ms,
            event.window_ms,
            event.t_ms + event.window_ms + expected.offset_ms + self._grace_ms,
            event.revision,
            event.source,
            event.spread_ms,
        )
        if expected.asks and not expected.first:
            cue.left_out, cue.closed = "not_sensed", True
        channel = expected.asked.channel
        for other in state.open:
            if other.closed:
                continue
            if self._expect(other).asked.channel == channel:
                other.limit_ms, other.closed = event.t_ms, True
            elif other.onset_ms + other.window_ms > event.t_ms:
                cue.gap_ms = event.t_ms - other.onset_ms
                other.gap_ms = other.gap_ms or cue.gap_ms
        state.open.append(cue)

    def _answer(self, t_ms: float, event: Input) -> None:
        meaning = self._meaning(event.control)
        if meaning is None:
            self._stray(t_ms, event, "unknown")
            return
        queue = self.state.open
        free = [
            cue
            for cue in queue
            if not cue.closed and (cue.answered_ms is None or self._awaits(cue))
        ]
        if not free or self.state.paused:
            second = any(not cue.closed for cue in queue)
            self._stray(t_ms, event, "second" if second else "outside")
            return
        cue = free[0]
        if len(free) > 1:
            cue = min(free, key=lambda cue: self._rank(cue, t_ms, meaning))
        if cue.answered_ms is not None:
            cue.landed.append(Landed(t_ms, meaning.technique, meaning.side))
            return
        cue.answered_ms, cue.technique, cue.side = t_ms, meaning.technique, meaning.side
        expected = self._expect(cue)
        for place, step in enumerate(expected.first):
            if (step.technique, step.side) == meaning and expected.rest[place]:
                last = expected.rest[place][-1].offset_s * 1000
                cue.chain = place
                cue.limit_ms = max(
                    cue.limit_ms, cue.onset_ms + cue.window_ms + last + self._grace_ms
                )
                return

    def _meaning(self, control: str) -> Meaning | None:
        """What a control stands for in the round that is on."""
        started = self.state.started_rounds
        if len(self._meanings) == 1 or not started:
            return self._meanings[self._plan.rounds[0].stance].get(control)
        return self._meanings[self._plan.rounds[started[-1] - 1].stance].get(control)

    def _expect(self, cue: OpenCue | CueShown) -> Expected:
        if self._alike and cue.cue in self._by_cue:
            return self._by_cue[cue.cue]
        asked = self._asking.of(self._plan.rounds[cue.round - 1].slots[cue.slot], cue.cue)
        found = self._expected.get(id(asked))
        if found is None:
            found = self._expected[id(asked)] = self._by_cue[cue.cue] = Expected.of(asked)
        return found

    def _awaits(self, cue: OpenCue) -> bool:
        """Whether a further input could be for `cue`, which has been answered."""
        if cue.chain is None:
            return False
        rest = self._expect(cue).rest[cue.chain]
        return len(cue.landed) < len(rest)

    def _rank(self, cue: OpenCue, t_ms: float, meaning: Meaning) -> tuple[bool, int, float]:
        """Smaller fits better; see the module's rules."""
        expected = self._expect(cue)
        if cue.chain is not None:
            step = expected.rest[cue.chain][len(cue.landed)]
            return False, 0 if (step.technique, step.side) == meaning else 3, cue.onset_ms
        fit = 3
        for step in expected.first:
            if step.technique == meaning.technique:
                fit = min(fit, 0 if step.side == meaning.side else 1)
            elif step.side == meaning.side:
                fit = min(fit, 2)
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
        expected = self._expect(cue)
        asked, asks = expected.asked, expected.asks
        time_ms = None if cue.answered_ms is None else cue.answered_ms - cue.onset_ms
        step = begun(expected, cue, time_ms) if time_ms is not None else None
        offset_ms = 0.0
        if expected.offset_ms:
            offset_ms = (step or expected.first[0]).offset_s * 1000
        window_ms = cue.window_ms + offset_ms
        outcome = self._outcome(expected, step, time_ms, window_ms)
        return Response(
            cue.round,
            cue.slot,
            cue.cue,
            asked.channel,
            asks.technique if asks else None,
            asks.side if asks else None,
            cue.at_s,
            cue.onset_ms,
            window_ms,
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
            asked.timed_by,
            offset_ms,
            asked.window_s is not None or (self._rung.bursts is not None and self._cut(cue)),
            later_steps(expected, cue),
        )

    def _cut(self, cue: OpenCue) -> bool:
        """Whether a burst cut the cue's window short."""
        slots = self._plan.rounds[cue.round - 1].slots
        bursts = self._rung.bursts
        if bursts is None or cue.slot + 1 >= len(slots) or not slots[cue.slot + 1].burst:
            return False
        return cue.window_ms >= bursts.inner_s * 1000 - 1

    def _outcome(
        self, expected: Expected, step: AskedStep | None, time_ms: float | None, window_ms: float
    ) -> Outcome:
        if time_ms is None:
            return "missed" if expected.asks else "held"
        if time_ms < self._cut_ms:
            return "jumped"
        if step is None:
            return "wrong"
        return "clean" if time_ms <= window_ms else "late"


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
