"""A short way to say which schools a starter follows."""

from __future__ import annotations

from hastatus.core.drill.header import Followed
from hastatus.core.trade.schools import QUESTIONS, Question, school


def follows(*lines: str) -> tuple[Followed, ...]:
    """From "question school", for example "announce said"; why is the school's usual reason.

    Raises KeyError for one that there is not.
    """
    followed = []
    for line in lines:
        asked, key = line.split()
        question: Question = next(known for known in QUESTIONS if known == asked)
        one = school(question, key)
        if one is None:
            raise KeyError(line)
        followed.append(Followed(question=question, follows=key, why=one.why))
    return tuple(followed)
