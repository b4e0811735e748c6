"""What stands back when the processors do not suffice for all."""

from __future__ import annotations

import os
from contextlib import suppress
from pathlib import Path

BACK = 10
"""The nice value of what can wait: its weight is a tenth of that of what serves (sched(7))."""


def stand_back(pid: int) -> None:
    """Give a process that leads a session of its own less of the processors than what serves.

    Linux shares them evenly among sessions, whatever the nice values within one, so the session has
    one, too (sched(7), autogroup). A kernel that does not share so has no such file.
    """
    with suppress(OSError):  # it may have ended
        os.setpriority(os.PRIO_PROCESS, pid, BACK)
        Path(f"/proc/{pid}/autogroup").write_text(str(BACK))
