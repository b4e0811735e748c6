"""How ready somebody is for contact: a ladder of five, and what each step comes to.

From a distance game over kicks on the guard, blocks only, and light and continuous work to free
work (common practice, no source). How ready or afraid one feels is asked before and after; where it
was too much, the gentler step is proposed. The coach chooses.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal, get_args

from hastatus.core.trade.contact import Contact

Readiness = Literal["distance", "on_guard", "blocks", "light", "free"]
Word = Literal["too_much", "right", "too_easy"]
READINESS_NAMES: Final[dict[Readiness, str]] = {
    "distance": "distance game",
    "on_guard": "together, on the guard",
    "blocks": "blocks only",
    "light": "light and continuous",
    "free": "free",
}
WORD_NAMES: Final[dict[Word, str]] = {
    "too_much": "too much", "right": "right", "too_easy": "too easy",
}  # fmt: skip
STEPS: Final[tuple[Readiness, ...]] = get_args(Readiness)
"""The gentlest first."""
GATES: Final[dict[Readiness, Contact]] = {
    "distance": "none",
    "on_guard": "touch",
    "blocks": "touch",
    "light": "light",
    "free": "firm",
}
"""The hardest contact that each step takes part in."""
AFRAID = 3
"""Of 0 to 10: who feels no readier than this is asked about a gentler step."""
SURE = 7


@dataclass(frozen=True, slots=True)
class StepProposal:
    """Another step of the ladder for somebody, and why, in words."""

    readiness: Readiness
    why: str


def step_proposal(
    now: Readiness, before: int | None, after: int | None, words: tuple[Word, ...]
) -> StepProposal | None:
    """The step that is proposed after an evening; None: they stay where they are. before, after:
    how ready they felt, 0 to 10, None: not said. words: what they said of the blocks."""
    place = STEPS.index(now)
    much, easy = words.count("too_much"), words.count("too_easy")
    felt = after if after is not None else before
    if place and (much > easy or (felt is not None and felt <= AFRAID)):
        why = _said("too much", much) if much > easy else f"felt {felt} of 10"
        return StepProposal(STEPS[place - 1], f"{why}: a gentler step")
    if place + 1 < len(STEPS) and easy > much and felt is not None and felt >= SURE:
        why = f"{_said('too easy', easy)}, felt {felt} of 10"
        return StepProposal(STEPS[place + 1], f"{why}: one step on")
    return None


def _said(word: str, times: int) -> str:
    return f"“{word}”" if times == 1 else f"“{word}” {times} times"
