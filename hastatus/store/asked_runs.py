"""Which runs a list is asked for."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement

from hastatus.store.models import PartnerRun, Run


@dataclass(frozen=True, slots=True)
class Asked:
    """student_id, drill_id: of whom, of which; None: of all. since, before: when they began.
    archived: those that were archived, instead of those that were not."""

    student_id: uuid.UUID | None = None
    drill_id: uuid.UUID | None = None
    since: datetime | None = None
    before: datetime | None = None
    archived: bool = False

    def conditions(self, table: type[Run | PartnerRun]) -> list[ColumnElement[bool]]:
        """What holds for such runs, but for whose they are."""
        away = table.archived_at.is_not(None) & table.deleted_at.is_(None)
        conditions: list[ColumnElement[bool]] = [
            away if self.archived else table.archived_at.is_(None)
        ]
        if self.drill_id:
            conditions.append(table.drill_id == self.drill_id)
        if self.since:
            conditions.append(table.started_at >= self.since)
        if self.before:
            conditions.append(table.started_at < self.before)
        return conditions


EVERY_RUN = Asked()
