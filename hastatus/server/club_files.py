"""A club as open files in one zip: every row as JSON, drills as drill files, students and answers
as tables (CSV), recordings and pictures as they are. It can be read without Hastatus, and brought
in again. Whoever opens it finds no password and no link in it.
"""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import IO, Any

from sqlalchemy import Table, func, select
from sqlalchemy.orm import Session

from hastatus.core.drill.file import DrillFile
from hastatus.server.progress import Progress
from hastatus.store import drills, open_files
from hastatus.store.database import head, knows
from hastatus.store.models import Asset, Club, Drill, Response, Run, Student

KIND = "hastatus-club"
VERSION = 1
MANIFEST = "club.json"
README = """A club's own files, written by Hastatus.

club.json        what this is, of which club, and how many rows there are of what
tables/          every row, a JSON object a line; ids point from one table to another
drills/          every drill in its newest version, as drill files
recordings/      recorded calls, pictures and clips, by the id that drills have
students.csv, answers.csv   for a spreadsheet; units are in the heads

`hastatus load FILE` brings the club in again, here or on another machine. There are no passwords
and no links in it: coaches set new ones.
"""
ANSWERS = (
    "started_at", "student", "drill_id", "round", "cue", "at_s", "window_ms", "outcome", "time_ms",
)  # fmt: skip


class _Count:
    """Rows that are done, one after another."""

    def __init__(self, progress: Progress) -> None:
        self._progress, self._count = progress, 0

    def done(self, more: int) -> None:
        self._count += more
        self._progress.at(self._count)


class BadClubFile(ValueError):
    """A file that no club can be brought in from; the message says why."""


def write(db: Session, club: Club, file: Path, say: Callable[[str], None]) -> dict[str, int]:
    """Write a club's open files; how many rows of each table. The file stands there whole or not at
    all."""
    tables = open_files.tables()
    counts = {table.name: _count(db, table, club) for table in tables}
    progress = _Count(Progress("written", sum(counts.values()), say))
    part = file.with_name(f"{file.name}.part")
    with zipfile.ZipFile(part, "w", zipfile.ZIP_DEFLATED, allowZip64=True) as archive:
        archive.writestr("README.txt", README)
        for table in tables:
            with archive.open(f"tables/{table.name}.jsonl", "w", force_zip64=True) as entry:
                _write_rows(db, archive, table, club, entry, progress)
        _write_assets(db, archive, club)
        _write_drills(db, archive, club)
        _write_tables(db, archive, club)
        manifest = {
            "kind": KIND,
            "version": VERSION,
            "schema": head(),
            "club": {"id": str(club.id), "name": club.name},
            "rows": counts,
        }
        archive.writestr(MANIFEST, json.dumps(manifest, indent=2, ensure_ascii=False))
    part.replace(file)
    return counts


def _count(db: Session, table: Table, club: Club) -> int:
    query = select(func.count()).select_from(table).where(open_files.of_club(table, club.id))
    return int(db.execute(query).scalar_one())


def _write_rows(
    db: Session,
    archive: zipfile.ZipFile,
    table: Table,
    club: Club,
    entry: IO[bytes],
    progress: _Count,
) -> None:
    for row in open_files.rows(db, table, open_files.of_club(table, club.id)):
        if table.name == Asset.__tablename__:
            row["data"] = ""  # it stands beside, as a file
        entry.write(json.dumps(row, ensure_ascii=False).encode() + b"\n")
        progress.done(1)


def _asset_name(asset_id: str, media_type: str) -> str:
    return f"recordings/{asset_id}.{media_type.split('/')[-1].split('+')[0]}"


def _write_assets(db: Session, archive: zipfile.ZipFile, club: Club) -> None:
    for asset in db.scalars(select(Asset).where(Asset.club_id == club.id)):
        archive.writestr(_asset_name(asset.id, asset.media_type), asset.data)


def _write_drills(db: Session, archive: zipfile.ZipFile, club: Club) -> None:
    for row in db.scalars(select(Drill).where(Drill.club_id == club.id).order_by(Drill.id)):
        version = drills.version(db, club.id, row.id)
        if version is not None:
            kept = DrillFile(drill=drills.read_any(version))
            archive.writestr(f"drills/{row.id}.json", kept.model_dump_json(indent=2))


def _write_tables(db: Session, archive: zipfile.ZipFile, club: Club) -> None:
    people = select(Student).where(Student.club_id == club.id).order_by(Student.name)
    columns = ("name", "stance", "level", "height_m", "arm_m", "leg_m", "notes")
    listed = ([getattr(one, column) for column in columns] for one in db.scalars(people))
    _write_csv(archive, "students.csv", columns, listed)
    mine = (Run.club_id == Response.club_id) & (Run.id == Response.run_id)
    of_student = (Student.club_id == Run.club_id) & (Student.id == Run.student_id)
    answers = (
        select(
            Run.started_at, Student.name, Run.drill_id, Response.round, Response.cue,
            Response.at_s, Response.window_ms, Response.outcome, Response.time_ms,
        )
        .join(Run, mine)
        .join(Student, of_student)
        .where(Response.club_id == club.id)
        .order_by(Response.run_id, Response.round, Response.slot)
    )  # fmt: skip
    listed = (list(row) for row in db.execute(answers, execution_options={"yield_per": 500}))
    _write_csv(archive, "answers.csv", ANSWERS, listed)


def _write_csv(
    archive: zipfile.ZipFile, name: str, columns: tuple[str, ...], rows: Iterator[list[Any]]
) -> None:
    with (
        archive.open(name, "w", force_zip64=True) as entry,
        io.TextIOWrapper(entry, "utf-8", newline="") as lines,
    ):
        writer = csv.writer(lines)
        writer.writerow(columns)
        writer.writerows(rows)


def read(db: Session, file: Path, say: Callable[[str], None]) -> tuple[str, dict[str, int]]:
    """Bring a club in from its open files; its name, and how many rows of each table. All of it or
    nothing: the caller's transaction ends it. Raises `BadClubFile`."""
    try:
        with zipfile.ZipFile(file) as archive:
            manifest = _manifest(archive)
            club = manifest["club"]
            _check_new(db, club)
            progress = _Count(Progress("brought in", sum(manifest["rows"].values()), say))
            counts = {}
            for table in open_files.tables():
                counts[table.name] = _read_rows(db, archive, table, progress)
            open_files.renew_counters(db)
            missing = [name for name, of in manifest["rows"].items() if counts.get(name) != of]
            if missing:
                raise BadClubFile(f"{file}: rows of {', '.join(missing)} are missing")
            return str(club["name"]), counts
    except (zipfile.BadZipFile, EOFError, json.JSONDecodeError, UnicodeDecodeError) as error:
        raise BadClubFile(f"{file}: it is damaged or was cut short ({error})") from error
    except (KeyError, TypeError, AttributeError) as error:
        raise BadClubFile(f"{file}: it is not as a club's files are ({error})") from error
    except open_files.DoesNotFit as error:
        raise BadClubFile(f"{file}: {error}; it was written by a newer Hastatus") from error


def _manifest(archive: zipfile.ZipFile) -> dict[str, Any]:
    if MANIFEST not in archive.namelist():
        raise BadClubFile(f"{archive.filename}: there is no {MANIFEST} in it: no club's files")
    manifest: dict[str, Any] = json.loads(archive.read(MANIFEST))
    if manifest.get("kind") != KIND:
        raise BadClubFile(f"{archive.filename}: these are not the files of a club")
    if manifest["version"] > VERSION or not knows(manifest["schema"]):
        raise BadClubFile(
            f"{archive.filename}: it was written by a newer Hastatus; update this one first"
        )
    return manifest


def _check_new(db: Session, club: dict[str, Any]) -> None:
    if db.get(Club, club["id"]) is not None:
        raise BadClubFile(f"{club['name']} is here already; load it where it is not")


def _read_rows(db: Session, archive: zipfile.ZipFile, table: Table, progress: _Count) -> int:
    name = f"tables/{table.name}.jsonl"
    if name not in archive.namelist():
        return 0  # there was no such table yet
    count, part = 0, []
    with archive.open(name) as lines:
        for line in lines:
            row = json.loads(line)
            if table.name == Asset.__tablename__:
                data = archive.read(_asset_name(row["id"], row["media_type"]))
                row["data"] = f"\\x{data.hex()}"
            part.append(row)
            count += 1
            if len(part) == open_files.PART:
                open_files.bring_in(db, table, part)
                progress.done(len(part))
                part = []
    open_files.bring_in(db, table, part)
    progress.done(len(part))
    return count
