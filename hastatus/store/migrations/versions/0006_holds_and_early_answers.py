"""holds that were cut short, and answers that were struck before the cue, too"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "responses",
        sa.Column("holds", postgresql.JSONB(), server_default="[]", nullable=False),
    )
    op.add_column("responses", sa.Column("before_ms", sa.Double()))


def downgrade() -> None:
    op.drop_column("responses", "before_ms")
    op.drop_column("responses", "holds")
