"""What is assigned for home: drills, how often, how long, until when."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import date, timedelta
from typing import Annotated, Final, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from hastatus.core.drill.settings import MOST_ROUNDS
from hastatus.core.fields import Document, Line

HomeWord = Literal["too_easy", "right", "too_hard"]
"""What somebody says of a drill that they have just done at home."""
HOME_WORD_NAMES: Final[dict[HomeWord, str]] = {
    "too_easy": "too easy", "right": "right", "too_hard": "too hard",
}  # fmt: skip
LONGEST = timedelta(days=366)
AHEAD = 10
"""So many practices are planned ahead: a week without a connection, and some more."""


class Piece(Document):
    """A drill of a practice. rounds: how many; None: as many as its rung has."""

    drill_id: uuid.UUID
    rounds: Annotated[int, Field(ge=1, le=MOST_ROUNDS)] | None = None


class Practice(Document):
    """What somebody practises at home.

    pieces: drills that are done in one go, in another order each time. days: how many days a week.
    minutes: that one go lasts at most; None: as long as it takes. starts_on, ends_on: first and
    last day. follows: rounds become fewer or more with what is said of them. sound_only: lights are
    left out.
    """

    title: Line
    pieces: Annotated[tuple[Piece, ...], Field(min_length=1, max_length=8)]
    days: Annotated[int, Field(ge=1, le=7)] = 3
    minutes: Annotated[int, Field(ge=2, le=60)] | None = None
    starts_on: date
    ends_on: date
    follows: bool = True
    sound_only: bool = False

    @model_validator(mode="after")
    def _is_a_while(self) -> Self:
        if not self.starts_on <= self.ends_on <= self.starts_on + LONGEST:
            raise ValueError("the last day comes after the first, within a year")
        drills = [piece.drill_id for piece in self.pieces]
        if len(set(drills)) < len(drills):
            raise ValueError("a drill stands there once; give it more rounds instead")
        return self


def order(guided: Sequence[bool], seed: int, number: int) -> list[int]:
    """The places of the pieces in the order of practice `number`: what is counted or held comes
    first, as a warm-up; the others in another order than the time before, where there are several.

    guided: whether each piece is counted or held.
    """
    led = [place for place, is_led in enumerate(guided) if is_led]
    free = [place for place, is_led in enumerate(guided) if not is_led]
    row = list(free)
    for turn in range(1, number + 1):
        before = row
        row = [free[place] for place in np.random.default_rng((seed, turn)).permutation(len(free))]
        if row == before and len(row) > 1:
            row = [*row[1:], row[0]]
    return led + row
