"""Workers and the database killed while devices post: what is lost, and how long a batch waits.

Devices post as the player does: the same batch again until it is acknowledged.
"""

from __future__ import annotations

import http.client
import os
import signal
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field
from pathlib import Path

from sqlalchemy import func, select

from benchmarks.figure import Figure
from benchmarks.load import Live, _prepare, sign_in
from hastatus.server.cluster import Cluster, free_port
from hastatus.server.web import HUNG_S
from hastatus.store.database import make_engine, transaction
from hastatus.store.models import EventBatch
from tests.harness.club import Server
from tests.harness.database import reachable_folder

KILLS = 50
LOOSE_KILLS = 1
RUNS = 4
POSTS = 1500
RETRY_S = 0.5
CALM_S = 1.0
SERVE = """
import sys
from pathlib import Path
from hastatus.command import clubs
from hastatus.server import launch
launch.VAR = Path(sys.argv[1])
clubs.serve.main(["--port", sys.argv[2]])
"""


@dataclass
class Post:
    """What the devices saw. waits_s: from the first try of a batch to its acknowledgement."""

    taken: list[tuple[int, int]] = field(default_factory=list)
    waits_s: list[float] = field(default_factory=list)
    over: bool = False


def figures(loose: bool) -> Iterator[Figure]:
    """Kill each kind again and again, a second after everything is well."""
    kills = LOOSE_KILLS if loose else KILLS
    with reachable_folder() as folder, _served(folder) as (process, port):
        url = Cluster(folder / "club").running_url()
        assert url is not None
        engine = make_engine(url)
        live = _prepare(engine, POSTS)[0][:RUNS]
        before = _count(engine)
        post = Post()
        threads = _post_all(port, live, post)
        found = {
            "a worker": [_kill(port, lambda: _workers(process)[:1]) for _ in range(kills)],
            "the web server": [_kill(port, lambda: _workers(process)) for _ in range(kills)],
            "the database": [_kill(port, lambda: _postmaster(folder)) for _ in range(kills)],
        }
        replaced_s = None if loose else _hang(process)
        post.over = True
        for thread in threads:
            thread.join()
        lost = len(post.taken) - (_count(engine) - before)
        engine.dispose()
    bounds = {"a worker": 1.0, "the web server": 3.0, "the database": 5.0}
    for what, times in found.items():
        yield Figure(f"{what} killed {kills} times: back after, most", max(times), "s",
                     bounds[what], 6)  # fmt: skip
    if replaced_s is not None:
        yield Figure("a worker that hangs: replaced after", replaced_s, "s", HUNG_S + 5)
    yield Figure("longest that a batch waited meanwhile", max(post.waits_s), "s", 8, 4)
    yield Figure(f"acknowledged batches lost, of {len(post.taken)}", lost, "", 0)


@contextmanager
def _served(folder: Path) -> Iterator[tuple[subprocess.Popen[bytes], int]]:
    port = free_port()
    environment = {
        key: value for key, value in os.environ.items() if not key.startswith("HASTATUS")
    }
    process = subprocess.Popen(
        [sys.executable, "-c", SERVE, str(folder), str(port)],
        stdout=subprocess.DEVNULL,
        env=environment,
    )
    try:
        while not _ready(port):
            assert process.poll() is None
            time.sleep(0.1)
        yield process, port
    finally:
        process.send_signal(signal.SIGINT)
        process.wait(timeout=60)


def _ready(port: int) -> bool:
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/readyz", timeout=10):
            return True
    except OSError:
        return False


def _workers(process: subprocess.Popen[bytes]) -> list[int]:
    listed = Path(f"/proc/{process.pid}/task/{process.pid}/children").read_text().split()
    mine = os.getpgid(process.pid)
    return [int(pid) for pid in listed if _is_worker(int(pid), mine)]


def _is_worker(pid: int, group: int) -> bool:
    """A child of the server's own program, not its database."""
    with suppress(OSError):
        return b"python" in Path(f"/proc/{pid}/cmdline").read_bytes() and os.getpgid(pid) != group
    return False


def _postmaster(folder: Path) -> list[int]:
    data = Cluster(folder / "club")
    data.running_url()
    return [int((data.data / "postmaster.pid").read_text().split()[0])]


def _kill(port: int, whom: Callable[[], list[int]]) -> float:
    """Kill, and how long it takes until the server is ready again, in s."""
    for pid in whom():
        with suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)
    began = time.monotonic()
    time.sleep(0.05)
    while not _ready(port):
        time.sleep(0.02)
    took = time.monotonic() - began
    time.sleep(CALM_S)
    return took


def _hang(process: subprocess.Popen[bytes]) -> float:
    """Stop a worker where it is, and how long it takes until another one is in its place, in s."""
    hung = _workers(process)[0]
    os.kill(hung, signal.SIGSTOP)
    began = time.monotonic()
    while hung in _workers(process):
        time.sleep(0.1)
    return time.monotonic() - began


def _post_all(port: int, live: list[Live], post: Post) -> list[threading.Thread]:
    cookie, csrf = sign_in(Server("", port))
    headers = {"Content-Type": "application/json", "Cookie": cookie, "X-CSRF-Token": csrf}

    def go(run: Live, place: int) -> None:
        for number, body in enumerate(run.bodies):
            if post.over:
                return
            began = time.monotonic()
            while not _taken(port, f"/api/runs/{run.run_id}/batches", body, headers):
                if post.over:
                    return
                time.sleep(RETRY_S)
            post.waits_s.append(time.monotonic() - began)
            post.taken.append((place, number))
            time.sleep(0.3)

    threads = [
        threading.Thread(target=go, args=(run, place), daemon=True)
        for place, run in enumerate(live)
    ]
    for thread in threads:
        thread.start()
    return threads


def _taken(port: int, address: str, body: bytes, headers: dict[str, str]) -> bool:
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
    try:
        connection.request("POST", address, body, headers)
        status = connection.getresponse().status
    except (OSError, http.client.HTTPException):
        return False
    finally:
        connection.close()
    assert status == 200 or status >= 500, status
    return status == 200


def _count(engine: object) -> int:
    with transaction(engine) as db:  # type: ignore[arg-type]
        return db.scalar(select(func.count()).select_from(EventBatch)) or 0
