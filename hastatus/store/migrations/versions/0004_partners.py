"""what a partner drill needs to know of a student: limbs, gear, contact"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name in ("height_m", "arm_m", "leg_m"):
        op.add_column("students", sa.Column(name, sa.Double()))
    op.add_column(
        "students", sa.Column("gear", postgresql.JSONB(), server_default="[]", nullable=False)
    )
    op.add_column(
        "students", sa.Column("contact", sa.Text(), server_default="touch", nullable=False)
    )
    op.create_check_constraint(
        op.f("ck_students_contact"), "students", "contact IN ('none', 'touch', 'light', 'firm')"
    )


def downgrade() -> None:
    op.drop_constraint(op.f("ck_students_contact"), "students")
    for name in ("contact", "gear", "leg_m", "arm_m", "height_m"):
        op.drop_column("students", name)
