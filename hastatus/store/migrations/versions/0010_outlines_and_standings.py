"""outlines of drills and standings of students, kept for the lists"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB, UUID

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    of_version = ["club_id", "drill_id", "number"]
    op.create_table(
        "drill_outlines",
        sa.Column("club_id", UUID(), nullable=False),
        sa.Column("drill_id", UUID(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("body", JSONB(), nullable=False),
        sa.PrimaryKeyConstraint(*of_version, name="pk_drill_outlines"),
        sa.ForeignKeyConstraint(
            of_version,
            [f"drill_versions.{each}" for each in of_version],
            name="fk_drill_outlines_club_id_drill_id_number",
            ondelete="CASCADE",
        ),
    )
    of_student = ["club_id", "student_id"]
    op.create_table(
        "student_standings",
        sa.Column("club_id", UUID(), nullable=False),
        sa.Column("student_id", UUID(), nullable=False),
        sa.Column("mark", sa.Text(), nullable=False),
        sa.Column("drill_id", UUID(), nullable=True),
        sa.Column("drill_version", sa.Integer(), nullable=True),
        sa.Column("body", JSONB(), nullable=False),
        sa.PrimaryKeyConstraint(*of_student, name="pk_student_standings"),
        sa.ForeignKeyConstraint(
            of_student,
            ["students.club_id", "students.id"],
            name="fk_student_standings_club_id_student_id",
            ondelete="CASCADE",
        ),
    )
    op.create_table(
        "derivations",
        sa.Column("rules", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("rules", name="pk_derivations"),
    )


def downgrade() -> None:
    op.drop_table("derivations")
    op.drop_table("student_standings")
    op.drop_table("drill_outlines")
