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
- What gives only a time (a microphone, a clicker, the coach's tap) counts as what was asked: its
  answers are never wrong. Only after a catch cue, where nothing should come, it is.
- Leaving a home key starts an answer, the hit ends it. An answer that lands on nothing is timed by
  leaving home; without a home key such a cue is *not sensed*.
- Input outside every limit, a second answer, and what the rules of `telling` tell from an answer is
  *stray*. It is kept and judges nothing.
- Cues in a pause, a reload or a distrusted stretch are kept, marked with the reason, and left out
  of every figure.

Scoring is a fold over batches in number order, so a score kept up to date batch by batch equals
one made afresh.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import get_args

from hastatus.core.catalogue import Stance
from hastatus.core.chain import AskedStep, ask
from hastatus.core.controls import HOME, controls
from hastatus.core.device import NAMELESS, Device, Source
from hastatus.core.drill import Drill
from hastatus.core.events import (
    Batch,
    CueShown,
    Distrust,
    Event,
    Finish,
    Input,
    Pause,
    RoundEnd,
    RoundStart,
    Sync,
)
from hastatus.core.layout import Asking
from hastatus.core.listening import Expected, Meaning, begun, later_steps
from hastatus.core.pad_clock import PadClock
from hastatus.core.plan import RunPlan
from hastatus.core.response import (
    Landed,
    OpenCue,
    Outcome,
    Response,
    ScoreState,
    Stray,
    Why,
)
from hastatus.core.telling import SAME_STRIKE_MS, keep_level, told_apart

SCORING_VERSION = 3


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
        self._latency = {source: device.latency_ms(source) for source in get_args(Source)}
        self._home = device.home
        # Leaving home is sooner than landing: where some answers land, it says nothing of them.
        self._all_leave = self._home and all(
            ask(drill, self._rung, cue).timed_by in ("not_sensed", "catch")
            for cue in drill.cues_on(self._rung)
        )
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
            state.pad_clock, state.last_named_ms = PadClock(), None
            state.last_hits.clear()
        for event in batch.events:
            if isinstance(event, Sync):
                state.pad_clock.add(event.sent_ms, event.own_ms, event.t_ms)
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
            self._input(t_ms, event)
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
        if expected.asks and not expected.first and not self._home:
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

    def _input(self, t_ms: float, event: Input) -> None:
        state = self.state
        if event.serial is not None:
            if state.next_serial is not None:
                state.lost += max(0, event.serial - state.next_serial)
            state.next_serial = max(state.next_serial or 0, event.serial + 1)
        if event.control == HOME:
            self._at_home(t_ms, event)
            return
        if event.edge == "up":
            return
        meaning = None
        if event.device not in NAMELESS:
            meaning = self._meaning(event.control)
            if meaning is None:
                self._stray(t_ms, event, "unknown")
                return
        sounding = [cue for cue in state.open if self._expect(cue).asked.channel == "hear"]
        why = told_apart(state, t_ms, event, sounding)
        if why:
            self._stray(t_ms, event, why)
        elif meaning is None or not self._names(t_ms, event, meaning):
            self._answer(t_ms, event, meaning)

    def _answer(self, t_ms: float, event: Input, meaning: Meaning | None) -> None:
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
        keep_level(self.state, event)
        technique, side = meaning if meaning else (None, None)
        if cue.answered_ms is not None:
            cue.landed.append(Landed(t_ms, technique, side))
            return
        cue.answered_ms, cue.technique, cue.side = t_ms, technique, side
        cue.timed_with = event.device
        self._begin_chain(cue)

    def _begin_chain(self, cue: OpenCue) -> None:
        """Go on listening for the later steps of the chain that an answer began."""
        expected = self._expect(cue)
        for place, step in enumerate(expected.first):
            right = cue.technique is None or (step.technique, step.side) == (
                cue.technique,
                cue.side,
            )
            if right and expected.rest[place]:
                last = expected.rest[place][-1].offset_s * 1000
                cue.chain = place
                cue.limit_ms = max(
                    cue.limit_ms, cue.onset_ms + cue.window_ms + last + self._grace_ms
                )
                return

    def _names(self, t_ms: float, event: Input, meaning: Meaning) -> bool:
        """Whether a key or pad is of a strike that was heard just before: it says which it was."""
        for cue in self.state.open:
            heard = cue.technique is None and cue.timed_with in NAMELESS
            if heard and 0 <= t_ms - (cue.answered_ms or 0.0) <= SAME_STRIKE_MS:
                cue.technique, cue.side = meaning
                cue.chain = None
                self._begin_chain(cue)
                return True
            last = cue.landed[-1] if cue.landed else None
            if last and last.technique is None and 0 <= t_ms - last.t_ms <= SAME_STRIKE_MS:
                cue.landed[-1] = Landed(last.t_ms, *meaning)
                return True
        return False

    def _at_home(self, t_ms: float, event: Input) -> None:
        """Home is left for the cue that has waited longest, and come back to from the last."""
        open_cues = [cue for cue in self.state.open if not cue.closed and cue.onset_ms <= t_ms]
        if event.edge == "down":
            back = [c for c in open_cues if c.left_home_ms is not None and c.back_home_ms is None]
            if back:
                back[-1].back_home_ms = t_ms
            return
        waiting = [c for c in open_cues if c.left_home_ms is None and c.answered_ms is None]
        if not waiting or self.state.paused:
            self._stray(t_ms, event, "left_home")
            return
        cue = waiting[0]
        cue.left_home_ms = t_ms
        expected = self._expect(cue)
        if expected.asks and not expected.first:
            cue.answered_ms, cue.timed_with = t_ms, "home"

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

    def _rank(self, cue: OpenCue, t_ms: float, meaning: Meaning | None) -> tuple[bool, int, float]:
        """Smaller fits better; see the module's rules."""
        expected = self._expect(cue)
        if meaning is None:
            return t_ms - cue.onset_ms < self._cut_ms, 0, cue.onset_ms
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

    def _stray(self, t_ms: float, event: Input, why: Why) -> None:
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
        left_home = cue.timed_with == "home"
        outcome = self._outcome(expected, step, time_ms, window_ms, left_home)
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
            asked.window_s is not None
            or (self._rung.bursts is not None and self._cut(cue))
            or (asked.timed_by == "not_sensed" and not self._all_leave),
            later_steps(expected, cue),
            cue.timed_with,
            None if cue.left_home_ms is None else cue.left_home_ms - cue.onset_ms,
            None if cue.back_home_ms is None else cue.back_home_ms - cue.onset_ms,
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
