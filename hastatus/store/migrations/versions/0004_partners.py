"""partner drills: limbs, gear and contact of a student; partner runs, marks, head knocks"""

from datetime import datetime

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
    _runs()
    _students_of_runs()
    _marks()
    _head_knocks()


def _runs() -> None:
    op.create_table(
        "partner_runs",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("drill_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("coach_id", sa.Uuid(), nullable=False),
        sa.Column("recorder", sa.Uuid(), nullable=False),
        sa.Column("rung", sa.Integer(), nullable=False),
        sa.Column("sheet", postgresql.JSONB(), nullable=False),
        sa.Column("agreement", postgresql.JSONB(), nullable=False),
        _time("started_at"),
        sa.Column("closed_at", sa.DateTime(timezone=True)),
        sa.ForeignKeyConstraint(
            ["club_id", "drill_id", "version"],
            ["drill_versions.club_id", "drill_versions.drill_id", "drill_versions.number"],
            name=op.f("fk_partner_runs_club_id_drill_id_version"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "coach_id"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_partner_runs_club_id_coach_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_partner_runs")),
    )
    op.create_index("ix_partner_runs_started", "partner_runs", ["club_id", "started_at"])


def _students_of_runs() -> None:
    op.create_table(
        "partner_run_students",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("run_id", sa.Uuid(), nullable=False),
        sa.Column("place", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        _of_run("partner_run_students"),
        _of_student("partner_run_students"),
        sa.PrimaryKeyConstraint("club_id", "run_id", "place", name=op.f("pk_partner_run_students")),
    )
    op.create_index(
        "ix_partner_run_students_student", "partner_run_students", ["club_id", "student_id"]
    )


def _marks() -> None:
    op.create_table(
        "mark_batches",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("run_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("payload_hash", sa.LargeBinary(), nullable=False),
        sa.Column("mark_version", sa.Integer(), nullable=False),
        sa.Column("body", postgresql.JSONB(), nullable=False),
        _time("received_at"),
        _of_run("mark_batches"),
        sa.PrimaryKeyConstraint("club_id", "run_id", "number", name=op.f("pk_mark_batches")),
    )
    op.execute(
        "CREATE TRIGGER append_only BEFORE UPDATE ON mark_batches "
        "FOR EACH ROW EXECUTE FUNCTION refuse_change()"
    )


def _head_knocks() -> None:
    op.create_table(
        "head_knocks",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("run_id", sa.Uuid()),
        _time("at"),
        sa.Column("clearance", sa.Text()),
        sa.Column("cleared_at", sa.DateTime(timezone=True)),
        sa.Column("cleared_by", sa.Uuid()),
        _of_student("head_knocks"),
        sa.ForeignKeyConstraint(
            ["club_id", "cleared_by"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_head_knocks_club_id_cleared_by"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_head_knocks")),
    )
    op.create_index("ix_head_knocks_student", "head_knocks", ["club_id", "student_id"])


def _time(name: str) -> sa.Column[datetime]:
    return sa.Column(name, sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False)


def _of_run(table: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(
        ["club_id", "run_id"],
        ["partner_runs.club_id", "partner_runs.id"],
        name=op.f(f"fk_{table}_club_id_run_id"),
    )


def _of_student(table: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(
        ["club_id", "student_id"],
        ["students.club_id", "students.id"],
        name=op.f(f"fk_{table}_club_id_student_id"),
    )


def downgrade() -> None:
    for table in ("head_knocks", "mark_batches", "partner_run_students", "partner_runs"):
        op.drop_table(table)
    op.drop_constraint(op.f("ck_students_contact"), "students")
    for name in ("contact", "gear", "leg_m", "arm_m", "height_m"):
        op.drop_column("students", name)
