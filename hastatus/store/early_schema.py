"""Databases made by an early form of a migration: what that form left out is made up for.

Three migrations were changed after they had been out. A database that had been through one of them
by then calls itself up to date and lacks what came in later, so that the next one fails on it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import sqlalchemy as sa
from alembic import op
from alembic.operations import Operations
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Inspector
from sqlalchemy.dialects.postgresql import JSONB


@dataclass(frozen=True, slots=True)
class Early:
    """What a migration left out at first. add: is given the migration as it is now."""

    revision: str
    is_missing: Callable[[Inspector], bool]
    add: Callable[[Any], None]


def mend(connection: Connection, script: ScriptDirectory, revision: str | None) -> list[str]:
    """Add what is missing to a database of `revision`; return the revisions that were mended."""
    mended = []
    with Operations.context(MigrationContext.configure(connection)):
        for addition in EARLY:
            if revision is None or revision < addition.revision:
                continue
            if addition.is_missing(sa.inspect(connection)):
                addition.add(script.get_revision(addition.revision).module)
                mended.append(addition.revision)
    return mended


def _lacks(table: str, column: str) -> Callable[[Inspector], bool]:
    def is_missing(schema: Inspector) -> bool:
        return column not in {get_column["name"] for get_column in schema.get_columns(table)}

    return is_missing


def _add_simulated_runs(_: Any) -> None:
    op.add_column(
        "runs", sa.Column("simulated", sa.Boolean(), server_default="false", nullable=False)
    )
    op.create_index(
        "ix_runs_tests",
        "runs",
        ["club_id", "started_at"],
        postgresql_where=sa.text("jsonb_typeof(figures -> 'baseline') = 'object'"),
        if_not_exists=True,
    )


def _add_partner_runs(migration: Any) -> None:
    migration._runs()
    migration._students_of_runs()
    migration._marks()
    migration._head_knocks()


def _add_stands(_: Any) -> None:
    op.add_column("partner_runs", sa.Column("stands", JSONB()))
    op.add_column("partner_runs", sa.Column("stands_at", sa.DateTime(timezone=True)))


EARLY = (
    Early("0003", _lacks("runs", "simulated"), _add_simulated_runs),
    Early("0004", lambda schema: not schema.has_table("partner_runs"), _add_partner_runs),
    Early("0005", _lacks("partner_runs", "stands"), _add_stands),
)
"""In the order in which they came."""
