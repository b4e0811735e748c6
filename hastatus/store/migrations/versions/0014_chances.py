"""what partner runs amount to has chances by answer: it is worked out again"""

from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute("UPDATE partner_runs SET figures = NULL")
    op.execute("DELETE FROM partner_results")


def downgrade() -> None:
    op.execute("UPDATE partner_runs SET figures = NULL")
    op.execute("DELETE FROM partner_results")
