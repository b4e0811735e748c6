"""Answer models of the sheets of all pairs, for paper."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel


class SheetLine(BaseModel):
    """An exchange on paper. at_s: from the start of the round. calls: one after another."""

    at_s: float
    feeder: str
    calls: list[str]
    tell: Literal["big", "plain", "trimmed"]
    counter: bool


class SheetRound(BaseModel):
    round: int
    rung: str
    lines: list[SheetLine]


class PairSheet(BaseModel):
    names: list[str]
    rounds: list[SheetRound]


class PairSheets(BaseModel):
    """Every pair's feed sheet of a block."""

    title: str
    drill: str
    pairs: list[PairSheet]
