"""The starter drills: a new club has them all, and is offered those that come with a newer version.

A drill is known by its form and title: whatever became of it, one of its versions has the
starter's.
"""

from __future__ import annotations

import uuid
from collections.abc import Collection
from functools import cache

from sqlalchemy.orm import Session

from hastatus.core.starter import STARTERS
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.store import drills


@cache
def all_starters() -> tuple[drills.Document, ...]:
    """Every starter drill, solo drills first."""
    return (
        *(make() for make in STARTERS.values()),
        *(make() for make in PARTNER_STARTERS.values()),
    )


@cache
def _written() -> tuple[drills.Written, ...]:
    return tuple(drills.written(starter) for starter in all_starters())


def add_all(db: Session, club_id: uuid.UUID) -> None:
    """Give a new club what every club starts with."""
    drills.add_all(db, club_id, _written())


def offered(db: Session, club_id: uuid.UUID) -> list[drills.Document]:
    """The starter drills that the club has never had."""
    had = drills.had(db, club_id)
    return [starter for starter in all_starters() if (starter.form, starter.title) not in had]


def take(db: Session, club_id: uuid.UUID, titles: Collection[str], *, archived: bool) -> None:
    """Add those of the offered drills that have these titles; archived: put away from the start.

    The same again, also at the same moment, adds nothing.
    """
    for starter in offered(db, club_id):
        if starter.title in titles:
            drill_id = uuid.uuid5(club_id, f"starter {starter.form} {starter.title}")
            drill = drills.add(db, club_id, starter, drill_id=drill_id)
            if archived:
                drills.mark(db, drill, tags=None, archived=True)
