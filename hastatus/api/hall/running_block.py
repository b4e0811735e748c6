"""A block of an evening, loaded as it runs."""

from __future__ import annotations

from sqlalchemy.orm import Session

from hastatus.api.hall import models as hall_models
from hastatus.api.hall.class_members import find_block
from hastatus.api.hall.evenings import find_evening
from hastatus.api.http.session import db
from hastatus.core.hall.block_plan import BlockPlan
from hastatus.core.hall.class_clock import ClassClock, class_clock
from hastatus.core.hall.evening import Block
from hastatus.store import class_runs, drills, evenings
from hastatus.store import models as rows


def asked_block(path: hall_models.BlockPath) -> tuple[rows.Evening, BlockPlan]:
    """The block that an address names, as it runs, and its evening. Raises `Problem` (404)."""
    row = find_evening(path)
    _, block = find_block(row, path)
    return row, running_block(db(), row, block, class_clock(class_runs.acts(db(), row)))


def running_block(
    session: Session, row: rows.Evening, block: Block, clock: ClassClock
) -> BlockPlan:
    """A block as it runs: with the drill's version and the waves that it was begun with, or that it
    would be begun with now, and its groups."""
    act = clock.begun.get(block.key)
    version = None
    if block.drill_id is not None:
        version = drills.version(session, row.club_id, block.drill_id, act.version if act else None)
    kept = evenings.groups(session, row).get(block.key)
    return BlockPlan(
        evening_id=row.id,
        block=block,
        drill=drills.read_any(version) if version else None,
        version=version.number if version else None,
        waves=act.waves if act else 1,
        clock=clock,
        groups=[tuple(group) for group in kept.groups] if kept else [],
    )
