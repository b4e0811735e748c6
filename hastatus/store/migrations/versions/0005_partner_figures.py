"""partner runs: figures for lists, where a round stands; head knocks taken back"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("partner_runs", sa.Column("figures", postgresql.JSONB()))
    op.add_column("partner_runs", sa.Column("stands", postgresql.JSONB()))
    op.add_column("partner_runs", sa.Column("stands_at", sa.DateTime(timezone=True)))
    op.add_column("head_knocks", sa.Column("taken_back_at", sa.DateTime(timezone=True)))


def downgrade() -> None:
    op.drop_column("head_knocks", "taken_back_at")
    op.drop_column("partner_runs", "stands_at")
    op.drop_column("partner_runs", "stands")
    op.drop_column("partner_runs", "figures")
