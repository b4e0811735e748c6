"""the bench: words, techniques, assets, spoken calls, tags, chains in responses"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    _words()
    _assets()
    op.add_column(
        "drills",
        sa.Column("tags", postgresql.JSONB(), server_default="[]", nullable=False),
    )
    op.add_column("drills", sa.Column("archived_at", sa.DateTime(timezone=True)))
    op.alter_column("drills", "created_at", server_default=sa.text("clock_timestamp()"))
    for column in (
        sa.Column("timed_by", sa.Text(), server_default="answer", nullable=False),
        sa.Column("offset_ms", sa.Double(), server_default="0", nullable=False),
        sa.Column("own_window", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("steps", postgresql.JSONB(), server_default="[]", nullable=False),
    ):
        op.add_column("responses", column)


def _words() -> None:
    op.create_table(
        "club_words",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("pack", sa.Text(), server_default="plain", nullable=False),
        sa.Column("renames", postgresql.JSONB(), server_default="{}", nullable=False),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_club_words_club_id")),
        sa.PrimaryKeyConstraint("club_id", name=op.f("pk_club_words")),
    )
    op.create_table(
        "club_techniques",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("key", sa.Text(), nullable=False),
        sa.Column("document", postgresql.JSONB(), nullable=False),
        sa.Column("removed_at", sa.DateTime(timezone=True)),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_club_techniques_club_id")),
        sa.PrimaryKeyConstraint("club_id", "key", name=op.f("pk_club_techniques")),
    )


def _assets() -> None:
    op.create_table(
        "assets",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("media_type", sa.Text(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("length_s", sa.Double()),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.CheckConstraint("kind IN ('sound', 'picture', 'clip')", name=op.f("ck_assets_kind")),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_assets_club_id")),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_assets")),
    )
    op.create_table(
        "technique_notes",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("technique", sa.Text(), nullable=False),
        sa.Column("right_way", sa.Text(), server_default="", nullable=False),
        sa.Column("usual_fault", sa.Text(), server_default="", nullable=False),
        sa.Column("asset_id", sa.Text()),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_technique_notes_club_id")),
        sa.ForeignKeyConstraint(
            ["club_id", "asset_id"],
            ["assets.club_id", "assets.id"],
            name=op.f("fk_technique_notes_club_id_asset_id"),
        ),
        sa.PrimaryKeyConstraint("club_id", "technique", name=op.f("pk_technique_notes")),
    )
    op.create_table(
        "spoken_clips",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("digest", sa.Text(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("length_s", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(["club_id"], ["clubs.id"], name=op.f("fk_spoken_clips_club_id")),
        sa.PrimaryKeyConstraint("club_id", "digest", name=op.f("pk_spoken_clips")),
    )


def downgrade() -> None:
    for column in ("steps", "own_window", "offset_ms", "timed_by"):
        op.drop_column("responses", column)
    op.alter_column("drills", "created_at", server_default=sa.text("now()"))
    op.drop_column("drills", "archived_at")
    op.drop_column("drills", "tags")
    for table in ("spoken_clips", "technique_notes", "assets", "club_techniques", "club_words"):
        op.drop_table(table)
