"""films of partner runs, and how long a club keeps its films"""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("clubs", sa.Column("film_days", sa.Integer(), server_default="1", nullable=False))
    op.alter_column("films", "run_id", existing_type=sa.Uuid(), nullable=True)
    op.add_column("films", sa.Column("partner_run_id", sa.Uuid(), nullable=True))
    op.add_column("films", sa.Column("left_place", sa.Integer(), nullable=True))
    op.create_foreign_key(
        op.f("fk_films_club_id_partner_run_id"),
        "films",
        "partner_runs",
        ["club_id", "partner_run_id"],
        ["club_id", "id"],
    )
    op.create_check_constraint(
        op.f("ck_films_run"), "films", "(run_id IS NULL) <> (partner_run_id IS NULL)"
    )
    op.create_index("ix_films_pair", "films", ["club_id", "partner_run_id"], unique=False)


def downgrade() -> None:
    op.execute("DELETE FROM films WHERE run_id IS NULL")
    op.drop_index("ix_films_pair", table_name="films")
    op.drop_constraint(op.f("ck_films_run"), "films", type_="check")
    op.drop_constraint(op.f("fk_films_club_id_partner_run_id"), "films", type_="foreignkey")
    op.drop_column("films", "left_place")
    op.drop_column("films", "partner_run_id")
    op.alter_column("films", "run_id", existing_type=sa.Uuid(), nullable=False)
    op.drop_column("clubs", "film_days")
