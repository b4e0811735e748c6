"""first schema"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "attempts",
        sa.Column("id", sa.Integer(), sa.Identity(always=False), nullable=False),
        sa.Column("subject", sa.LargeBinary(), nullable=False),
        sa.Column(
            "at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_attempts")),
    )
    op.create_index("ix_attempts_subject_at", "attempts", ["subject", "at"], unique=False)
    op.create_table(
        "clubs",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_clubs")),
    )
    op.create_table(
        "coaches",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("login", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("role", sa.Text(), nullable=False),
        sa.Column("password_hash", sa.Text(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint("role IN ('owner', 'coach')", name=op.f("ck_coaches_role")),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_coaches_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_coaches")),
        sa.UniqueConstraint("login", name=op.f("uq_coaches_login")),
    )
    op.create_table(
        "drills",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_drills_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_drills")),
    )
    op.create_table(
        "students",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("stance", sa.Text(), nullable=False),
        sa.Column("notes", sa.Text(), server_default="", nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint(
            "stance IN ('left_lead', 'right_lead')", name=op.f("ck_students_stance")
        ),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_students_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_students")),
    )
    op.create_table(
        "drill_versions",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("drill_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("schema_version", sa.Integer(), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "drill_id"],
            ["drills.club_id", "drills.id"],
            name=op.f("fk_drill_versions_club_id_drill_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "drill_id", "number", name=op.f("pk_drill_versions")),
    )
    op.create_table(
        "ladder_choices",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("drill_id", sa.Uuid(), nullable=False),
        sa.Column("coach_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("rung", sa.Integer(), nullable=False),
        sa.Column("window_s", sa.Double(), nullable=False),
        sa.Column("suggested", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column(
            "at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False
        ),
        sa.CheckConstraint("kind IN ('taken', 'by_hand')", name=op.f("ck_ladder_choices_kind")),
        sa.ForeignKeyConstraint(
            ["club_id", "coach_id"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_ladder_choices_club_id_coach_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "drill_id"],
            ["drills.club_id", "drills.id"],
            name=op.f("fk_ladder_choices_club_id_drill_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "student_id"],
            ["students.club_id", "students.id"],
            name=op.f("fk_ladder_choices_club_id_student_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_ladder_choices")),
    )
    op.create_index(
        "ix_ladder_choices_student", "ladder_choices", ["club_id", "student_id", "at"], unique=False
    )
    op.create_table(
        "ladder_states",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("drill_id", sa.Uuid(), nullable=False),
        sa.Column("rung", sa.Integer(), nullable=False),
        sa.Column("window_s", sa.Double(), nullable=False),
        sa.Column(
            "updated_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "drill_id"],
            ["drills.club_id", "drills.id"],
            name=op.f("fk_ladder_states_club_id_drill_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "student_id"],
            ["students.club_id", "students.id"],
            name=op.f("fk_ladder_states_club_id_student_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "student_id", "drill_id", name=op.f("pk_ladder_states")),
    )
    op.create_table(
        "sign_ins",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("coach_id", sa.Uuid(), nullable=False),
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("device", sa.Text(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.Column(
            "seen_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False
        ),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("revoked_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["club_id", "coach_id"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_sign_ins_club_id_coach_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_sign_ins")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_sign_ins_token_hash")),
    )
    op.create_table(
        "runs",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("student_id", sa.Uuid(), nullable=False),
        sa.Column("drill_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("coach_id", sa.Uuid(), nullable=False),
        sa.Column("recorder", sa.Uuid(), nullable=False),
        sa.Column("plan", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("device", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("rung", sa.Integer(), nullable=False),
        sa.Column(
            "started_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.Column("closed_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("scoring_version", sa.Integer(), nullable=True),
        sa.Column("figures", postgresql.JSONB(astext_type=sa.Text()), nullable=True),
        sa.ForeignKeyConstraint(
            ["club_id", "coach_id"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_runs_club_id_coach_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "drill_id", "version"],
            ["drill_versions.club_id", "drill_versions.drill_id", "drill_versions.number"],
            name=op.f("fk_runs_club_id_drill_id_version"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "student_id"],
            ["students.club_id", "students.id"],
            name=op.f("fk_runs_club_id_student_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_runs")),
    )
    op.create_index("ix_runs_started", "runs", ["club_id", "started_at"], unique=False)
    op.create_index(
        "ix_runs_student", "runs", ["club_id", "student_id", "started_at"], unique=False
    )
    op.create_table(
        "event_batches",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("run_id", sa.Uuid(), nullable=False),
        sa.Column("recorder", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("payload_hash", sa.LargeBinary(), nullable=False),
        sa.Column("event_version", sa.Integer(), nullable=False),
        sa.Column("body", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column(
            "received_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "run_id"],
            ["runs.club_id", "runs.id"],
            name=op.f("fk_event_batches_club_id_run_id"),
        ),
        sa.PrimaryKeyConstraint(
            "club_id", "run_id", "recorder", "number", name=op.f("pk_event_batches")
        ),
    )
    op.create_table(
        "responses",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("run_id", sa.Uuid(), nullable=False),
        sa.Column("round", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("slot", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("cue", sa.Text(), nullable=False),
        sa.Column("channel", sa.Text(), nullable=False),
        sa.Column("asked_technique", sa.Text(), nullable=True),
        sa.Column("asked_side", sa.Text(), nullable=True),
        sa.Column("at_s", sa.Double(), nullable=False),
        sa.Column("onset_ms", sa.Double(), nullable=False),
        sa.Column("window_ms", sa.Double(), nullable=False),
        sa.Column("outcome", sa.Text(), nullable=False),
        sa.Column("time_ms", sa.Double(), nullable=True),
        sa.Column("censored_ms", sa.Double(), nullable=True),
        sa.Column("given_technique", sa.Text(), nullable=True),
        sa.Column("given_side", sa.Text(), nullable=True),
        sa.Column("gap_ms", sa.Double(), nullable=True),
        sa.Column("left_out", sa.Text(), nullable=True),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("source", sa.Text(), nullable=False),
        sa.Column("spread_ms", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(
            ["club_id", "run_id"],
            ["runs.club_id", "runs.id"],
            name=op.f("fk_responses_club_id_run_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "run_id", "round", "slot", name=op.f("pk_responses")),
    )
    op.create_table(
        "run_folds",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("run_id", sa.Uuid(), nullable=False),
        sa.Column("state", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("highest", sa.Integer(), server_default="-1", nullable=False),
        sa.Column("complete", sa.Boolean(), server_default="false", nullable=False),
        sa.ForeignKeyConstraint(
            ["club_id", "run_id"],
            ["runs.club_id", "runs.id"],
            name=op.f("fk_run_folds_club_id_run_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "run_id", name=op.f("pk_run_folds")),
    )
    op.execute(
        """
        CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN RAISE EXCEPTION '% is append-only', TG_TABLE_NAME; END $$
        """
    )
    for table in ("drill_versions", "event_batches", "ladder_choices"):
        op.execute(
            f"CREATE TRIGGER append_only BEFORE UPDATE ON {table} "
            "FOR EACH ROW EXECUTE FUNCTION refuse_change()"
        )


def downgrade() -> None:
    op.drop_table("run_folds")
    op.drop_table("responses")
    op.drop_table("event_batches")
    op.drop_index("ix_runs_student", table_name="runs")
    op.drop_index("ix_runs_started", table_name="runs")
    op.drop_table("runs")
    op.drop_table("sign_ins")
    op.drop_table("ladder_states")
    op.drop_index("ix_ladder_choices_student", table_name="ladder_choices")
    op.drop_table("ladder_choices")
    op.drop_table("drill_versions")
    op.drop_table("students")
    op.drop_table("drills")
    op.drop_table("coaches")
    op.drop_table("clubs")
    op.drop_index("ix_attempts_subject_at", table_name="attempts")
    op.drop_table("attempts")
    op.execute("DROP FUNCTION refuse_change()")
