"""What a database must not do: hold everybody, or tell what it should not."""

from __future__ import annotations

import stat
import subprocess
import time
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import Engine, text
from sqlalchemy.exc import OperationalError

from hastatus.store import cluster
from hastatus.store.database import make_engine
from tests.database import url_of


def test_a_locked_row_holds_nobody_for_good(engine: Engine) -> None:
    patient = make_engine(url_of(engine))
    with engine.begin() as one, patient.connect() as other:
        one.execute(text("LOCK TABLE clubs IN ACCESS EXCLUSIVE MODE"))
        began = time.monotonic()
        with pytest.raises(OperationalError, match="lock timeout"):
            other.execute(text("SELECT count(*) FROM clubs"))
        assert 4 < time.monotonic() - began < 8
    patient.dispose()


def test_what_people_wrote_stands_in_no_error(engine: Engine) -> None:
    with make_engine(url_of(engine)).connect() as connection:
        with pytest.raises(Exception) as raised:  # noqa: PT011
            connection.execute(text("SELECT :words :: integer"), {"words": "knee hurts"})
        assert "knee hurts" not in str(raised.value).partition("[SQL")[2]


def test_a_dump_is_its_owners_and_the_password_is_no_argument(
    engine: Engine, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    seen: list[list[str]] = []
    run = subprocess.run

    def note(arguments: list[Any], **rest: Any) -> Any:
        seen.append([str(each) for each in arguments])
        return run(arguments, **rest)

    monkeypatch.setattr(subprocess, "run", note)
    target = tmp_path / "club.dump"
    cluster.dump(url_of(engine), target)
    assert stat.S_IMODE(target.stat().st_mode) == 0o600
    assert target.stat().st_size > 1000
    password = str(engine.url.password)
    assert password
    assert not any(password in each for each in seen[0])
