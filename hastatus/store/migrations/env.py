"""Alembic's entry: runs on the connection it is given, inside the caller's transaction."""

from alembic import context

from hastatus.store.models import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True)
with context.begin_transaction():
    context.run_migrations()
