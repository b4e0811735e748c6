"""what coaches have corrected in the readings of films"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "film_corrections",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("film_id", sa.Uuid(), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("made_by", sa.Uuid(), nullable=False),
        sa.Column(
            "created_at",
            sa.DateTime(timezone=True),
            server_default=sa.text("now()"),
            nullable=False,
        ),
        sa.Column("taken_back_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["club_id", "film_id"],
            ["films.club_id", "films.id"],
            name=op.f("fk_film_corrections_club_id_film_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "made_by"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_film_corrections_club_id_made_by"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_film_corrections")),
    )
    op.create_index(
        "ix_film_corrections_film", "film_corrections", ["club_id", "film_id"], unique=False
    )


def downgrade() -> None:
    op.drop_index("ix_film_corrections_film", table_name="film_corrections")
    op.drop_table("film_corrections")
