"""an index from which a student's runs of a drill are found"""

from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    columns = ["club_id", "drill_id", "student_id", "started_at"]
    op.create_index("ix_runs_drill", "runs", columns)


def downgrade() -> None:
    op.drop_index("ix_runs_drill", "runs")
