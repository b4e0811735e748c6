"""a kept state for the marks of each partner run, and results of those that are closed"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, UUID

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    of_run = ["club_id", "run_id"]
    run = ["partner_runs.club_id", "partner_runs.id"]
    op.create_table(
        "mark_folds",
        sa.Column("club_id", UUID(), nullable=False),
        sa.Column("run_id", UUID(), nullable=False),
        sa.Column("state", JSONB(), nullable=True),
        sa.Column("highest", sa.Integer(), nullable=False, server_default="-1"),
        sa.Column("marks", sa.Integer(), nullable=False, server_default="0"),
        sa.PrimaryKeyConstraint(*of_run, name="pk_mark_folds"),
        sa.ForeignKeyConstraint(of_run, run, name="fk_mark_folds_club_id_run_id"),
    )
    op.create_table(
        "partner_results",
        sa.Column("club_id", UUID(), nullable=False),
        sa.Column("run_id", UUID(), nullable=False),
        sa.Column("body", JSONB(), nullable=False),
        sa.PrimaryKeyConstraint(*of_run, name="pk_partner_results"),
        sa.ForeignKeyConstraint(of_run, run, name="fk_partner_results_club_id_run_id"),
    )
    # Folded from its batches when the next one comes.
    op.execute("INSERT INTO mark_folds (club_id, run_id) SELECT club_id, id FROM partner_runs")


def downgrade() -> None:
    op.drop_table("partner_results")
    op.drop_table("mark_folds")
