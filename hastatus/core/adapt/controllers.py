"""In-run controllers: the answer window follows the student. The coach chooses the school.

- *measured*: the window that the measured times say is met with the target probability (see
  `speed`); it needs about a quarter of the cues that the others do.
- *weighted* up-down (Kaernbach 1991, Perception & Psychophysics 49:227): harder by S_h after a
  clean answer, easier by S_e after any other; it settles where p·S_h = (1 − p)·S_e.
- *n-down* (Levitt 1971, J. Acoust. Soc. Am. 49:467): harder after n clean answers in a row, easier
  after any other, equal steps; it settles at a clean share of 0.5^(1/n).
- *rounds*: it holds in the round, and steps between rounds: harder when the share was reached.
- *hold*: by hand; it stays as set.

The last four move the logarithm of the window, so a step is a share of it.

With a share ε of lapses the window that is met with probability p is the p/(1 − ε) quantile of the
response times. No answers at all say nothing about speed, so the window then holds.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from hastatus.core.adapt import window_belief
from hastatus.core.drill.solo import Pace
from hastatus.core.plan.prior import Prior
from hastatus.core.score.response import Response

SILENT_AFTER = 3
"""Missed cues in a row after which further ones say that nobody is answering."""

ENOUGH = 30
"""Cues after which a share of wrong and missed ones says something."""

ROUND_STEPS = 5
"""A step between rounds is this many small steps: there are few rounds."""

_FIRST_BOOST = 4.0
_BOOST_FADES = 10.0
"""The first steps are larger by `_FIRST_BOOST`, fading by a factor e every `_BOOST_FADES` cues."""


@dataclass(slots=True)
class ControllerState:
    """Where the controller stands.

    window_s: the window for the next cue that is not yet committed. folded: outcomes taken in.
    clean_row: clean answers in a row (n-down). missed_row: misses in a row. answered: whether any
    cue has been answered at all. holding: the window holds because nobody answers.
    taken: what the measured rule rests on. round, round_clean, round_of: the round that is being
    counted, for steps between rounds.
    """

    window_s: float
    folded: int = 0
    clean_row: int = 0
    missed_row: int = 0
    answered: bool = False
    holding: bool = False
    taken: list[window_belief.TimedOutcome] = field(default_factory=list)
    round: int = 0
    round_clean: int = 0
    round_of: int = 0


def step(pace: Pace, folded: int) -> tuple[float, float]:
    """Harder and easier step on the log window after `folded` outcomes."""
    size = pace.step * (1.0 + (_FIRST_BOOST - 1.0) * math.exp(-folded / _BOOST_FADES))
    if pace.rule == "n_down":
        return size, size
    return size, size * pace.target / (1.0 - pace.target)


def counts(response: Response) -> bool:
    """Whether a response moves the window: trusted, and to a cue that the run's window held for."""
    return (
        response.left_out is None
        and response.asked_technique is not None
        and not response.own_window
    )


def follow(state: ControllerState, pace: Pace, response: Response) -> None:
    """Take one response into the controller, in place."""
    if not counts(response):
        return
    if response.outcome == "missed":
        state.missed_row += 1
        state.holding = not state.answered or state.missed_row > SILENT_AFTER
        if state.holding:
            return
    else:
        state.missed_row, state.answered, state.holding = 0, True, False
    if pace.rule == "measured":
        take_measured(state, taken(response))
    elif pace.rule == "rounds":
        _count_round(state, pace, response)
    else:
        fold_outcome(state, pace, clean=response.outcome == "clean")


def mark(state: ControllerState, pace: Pace) -> float:
    """A number that changes whenever the window may have; measured windows settle later."""
    return state.folded if pace.rule == "measured" else state.window_s


def settle(state: ControllerState, pace: Pace, prior: Prior) -> None:
    """Bring the window of the measured rule up to all that has been taken in.

    prior: what was believed before the run. Apart from `follow`, since it takes longer and a run
    that is scored afresh needs it once.
    """
    if pace.rule != "measured" or not state.taken:
        return
    window = window_belief.window_s(state.taken, pace.target, prior)
    if window is not None:
        state.window_s = min(max(window, pace.least_s), pace.most_s)


def out_of_reach(pace: Pace, responses: Sequence[Response]) -> str | None:
    """Why no window would be met with the target probability, or None.

    Wrong answers and those that never came do not depend on the window. Too few cues say nothing,
    nor do those that came when nobody answered any more.
    """
    if pace.rule == "hold":
        return None
    moving, missed_row = list[Response](), 0
    for response in filter(counts, responses):
        missed_row = missed_row + 1 if response.outcome == "missed" else 0
        if missed_row <= SILENT_AFTER:
            moving.append(response)
    if len(moving) < ENOUGH:
        return None
    missed = sum(response.outcome == "missed" for response in moving) / len(moving)
    wrong = sum(response.outcome in ("wrong", "jumped") for response in moving) / len(moving)
    if missed + wrong <= 1 - pace.target:
        return None
    parts = [
        f"{100 * share:.0f} % are {what}"
        for share, what in ((missed, "never answered"), (wrong, "answered wrong or too soon"))
        if share >= 0.005
    ]
    return f"{100 * pace.target:.0f} % clean cannot be reached at any speed: {', '.join(parts)}."


def taken(response: Response) -> window_belief.TimedOutcome:
    """What a response says about speed."""
    if response.right_ms is not None:
        return window_belief.TimedOutcome(response.right_ms - response.offset_ms, True)
    if response.outcome == "missed" and response.censored_ms is not None:
        return window_belief.TimedOutcome(response.censored_ms - response.offset_ms, False)
    return window_belief.TimedOutcome(None, False)


def take_measured(state: ControllerState, answer: window_belief.TimedOutcome) -> None:
    """Keep what a cue says about speed."""
    state.folded += 1
    state.taken.append(answer)
    del state.taken[: -window_belief.KEPT]


def _count_round(state: ControllerState, pace: Pace, response: Response) -> None:
    if response.round != state.round:
        if state.round_of:
            reached = state.round_clean >= pace.target * state.round_of
            _move(state, pace, ROUND_STEPS * (-pace.step if reached else pace.step))
        state.round, state.round_clean, state.round_of = response.round, 0, 0
    state.folded += 1
    state.round_of += 1
    state.round_clean += response.outcome == "clean"


def fold_outcome(state: ControllerState, pace: Pace, *, clean: bool) -> None:
    """Move the window by one outcome, within the pace's bounds."""
    if pace.rule == "hold":
        state.folded += 1
        return
    harder, easier = step(pace, state.folded)
    state.folded += 1
    move = easier
    if clean:
        state.clean_row += 1
        due = pace.rule == "weighted" or state.clean_row >= pace.n
        move = -harder if due else 0.0
    if not clean or move:
        state.clean_row = 0
    _move(state, pace, move)


def _move(state: ControllerState, pace: Pace, move: float) -> None:
    """Move the log window, within the pace's bounds."""
    window = state.window_s * math.exp(move)
    state.window_s = min(max(window, pace.least_s), pace.most_s)
