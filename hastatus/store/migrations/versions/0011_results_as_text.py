"""what the marks of a partner run amount to, as the text that is read and sent"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.alter_column("partner_results", "body", type_=sa.Text(), postgresql_using="body::text")


def downgrade() -> None:
    op.alter_column("partner_results", "body", type_=JSONB(), postgresql_using="body::jsonb")
