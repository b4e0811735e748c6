"""coaches who leave, and links by which somebody becomes one or sets a new password"""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("coaches", sa.Column("removed_at", sa.DateTime(timezone=True)))
    op.create_table(
        "invitations",
        sa.Column("club_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("role", sa.Text(), nullable=False),
        sa.Column("coach_id", sa.Uuid()),
        sa.Column("made_by", sa.Uuid(), nullable=False),
        sa.Column(
            "created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True)),
        sa.Column("revoked_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint("role IN ('owner', 'coach')", name=op.f("ck_invitations_role")),
        sa.ForeignKeyConstraint(
            ["club_id", "coach_id"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_invitations_club_id_coach_id"),
        ),
        sa.ForeignKeyConstraint(
            ["club_id", "made_by"],
            ["coaches.club_id", "coaches.id"],
            name=op.f("fk_invitations_club_id_made_by"),
        ),
        sa.PrimaryKeyConstraint("club_id", "id", name=op.f("pk_invitations")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_invitations_token_hash")),
    )


def downgrade() -> None:
    op.drop_table("invitations")
    op.drop_column("coaches", "removed_at")
