"""The ladder between runs: hold, less help, next rung or step back, with the reason in a sentence.

The controller pins the clean share at its target, so the share is no evidence. What moves is the
window, and the times under it. The rules (common practice put into numbers; no source):

- *Next rung* when, in each of the last two runs on this rung, the settled window is at or under
  the rung's goal and the measured times agree (their target quantile is within a tenth of it).
- *Less help* instead, when every cue is announced and the next rung would only be quicker: first
  take the help away.
- *Step back* when the settled window of the last two runs is longer than the rung's start window
  by a quarter or more.
- *Gentler step* when the last four runs all settled a tenth or more over the goal and got no
  quicker: the rung before, or, on the first rung, the window reached as a goal of their own, which
  opens the next rung.
- *Hold* otherwise, and the next run starts with the window where the last one settled.

The numbers are the drill's own (`Progress`); those told here are the ones it begins with.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from hastatus.core.adapt.controllers import counts
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.prior import Prior
from hastatus.core.read.proportion import TOO_FEW
from hastatus.core.read.summary import (
    places_of,
    quantile,
    quantile_interval,
    right_times,
    time_dependence,
)
from hastatus.core.score.response import Response

SETTLED_OVER = 20
"""A window has settled over the last this many cues that count."""


DAY_SPREAD = 0.25
"""How far, in ln time, the right window may lie from where the last run settled."""


@dataclass(frozen=True, slots=True)
class RunEvidence:
    """What one run says about the pace.

    rung: from 1. settled_window_s: geometric mean of the last windows; None with too few cues.
    quantile_s, low_s, high_s: the target quantile of the response times and its 95 % interval.
    answers: cues that counted. answered: of these, with any answer at all.
    inside: of the last 60, how many right answers were inside the settled window. of: how many.
    """

    rung: int
    settled_window_s: float | None
    quantile_s: float | None
    low_s: float | None
    high_s: float | None
    answers: int
    answered: int
    inside: int
    of: int


FAR_RUNS = 4
FAR = 1.1
"""So many runs in a row, and so far over the goal as a factor, that a student is kept from it."""

Kind = Literal["hold", "next", "less_help", "back", "start", "gentler", "own_goal"]


@dataclass(frozen=True, slots=True)
class Suggestion:
    """What comes next. reason: one sentence with the evidence. rule: which of the drill's rules."""

    kind: Kind
    rung: int
    window_s: float
    reason: str
    rule: str = ""


def evidence(drill: Drill, rung: int, responses: Sequence[Response]) -> RunEvidence:
    """Read one run's evidence from its responses."""
    counted = [response for response in responses if counts(response)]
    answered = sum(response.outcome != "missed" for response in counted)
    settled = None
    if len(counted) >= TOO_FEW and answered:
        last = counted[-SETTLED_OVER:]
        settled = (
            math.exp(
                sum(math.log(response.window_ms - response.offset_ms) for response in last)
                / len(last)
            )
            / 1000
        )
    times, censored = right_times(counted, less_offset=True)
    target = drill.pace.target
    middle = low = high = None
    if len(times) + len(censored) >= TOO_FEW:
        middle = quantile(times, censored, target)
        known = [response for response in counted if response.timed]
        together = time_dependence(counted).of_sides
        widening = together.widening([1.0] * len(known), places_of(known))
        low, high = quantile_interval(times, censored, target, widening)
    recent = counted[-60:]
    inside = sum(
        response.right_ms is not None
        and settled is not None
        and response.right_ms - response.offset_ms <= settled * 1000
        for response in recent
    )
    return RunEvidence(
        rung=rung,
        settled_window_s=settled,
        quantile_s=_seconds(middle),
        low_s=_seconds(low),
        high_s=_seconds(high),
        answers=len(counted),
        answered=answered,
        inside=inside,
        of=len(recent),
    )


def suggest(drill: Drill, runs: Sequence[RunEvidence]) -> Suggestion:
    """What comes after `runs` (oldest first) of this drill, and by which rule.

    Runs without an answer count for nothing.
    """
    if runs and drill.rungs[runs[-1].rung - 1].guide:
        suggestion = _guided(drill, runs[-1].rung)
    else:
        answered = [run for run in runs if run.answered]
        suggestion = _suggest(drill, answered or runs[-1:])
    return replace(suggestion, rule=rule_of(drill, suggestion.kind))


def _guided(drill: Drill, rung: int) -> Suggestion:
    """What is counted or held has no times to go by."""
    reason = "Counted or held: nothing is timed here, so you say when to go on."
    return Suggestion("hold", rung, drill.rungs[rung - 1].window_s, reason)


def _following(drill: Drill, rung: int) -> int | None:
    """The next rung after this one on which cues come; a ball or a rope is not on every floor."""
    later = range(rung + 1, len(drill.rungs) + 1)
    return next((number for number in later if drill.rungs[number - 1].guide is None), None)


def prior(runs: Sequence[RunEvidence], rung: int) -> Prior | None:
    """What the last run says of the window on its rung, before the next one; oldest run first.

    None after a run on another rung, or one that was too short to settle.
    """
    answered = [run for run in runs if run.answered]
    last = answered[-1] if answered else None
    if last is None or last.rung != rung or last.settled_window_s is None:
        return None
    return Prior(window_s=last.settled_window_s, spread=DAY_SPREAD)


def rule_of(drill: Drill, kind: Kind) -> str:
    """The rule that a suggestion of this kind goes by, with the drill's own numbers."""
    progress = drill.progress
    in_row = "in the last run" if progress.runs == 1 else f"in {progress.runs} runs running"
    rules: dict[Kind, str] = {
        "start": "first run: from what is known",
        "next": f"next rung: goal met {in_row}, times within {progress.agree:g} of it",
        "less_help": f"less help before more speed: goal met {in_row}, every cue told ahead",
        "back": f"step back: window {progress.back:g} times the rung's start {in_row}",
        "gentler": f"gentler step: {FAR_RUNS} runs {FAR - 1:.0%} or more over the goal",
        "own_goal": f"a goal of their own: {FAR_RUNS} runs {FAR - 1:.0%} or more over the goal",
        "hold": "hold",
    }
    return rules[kind]


def _suggest(drill: Drill, runs: Sequence[RunEvidence]) -> Suggestion:
    if not runs:
        first = drill.rungs[0]
        own = "" if first.guide else " with its own window"
        return Suggestion("start", 1, first.window_s, f"No run yet: begin on rung 1{own}.")
    last = runs[-1]
    here = drill.rungs[last.rung - 1]
    if last.settled_window_s is None:
        return Suggestion("hold", last.rung, here.window_s, _no_evidence(last))
    same = [
        run
        for run in runs[-drill.progress.runs :]
        if run.rung == last.rung and run.settled_window_s is not None
    ]
    windows = [run.settled_window_s for run in same if run.settled_window_s is not None]
    shown = " and ".join(f"{window:.2f} s" for window in windows)
    enough = len(same) == drill.progress.runs
    runs_said = _runs_said(drill)
    if enough and _goal_met(drill, same) and _only_quicker(drill, last.rung):
        return Suggestion(
            "less_help",
            last.rung,
            round(last.settled_window_s, 2),
            f"The window settled at {shown} in {runs_said}, at or under the goal, with every cue "
            "told ahead: take that out of the rung before it only gets quicker.",
        )
    following = _following(drill, last.rung)
    if enough and following and _goal_met(drill, same):
        return Suggestion(
            "next",
            following,
            drill.rungs[following - 1].window_s,
            f"The window settled at {shown} in {runs_said}, at or under this rung's goal of "
            f"{here.goal_window_s:.2f} s, and the times agree.",
        )
    too_long = drill.progress.back * here.window_s
    if enough and last.rung > 1 and min(windows) >= too_long:
        return Suggestion(
            "back",
            last.rung - 1,
            drill.rungs[last.rung - 2].window_s,
            f"The window settled at {shown} in {runs_said}, {drill.progress.back - 1:.0%} or more "
            f"over the {here.window_s:.2f} s this rung starts with.",
        )
    far = _far(drill, runs)
    if far:
        return far
    share = f"{last.inside / last.of:.0%}".replace("%", " %")
    return Suggestion(
        "hold",
        last.rung,
        round(last.settled_window_s, 2),
        f"{share} of the last {last.of} answers were inside {last.settled_window_s:.2f} s; "
        + _why_hold(drill, last, len(same)),
    )


def _far(drill: Drill, runs: Sequence[RunEvidence]) -> Suggestion | None:
    """What is easier, for somebody who stays a good way over the goal and gets no quicker."""
    last = runs[-1]
    here = drill.rungs[last.rung - 1]
    same = runs[-FAR_RUNS:]
    windows = [run.settled_window_s for run in same if run.settled_window_s is not None]
    if len(windows) < FAR_RUNS or any(run.rung != last.rung for run in same):
        return None
    half = FAR_RUNS // 2
    quicker = math.prod(windows[half:]) < 0.96 * math.prod(windows[:half])
    if quicker or min(windows) < FAR * here.goal_window_s:
        return None
    reason = (
        f"The window has stayed at {min(windows):.2f} to {max(windows):.2f} s for {FAR_RUNS} runs, "
        f"over the goal of {here.goal_window_s:.2f} s: "
    )
    if last.rung > 1:
        before = drill.rungs[last.rung - 2]
        said = f"rung {last.rung - 1}, {before.name}, is the gentler step."
        return Suggestion("gentler", last.rung - 1, before.window_s, reason + said)
    following = _following(drill, last.rung)
    if following is None:
        return None
    window_s = round(max(drill.rungs[following - 1].window_s, windows[-1]), 2)
    said = "take what was reached as a goal of their own, and go on to the next rung."
    return Suggestion("own_goal", following, window_s, reason + said)


def _runs_said(drill: Drill) -> str:
    counts = ("run", "two runs", "three runs", "four runs", "five runs")
    return f"the last {counts[drill.progress.runs - 1]}"


def _only_quicker(drill: Drill, rung: int) -> bool:
    """Whether the rung announces its cues, and the one after it does so too."""
    announced = [
        step.lead_in is not None and step.lead_in.kind == "announce"
        for step in drill.rungs[rung - 1 : rung + 1]
    ]
    return all(announced)


def _goal_met(drill: Drill, runs: Sequence[RunEvidence]) -> bool:
    return all(
        run.settled_window_s is not None
        and run.quantile_s is not None
        and run.settled_window_s <= drill.rungs[run.rung - 1].goal_window_s
        and run.quantile_s <= drill.progress.agree * drill.rungs[run.rung - 1].goal_window_s
        for run in runs
    )


def _why_hold(drill: Drill, last: RunEvidence, runs_here: int) -> str:
    goal = drill.rungs[last.rung - 1].goal_window_s
    if _following(drill, last.rung) is None and _goal_met(drill, [last]):
        return "this is the last rung, and its goal is met."
    if _goal_met(drill, [last]):
        more = max(1, drill.progress.runs - runs_here)
        left = "one more run there" if more == 1 else f"{more} more runs there"
        return f"that meets the goal of {goal:.2f} s, and {left} leads to the next rung."
    return f"the goal of this rung is {goal:.2f} s."


def _no_evidence(last: RunEvidence) -> str:
    if last.answers and not last.answered:
        return "Nobody answered in the last run, so the window stays the same."
    count = f"Only {last.answers} answers counted in the last run"
    return f"{count}, too few answers yet: the window stays the same."


def _seconds(value_ms: float | None) -> float | None:
    return None if value_ms is None else value_ms / 1000
