"""A club's whole database in one file.

The file is a ZIP with two entries: `database.dump`, written by PostgreSQL's own pg_dump in its
custom format, and `hastatus.json`, which says what it is: schema, rows of each table, length and
SHA-256 of the dump.
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
from typing import Literal, NamedTuple

import psycopg
from psycopg import sql
from pydantic import BaseModel, ValidationError
from sqlalchemy import URL, make_url

from hastatus.server.cluster import last_line, programs
from hastatus.server.progress import Progress
from hastatus.store import database
from hastatus.store.database import StoreError

DUMP, MANIFEST = "database.dump", "hastatus.json"
CHUNK = 2**20
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
        revision = one_of(connection, "SELECT version_num FROM alembic_version")
        yield _Snapshot(
            key=str(one_of(connection, "SELECT pg_export_snapshot()")),
            schema_revision=str(revision),
            postgresql=connection.info.server_version // 10_000,
            tables=rows_of(connection),
        )


def rows_of(connection: psycopg.Connection) -> dict[str, int]:
    """Rows of each table, by name."""
    names = connection.execute(
        "SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY tablename"
    ).fetchall()
    count = sql.SQL("SELECT count(*) FROM public.{}")
    return {
        name: int(one_of(connection, count.format(sql.Identifier(name))) or 0) for (name,) in names
    }


def one_of(connection: psycopg.Connection, query: str | sql.Composed) -> str | int | None:
    """The first value of the first row; None: there is none."""
    row = connection.execute(query).fetchone()
    return None if row is None else row[0]


def _dumped(url: str, seen: _Snapshot, say: Say) -> Iterator[bytes]:
    """The dump, piece by piece."""
    bare, secret = address_of(url)
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
            while chunk := process.stdout.read(CHUNK):
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
                now = one_of(
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
                while chunk := entry.read(CHUNK):
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


def address_of(url: str) -> tuple[str, dict[str, str]]:
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
