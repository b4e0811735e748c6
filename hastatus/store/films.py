"""Films of runs: their rows, and the files that stand beside the database."""

from __future__ import annotations

import os
import uuid
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from hashlib import sha256
from pathlib import Path

from sqlalchemy import func, or_, select, update
from sqlalchemy.orm import Session, defer

from hastatus.core.motion.zone import CameraPlace as Document
from hastatus.store.models import CameraPlace, Club, Film

FOLDER_VARIABLE = "HASTATUS_FILMS"
"""The environment says there where films' files are."""
GRACE = timedelta(days=1)
"""A film's file is kept so long after it was refused or removed."""
MOST_DAYS = 365
"""A club keeps a film's file so long after its times were taken, at the most."""
MOST_OF_A_RUN = 8
KEPT_FREE_BYTES = 2**30
"""A film that would leave less room on the disk than this is not taken."""


class NoRoom(RuntimeError):
    """The disk has no room for a film; the message says how much there is."""


@dataclass(frozen=True, slots=True)
class Folder:
    """The folder of all films' files: one file a film, named by club and film. database: whose
    films are waited for, where several databases share a folder."""

    path: Path
    database: str = ""

    def file(self, club_id: uuid.UUID, film_id: uuid.UUID) -> Path:
        return self.path / str(club_id) / str(film_id)

    @property
    def marker(self) -> Path:
        """A file that is there when a film has been put into the queue of the database."""
        return self.path / f".waiting-{sha256(self.database.encode()).hexdigest()[:12]}"

    def check_room(self, size: int) -> None:
        """Raise `NoRoom` where a film of that size would fill the disk."""
        self.path.mkdir(parents=True, exist_ok=True)
        disk = os.statvfs(self.path)
        free = disk.f_bavail * disk.f_frsize
        if free - size < KEPT_FREE_BYTES:
            raise NoRoom(
                f"the film has {size / 2**20:.0f} MB, and {free / 2**20:.0f} MB are free on the "
                f"server’s disk, {KEPT_FREE_BYTES / 2**20:.0f} of which stay free; make room there"
            )

    def write(self, film: Film, from_byte: int, data: bytes) -> None:
        """Write a piece of a film's file where it belongs. OSError where it cannot be written; what
        was there stays."""
        file = self.file(film.club_id, film.id)
        file.parent.mkdir(parents=True, exist_ok=True)
        with open(file, "r+b" if file.exists() else "wb") as out:
            out.seek(from_byte)
            out.write(data)
            out.flush()
            os.fsync(out.fileno())

    def remove(self, club_id: uuid.UUID, film_id: uuid.UUID) -> None:
        self.file(club_id, film_id).unlink(missing_ok=True)


def places(db: Session, club_id: uuid.UUID) -> Sequence[CameraPlace]:
    """Where the club's phones stand, the one that was drawn last first."""
    query = select(CameraPlace).where(
        CameraPlace.club_id == club_id, CameraPlace.removed_at.is_(None)
    )
    return db.scalars(query.order_by(CameraPlace.changed_at.desc(), CameraPlace.id)).all()


def place(db: Session, club_id: uuid.UUID, place_id: uuid.UUID) -> CameraPlace | None:
    """One of the club's camera places."""
    return db.get(CameraPlace, (club_id, place_id))


def keep_place(
    db: Session, club_id: uuid.UUID, place_id: uuid.UUID, document: Document
) -> CameraPlace:
    """Keep a new place, or other zones of one; it is offered again."""
    row = place(db, club_id, place_id) or CameraPlace(club_id=club_id, id=place_id)
    row.document = document.model_dump(mode="json")
    row.changed_at = datetime.now(UTC)
    row.removed_at = None
    db.add(row)
    db.flush()
    return row


def of_run(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> Sequence[Film]:
    """The films of a run, solo or partner, the oldest first, without their readings."""
    of = or_(Film.run_id == run_id, Film.partner_run_id == run_id)
    query = select(Film).where(Film.club_id == club_id, of, Film.removed_at.is_(None))
    ordered = query.order_by(Film.created_at, Film.id)
    return db.scalars(ordered.options(defer(Film.reading))).all()


def find(db: Session, club_id: uuid.UUID, film_id: uuid.UUID) -> Film | None:
    """One of the club's films."""
    return db.get(Film, (club_id, film_id))


def wait(film: Film, place_id: uuid.UUID | None, left_place: int | None = None) -> None:
    """Have a film read with the zones of a place; None: nobody has said yet where it stood.
    left_place: which partner stands left in the picture."""
    film.place_id = place_id
    film.left_place = left_place
    film.reading, film.read_at, film.said, film.progress = None, None, "", 0.0
    if film.received < film.size:
        film.state = "coming"
    else:
        film.state = "here" if place_id is None else "waiting"


def unread(db: Session) -> list[tuple[uuid.UUID, uuid.UUID]]:
    """Club and id of each film that waits or was being read, the oldest first."""
    query = select(Film.club_id, Film.id).where(
        Film.state.in_(("waiting", "reading")), Film.removed_at.is_(None)
    )
    return [(club_id, film_id) for club_id, film_id in db.execute(query.order_by(Film.created_at))]


def kept(db: Session, club_id: uuid.UUID) -> tuple[int, bool]:
    """How long a club keeps a film's file once its times are taken, in days, and whether heads are
    blurred in it once a day is over."""
    query = select(Club.film_days, Club.film_blur).where(Club.id == club_id)
    days, blur = db.execute(query).one()
    return days, blur


def keep(db: Session, club_id: uuid.UUID, days: int, *, blur: bool) -> None:
    """Have a club keep its films so long, up to `MOST_DAYS`."""
    changed = update(Club).where(Club.id == club_id).values(film_days=days, film_blur=blur)
    db.execute(changed)


def to_blur(db: Session, now: datetime) -> list[Film]:
    """The films that were read longer than `GRACE` ago and are kept with their heads blurred."""
    query = (
        select(Film)
        .join(Club, Club.id == Film.club_id)
        .where(Club.film_blur, Film.state == "read", Film.read_at < now - GRACE)
        .where(Film.file_gone_at.is_(None), Film.blurred_at.is_(None), Film.removed_at.is_(None))
    )
    return list(db.scalars(query.options(defer(Film.reading)).order_by(Film.created_at)))


def take_away_old(db: Session, folder: Folder, now: datetime) -> int:
    """Delete the files of films whose times were taken longer ago than their club keeps them, which
    were refused or removed longer than `GRACE` ago, and of what never came whole; how many."""
    old = now - GRACE
    kept = func.make_interval(0, 0, 0, Club.film_days)
    read = (Film.state == "read") & (Film.read_at < now - kept)
    refused = (Film.state == "refused") & (Film.read_at < old)
    left = Film.state.in_(("coming", "here")) & (Film.created_at < old - 6 * GRACE)
    query = (
        select(Film.club_id, Film.id)
        .join(Club, Club.id == Film.club_id)
        .where(Film.file_gone_at.is_(None), read | refused | left | (Film.removed_at < old))
    )
    gone = [(club_id, film_id) for club_id, film_id in db.execute(query)]
    remove_files(folder, gone)
    for club_id, film_id in gone:
        one = (Film.club_id == club_id, Film.id == film_id)
        db.execute(update(Film).where(*one).values(file_gone_at=now))
    return len(gone)


def remove_files(folder: Folder, films: Iterable[tuple[uuid.UUID, uuid.UUID]]) -> None:
    """Delete these films' files."""
    for club_id, film_id in films:
        folder.remove(club_id, film_id)


def without_a_row(db: Session, folder: Folder) -> list[tuple[uuid.UUID, uuid.UUID]]:
    """Files of films whose rows are gone, with their run or their student. Only of the clubs that
    this database has: another one may share the folder."""
    there = [
        (club_id, uuid.UUID(file.name))
        for club_id in db.scalars(select(Club.id))
        for file in (folder.path / str(club_id)).glob("*")
    ]
    known = {(row[0], row[1]) for row in db.execute(select(Film.club_id, Film.id))}
    return [one for one in there if one not in known]
