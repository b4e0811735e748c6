"""until when nobody in a club's room touches anybody"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("clubs", sa.Column("no_touch_until", sa.DateTime(timezone=True), nullable=True))


def downgrade() -> None:
    op.drop_column("clubs", "no_touch_until")
