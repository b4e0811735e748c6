"""films of runs, and where the phones stand that film"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "camera_places",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        _time("created_at"),
        _time("changed_at"),
        sa.Column("removed_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_camera_places_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_camera_places")),
    )
    op.create_table(
        "films",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("run_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("size", sa.BigInteger(), nullable=False),
        sa.Column("received", sa.BigInteger(), server_default="0", nullable=False),
        sa.Column("place_id", sa.Uuid(), nullable=True),
        sa.Column("state", sa.Text(), server_default="coming", nullable=False),
        sa.Column("progress", sa.Double(), server_default="0", nullable=False),
        sa.Column("said", sa.Text(), server_default="", nullable=False),
        sa.Column("facts", postgresql.JSONB(astext_type=sa.Text()), nullable=True),
        sa.Column("reading", postgresql.JSONB(astext_type=sa.Text()), nullable=True),
        sa.Column("made_by", sa.Uuid(), nullable=False),
        _time("created_at"),
        sa.Column("read_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("file_gone_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("removed_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint(
            "state IN ('coming', 'here', 'waiting', 'reading', 'read', 'refused')",
            name=op.f("ck_films_state"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "made_by"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_films_club_id_made_by"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "place_id"],
            ["camera_places.club_id", "camera_places.id"],
            name=op.f("fk_films_club_id_place_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "run_id"],
            ["runs.club_id", "runs.id"],
            name=op.f("fk_films_club_id_run_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_films")),
    )
    op.create_index("ix_films_run", "films", ["club_id", "run_id"], unique=False)


def _time(name: str) -> sa.Column[object]:
    return sa.Column(
        name, sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False
    )


def downgrade() -> None:
    op.drop_index("ix_films_run", table_name="films")
    op.drop_table("films")
    op.drop_table("camera_places")
