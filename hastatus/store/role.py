"""The role that the application works as: it owns its database and may do nothing else."""

from __future__ import annotations

import psycopg
from psycopg import sql

DATABASE = "hastatus"
ROLE = "hastatus_app"


def settle(server: str, password: str) -> None:
    """Make the role and its database where there are none, and give it what is another's.

    server: address of the server as its superuser, without a database. A cluster of an earlier
    version, in which the superuser owned everything, is mended so.
    """
    with psycopg.connect(f"{server}/postgres", connect_timeout=2, autocommit=True) as connection:
        if not _one(connection, "SELECT 1 FROM pg_roles WHERE rolname = %s", ROLE):
            connection.execute(f"CREATE ROLE {ROLE} LOGIN")
        connection.execute(
            sql.SQL("ALTER ROLE {} PASSWORD {}").format(sql.Identifier(ROLE), sql.Literal(password))
        )
        owner = _one(
            connection,
            "SELECT rolname FROM pg_database JOIN pg_roles ON pg_roles.oid = datdba"
            " WHERE datname = %s",
            DATABASE,
        )
        if owner == ROLE:
            return
        if owner is None:
            connection.execute(f"CREATE DATABASE {DATABASE} OWNER {ROLE}")
            return
    with psycopg.connect(f"{server}/{DATABASE}", connect_timeout=2) as connection:
        connection.execute(_HAND_OVER)
        connection.execute(f"ALTER DATABASE {DATABASE} OWNER TO {ROLE}")


def _one(connection: psycopg.Connection, query: str, value: str) -> str | None:
    row = connection.execute(query, (value,)).fetchone()
    return None if row is None else str(row[0])


_HAND_OVER = f"""
DO $$
DECLARE
    each record;
BEGIN
    FOR each IN
        SELECT format('ALTER TABLE %s OWNER TO {ROLE}', oid::regclass) AS statement
        FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind IN ('r', 'p')
        UNION ALL
        SELECT format('ALTER SEQUENCE %s OWNER TO {ROLE}', oid::regclass)
        FROM pg_class AS sequences
        WHERE relnamespace = 'public'::regnamespace AND relkind = 'S' AND NOT EXISTS (
            SELECT FROM pg_depend WHERE objid = sequences.oid AND deptype IN ('a', 'i'))
        UNION ALL
        SELECT format('ALTER ROUTINE %s OWNER TO {ROLE}', oid::regprocedure)
        FROM pg_proc WHERE pronamespace = 'public'::regnamespace
    LOOP
        EXECUTE each.statement;
    END LOOP;
END $$
"""
