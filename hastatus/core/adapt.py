"""In-run controllers: the answer window follows the student.

Both move the logarithm of the window, so a step is a share of it.

- *weighted* up-down (Kaernbach 1991, Perception & Psychophysics 49:227): harder by S_h after a
  clean answer, easier by S_e after any other; it settles where p·S_h = (1 − p)·S_e.
- *n-down* (Levitt 1971, J. Acoust. Soc. Am. 49:467): harder after n clean answers in a row, easier
  after any other, equal steps; it settles at a clean share of 0.5^(1/n).

With a share ε of lapses the window that is met with probability p is the p/(1 − ε) quantile of the
response times. No answers at all say nothing about speed, so the window then holds.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from hastatus.core.drill import Pace
from hastatus.core.response import Response

SILENT_AFTER = 3
"""Missed cues in a row after which further ones say that nobody is answering."""

_FIRST_BOOST = 4.0
_BOOST_FADES = 10.0
"""The first steps are larger by `_FIRST_BOOST`, fading by a factor e every `_BOOST_FADES` cues."""


@dataclass(slots=True)
class ControllerState:
    """Where the controller stands.

    window_s: the window for the next cue that is not yet committed. folded: outcomes taken in.
    clean_row: clean answers in a row (n-down). missed_row: misses in a row. answered: whether any
    cue has been answered at all. holding: the window holds because nobody answers.
    """

    window_s: float
    folded: int = 0
    clean_row: int = 0
    missed_row: int = 0
    answered: bool = False
    holding: bool = False


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
    fold_outcome(state, pace, clean=response.outcome == "clean")


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
    window = state.window_s * math.exp(move)
    state.window_s = min(max(window, pace.least_s), pace.most_s)
