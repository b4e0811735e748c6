"""Scoring against a second, slow and plain telling of the same rules.

The reference looks at a whole run at once: for every cue it works out when it listens, then it goes
through the answers in order of time. It shares no code with the fold. Rules: docs/architecture.md
and the head of core/score.py (the lab's and the trade's common practice, no source).
"""

from __future__ import annotations

from dataclasses import dataclass

from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.device import Device
from hastatus.core.events import Batch, CueShown, Event, Finish, Input, RoundStart
from hastatus.core.plan import plan_run
from hastatus.core.score import score
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


@dataclass
class Told:
    """A cue as the reference sees it."""

    name: str
    onset: float
    window: float
    limit: float = 0.0
    answer: tuple[float, str, str] | None = None

    def verdict(self) -> tuple[str, float | None]:
        _, technique, side = ASKED[self.name]
        if self.answer is None:
            return ("missed" if technique else "held"), None
        time = self.answer[0] - self.onset
        if time < CUT_MS:
            return "jumped", time
        if (technique, side) != self.answer[1:]:
            return "wrong", time
        return ("clean" if time <= self.window else "late"), time


def fit(cue: Told, technique: str, side: str) -> int:
    _, asked_technique, asked_side = ASKED[cue.name]
    if asked_technique is None:
        return 3
    if asked_technique == technique:
        return 0 if asked_side == side else 1
    return 2 if asked_side == side else 3


def reference(
    cues: list[tuple[str, float, float]], answers: list[tuple[str, float]]
) -> tuple[list[tuple[str, float | None]], int]:
    """Verdicts in onset order, and how many answers were stray."""
    told = [Told(name, onset, window) for name, onset, window in cues]
    for index, cue in enumerate(told):
        same = [
            other.onset for other in told[index + 1 :] if ASKED[other.name][0] == ASKED[cue.name][0]
        ]
        cue.limit = min([cue.onset + cue.window + GRACE_MS, *same[:1]])
    strays = 0
    last: dict[str, float] = {}
    for key, time in answers:
        bounced = time - last.get(key, float("-inf")) < BOUNCE_MS
        last[key] = time
        if bounced:
            strays += 1
            continue
        free = [cue for cue in told if cue.onset <= time <= cue.limit and cue.answer is None]
        if not free:
            strays += 1
            continue
        best = min(
            free, key=lambda cue: (time - cue.onset < CUT_MS, fit(cue, *MEANS[key]), cue.onset)
        )
        best.answer = (time, *MEANS[key])
    return [cue.verdict() for cue in told], strays


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


@settings(max_examples=400, deadline=None)
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
