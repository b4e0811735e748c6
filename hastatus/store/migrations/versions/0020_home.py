"""practice at home; a second factor at sign-in; the log of who did what"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "audit_entries",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column(
            "at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False
        ),
        sa.Column("coach_id", sa.Uuid(), nullable=True),
        sa.Column("what", sa.Text(), nullable=False),
        sa.Column("about", sa.Uuid(), nullable=True),
        sa.Column("request_id", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["club_id", "coach_id"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_audit_entries_club_id_coach_id"),
        ),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_audit_entries_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_audit_entries")),
    )
    op.create_index("ix_audit_entries_at", "audit_entries", ["club_id", "at"], unique=False)
    op.create_table(
        "home_links",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("made_by", sa.Uuid(), nullable=False),
        sa.Column("guardian", sa.Text(), server_default="", nullable=False),
        sa.Column("guardian_on", sa.Date(), nullable=True),
        sa.Column("sound_only", sa.Boolean(), server_default="false", nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("revoked_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("seen_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["club_id", "made_by"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_home_links_club_id_made_by"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "student_id"],
            ["students.club_id", "students.id"],
            name=op.f("fk_home_links_club_id_student_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_home_links")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_home_links_token_hash")),
    )
    op.create_index("ix_home_links_student", "home_links", ["club_id", "student_id"], unique=False)
    op.create_table(
        "practices",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("coach_id", sa.Uuid(), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("ends_on", sa.Date(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["club_id", "coach_id"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_practices_club_id_coach_id"),
        ),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_practices_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_practices")),
    )
    op.create_table(
        "practice_students",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("practice_id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("days", sa.Integer(), nullable=True),
        sa.Column("removed_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["club_id", "practice_id"],
            ["practices.club_id", "practices.id"],
            name=op.f("fk_practice_students_club_id_practice_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "student_id"],
            ["students.club_id", "students.id"],
            name=op.f("fk_practice_students_club_id_student_id"),
        ),
        sa.PrimaryKeyConstraint(
            "club_id", "practice_id", "student_id", name=op.f("pk_practice_students")
        ),
    )
    op.create_index(
        "ix_practice_students_student", "practice_students", ["club_id", "student_id"], unique=False
    )
    op.create_table(
        "planned_runs",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("practice_id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("drill_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("rung", sa.Integer(), nullable=False),
        sa.Column("window_s", sa.Double(), nullable=False),
        sa.Column("rounds", sa.Integer(), nullable=False),
        sa.Column("asked", sa.Integer(), nullable=False),
        sa.Column("reason", sa.Text(), server_default="", nullable=False),
        sa.Column("plan", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "drill_id", "version"],
            ["drill_versions.club_id", "drill_versions.drill_id", "drill_versions.number"],
            name=op.f("fk_planned_runs_club_id_drill_id_version"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "practice_id", "student_id"],
            [
                "practice_students.club_id",
                "practice_students.practice_id",
                "practice_students.student_id",
            ],
            name=op.f("fk_planned_runs_club_id_practice_id_student_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_planned_runs")),
    )
    op.create_index(
        "ix_planned_runs_number",
        "planned_runs",
        ["club_id", "student_id", "practice_id", "number"],
        unique=False,
    )
    op.create_table(
        "home_runs",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("planned_id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("link_id", sa.Uuid(), nullable=False),
        sa.Column("measured", sa.Boolean(), nullable=False),
        sa.Column("started_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("rounds", sa.Integer(), server_default="0", nullable=False),
        sa.Column("said", sa.Text(), nullable=True),
        sa.Column("finished", sa.Boolean(), server_default="false", nullable=False),
        sa.CheckConstraint(
            "said IN ('too_easy', 'right', 'too_hard')", name=op.f("ck_home_runs_said")
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "link_id"],
            ["home_links.club_id", "home_links.id"],
            name=op.f("fk_home_runs_club_id_link_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "planned_id"],
            ["planned_runs.club_id", "planned_runs.id"],
            name=op.f("fk_home_runs_club_id_planned_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "student_id"],
            ["students.club_id", "students.id"],
            name=op.f("fk_home_runs_club_id_student_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_home_runs")),
    )
    op.create_index("ix_home_runs_planned", "home_runs", ["club_id", "planned_id"], unique=False)
    op.create_index(
        "ix_home_runs_student", "home_runs", ["club_id", "student_id", "started_at"], unique=False
    )
    op.add_column("coaches", sa.Column("totp_secret", sa.Text(), nullable=True))
    op.add_column("coaches", sa.Column("totp_since", sa.DateTime(timezone=True), nullable=True))
    op.add_column("coaches", sa.Column("totp_step", sa.BigInteger(), nullable=True))
    op.add_column(
        "coaches",
        sa.Column(
            "spare_codes",
            postgresql.JSONB(astext_type=sa.Text()),
            server_default="[]",
            nullable=False,
        ),
    )


def downgrade() -> None:

    op.drop_column("coaches", "spare_codes")
    op.drop_column("coaches", "totp_step")
    op.drop_column("coaches", "totp_since")
    op.drop_column("coaches", "totp_secret")
    op.drop_index("ix_home_runs_student", table_name="home_runs")
    op.drop_index("ix_home_runs_planned", table_name="home_runs")
    op.drop_table("home_runs")
    op.drop_index("ix_planned_runs_number", table_name="planned_runs")
    op.drop_table("planned_runs")
    op.drop_index("ix_practice_students_student", table_name="practice_students")
    op.drop_table("practice_students")
    op.drop_table("practices")
    op.drop_index("ix_home_links_student", table_name="home_links")
    op.drop_table("home_links")
    op.drop_index("ix_audit_entries_at", table_name="audit_entries")
    op.drop_table("audit_entries")
