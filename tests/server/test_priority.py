"""What can wait gets less of the processors than what serves a class."""

from __future__ import annotations

import os
import subprocess
from datetime import UTC, datetime
from pathlib import Path

import pytest

from hastatus.server.film_reader import FilmReader
from hastatus.server.nightly import Nightly
from hastatus.server.priority import BACK
from hastatus.store.films import Folder


def film_reader(folder: Path) -> subprocess.Popen[bytes] | None:
    films = Folder(folder, "postgresql://nobody@127.0.0.1/none")
    films.marker.touch()
    reader = FilmReader(films, "postgresql://nobody@127.0.0.1/none", folder / "log")
    reader.look(datetime.now(UTC))
    return reader._process


def nightly(folder: Path) -> subprocess.Popen[str] | None:
    backups = Nightly(folder, 1, print)
    backups.look(datetime.now(UTC))
    return backups._process


@pytest.mark.parametrize("begin", [film_reader, nightly])
def test_reading_a_film_and_a_backup_stand_back(begin, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    process = begin(tmp_path)
    assert process is not None
    try:
        assert os.getpriority(os.PRIO_PROCESS, process.pid) == BACK
        session = Path(f"/proc/{process.pid}/autogroup")
        if session.exists():  # not in every kernel
            assert session.read_text().split()[-1] == str(BACK)
    finally:
        process.kill()
        process.wait()
