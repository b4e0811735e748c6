"""A club's database put back from a backup.

What is restored stands beside what was there until all of it has been looked at; whatever goes
wrong before that leaves the database as it was.
"""

from __future__ import annotations

import subprocess
import threading
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import IO

import psycopg

from hastatus.server.backup import CHUNK, DUMP, Manifest, address_of, one_of, rows_of
from hastatus.server.cluster import last_line, programs
from hastatus.server.progress import Progress
from hastatus.store.database import StoreError

ASIDE = "before_restore"
"""The schema in which what was there stands until what is restored has been looked at."""

Say = Callable[[str], None]


def has_club(url: str) -> bool:
    """Whether there is anything in the database at `url` that a restore would replace."""
    with psycopg.connect(url, connect_timeout=5) as connection:
        if one_of(connection, "SELECT to_regclass('public.clubs')") is None:
            return False
        return one_of(connection, "SELECT 1 FROM public.clubs LIMIT 1") is not None


def restore(url: str, source: Path, manifest: Manifest, say: Say) -> None:
    """Put what `source` has in the place of what the database at `url` has.

    manifest: as `read` gave it. Raises `StoreError`; then the database is as it was.
    """
    try:
        _restore(url, source, manifest, say)
    except psycopg.Error as error:
        raise StoreError(f"the backup could not be restored: {last_line(str(error))}") from error


def _restore(url: str, source: Path, manifest: Manifest, say: Say) -> None:
    with psycopg.connect(url, connect_timeout=5, autocommit=True) as connection:
        _check_alone(connection)
        if connection.info.server_version // 10_000 < manifest.postgresql:
            raise StoreError(
                f"the backup is from PostgreSQL {manifest.postgresql}, which is newer than the one "
                f"here; install postgresql-{manifest.postgresql} first"
            )
        _put_back(connection)
        with connection.transaction():
            connection.execute(f"ALTER SCHEMA public RENAME TO {ASIDE}")
            connection.execute("CREATE SCHEMA public")
        try:
            _load(url, source, manifest, say)
            _check_rows(connection, manifest)
        except BaseException:
            _put_back(connection)
            raise
        connection.execute(f"DROP SCHEMA {ASIDE} CASCADE")


def put_back(url: str) -> bool:
    """Put back what was there before a restore that did not come to its end; whether it had to.

    Nothing is done while somebody else works on the database: a restore may be on. Raises
    `StoreError` where the database cannot be reached.
    """
    try:
        with psycopg.connect(url, connect_timeout=5, autocommit=True) as connection:
            return not _others(connection) and _put_back(connection)
    except psycopg.OperationalError as error:
        raise StoreError(f"cannot reach the database: {last_line(str(error))}") from error


def _put_back(connection: psycopg.Connection) -> bool:
    query = f"SELECT 1 FROM pg_namespace WHERE nspname = '{ASIDE}'"
    if one_of(connection, query) is None:
        return False
    with connection.transaction():
        connection.execute("DROP SCHEMA IF EXISTS public CASCADE")
        connection.execute(f"ALTER SCHEMA {ASIDE} RENAME TO public")
    return True


def _others(connection: psycopg.Connection) -> int:
    """How many others work on the database."""
    query = (
        "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database()"
        " AND pid <> pg_backend_pid() AND backend_type = 'client backend'"
    )
    return int(one_of(connection, query) or 0)


def _check_alone(connection: psycopg.Connection) -> None:
    if _others(connection):
        raise StoreError("Hastatus is running on this database; stop it first (Ctrl-C)")


def _load(url: str, source: Path, manifest: Manifest, say: Say) -> None:
    """Have pg_restore read the dump, all of it or nothing."""
    bare, secret = address_of(url)
    process = subprocess.Popen(
        [
            programs() / "pg_restore", "--single-transaction", "--exit-on-error", "--no-owner",
            "--no-privileges", "--schema=public", f"--dbname={bare}",
        ],
        stdin=subprocess.PIPE,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.PIPE,
        env=secret,
    )  # fmt: skip
    assert process.stdin is not None
    assert process.stderr is not None
    words: list[bytes] = []
    listener = threading.Thread(target=lambda: words.extend(process.stderr or []))
    listener.start()
    with zipfile.ZipFile(source) as file, file.open(DUMP) as entry:
        _pump(entry, process.stdin, Progress("restore", manifest.dump_bytes, say))
    listener.join()
    if process.wait():
        said = b"".join(words).decode(errors="replace")
        raise StoreError(f"the backup could not be restored: {last_line(said)}")


def _pump(entry: IO[bytes], into: IO[bytes], progress: Progress) -> None:
    done = 0
    try:
        while chunk := entry.read(CHUNK):
            into.write(chunk)
            done += len(chunk)
            progress.at(done)
        into.close()
    except BrokenPipeError:
        pass  # it has ended, and says why


def _check_rows(connection: psycopg.Connection, manifest: Manifest) -> None:
    rows = rows_of(connection)
    if rows != manifest.tables:
        names = sorted(rows.keys() | manifest.tables.keys())
        other = [name for name in names if rows.get(name) != manifest.tables.get(name)]
        raise StoreError(f"not all rows came back ({', '.join(other[:3])}); nothing was changed")
