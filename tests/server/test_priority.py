"""What can wait gets less of the processors than what serves a class."""

from __future__ import annotations

import os
import subprocess
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest

from hastatus.server.film_reader import FilmReader
from hastatus.server.nightly import Nightly
from hastatus.server.priority import BACK
from hastatus.store.database import URL_VARIABLE
from hastatus.store.films import Folder

NOWHERE = "postgresql://nobody@127.0.0.1/none"


def film_reader(folder: Path) -> subprocess.Popen[bytes] | None:
    films = Folder(folder, NOWHERE)
    films.marker.touch()
    reader = FilmReader(films, NOWHERE, folder / "log")
    reader.look(datetime.now(UTC))
    return reader._process


def nightly(folder: Path) -> subprocess.Popen[str] | None:
    backups = Nightly(folder, 1, print)
    backups.look(datetime.now(UTC))
    return backups._process


@pytest.mark.parametrize("begin", [film_reader, nightly])
def test_reading_a_film_and_a_backup_stand_back(
    begin: Callable[[Path], subprocess.Popen[Any] | None],
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setenv(URL_VARIABLE, NOWHERE)  # else a backup would begin of the club that is here
    process = begin(tmp_path)
    assert process is not None
    with process:
        own = os.getpriority(os.PRIO_PROCESS, process.pid)
        session = Path(f"/proc/{process.pid}/autogroup")
        of_session = session.read_text().split()[-1] if session.exists() else None
        process.kill()
    assert own == BACK
    assert of_session in (str(BACK), None)  # None: a kernel that does not share by sessions
