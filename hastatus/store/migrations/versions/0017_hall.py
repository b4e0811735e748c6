"""evenings, who is on them, and who works with whom; what else a coach knows of a student"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

_KNOWN = {"level": "new", "senses": "", "spares": "", "consent": "not_needed"}


def upgrade() -> None:
    for column, default in _KNOWN.items():
        op.add_column(
            "students", sa.Column(column, sa.Text(), server_default=default, nullable=False)
        )
    op.create_check_constraint(
        op.f("ck_students_level"), "students", "level IN ('new', 'settled', 'advanced')"
    )
    op.create_check_constraint(
        op.f("ck_students_consent"), "students", "consent IN ('not_needed', 'needed', 'given')"
    )
    op.create_table(
        "evenings",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("plan", postgresql.JSONB(), nullable=False),
        sa.Column("edit", sa.Integer(), server_default="1", nullable=False),
        sa.Column("starts_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column(
            "created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.Column("deleted_at", sa.DateTime(timezone=True)),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_evenings_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_evenings")),
    )
    op.create_index("ix_evenings_starts", "evenings", ["club_id", "starts_at"])
    op.create_table(
        "attendances",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("evening_id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("came_at", sa.DateTime(timezone=True)),
        sa.Column("left_at", sa.DateTime(timezone=True)),
        sa.Column("no_touch", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("gear", postgresql.JSONB()),
        sa.Column("ready_before", sa.Integer()),
        sa.Column("ready_after", sa.Integer()),
        sa.CheckConstraint(
            "ready_before BETWEEN 0 AND 10", name=op.f("ck_attendances_ready_before")
        ),
        sa.CheckConstraint("ready_after BETWEEN 0 AND 10", name=op.f("ck_attendances_ready_after")),
        sa.ForeignKeyConstraint(
            ["club_id", "evening_id"],
            ["evenings.club_id", "evenings.id"],
            name=op.f("fk_attendances_club_id_evening_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "student_id"],
            ["students.club_id", "students.id"],
            name=op.f("fk_attendances_club_id_student_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "evening_id", "student_id", name=op.f("pk_attendances")),
    )
    op.create_table(
        "block_groups",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("evening_id", sa.Uuid(), nullable=False),
        sa.Column("block", sa.Text(), nullable=False),
        sa.Column("groups", postgresql.JSONB(), nullable=False),
        sa.Column("edit", sa.Integer(), server_default="1", nullable=False),
        sa.ForeignKeyConstraint(
            ["club_id", "evening_id"],
            ["evenings.club_id", "evenings.id"],
            name=op.f("fk_block_groups_club_id_evening_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "evening_id", "block", name=op.f("pk_block_groups")),
    )


def downgrade() -> None:
    for table in ("block_groups", "attendances", "evenings"):
        op.drop_table(table)
    for constraint in ("level", "consent"):
        op.drop_constraint(op.f(f"ck_students_{constraint}"), "students")
    for column in _KNOWN:
        op.drop_column("students", column)
