"""Starts the process that reads films when there is something for it to do."""

from __future__ import annotations

import os
import subprocess
import sys
from datetime import datetime, timedelta
from pathlib import Path

from hastatus.server.priority import stand_back
from hastatus.store.database import URL_VARIABLE
from hastatus.store.films import FOLDER_VARIABLE, Folder

LOOK_AGAIN = timedelta(minutes=10)
"""So often it is started without being asked to: files whose time is over, and what was missed."""
_STOP_S = 3.0


class FilmReader:
    """Looks whether films wait. What reads them is loaded in its own process: it takes long."""

    def __init__(self, folder: Folder, url: str, log: Path) -> None:
        self._folder, self._url, self._log = folder, url, log
        self._process: subprocess.Popen[bytes] | None = None
        self._begun: datetime | None = None

    def look(self, now: datetime) -> None:
        """Start the process where it is needed; it ends by itself."""
        if self._process is not None:
            if self._process.poll() is None:
                return
            self._process = None
        if self._folder.marker.exists() or self._is_due(now):
            self._folder.marker.unlink(missing_ok=True)
            self._begun = now
            self._start()

    def stop(self) -> None:
        """End it; what it was reading is read again when there is a server again."""
        if self._process is None:
            return
        self._process.terminate()
        try:
            self._process.wait(_STOP_S)
        except subprocess.TimeoutExpired:
            self._process.kill()
            self._process.wait()

    def _is_due(self, now: datetime) -> bool:
        if self._begun is not None and now < self._begun + LOOK_AGAIN:
            return False
        self._begun = now
        return any(self._folder.path.glob("*/*"))

    def _start(self) -> None:
        with open(self._log, "ab") as log:
            self._process = subprocess.Popen(
                [sys.executable, "-m", "hastatus.server.film_worker", str(self._log)],
                env={
                    **os.environ,
                    URL_VARIABLE: self._url,
                    FOLDER_VARIABLE: str(self._folder.path),
                },
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                start_new_session=True,
            )
        stand_back(self._process.pid)  # a round that runs comes first
