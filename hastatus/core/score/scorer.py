"""From raw events to responses.

The rules, in the order they are applied:

- A cue listens from its onset to its own *listening limit*, answer window plus grace, also when
  the next cue has come by then.
- Where several cues listen, or a chain still waits for a step, an input goes to the oldest that
  asks for just that. Else, the same answer struck twice, or one that is too late for a cue that
  has lapsed, is extra. Else it goes to a cue of the same technique, of the same side, to the
  oldest.
- An input that comes sooner after a cue than anybody could answer it, while an older one listens,
  is the older one's answer or an extra hit: it never uses up the newer cue. *Jumped* is only what
  comes so soon and could be nobody else's.
- *Clean*: the right answer inside the window. *Late*: the right answer after it, its time is kept.
  *Wrong*: another answer, or any answer to a catch cue. *Held*: none to a catch cue. *Missed*:
  none, censored at the limit.
- A chain is timed by its first step that lands; a window then reaches to that step's limit. Once
  that step is right, the cue goes on listening for the later ones, in order and with gaps: clean
  inside its time after the step before, late in its grace, wrong or missed. A cue none of whose
  steps land is *not sensed*.
- What gives only a time (a microphone, a clicker, the coach's tap) counts as what was asked: its
  answers are never wrong. Only after a catch cue, where nothing should come, it is.
  Where two cues wait for a strike that is only heard, nobody can tell whose time it is: both are
  left out as not told apart.
- Leaving a home key starts an answer, the hit ends it. Left before the cue, or sooner after it than
  anybody reacts, it is a false start: *jumped*. An answer that lands on nothing is timed by leaving
  home, or by when a camera sees its zone begin to move; without either it is *not sensed*.
- Input outside every limit, a second answer, and what `discrimination` tells from an answer is
  *stray*. It is kept and judges nothing.
- Cues in a pause, a reload or a distrusted stretch are kept, marked with the reason, and left out
  of every figure; an answer that was given before the pause stands. A page that was blocked or
  dropped frames spoils nothing that is known all the same: a cue whose onset the browser confirmed,
  answered by what stamps its own time. A cue whose onset nobody confirmed is left out.

Scoring is a fold over batches in number order, so a score kept up to date batch by batch equals
one made afresh.
"""

from __future__ import annotations

from collections.abc import Iterable
from copy import copy
from itertools import chain
from typing import get_args

from hastatus.core.drill.requirement import AskedStep
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import Device, Source
from hastatus.core.run.events import (
    Batch,
    CueShown,
    Distrust,
    Event,
    Finish,
    Input,
    MotionSeen,
    Pause,
    RoundEnd,
    RoundStart,
    Sync,
    single,
)
from hastatus.core.run.pad_clock import PadClock
from hastatus.core.score.assignment import TOO_LATE_MS, Answering, jump_cut_ms, remember
from hastatus.core.score.camera_answer import CameraAnswers
from hastatus.core.score.expectation import Expected, Expecting, holds, later_steps, matching_step
from hastatus.core.score.response import (
    Lapsed,
    OpenCue,
    Outcome,
    Response,
    ScoreState,
    Stray,
)

SCORING_VERSION = 5


class Scorer:
    """Folds batches of one run into responses.

    drill, plan, device: fixed for the run. state: where to go on; it is changed in place.
    """

    def __init__(
        self, drill: Drill, plan: RunPlan, device: Device, state: ScoreState | None = None
    ) -> None:
        self.state = state or ScoreState()
        self._plan = plan
        self._rung = drill.rungs[plan.rung - 1]
        self._expecting = Expecting(drill, plan)
        self._answering = Answering(drill, plan, self._expecting, self.state)
        self._grace_ms = drill.judging.grace_s * 1000
        self._cut_ms = jump_cut_ms(drill)
        self._latency = {source: device.latency_ms(source) for source in get_args(Source)}
        self._home = device.home
        self._camera = CameraAnswers(drill, plan, device, self._expecting)
        # Leaving home is sooner than landing: where some answers land, it says nothing of them.
        sensed = self._home or self._camera.sees_all
        self._all_leave = sensed and self._expecting.all_evade

    def at(self, state: ScoreState) -> Scorer:
        """A scorer of the same run that goes on at `state`, which it changes in place."""
        made = copy(self)
        made.state = state
        made._answering = self._answering.at(state)
        return made

    @property
    def strays(self) -> list[Stray]:
        """What answered nothing in the batches that were folded here."""
        return self._answering.strays

    def fold(self, batch: Batch) -> list[Response]:
        """Take one batch; return the responses that are certain now, in onset order."""
        state = self.state
        responses: list[Response] = []
        if batch.epoch != state.epoch:
            self._take_waiting(float("inf"), responses)
            self._leave_out("reload")
            self._emit(responses)
            state.epoch, state.paused = batch.epoch, False
            state.pad_clock, state.last_named_ms = PadClock(), None
            state.last_hits.clear()
            state.last_taken.clear()
            state.lapsed, state.extra, state.away_ms, state.camera = [], None, None, None
        events: Iterable[Event] = batch.events
        for event in batch.events:
            if isinstance(event, Sync):
                state.pad_clock.add(event.sent_ms, event.own_ms, event.t_ms)
            elif isinstance(event, MotionSeen):
                events = chain.from_iterable(map(single, batch.events))
        state.waiting += [(self._time(event), event) for event in events]
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
        if isinstance(event, MotionSeen):
            return event.t_ms - self._latency["camera"]
        if not isinstance(event, Input):
            return event.t_ms
        if event.own_ms is not None and self.state.pad_clock.syncs:
            return self.state.pad_clock.to_page(event.own_ms)
        return event.t_ms - self._latency[event.device]

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
            self._answering.take(t_ms, event)
        elif isinstance(event, CueShown):
            self._open(event)
        elif isinstance(event, MotionSeen):
            self._camera.add(self.state, t_ms, event)
        elif isinstance(event, Pause):
            self.state.paused = True
            self._leave_out("paused")
        elif isinstance(event, Distrust):
            for cue in self.state.open:
                if cue.limit_ms >= event.from_ms and cue.onset_ms <= event.t_ms:
                    if event.reason in ("blocked", "dropped_frames"):
                        cue.blocked = cue.blocked or event.reason
                    else:
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
        expected = self._expecting.of(event)
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
        self._camera.asked(state, event.t_ms)
        if expected.evades and not (self._home or self._camera.answer_zones(expected)):
            cue.left_out, cue.closed = "not_sensed", True
        elif state.away_ms is not None and expected.asks and self._cut_ms:
            cue.left_home_ms, cue.false_start = state.away_ms, True
        channel = expected.asked.channel
        for other in state.open:
            if other.closed:
                continue
            alike = self._expecting.of(other).asked.channel == channel
            if not alike and other.onset_ms + other.window_ms > event.t_ms:
                cue.gap_ms = event.t_ms - other.onset_ms
                other.gap_ms = other.gap_ms or cue.gap_ms
        state.open.append(cue)

    def _leave_out(self, reason: str) -> None:
        """Close what still listens; an answer that has been given stands."""
        for cue in self.state.open:
            if cue.closed:
                continue
            cue.closed = True
            if cue.answered_ms is None:
                cue.left_out = cue.left_out or reason
            else:
                cue.cut_off = True

    def _close(self, t_ms: float) -> None:
        for cue in self.state.open:
            if cue.limit_ms < t_ms and not cue.closed:
                cue.closed = True
                if cue.answered_ms is None and cue.left_out is None:
                    self._camera.answer(self.state, cue, self._expecting.of(cue))
                if cue.answered_ms is None and cue.doubtful:
                    self._answering.believe(cue, cue.doubtful)
                elif cue.answered_ms is None:
                    self._lapse(cue)

    def _lapse(self, cue: OpenCue) -> None:
        """Remember what a cue was listened for in vain: it may still come, too late."""
        first = self._expecting.of(cue).first
        asked = tuple((step.technique, step.side) for step in first)
        if asked:
            remember(self.state, Lapsed(asked, cue.limit_ms + TOO_LATE_MS))

    def _emit(self, responses: list[Response]) -> None:
        """Judge from the front, so that responses come in onset order."""
        queue = self.state.open
        while queue and queue[0].closed:
            responses.append(self._judge(queue.pop(0)))

    def _judge(self, cue: OpenCue) -> Response:
        expected = self._expecting.of(cue)
        asked, asks = expected.asked, expected.asks
        time_ms = None if cue.answered_ms is None else cue.answered_ms - cue.onset_ms
        step = matching_step(expected, cue, time_ms) if time_ms is not None else None
        offset_ms = 0.0
        if expected.offset_ms:
            offset_ms = (step or expected.first[0]).offset_s * 1000
        window_ms = cue.window_ms + offset_ms
        left_home = bool(asks) and cue.timed_with in ("home", "camera")
        outcome = self._outcome(expected, step, time_ms, window_ms, left_home)
        if cue.false_start and outcome in ("clean", "late", "missed"):
            outcome = "jumped"
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
            cue.why_left_out,
            cue.revision,
            cue.source,
            cue.spread_ms,
            asked.timed_by,
            offset_ms,
            asked.window_s is not None
            or (self._rung.bursts is not None and self._cut(cue))
            or (asked.timed_by == "not_sensed" and not self._all_leave),
            later_steps(expected, cue),
            cue.timed_with,
            None if cue.left_home_ms is None else cue.left_home_ms - cue.onset_ms,
            None if cue.back_home_ms is None else cue.back_home_ms - cue.onset_ms,
            holds(expected, cue),
            cue.before_ms,
        )

    def _cut(self, cue: OpenCue) -> bool:
        """Whether a burst cut the cue's window short."""
        slots = self._plan.rounds[cue.round - 1].slots
        bursts = self._rung.bursts
        if bursts is None or cue.slot + 1 >= len(slots) or not slots[cue.slot + 1].burst:
            return False
        return cue.window_ms >= bursts.inner_s * 1000 - 1

    def _outcome(
        self,
        expected: Expected,
        step: AskedStep | None,
        time_ms: float | None,
        window_ms: float,
        left_home: bool,
    ) -> Outcome:
        if time_ms is None:
            return "missed" if expected.asks else "held"
        if time_ms < self._cut_ms:
            return "jumped"
        if step is None and not left_home:
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
