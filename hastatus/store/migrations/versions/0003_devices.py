"""devices and what was measured on them; what timed an answer, leaving home and being back"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "devices",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("profile", postgresql.JSONB(), nullable=False),
        sa.Column(
            "updated_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_devices_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_devices")),
    )
    for column in (
        sa.Column("timed_with", sa.Text()),
        sa.Column("reaction_ms", sa.Double()),
        sa.Column("home_ms", sa.Double()),
    ):
        op.add_column("responses", column)
    op.create_index(
        "ix_runs_tests",
        "runs",
        ["club_id", "started_at"],
        postgresql_where=sa.text("jsonb_typeof(figures -> 'baseline') = 'object'"),
    )
    op.add_column(
        "runs", sa.Column("simulated", sa.Boolean(), server_default="false", nullable=False)
    )


def downgrade() -> None:
    op.drop_column("runs", "simulated")
    op.drop_index("ix_runs_tests", "runs")
    for column in ("home_ms", "reaction_ms", "timed_with"):
        op.drop_column("responses", column)
    op.drop_table("devices")
