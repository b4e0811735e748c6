"""How much is done at home, and what is proposed: from what came back.

The rules are common practice put into numbers; no source.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final, Literal

from hastatus.core.drill.settings import MOST_ROUNDS
from hastatus.core.home.practice import HomeWord, Practice

IN_A_ROW: Final = 2
"""So many practices in a row that were too hard, or too easy, change the rounds."""
MOST_MORE: Final = 2
"""So many rounds more than asked for, at most."""


@dataclass(frozen=True, slots=True)
class Done:
    """A drill that was done at home. said: None: nothing. whole: all its rounds were done."""

    on: date
    said: HomeWord | None
    whole: bool


@dataclass(frozen=True, slots=True)
class Dose:
    """How many rounds come next, of how many asked for, and why they differ; empty: they do not."""

    rounds: int
    asked: int
    reason: str


def dose(asked: int, done: Sequence[Done], *, follows: bool) -> Dose:
    """The rounds of the next practice of a drill, from those before, oldest first."""
    change, row, last = 0, 0, None
    for one in done:
        row = row + 1 if one.said == last else 1
        last = one.said
        if row >= IN_A_ROW and last in ("too_easy", "too_hard"):
            change += 1 if last == "too_easy" else -1
            change = max(-((asked - 1) // 2), min(MOST_MORE, MOST_ROUNDS - asked, change))
            row = 0
    if not follows or change == 0:
        return Dose(asked, asked, "")
    why = "too hard" if change < 0 else "too easy"
    return Dose(asked + change, asked, f"{IN_A_ROW} in a row were {why}")


def within(minutes: int | None, rounds: Sequence[int], each_s: Sequence[float]) -> list[int]:
    """As many rounds of each drill as fit into `minutes`, one at least; the drill with the most
    loses first. each_s: seconds of a round of each with its rest."""
    left = list(rounds)
    if minutes is None:
        return left
    while _lasts_s(left, each_s) > minutes * 60 and max(left) > 1:
        left[left.index(max(left))] -= 1
    return left


def _lasts_s(rounds: Sequence[int], each_s: Sequence[float]) -> float:
    return sum(count * one_s for count, one_s in zip(rounds, each_s, strict=True))


@dataclass(frozen=True, slots=True)
class Week:
    """A week of practice, from Monday. days: on which something was done. asked: how many."""

    starts_on: date
    days: int
    asked: int


def weeks(practice: Practice, done: Iterable[date], today: date) -> list[Week]:
    """The weeks of a practice up to today, oldest first. A week that it does not fill asks for its
    share, rounded down, one day at least."""
    on = set(done)
    first = practice.starts_on - timedelta(days=practice.starts_on.weekday())
    result = []
    while first <= min(today, practice.ends_on):
        span = [first + timedelta(days=day) for day in range(7)]
        counted = [day for day in span if practice.starts_on <= day <= practice.ends_on]
        asked = max(1, practice.days * len(counted) // 7)
        result.append(Week(first, len(on.intersection(counted)), asked))
        first += timedelta(days=7)
    return result


@dataclass(frozen=True, slots=True)
class DoseProposal:
    """What is proposed for a practice, with its reason. days: a week; None: no number."""

    kind: Literal["fewer_days", "more_days", "easier", "harder"]
    words: str
    days: int | None = None


def proposal(
    practice: Practice, past: Sequence[Week], said: Sequence[HomeWord | None]
) -> DoseProposal | None:
    """What a coach may change: from the last two whole weeks and the last words, oldest first."""
    last, words = list(past[:-1])[-2:], list(said)[-6:]
    hard, easy = words.count("too_hard"), words.count("too_easy")
    if len(words) >= 4 and hard * 2 > len(words):
        return DoseProposal("easier", f"{hard} of the last {len(words)} were too hard: go easier")
    if len(last) == 2 and practice.days > 1 and all(one.days * 2 < one.asked for one in last):
        kept = sum(one.days for one in last)
        asked = sum(one.asked for one in last)
        fewer = max(1, round(kept / 2)) if kept else 1
        return DoseProposal(
            "fewer_days",
            f"{kept} of {asked} days kept in two weeks: ask for {_days(fewer)}",
            min(fewer, practice.days - 1),
        )
    if len(words) >= 4 and easy * 2 > len(words):
        return DoseProposal("harder", f"{easy} of the last {len(words)} were too easy: go harder")
    kept_all = len(last) == 2 and all(one.days > one.asked for one in last)
    if kept_all and practice.days < 7 and not hard:
        return DoseProposal(
            "more_days",
            f"more than asked for in two weeks: ask for {_days(practice.days + 1)}",
            practice.days + 1,
        )
    return None


def _days(count: int) -> str:
    return f"{count} day{'' if count == 1 else 's'} a week"
