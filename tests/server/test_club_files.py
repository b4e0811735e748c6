"""A club as open files: readable without us, the same when brought in, and no secret in it."""

from __future__ import annotations

import csv
import io
import json
import uuid
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import Engine, select, text

from hastatus.api.app import create_app
from hastatus.core.drill.file import DrillFile
from hastatus.server import club_files
from hastatus.server.club_files import BadClubFile
from hastatus.sound_io import upload
from hastatus.store import accounts, assets, open_files
from hastatus.store.database import head, transaction
from hastatus.store.models import Club
from tests.api.test_bench import clap
from tests.harness.coach import PASSWORD, Coach, new_coach
from tests.harness.database import temporary_database
from tests.harness.home import assign, batches, link, phone


def silent(line: str) -> None:
    del line


@pytest.fixture(scope="module")
def coach(engine: Engine) -> Coach:
    """A club with runs, a practice done at home, a recording and an evening."""
    app = create_app(engine)
    made = new_coach(app, engine)
    for batch in made.batches:
        made.post_batch(batch)
    assign(made)
    bo = phone(app, made)
    view = bo.view()
    run_id = str(uuid.uuid4())
    bo.keep(run_id, view["planned"][0]["id"], said="right")
    for sent in batches(view, view["planned"][0]):
        bo.post(run_id, sent)
    return made


@pytest.fixture(scope="module")
def club(engine: Engine, coach: Coach) -> Iterator[Club]:
    with transaction(engine) as db:
        mine = accounts.find_coach(db, coach.login)
        assert mine is not None
        yield db.get_one(Club, mine.club_id)


@pytest.fixture(scope="module")
def written(engine: Engine, club: Club, tmp_path_factory: pytest.TempPathFactory) -> Path:
    target = tmp_path_factory.mktemp("club") / "club.zip"
    with transaction(engine) as db:
        club_files.write(db, db.get_one(Club, club.id), target, silent)
    return target


def rows_of(engine: Engine, club_id: uuid.UUID) -> dict[str, list[dict[str, Any]]]:
    with transaction(engine) as db:
        return {
            table.name: list(open_files.rows(db, table, open_files.of_club(table, club_id)))
            for table in open_files.tables()
        }


def test_a_club_that_is_brought_in_is_the_one_that_was_written(
    engine: Engine, club: Club, coach: Coach, written: Path
) -> None:
    with temporary_database() as other:
        with transaction(other) as db:
            name, counts = club_files.read(db, written, silent)
        assert name == "Sluice Lane"
        before, after = rows_of(engine, club.id), rows_of(other, club.id)
        assert before == after
        assert counts == {table: len(found) for table, found in after.items()}
        assert min(counts["responses"], counts["home_runs"], counts["audit_entries"]) > 0
        with transaction(other) as db:
            login = accounts.find_coach(db, coach.login)
            assert login is not None
            assert not accounts.verify(login, PASSWORD)  # no password came along
            assert not accounts.verify(login, "")
            accounts.set_password(db, login, "lantern over the weir")
        again = create_app(other).test_client()
        said = {"login": coach.login, "password": "lantern over the weir"}
        session = again.post("/api/session", json=said)
        assert session.status_code == 200  # noted under a number that is free
        run = again.get(f"/api/runs/{coach.run_id}/readout")
        assert run.get_json() == coach.get(f"/api/runs/{coach.run_id}/readout").get_json()
        with pytest.raises(BadClubFile, match="is here already"), transaction(other) as db:
            club_files.read(db, written, silent)


def test_it_can_be_read_without_us(club: Club, coach: Coach, written: Path) -> None:
    with zipfile.ZipFile(written) as archive:
        names = archive.namelist()
        drills = [name for name in names if name.startswith("drills/")]
        assert len(drills) == len(coach.get("/api/library").get_json()["drills"])
        for name in drills[:5]:
            DrillFile.model_validate_json(archive.read(name))
        sheet = csv.DictReader(io.StringIO(archive.read("answers.csv").decode()))
        assert {row["student"] for row in sheet} == {"Bo Tarn"}
        every = b"".join(archive.read(name) for name in names)
    assert b"$argon2" not in every


def test_no_link_and_no_sign_in_is_in_it(
    engine: Engine, club: Club, coach: Coach, tmp_path: Path
) -> None:
    token = link(coach)["path"].removeprefix("/home/")
    target = tmp_path / "club.zip"
    with transaction(engine) as db:
        club_files.write(db, db.get_one(Club, club.id), target, silent)
    hashed = accounts.token_hash(token).hex().encode()
    with zipfile.ZipFile(target) as archive:
        every = b"".join(archive.read(name) for name in archive.namelist())
        assert "tables/sign_ins.jsonl" not in archive.namelist()
    assert token.encode() not in every
    assert hashed not in every


def test_recordings_stand_there_as_files(engine: Engine, tmp_path: Path) -> None:
    sound = clap(1.0)
    with transaction(engine) as db:
        mine = accounts.add_club(db, "Weir side")
        kept = assets.keep(db, mine.id, upload.read(sound))
        data, asset_id = kept.data, kept.id
    target = tmp_path / "club.zip"
    with transaction(engine) as db:
        club_files.write(db, db.get_one(Club, mine.id), target, silent)
    with zipfile.ZipFile(target) as archive:
        assert archive.read(f"recordings/{asset_id}.wav") == data
    with temporary_database() as other:
        with transaction(other) as db:
            club_files.read(db, target, silent)
        with other.connect() as connection:
            assert connection.scalar(text("SELECT data FROM assets")) == data


def changed(written: Path, target: Path, **changes: Any) -> Path:
    """The same files with another manifest."""
    with zipfile.ZipFile(written) as old, zipfile.ZipFile(target, "w") as new:
        for name in old.namelist():
            data = old.read(name)
            if name == club_files.MANIFEST:
                data = json.dumps({**json.loads(data), **changes}).encode()
            new.writestr(name, data)
    return target


def test_what_cannot_be_brought_in_says_why_and_leaves_nothing(
    written: Path, tmp_path: Path
) -> None:
    cut = tmp_path / "cut.zip"
    cut.write_bytes(written.read_bytes()[:-4000])
    other = tmp_path / "other.zip"
    with zipfile.ZipFile(other, "w") as archive:
        archive.writestr("letter.txt", "not a club")
    newer = changed(written, tmp_path / "newer.zip", schema="9999")
    rows = {"students": 7}
    short = changed(written, tmp_path / "short.zip", rows={**_rows(written), **rows})
    with temporary_database() as engine:
        for source, why in (
            (cut, "damaged or was cut short"),
            (other, "no club's files"),
            (newer, "newer Hastatus"),
            (short, "rows of students are missing"),
        ):
            with pytest.raises(BadClubFile, match=why), transaction(engine) as db:
                club_files.read(db, source, silent)
            with transaction(engine) as db:
                assert db.scalars(select(Club)).all() == []
    assert head() in json.dumps(_manifest(written))


def _manifest(source: Path) -> dict[str, Any]:
    with zipfile.ZipFile(source) as archive:
        return dict(json.loads(archive.read(club_files.MANIFEST)))


def _rows(source: Path) -> dict[str, int]:
    return dict(_manifest(source)["rows"])
