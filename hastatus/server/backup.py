"""A club's whole database in one file, and back again.

The file is a ZIP with two entries: `database.dump`, written by PostgreSQL's own pg_dump in its
custom format, and `hastatus.json`, which says what it is: schema, rows of each table, length and
SHA-256 of the dump. What is restored stands beside what was there until all of it has been looked
at; whatever goes wrong before that leaves the database as it was.
"""

from __future__ import annotations

import hashlib
import os
import subprocess
import threading
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Literal, NamedTuple

import psycopg
from psycopg import sql
from pydantic import BaseModel, ValidationError
from sqlalchemy import URL, make_url

from hastatus.server.cluster import last_line, programs
from hastatus.server.progress import Progress
from hastatus.store import database
from hastatus.store.database import StoreError

DUMP, MANIFEST = "database.dump", "hastatus.json"
ASIDE = "before_restore"
"""The schema in which what was there stands until what is restored has been looked at."""
_CHUNK = 2**20
_LOOK_EVERY_S = 1.0

Say = Callable[[str], None]


class Manifest(BaseModel):
    """What a backup says of itself. postgresql: major version; tables: rows by name."""

    product: Literal["hastatus"] = "hastatus"
    format: Literal[1] = 1
    made_at: datetime
    schema_revision: str
    postgresql: int
    tables: dict[str, int]
    dump_bytes: int
    dump_sha256: str


class _Snapshot(NamedTuple):
    """The database at one moment. key: by which pg_dump sees the same."""

    key: str
    schema_revision: str
    postgresql: int
    tables: dict[str, int]


def write(url: str, target: Path, say: Say) -> Manifest:
    """Write a backup of the database at `url` to `target`, which only its owner may read.

    A file that is there is replaced once the new one is whole. Raises `StoreError`.
    """
    part = target.with_name(f"{target.name}.part")
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        part.touch(mode=0o600)
        part.chmod(0o600)
        manifest = _write(url, part, say)
        with part.open("rb") as written:
            os.fsync(written.fileno())
        part.replace(target)
    except OSError as error:
        raise StoreError(f"the backup {target} cannot be written: {error.strerror}") from error
    except psycopg.OperationalError as error:
        raise StoreError(f"cannot reach the database: {last_line(str(error))}") from error
    finally:
        with suppress(OSError):
            part.unlink()
    return manifest


def _write(url: str, part: Path, say: Say) -> Manifest:
    with _snapshot(url) as seen, zipfile.ZipFile(part, "w", zipfile.ZIP_STORED) as file:
        digest, length = hashlib.sha256(), 0
        with file.open(DUMP, "w", force_zip64=True) as entry:
            for chunk in _dumped(url, seen, say):
                digest.update(chunk)
                length += len(chunk)
                entry.write(chunk)
        manifest = Manifest(
            made_at=datetime.now(UTC),
            schema_revision=seen.schema_revision,
            postgresql=seen.postgresql,
            tables=seen.tables,
            dump_bytes=length,
            dump_sha256=digest.hexdigest(),
        )
        file.writestr(MANIFEST, manifest.model_dump_json(indent=1))
    return manifest


@contextmanager
def _snapshot(url: str) -> Iterator[_Snapshot]:
    """The database as it is now, for as long as this lasts."""
    with psycopg.connect(url, connect_timeout=5) as connection:
        connection.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        revision = _one(connection, "SELECT version_num FROM alembic_version")
        yield _Snapshot(
            key=str(_one(connection, "SELECT pg_export_snapshot()")),
            schema_revision=str(revision),
            postgresql=connection.info.server_version // 10_000,
            tables=_rows(connection),
        )


def _rows(connection: psycopg.Connection) -> dict[str, int]:
    """Rows of each table, by name."""
    names = connection.execute(
        "SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY tablename"
    ).fetchall()
    count = sql.SQL("SELECT count(*) FROM public.{}")
    return {
        name: int(_one(connection, count.format(sql.Identifier(name))) or 0) for (name,) in names
    }


def _one(connection: psycopg.Connection, query: str | sql.Composed) -> str | int | None:
    row = connection.execute(query).fetchone()
    return None if row is None else row[0]


def _dumped(url: str, seen: _Snapshot, say: Say) -> Iterator[bytes]:
    """The dump, piece by piece."""
    bare, secret = _address(url)
    process = subprocess.Popen(
        [
            programs() / "pg_dump", "--format=custom", "--no-owner", "--no-privileges", "--verbose",
            "--schema=public", f"--snapshot={seen.key}", bare,
        ],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        env=secret,
    )  # fmt: skip
    assert process.stdout is not None
    with _watched(url, process, seen.tables, say) as words, process:
        try:
            while chunk := process.stdout.read(_CHUNK):
                yield chunk
        except BaseException:
            process.kill()
            raise
    if process.returncode:
        raise StoreError(f"the database could not be dumped: {last_line(chr(10).join(words))}")


@contextmanager
def _watched(
    url: str, process: subprocess.Popen[bytes], tables: dict[str, int], say: Say
) -> Iterator[list[str]]:
    """Say how far pg_dump is, as long as this lasts; yields what it says itself."""
    words: list[str] = []
    over = threading.Event()

    def listen() -> None:
        assert process.stderr is not None
        words.extend(line.decode(errors="replace").rstrip() for line in process.stderr)

    def look() -> None:
        progress = Progress("backup", sum(tables.values()), say)
        with (
            suppress(psycopg.Error),  # then nothing is said meanwhile
            psycopg.connect(url, connect_timeout=5, autocommit=True) as connection,
        ):
            while not over.wait(_LOOK_EVERY_S):
                begun = [name for name in tables if any(f'"public.{name}"' in it for it in words)]
                now = _one(
                    connection,
                    "SELECT coalesce(sum(tuples_processed), 0)::bigint FROM pg_stat_progress_copy"
                    " WHERE datname = current_database()",
                )
                progress.at(sum(tables[name] for name in begun[:-1]) + int(now or 0))

    threads = [threading.Thread(target=listen), threading.Thread(target=look, daemon=True)]
    for thread in threads:
        thread.start()
    try:
        yield words
    finally:
        over.set()
        threads[0].join()


def read(source: Path) -> Manifest:
    """What a backup says of itself, once it is sure that it is whole. Raises `StoreError`."""
    try:
        with zipfile.ZipFile(source) as file:
            manifest = Manifest.model_validate_json(file.read(MANIFEST))
            digest = hashlib.sha256()
            with file.open(DUMP) as entry:
                while chunk := entry.read(_CHUNK):
                    digest.update(chunk)
    except FileNotFoundError:
        raise StoreError(f"there is no file {source}") from None
    except OSError as error:
        raise StoreError(f"{source} cannot be read: {error.strerror}") from error
    except (zipfile.BadZipFile, EOFError) as error:
        raise StoreError(
            f"{source} is no whole backup: it was cut short, damaged, or is something else; "
            "take another one"
        ) from error
    except (KeyError, ValidationError) as error:
        raise StoreError(
            f"{source} is no backup that this version of Hastatus can read; "
            "it is from another program, or from a newer Hastatus: update first"
        ) from error
    if digest.hexdigest() != manifest.dump_sha256:
        raise StoreError(f"{source} is damaged: its dump is not what was written; take another one")
    if not database.knows(manifest.schema_revision):
        raise StoreError(
            f"{source} has schema {manifest.schema_revision}, which is newer than this program; "
            "update Hastatus first"
        )
    return manifest


def has_club(url: str) -> bool:
    """Whether there is anything in the database at `url` that a restore would replace."""
    with psycopg.connect(url, connect_timeout=5) as connection:
        if _one(connection, "SELECT to_regclass('public.clubs')") is None:
            return False
        return _one(connection, "SELECT 1 FROM public.clubs LIMIT 1") is not None


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
    if _one(connection, query) is None:
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
    return int(_one(connection, query) or 0)


def _check_alone(connection: psycopg.Connection) -> None:
    if _others(connection):
        raise StoreError("Hastatus is running on this database; stop it first (Ctrl-C)")


def _load(url: str, source: Path, manifest: Manifest, say: Say) -> None:
    """Have pg_restore read the dump, all of it or nothing."""
    bare, secret = _address(url)
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
        while chunk := entry.read(_CHUNK):
            into.write(chunk)
            done += len(chunk)
            progress.at(done)
        into.close()
    except BrokenPipeError:
        pass  # it has ended, and says why


def _check_rows(connection: psycopg.Connection, manifest: Manifest) -> None:
    rows = _rows(connection)
    if rows != manifest.tables:
        names = sorted(rows.keys() | manifest.tables.keys())
        other = [name for name in names if rows.get(name) != manifest.tables.get(name)]
        raise StoreError(f"not all rows came back ({', '.join(other[:3])}); nothing was changed")


def _address(url: str) -> tuple[str, dict[str, str]]:
    """The address without its password, and an environment that has it: arguments can be seen by
    everybody on the machine."""
    address = make_url(url)
    bare = URL.create(
        "postgresql",
        address.username,
        None,
        address.host,
        address.port,
        address.database,
        address.query,
    ).render_as_string()
    secret = {"PGPASSWORD": address.password} if address.password else {}
    return bare, {**os.environ, **secret}
