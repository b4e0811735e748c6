"""Giving each input to the cue it answers.

See `score` for the rules.
"""

from __future__ import annotations

from hastatus.core.catalogue import Stance
from hastatus.core.controls import HOME, controls
from hastatus.core.device import NAMELESS
from hastatus.core.drill import Drill
from hastatus.core.events import CueShown, Input
from hastatus.core.layout import Asking
from hastatus.core.listening import Expected, Meaning
from hastatus.core.plan import RunPlan
from hastatus.core.response import Landed, OpenCue, ScoreState, Stray, Why
from hastatus.core.telling import SAME_STRIKE_MS, keep_level, told_apart


class Expecting:
    """What is listened for after each cue of a plan, at hand without looking through the drill."""

    def __init__(self, drill: Drill, plan: RunPlan) -> None:
        rung = drill.rungs[plan.rung - 1]
        self._plan = plan
        self._asking = Asking(drill, rung)
        self._expected: dict[int, Expected] = {}
        # Where every slot asks for the whole of its cue, the cue's key says enough.
        self._alike = rung.stacking is None and rung.counters is None
        self._by_cue: dict[str, Expected] = {}

    def of(self, cue: OpenCue | CueShown) -> Expected:
        if self._alike and cue.cue in self._by_cue:
            return self._by_cue[cue.cue]
        asked = self._asking.of(self._plan.rounds[cue.round - 1].slots[cue.slot], cue.cue)
        found = self._expected.get(id(asked))
        if found is None:
            found = self._expected[id(asked)] = self._by_cue[cue.cue] = Expected.of(asked)
        return found


class Answering:
    """Takes inputs into the open cues of `state`, in place. strays: what answered nothing."""

    def __init__(
        self, drill: Drill, plan: RunPlan, expecting: Expecting, state: ScoreState
    ) -> None:
        self.state = state
        self.strays: list[Stray] = []
        self._plan = plan
        self._expecting = expecting
        self._grace_ms = drill.judging.grace_s * 1000
        self._cut_ms = jump_cut_ms(drill)
        rung = drill.rungs[plan.rung - 1]
        stances: set[Stance] = {round_plan.stance for round_plan in plan.rounds}
        self._meanings = {
            stance: {
                control.control: Meaning(control.technique, control.side)
                for control in controls(drill, rung, stance)
            }
            for stance in stances
        }

    def take(self, t_ms: float, event: Input) -> None:
        """Take an input that came at `t_ms`, corrected."""
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
        sounding: list[OpenCue] = []
        if event.device == "microphone":
            sounding = [
                cue for cue in state.open if self._expecting.of(cue).asked.channel == "hear"
            ]
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
        expected = self._expecting.of(cue)
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
        expected = self._expecting.of(cue)
        if expected.asks and not expected.first:
            cue.answered_ms, cue.timed_with = t_ms, "home"

    def _meaning(self, control: str) -> Meaning | None:
        """What a control stands for in the round that is on."""
        started = self.state.started_rounds
        if len(self._meanings) == 1 or not started:
            return self._meanings[self._plan.rounds[0].stance].get(control)
        return self._meanings[self._plan.rounds[started[-1] - 1].stance].get(control)

    def _awaits(self, cue: OpenCue) -> bool:
        """Whether a further input could be for `cue`, which has been answered."""
        if cue.chain is None:
            return False
        rest = self._expecting.of(cue).rest[cue.chain]
        return len(cue.landed) < len(rest)

    def _rank(self, cue: OpenCue, t_ms: float, meaning: Meaning | None) -> tuple[bool, int, float]:
        """Smaller fits better; see the module's rules."""
        expected = self._expecting.of(cue)
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
        self.state.stray_whys[why] = self.state.stray_whys.get(why, 0) + 1
        self.strays.append(Stray(t_ms, event.control, why))


def jump_cut_ms(drill: Drill) -> float:
    """An answer sooner than this after its cue was begun before it (ms); 0 where that is asked."""
    return 0.0 if drill.judging.early == "asked" else drill.judging.jump_cut_s * 1000
