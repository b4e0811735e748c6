"""an index from which a student's runs are counted"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index(
        "ix_runs_answered",
        "runs",
        ["club_id", "student_id"],
        postgresql_where=sa.text(
            "coalesce((figures #>> '{evidence,answered}')::integer, 0) > 0 OR figures IS NULL"
        ),
    )


def downgrade() -> None:
    op.drop_index("ix_runs_answered", "runs")
