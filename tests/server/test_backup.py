"""A club in one file and back: row by row the same, and nothing lost whatever goes wrong."""

from __future__ import annotations

import zipfile
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import psycopg
import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import Engine, text
from sqlalchemy.exc import DBAPIError

from hastatus.api.app import create_app
from hastatus.server import backup, nightly
from hastatus.server import restore as restores
from hastatus.server.progress import Progress
from hastatus.store import accounts
from hastatus.store.database import StoreError, transaction
from tests.harness.coach import new_coach
from tests.harness.database import temporary_database, url_of


def silent(line: str) -> None:
    del line


def rows(engine: Engine) -> dict[str, list[str]]:
    """Every row of every table, as text."""
    with engine.connect() as connection:
        names = connection.scalars(
            text("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")
        ).all()
        return {
            name: sorted(connection.scalars(text(f'SELECT one::text FROM "{name}" AS one')))
            for name in names
        }


@pytest.fixture(scope="module")
def other() -> Iterator[Engine]:
    """Another machine's database, with a club of its own."""
    with temporary_database() as engine:
        with transaction(engine) as db:
            accounts.add_club(db, "Over the river")
        yield engine


@pytest.fixture(scope="module")
def filled(engine: Engine) -> Engine:
    """A club with a run that has been done."""
    coach = new_coach(create_app(engine), engine)
    for batch in coach.batches:
        assert coach.post_batch(batch).status_code == 200
    return engine


@pytest.fixture(scope="module")
def kept(filled: Engine, tmp_path_factory: pytest.TempPathFactory) -> Path:
    target = tmp_path_factory.mktemp("backups") / "club.zip"
    backup.write(url_of(filled), target, silent)
    return target


def restore(engine: Engine, source: Path) -> None:
    engine.dispose()
    restores.restore(url_of(engine), source, backup.read(source), silent)


def test_a_restored_club_is_the_saved_one_row_by_row(
    filled: Engine, other: Engine, kept: Path
) -> None:
    saved, before = rows(filled), rows(other)
    assert saved != before
    assert saved["event_batches"]
    restore(other, kept)
    assert rows(other) == saved
    change = text("UPDATE event_batches SET number = number + 1")
    with pytest.raises(DBAPIError, match="append"), other.begin() as connection:
        connection.execute(change)  # the triggers came, too
    restore(other, kept)  # once more, over itself
    assert rows(other) == saved


def changed(source: Path, target: Path, **says: Any) -> Path:
    """The same backup, which says something else of itself."""
    manifest = backup.read(source).model_copy(update=says)
    with zipfile.ZipFile(source) as whole, zipfile.ZipFile(target, "w") as made:
        made.writestr(backup.DUMP, whole.read(backup.DUMP))
        made.writestr(backup.MANIFEST, manifest.model_dump_json())
    return target


def test_what_is_no_whole_backup_is_refused_in_plain_words(kept: Path, tmp_path: Path) -> None:
    whole = kept.read_bytes()
    wrong = {
        "cut.zip": (whole[: len(whole) // 2], "cut short"),
        "empty.zip": (b"", "cut short"),
        "text.zip": (b"name,stance\nBo,left\n", "something else"),
        "flipped.zip": (whole[:5000] + bytes([whole[5000] ^ 1]) + whole[5001:], "damaged"),
    }
    for name, (content, says) in wrong.items():
        (tmp_path / name).write_bytes(content)
        with pytest.raises(StoreError, match=says):
            backup.read(tmp_path / name)
    with zipfile.ZipFile(tmp_path / "photos.zip", "w") as photos:
        photos.writestr("holiday.jpg", "none")
    with pytest.raises(StoreError, match="another program"):
        backup.read(tmp_path / "photos.zip")
    with pytest.raises(StoreError, match="no file"):
        backup.read(tmp_path / "none.zip")
    newer = changed(kept, tmp_path / "newer.zip", schema_revision="9999")
    with pytest.raises(StoreError, match="newer than this program"):
        backup.read(newer)
    form = changed(kept, tmp_path / "form.zip", format=2)
    with pytest.raises(StoreError, match="update first"):
        backup.read(form)


def test_a_restore_that_goes_wrong_leaves_what_was_there(
    other: Engine, kept: Path, tmp_path: Path
) -> None:
    before = rows(other)
    tables = backup.read(kept).tables
    short = changed(kept, tmp_path / "short.zip", tables=tables | {"runs": tables["runs"] + 1})
    with pytest.raises(StoreError, match=r"not all rows came back \(runs\)"):
        restore(other, short)
    assert rows(other) == before
    newer = changed(kept, tmp_path / "newer.zip", postgresql=99)
    with pytest.raises(StoreError, match="install postgresql-99"):
        restore(other, newer)
    with other.connect() as connection:
        connection.execute(text("SELECT 1"))
        with pytest.raises(StoreError, match="stop it first"):
            restores.restore(url_of(other), kept, backup.read(kept), silent)
    assert rows(other) == before


def test_a_restore_that_the_power_cut_short_is_put_back(other: Engine, kept: Path) -> None:
    before = rows(other)
    other.dispose()
    with psycopg.connect(url_of(other), autocommit=True) as connection:
        connection.execute(f"ALTER SCHEMA public RENAME TO {restores.ASIDE}")
        connection.execute("CREATE SCHEMA public")
        connection.execute("CREATE TABLE clubs (half int)")
    with psycopg.connect(url_of(other)):  # somebody is at it: perhaps a restore that goes on
        assert not restores.put_back(url_of(other))
    assert restores.put_back(url_of(other))
    assert rows(other) == before
    assert not restores.put_back(url_of(other))


def test_a_backup_that_cannot_be_written_leaves_no_half_of_one(
    filled: Engine, tmp_path: Path
) -> None:
    there = tmp_path / "there"
    there.write_text("a file")
    with pytest.raises(StoreError, match="cannot be written"):
        backup.write(url_of(filled), there / "club.zip", silent)
    with pytest.raises(StoreError, match="cannot reach the database"):
        backup.write("postgresql://nobody@127.0.0.1:1/none", tmp_path / "club.zip", silent)
    assert list(tmp_path.iterdir()) == [there]


hours = st.datetimes(min_value=datetime(2025, 1, 1), max_value=datetime(2028, 1, 1))


@given(now=hours, ago_h=st.floats(0.1, 200))
def test_one_backup_is_due_for_every_night(now: datetime, ago_h: float) -> None:
    newest = now - timedelta(hours=ago_h)
    nights = sum(
        newest < datetime(day.year, day.month, day.day, nightly.AT_HOUR) <= now
        for day in (now - timedelta(days=back) for back in range(12))
    )
    assert nightly.due(now, newest) == (nights > 0)
    assert nightly.due(now, None)
    assert not nightly.due(now, now)


def test_the_oldest_nights_go_first() -> None:
    files = [Path(f"night-2026110{day}-030000.zip") for day in (3, 1, 2)]
    assert nightly.too_many(files, 2) == [files[1]]
    assert nightly.too_many(files, 5) == []


def test_how_long_it_still_takes_is_said_now_and_then() -> None:
    now, lines = [0.0], list[str]()
    progress = Progress("backup", 1000, lines.append, lambda: now[0])
    for second in range(0, 61):
        now[0] = float(second)
        progress.at(second * 2)
    assert lines[0] == "  backup: 1 %, about 8 min left"
    assert lines[-1] == "  backup: 12 %, about 7 min left"
    assert len(lines) == 12
