"""runs and students may be archived and deleted; two students who are one may be merged

Runs that ended without an answer count for nothing and are archived, so that lists are rid of them;
what is counted or held has no answers, and stays.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None

_EMPTY = """
    UPDATE runs SET archived_at = now()
    FROM drill_versions AS versions
    WHERE versions.club_id = runs.club_id AND versions.drill_id = runs.drill_id
      AND versions.number = runs.version
      AND coalesce((runs.figures #>> '{evidence,answered}')::integer, 0) = 0
      AND (runs.closed_at IS NOT NULL OR (runs.figures ->> 'complete')::boolean)
      AND runs.faults = '[]'
      AND coalesce(
          jsonb_typeof(versions.document -> 'rungs' -> (runs.rung - 1) -> 'guide'), 'null'
      ) = 'null'
"""


def upgrade() -> None:
    for table in ("runs", "partner_runs"):
        op.add_column(table, sa.Column("archived_at", sa.DateTime(timezone=True)))
        op.add_column(table, sa.Column("deleted_at", sa.DateTime(timezone=True)))
        op.add_column(table, sa.Column("away_by", sa.Uuid()))
    op.add_column("students", sa.Column("deleted_at", sa.DateTime(timezone=True)))
    op.add_column("students", sa.Column("merged_into", sa.Uuid()))
    op.add_column("students", sa.Column("merged", postgresql.JSONB()))
    op.execute(_EMPTY)


def downgrade() -> None:
    for table in ("runs", "partner_runs"):
        for column in ("archived_at", "deleted_at", "away_by"):
            op.drop_column(table, column)
    for column in ("deleted_at", "merged_into", "merged"):
        op.drop_column("students", column)
