"""whether a club blurs heads in the films that it keeps, and in which that is done"""

import sqlalchemy as sa
from alembic import op

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "clubs", sa.Column("film_blur", sa.Boolean(), server_default="false", nullable=False)
    )
    op.add_column("films", sa.Column("blurred_at", sa.DateTime(timezone=True), nullable=True))


def downgrade() -> None:
    op.drop_column("films", "blurred_at")
    op.drop_column("clubs", "film_blur")
