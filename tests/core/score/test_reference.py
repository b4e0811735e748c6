"""Scoring against a second, slow and plain telling of the same rules.

The reference looks at a whole run at once: for every cue it works out when it listens, then it goes
through the answers in order of time. It shares no code with the fold. Rules: docs/architecture.md
and the head of core/score.py (the lab's and the trade's common practice, no source).
"""

from __future__ import annotations

from dataclasses import dataclass

from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch, CueShown, Event, Finish, Input, RoundStart
from hastatus.core.score.scorer import score
from hastatus.core.starter import block_on_sound_strike_on_light

DRILL = block_on_sound_strike_on_light()
PLAN = plan_run(DRILL, seed=1, rung=3)
ASKED = {
    "low_knock": ("hear", "high_block", "lead"),
    "bell": ("hear", "high_block", "rear"),
    "lead_light": ("see", "straight", "lead"),
    "rear_light": ("see", "straight", "rear"),
    "hold_light": ("see", None, None),
}
MEANS = {
    "KeyR": ("high_block", "lead"),
    "KeyU": ("high_block", "rear"),
    "KeyF": ("straight", "lead"),
    "KeyJ": ("straight", "rear"),
}
GRACE_MS, CUT_MS, BOUNCE_MS = 400.0, 150.0, 60.0
TWICE_MS, AT_ONCE_MS, TOO_LATE_MS, MOST_LAPSED = 1000.0, 350.0, 800.0, 4


@dataclass
class Told:
    """A cue as the reference sees it. doubt: an extra hit that was its answer if no other comes."""

    name: str
    onset: float
    window: float
    answer: tuple[float, str, str] | None = None
    doubt: tuple[float, str, str] | None = None
    closed: bool = False

    @property
    def limit(self) -> float:
        return self.onset + self.window + GRACE_MS

    @property
    def asked(self) -> tuple[str | None, str | None]:
        return ASKED[self.name][1:]

    def verdict(self) -> tuple[str, float | None]:
        if self.answer is None:
            return ("missed" if self.asked[0] else "held"), None
        time = self.answer[0] - self.onset
        if time < CUT_MS:
            return "jumped", time
        if self.asked != self.answer[1:]:
            return "wrong", time
        return ("clean" if time <= self.window else "late"), time


def fit(cue: Told, technique: str, side: str) -> int:
    if cue.asked[0] is None:
        return 3
    if cue.asked[0] == technique:
        return 0 if cue.asked[1] == side else 1
    return 2 if cue.asked[1] == side else 3


class Reference:
    """The rules of the head of core/score.py, told once more over a whole run."""

    def __init__(self, cues: list[tuple[str, float, float]]) -> None:
        self.told = [Told(name, onset, window) for name, onset, window in cues]
        self.lapsed: list[Told] = []
        self.last_key: dict[str, float] = {}
        self.last_taken: dict[tuple[str, str], float] = {}
        self.strays = 0

    def close(self, time: float) -> None:
        """What stops listening before `time`: believed of a doubt, or lapsed."""
        for cue in self.told:
            if cue.closed or cue.limit >= time or cue.onset > time:
                continue
            cue.closed = True
            if cue.answer is None and cue.doubt is not None:
                cue.answer, self.strays = cue.doubt, self.strays - 1
            elif cue.answer is None and cue.asked[0]:
                self.lapsed = [*self.lapsed, cue][-MOST_LAPSED:]

    def take(self, key: str, time: float) -> None:
        last = self.last_key.get(key, float("-inf"))
        self.last_key[key] = time
        if time - last < BOUNCE_MS:
            self.strays += 1
            return
        meaning = MEANS[key]
        cue = self.answered(meaning, time)
        if cue is not None:
            cue.answer = (time, *meaning)
            self.last_taken[meaning] = time
            return
        self.strays += 1
        ready = [
            cue
            for cue in self.told
            if cue.onset <= time - CUT_MS and not cue.closed and cue.answer is None
        ]
        asking = [cue for cue in ready if cue.asked[0] and cue.doubt is None]
        if asking:
            asking[0].doubt = (time, *meaning)

    def answered(self, meaning: tuple[str, str], time: float) -> Told | None:
        """Which cue is answered; None: it is an extra hit."""
        waiting = [
            cue for cue in self.told if cue.onset <= time and not cue.closed and cue.answer is None
        ]
        ready = [cue for cue in waiting if time - cue.onset >= CUT_MS]
        young = [cue for cue in waiting if time - cue.onset < CUT_MS]
        for cue in ready:
            if cue.asked == meaning:
                return cue
        within = TWICE_MS if any(cue.asked[0] for cue in ready) else AT_ONCE_MS
        twice = time - self.last_taken.get(meaning, float("-inf")) < within
        too_late = any(
            time <= cue.limit + TOO_LATE_MS and cue.asked == meaning for cue in self.lapsed
        )
        if twice or too_late or (young and ready):
            return None
        if ready:
            return min(ready, key=lambda cue: (fit(cue, *meaning), cue.onset))
        return young[0] if young else None


def reference(
    cues: list[tuple[str, float, float]], answers: list[tuple[str, float]]
) -> tuple[list[tuple[str, float | None]], int]:
    """Verdicts in onset order, and how many answers were stray."""
    found = Reference(cues)
    moments = sorted([(onset, "") for _, onset, _ in cues] + [(time, key) for key, time in answers])
    for time, key in moments:
        found.close(time)
        if key:
            found.take(key, time)
    found.close(float("inf"))
    return [cue.verdict() for cue in found.told], found.strays


@st.composite
def happenings(draw: st.DrawFn) -> tuple[list[tuple[str, float, float]], list[tuple[str, float]]]:
    """Cues with gaps from nothing to long, and answers anywhere; no two things at one moment."""
    gaps = draw(st.lists(st.integers(20, 1800), min_size=1, max_size=14))
    cues, time = [], 1000
    for gap in gaps:
        time += gap
        name = draw(st.sampled_from(sorted(ASKED)))
        cues.append((name, float(time), float(draw(st.integers(250, 1200)))))
    moments = draw(st.lists(st.integers(900, time + 2500), max_size=24, unique=True))
    doubled = draw(st.lists(st.sampled_from(moments), max_size=3)) if moments else []
    moments = sorted({*moments, *(moment + draw(st.integers(1, 90)) for moment in doubled)})
    answers = [(draw(st.sampled_from(sorted(MEANS))), moment + 0.25) for moment in sorted(moments)]
    return cues, answers


def as_events(
    cues: list[tuple[str, float, float]], answers: list[tuple[str, float]]
) -> list[Event]:
    events: list[Event] = [RoundStart(t_ms=0, round=1)]
    events += [
        CueShown(
            t_ms=onset, round=1, slot=slot, cue=name, at_s=onset / 1000, window_ms=window,
            source="audio",
        )
        for slot, (name, onset, window) in enumerate(cues)
    ]  # fmt: skip
    events += [Input(t_ms=time, device="key", control=key) for key, time in answers]
    return sorted(events, key=lambda event: event.t_ms)


def batches_of(events: list[Event], cuts: list[int]) -> list[Batch]:
    """Batches cut at some times, the last one with the end of the run long after."""
    end = events[-1].t_ms + 10_000
    edges = [*(float(cut) for cut in sorted(set(cuts))), end]
    batches, before = [], -1.0
    for number, edge in enumerate(edges):
        inside = [event for event in events if before < event.t_ms <= edge]
        last = number == len(edges) - 1
        if last:
            inside.append(Finish(t_ms=end, reason="complete"))
        batches.append(
            Batch(number=number, epoch=0, until_ms=edge, last=last, events=tuple(inside))
        )
        before = edge
    return batches


@settings(max_examples=400)
@given(happenings(), st.lists(st.integers(1, 25_000), max_size=12))
def test_the_fold_says_what_the_rules_say(
    happened: tuple[list[tuple[str, float, float]], list[tuple[str, float]]], cuts: list[int]
) -> None:
    cues, answers = happened
    expected, strays = reference(cues, answers)
    found, scorer = score(DRILL, PLAN, Device(), batches_of(as_events(cues, answers), cuts))
    assert [(each.outcome, each.time_ms) for each in found] == expected
    assert scorer.state.strays == strays
    assert sum(each.time_ms is not None for each in found) + strays == len(answers)
