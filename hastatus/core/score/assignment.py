"""Giving each input to the cue it answers.

See `score` for the rules.
"""

from __future__ import annotations

from copy import copy
from typing import NamedTuple

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.controls import HOME, controls
from hastatus.core.run.device import NAMELESS
from hastatus.core.run.events import Input
from hastatus.core.score.discrimination import SAME_STRIKE_MS, keep_level, rejection_reason
from hastatus.core.score.expectation import Expected, Expecting, Meaning, fitting_step
from hastatus.core.score.response import Doubt, Landed, Lapsed, OpenCue, ScoreState, Stray, Why
from hastatus.core.trade.technique import Stance

TWICE_MS, TWICE_AT_ONCE_MS = 1000.0, 350.0
"""The same answer again within this time was struck twice, unless a cue asks for just that: the
longer time where a cue waits for its own answer, which then tells."""
NOBODY_MS = 150.0
"""Nobody answers a cue sooner; where a drill asks to read the intent, a right answer may."""
MOST_LAPSED = 4
"""Cues that take no more and are still remembered; nobody answers the fifth but last."""
TOO_LATE_MS = 800.0
"""So long after the end of listening an answer may still come, too late, for a cue that lapsed."""
JUST_BEFORE_MS = 250.0
"""An answer within this time before its cue, and again after it, was begun without the cue."""
FALSE_START_MS = 100.0
"""A first movement sooner than this is no reaction (World Athletics Technical Rules, memory)."""


class Claim(NamedTuple):
    """A cue that an input may be for. step: which of its later steps; None: its answer. off: 0
    just what is asked, 1 the same technique, 2 the same side, 3 neither."""

    cue: OpenCue
    step: int | None
    off: int


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

    def at(self, state: ScoreState) -> Answering:
        """The same for another state of the run, which it changes in place."""
        made = copy(self)
        made.state, made.strays = state, []
        return made

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
        why = rejection_reason(state, t_ms, event, sounding)
        if why:
            self._stray(t_ms, event, why)
        elif meaning is None or not self._names(t_ms, event, meaning):
            self._answer(t_ms, event, meaning)

    def _answer(self, t_ms: float, event: Input, meaning: Meaning | None) -> None:
        state = self.state
        open_cues = [cue for cue in state.open if not cue.closed]
        if meaning is None:  # only heard, say: no slip is that, be it right or wrong
            open_cues = [cue for cue in open_cues if not self._expecting.of(cue).evades]
        if state.paused:
            self._extra(t_ms, event, meaning, "second" if open_cues else "outside")
            return
        claim = self._claim(t_ms, meaning, open_cues)
        if isinstance(claim, str):
            self._extra(t_ms, event, meaning, claim)
            return
        keep_level(state, event)
        technique, side = meaning or (None, None)
        if technique:
            state.last_taken[f"{technique} {side}"] = t_ms
        cue = claim.cue
        if claim.step is not None:
            cue.landed.append(Landed(t_ms, technique, side, claim.step))
            self._listen_on(cue)
            return
        cue.answered_ms, cue.technique, cue.side = t_ms, technique, side
        cue.timed_with = event.device
        if state.extra and meaning == (state.extra.technique, state.extra.side):
            before_ms = state.extra.t_ms - cue.onset_ms
            cue.before_ms = before_ms if -JUST_BEFORE_MS <= before_ms < 0 else None
        self._begin_chain(cue)

    def _claim(self, t_ms: float, meaning: Meaning | None, open_cues: list[OpenCue]) -> Claim | Why:
        """Which cue an input is for, and which of its steps; or why it is for none.

        See the head of `score` for the rules.
        """
        if len(open_cues) == 1 and self._is_asked(open_cues[0], t_ms, meaning):
            return Claim(open_cues[0], None, 0)
        claims, young = list[Claim](), list[OpenCue]()
        for cue in open_cues:
            if cue.answered_ms is not None:
                if self._awaits(cue):
                    claims.append(self._as_step(cue, meaning))
            elif t_ms - cue.onset_ms < self._cut_ms:
                young.append(cue)
            else:
                claims.append(self._as_answer(cue, t_ms, meaning))
        exact = [claim for claim in claims if claim.off == 0]
        if exact:
            if meaning is None and len(exact) > 1:
                for match in exact:  # nobody knows which of them was struck first
                    match.cue.unsure = True
            return min(exact, key=_onset_of)
        why = self._extra_why(t_ms, meaning, open_cues, young, claims)
        if why is None:
            if not claims:
                return Claim(young[0], None, 0)
            return min(claims, key=_off_of)
        waiting = [claim.cue for claim in claims if claim.step is None]
        asking = [cue for cue in waiting if self._expecting.of(cue).asks and not cue.doubtful]
        if meaning and asking:
            asking[0].doubtful = Doubt(t_ms, *meaning, why)
        return why

    def _extra_why(
        self,
        t_ms: float,
        meaning: Meaning | None,
        open_cues: list[OpenCue],
        young: list[OpenCue],
        claims: list[Claim],
    ) -> Why | None:
        """Why an input that no cue asks for is extra; None: it is a wrong or jumped answer."""
        asks = any(claim.step is None and self._expecting.of(claim.cue).asks for claim in claims)
        if meaning and self._struck_twice(t_ms, meaning, TWICE_MS if asks else TWICE_AT_ONCE_MS):
            return "second"
        expected = self._still_expected(t_ms, meaning)
        if expected:
            return expected
        new = [claim for claim in claims if t_ms - claim.cue.onset_ms < NOBODY_MS]
        if (young and claims) or (new and len(open_cues) > len(new)):
            return "between"
        if claims or young:
            return None
        return "second" if open_cues else "outside"

    def _is_asked(self, cue: OpenCue, t_ms: float, meaning: Meaning | None) -> bool:
        """Whether it is just what a cue asks for that waits alone: nearly every answer is."""
        first = self._expecting.of(cue).first
        return (
            cue.answered_ms is None
            and len(first) == 1
            and t_ms - cue.onset_ms >= self._cut_ms
            and (
                meaning is None
                or (first[0].technique == meaning.technique and first[0].side == meaning.side)
            )
        )

    def _as_answer(self, cue: OpenCue, t_ms: float, meaning: Meaning | None) -> Claim:
        """A cue that waits for its answer. A catch cue waits for none: all else fits better."""
        off = 3
        for step in self._expecting.of(cue).first:
            limit_ms = cue.onset_ms + cue.window_ms + step.offset_s * 1000 + self._grace_ms
            if meaning is None or step.technique == meaning.technique:
                if t_ms > limit_ms:  # of several chains, one that begins sooner
                    continue
                off = min(off, 0 if meaning is None or step.side == meaning.side else 1)
            elif step.side == meaning.side:
                off = min(off, 2)
        return Claim(cue, None, off)

    def _as_step(self, cue: OpenCue, meaning: Meaning | None) -> Claim:
        """A cue whose chain has been begun."""
        rest = self._expecting.of(cue).rest[cue.chain or 0]
        if meaning is None:
            return Claim(cue, cue.landed[-1].step + 1 if cue.landed else 0, 0)
        index = fitting_step(rest, cue.landed, meaning)
        return Claim(cue, index, 0 if (rest[index].technique, rest[index].side) == meaning else 3)

    def _struck_twice(self, t_ms: float, meaning: Meaning, within_ms: float) -> bool:
        last_ms = self.state.last_taken.get(f"{meaning.technique} {meaning.side}")
        return last_ms is not None and t_ms - last_ms < within_ms

    def _still_expected(self, t_ms: float, meaning: Meaning | None) -> Why | None:
        """What an input is to a cue that takes no more; None where it is for none of them."""
        for lapsed in self.state.lapsed:
            if t_ms <= lapsed.until_ms and (meaning is None or tuple(meaning) in lapsed.asked):
                return lapsed.why
        return None

    def _begin_chain(self, cue: OpenCue) -> None:
        """Go on listening for the later steps of the chain that an answer began."""
        expected = self._expecting.of(cue)
        right = False
        for index, step in enumerate(expected.first):
            if cue.technique is None or (step.technique == cue.technique and step.side == cue.side):
                right = True
                if expected.rest[index]:
                    cue.chain = index
                    self._listen_on(cue)
                    return
        if not right:
            self._expect_rest(cue, expected)

    def _expect_rest(self, cue: OpenCue, expected: Expected) -> None:
        """After a wrong answer the rest of the chain may still be done; it answers nothing else."""
        rest = [step for steps in expected.rest for step in steps]
        if not rest or cue.answered_ms is None:
            return
        last_ms = max(step.offset_s for step in rest) * 1000
        asked = tuple((step.technique, step.side) for step in rest)
        until_ms = cue.answered_ms + last_ms + self._grace_ms
        remember(self.state, Lapsed(asked, until_ms, "second"))

    def _listen_on(self, cue: OpenCue) -> None:
        """Listen until the limits of the steps to come have passed."""
        if cue.chain is None or cue.answered_ms is None:
            return
        expected = self._expecting.of(cue)
        rest = expected.rest[cue.chain]
        t_ms, done_s = cue.answered_ms, expected.first[cue.chain].offset_s
        if cue.landed:
            t_ms, done_s = cue.landed[-1].t_ms, rest[cue.landed[-1].step].offset_s
        left_ms = (rest[-1].offset_s - done_s) * 1000
        cue.limit_ms = max(cue.limit_ms, t_ms + left_ms + self._grace_ms)

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
                cue.landed[-1] = Landed(last.t_ms, *meaning, last.step)
                return True
        return False

    def _at_home(self, t_ms: float, event: Input) -> None:
        """Home is left for the cue that has waited longest, and come back to from the last.

        Left sooner than anybody reacts, or before the cue and away since, it is a false start.
        """
        state = self.state
        open_cues = [cue for cue in state.open if not cue.closed and cue.onset_ms <= t_ms]
        if event.edge == "down":
            state.away_ms = None
            back = [c for c in open_cues if c.left_home_ms is not None and c.back_home_ms is None]
            if back:
                back[-1].back_home_ms = t_ms
            return
        waiting = [c for c in open_cues if c.left_home_ms is None and c.answered_ms is None]
        if not waiting or state.paused:
            if not any(c.left_home_ms is not None or c.answered_ms is not None for c in open_cues):
                state.away_ms = t_ms
            self._stray(t_ms, event, "left_home")
            return
        cut_ms = min(self._cut_ms, FALSE_START_MS)
        ready = [cue for cue in waiting if t_ms - cue.onset_ms >= cut_ms]
        cue = ready[0] if ready else waiting[0]
        cue.left_home_ms, cue.false_start = t_ms, not ready
        expected = self._expecting.of(cue)
        if expected.evades or (expected.asks is None and self._expecting.all_evade):
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
        return not cue.landed or cue.landed[-1].step + 1 < len(rest)

    def believe(self, cue: OpenCue, doubt: Doubt) -> None:
        """Nothing right has followed what seemed an extra hit: it was the answer to this cue."""
        cue.answered_ms, cue.technique, cue.side = doubt.t_ms, doubt.technique, doubt.side
        self.state.strays -= 1
        self.state.stray_whys[doubt.why] -= 1
        if not self.state.stray_whys[doubt.why]:
            del self.state.stray_whys[doubt.why]

    def _extra(self, t_ms: float, event: Input, meaning: Meaning | None, why: Why) -> None:
        """An input that answers nothing; what it would have meant is kept for the next cue."""
        if meaning:
            self.state.extra = Landed(t_ms, *meaning)
        self._stray(t_ms, event, why)

    def _stray(self, t_ms: float, event: Input, why: Why) -> None:
        self.state.strays += 1
        if event.device == "microphone" and why not in ("bounce", "echo", "same_strike"):
            self.state.heard_extra += 1
        self.state.stray_whys[why] = self.state.stray_whys.get(why, 0) + 1
        self.strays.append(Stray(t_ms, event.control, why))


def remember(state: ScoreState, lapsed: Lapsed) -> None:
    """Keep what may still come for a cue that takes no more."""
    state.lapsed = [*state.lapsed, lapsed][-MOST_LAPSED:]


def _onset_of(claim: Claim) -> float:
    return claim.cue.onset_ms


def _off_of(claim: Claim) -> tuple[int, float]:
    return claim.off, claim.cue.onset_ms


def jump_cut_ms(drill: Drill) -> float:
    """An answer sooner than this after its cue was begun before it (ms); 0 where that is asked."""
    return 0.0 if drill.judging.early == "asked" else drill.judging.jump_cut_s * 1000
