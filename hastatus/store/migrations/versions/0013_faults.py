"""faults of a club's own and of solo runs; what partner runs amount to is worked out again"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("clubs", sa.Column("faults", JSONB(), server_default="[]", nullable=False))
    op.add_column("runs", sa.Column("faults", JSONB(), server_default="[]", nullable=False))
    op.execute("UPDATE partner_runs SET figures = NULL")
    op.execute("DELETE FROM partner_results")


def downgrade() -> None:
    op.drop_column("runs", "faults")
    op.drop_column("clubs", "faults")
