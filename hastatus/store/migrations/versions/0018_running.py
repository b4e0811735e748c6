"""a class that runs: its clock, marks of its pairs, codes for phones; templates; incidents"""

from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql
from sqlalchemy.schema import SchemaItem

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

_TABLES = ("class_acts", "pair_marks", "evening_templates", "incidents")


def _moment(name: str, *, given: bool = False) -> sa.Column[datetime]:
    default = None if given else sa.func.now()
    return sa.Column(name, sa.DateTime(timezone=True), server_default=default, nullable=False)


def _of_evening(table: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(
        ["club_id", "evening_id"],
        ["evenings.club_id", "evenings.id"],
        name=op.f(f"fk_{table}_club_id_evening_id"),
    )


def _kept(table: str) -> list[SchemaItem]:
    """What acts and marks have in common."""
    return [
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("evening_id", sa.Uuid(), nullable=False),
        sa.Column("document", postgresql.JSONB(), nullable=False),
        _moment("at", given=True),
        sa.Column("coach_id", sa.Uuid()),
        _moment("received_at"),
        _of_evening(table),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f(f"pk_{table}")),
    ]


def upgrade() -> None:
    op.add_column(
        "students", sa.Column("readiness", sa.Text(), server_default="free", nullable=False)
    )
    op.create_check_constraint(
        op.f("ck_students_readiness"),
        "students",
        "readiness IN ('distance', 'on_guard', 'blocks', 'light', 'free')",
    )
    op.add_column(
        "evenings", sa.Column("changes", sa.BigInteger(), server_default="0", nullable=False)
    )
    op.add_column("attendances", sa.Column("code", sa.Text()))
    op.create_index("ix_attendances_code", "attendances", ["code"], unique=True)
    op.create_table("class_acts", *_kept("class_acts"))
    op.create_index("ix_class_acts_evening", "class_acts", ["club_id", "evening_id"])
    op.create_table("pair_marks", *_kept("pair_marks"))
    op.create_index("ix_pair_marks_evening", "pair_marks", ["club_id", "evening_id"])
    op.create_table(
        "evening_templates",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("plan", postgresql.JSONB(), nullable=False),
        _moment("created_at"),
        sa.ForeignKeyConstraint(
            ["club_id"], ["clubs.id"], name=op.f("fk_evening_templates_club_id")
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_evening_templates")),
    )
    op.create_table(
        "incidents",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("amends", sa.Uuid()),
        _moment("happened_at", given=True),
        sa.Column("students", postgresql.JSONB(), nullable=False),
        sa.Column("what", sa.Text(), nullable=False),
        sa.Column("done", sa.Text(), nullable=False),
        sa.Column("cleared_by", sa.Text(), nullable=False),
        sa.Column("coach_id", sa.Uuid()),
        _moment("written_at"),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_incidents_club_id")),
        sa.ForeignKeyConstraint(
            ["club_id", "amends"],
            ["incidents.club_id", "incidents.id"],
            name=op.f("fk_incidents_club_id_amends"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_incidents")),
    )
    op.create_index("ix_incidents_happened", "incidents", ["club_id", "happened_at"])


def downgrade() -> None:
    for table in reversed(_TABLES):
        op.drop_table(table)
    op.drop_index("ix_attendances_code", "attendances")
    op.drop_column("attendances", "code")
    op.drop_column("evenings", "changes")
    op.drop_constraint(op.f("ck_students_readiness"), "students")
    op.drop_column("students", "readiness")
