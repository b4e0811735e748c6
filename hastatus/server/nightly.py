"""A backup every night by itself, of which the newest are kept."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path

from hastatus.server.priority import stand_back

NAME = "night-"
"""Files whose names begin so are made here, and removed here when there are too many."""
AT_HOUR = 3
"""Nobody trains at three in the morning."""
AGAIN = timedelta(hours=1)
"""After one that failed."""


def due(now: datetime, newest: datetime | None) -> bool:
    """Whether it is time: none has been made since three in the morning, last night's or today's.

    A machine that is off at night makes it when it is on again.
    """
    at = now.replace(hour=AT_HOUR, minute=0, second=0, microsecond=0)
    if at > now:
        at -= timedelta(days=1)
    return newest is None or newest < at


def too_many(files: list[Path], kept: int) -> list[Path]:
    """The oldest of these nightly backups, by name, that are over `kept`."""
    return sorted(files)[: max(0, len(files) - kept)]


class Nightly:
    """Makes the backups of `folder` in a process of their own. kept: how many; 0: none is made."""

    def __init__(self, folder: Path, kept: int, say: Callable[[str], None]) -> None:
        self._folder, self._kept, self._say = folder, kept, say
        self._process: subprocess.Popen[str] | None = None
        self._tried: datetime | None = None
        self._looked: datetime | None = None

    def look(self, now: datetime) -> None:
        """Begin one if it is time, and see how the one that was begun has ended."""
        if self._process is not None:
            self._end(self._process)
            return
        if not self._kept or (self._looked and now - self._looked < timedelta(minutes=1)):
            return
        self._looked = now
        if self._tried and now - self._tried < AGAIN:
            return
        if due(now, self._newest(now)):
            self._tried = now
            target = self._folder / f"{NAME}{now.strftime('%Y%m%d-%H%M%S')}.zip"
            self._process = subprocess.Popen(
                [sys.executable, "-m", "hastatus.command.main", "backup", str(target)],
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.PIPE,
                text=True,
                start_new_session=True,
            )
            stand_back(self._process.pid)  # a server that is on in the evening alone makes it then

    def _newest(self, now: datetime) -> datetime | None:
        times = [
            datetime.fromtimestamp(file.stat().st_mtime, now.tzinfo)
            for file in self._folder.glob(f"{NAME}*.zip")
        ]
        return max(times, default=None)

    def _end(self, process: subprocess.Popen[str]) -> None:
        if process.poll() is None:
            return
        self._process = None
        assert process.stderr is not None
        said = process.stderr.read().strip()
        process.stderr.close()
        if process.returncode:
            self._say(f"the nightly backup was not made: {said or 'no reason given'}")
            return
        for file in too_many(list(self._folder.glob(f"{NAME}*.zip")), self._kept):
            file.unlink(missing_ok=True)
