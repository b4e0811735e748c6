"""Starting a database and a web server, and stopping just these."""

from __future__ import annotations

import ctypes
import os
import signal
import socket
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

from sqlalchemy import Engine

from hastatus.store import cluster
from hastatus.store.database import StoreError, make_engine, migrate, needs_migration

URL_VARIABLE = "HASTATUS_DATABASE_URL"
VAR = Path(__file__).resolve().parents[2] / "var"
WORKERS = 2
THREADS = 8
ONE_THREAD = {"OPENBLAS_NUM_THREADS": "1"}
"""Requests run side by side already; threads below them for small matrices only wait in turns."""
_READY_SECONDS = 30
_STOP_SECONDS = 15
_PR_SET_PDEATHSIG = 1
_LOOK_EVERY_S = 0.3
_MOST_ENDS, _SOON_S = 5, 60.0
"""A web server that ends more often than this, within so many seconds, is given up."""

Say = Callable[[str], None]


def check_port(port: int) -> None:
    """Raise `StoreError` when something already listens on `port`."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError as error:
            raise StoreError(
                f"port {port} of 127.0.0.1 cannot be used ({error.strerror}); "
                f"choose another one with PORT={port + 1}"
            ) from error


@contextmanager
def database(name: str, say: Say) -> Iterator[Engine]:
    """A migrated database: the one that HASTATUS_DATABASE_URL names, else the private `name`.

    An older schema is dumped to var/dumps before it is migrated. The private server is stopped at
    the end if this call started it, and only used if it is already running.
    """
    given = os.environ.get(URL_VARIABLE)
    private = cluster.Cluster(VAR / name, say)
    running = None if given else private.running_url()
    url = given or running or _start(private, say)
    engine = make_engine(url)
    try:
        _bring_up_to_date(engine, url, say)
        with _kept(private, say):
            yield engine
    finally:
        engine.dispose()
        private.stop()


@contextmanager
def _kept(private: cluster.Cluster, say: Say) -> Iterator[None]:
    """Have the private database started again whenever it ends, as long as this lasts."""
    over = threading.Event()

    def keep() -> None:
        while not over.wait(_LOOK_EVERY_S):
            try:
                if private.keep():
                    say("the database had ended; it is up again")
            except (StoreError, OSError) as error:
                say(f"the database has ended and cannot be started yet: {error}")

    thread = threading.Thread(target=keep, daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join()


def _start(private: cluster.Cluster, say: Say) -> str:
    say(f"starting a private PostgreSQL in {private.folder}")
    return private.start()


def _bring_up_to_date(engine: Engine, url: str, say: Say) -> None:
    if needs_migration(engine):
        stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
        target = VAR / "dumps" / f"{stamp}.dump"
        target.parent.mkdir(parents=True, exist_ok=True)
        cluster.dump(url, target)
        say(f"dumped the database to {target} before changing its schema")
    migrate(engine)


def serve(engine: Engine, port: int, ready: Callable[[str], None]) -> int:
    """Serve until interrupted; `ready` gets the address once it answers. Returns an exit code.

    A web server that ends is started again, unless it keeps ending.
    """
    url = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
    log = VAR / "server.log"
    log.parent.mkdir(parents=True, exist_ok=True)
    for name in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(name, _interrupt)
    address = f"http://127.0.0.1:{port}"
    server = _spawn(port, url, log)
    try:
        _await_ready(server, address, log)
        ready(address)
        ends: list[float] = []
        while True:
            code = server.wait()
            ends = [at for at in ends if at > time.monotonic() - _SOON_S] + [time.monotonic()]
            if len(ends) > _MOST_ENDS:
                return code
            server = _spawn(port, url, log)
    except KeyboardInterrupt:
        return 0
    finally:
        _end(server)


def _spawn(port: int, url: str, log: Path) -> subprocess.Popen[bytes]:
    """Start the web server; it ends with this process."""
    with log.open("ab") as output:
        return subprocess.Popen(
            _gunicorn(port),
            env={**os.environ, **ONE_THREAD, URL_VARIABLE: url},
            stdout=output,
            stderr=output,
            stdin=subprocess.DEVNULL,
            start_new_session=True,  # Ctrl-C comes here first, and ends it in order
            preexec_fn=_end_with_parent,
        )


def _gunicorn(port: int) -> list[str]:
    return [
        *(sys.executable, "-m", "gunicorn", "--bind", f"127.0.0.1:{port}"),
        *("--workers", str(WORKERS), "--worker-class", "gthread", "--threads", str(THREADS)),
        *("--worker-tmp-dir", "/dev/shm", "--keep-alive", "30", "--graceful-timeout", "5"),
        *("--no-control-socket", "--log-level", "warning", "hastatus.command.wsgi:create()"),
    ]


def _await_ready(server: subprocess.Popen[bytes], address: str, log: Path) -> None:
    deadline = time.monotonic() + _READY_SECONDS
    while time.monotonic() < deadline:
        if server.poll() is not None:
            raise StoreError(f"the web server could not start; its last words are in {log}")
        try:
            with urllib.request.urlopen(f"{address}/healthz", timeout=2):
                return
        except (urllib.error.URLError, OSError):
            time.sleep(0.05)
    raise StoreError(f"the web server did not answer within {_READY_SECONDS} s; see {log}")


def _end(server: subprocess.Popen[bytes]) -> None:
    if server.poll() is None:
        server.terminate()
        try:
            server.wait(timeout=_STOP_SECONDS)
        except subprocess.TimeoutExpired:
            server.kill()
            server.wait()


def _interrupt(number: int, frame: object) -> None:
    raise KeyboardInterrupt


def _end_with_parent() -> None:
    """Let the kernel end the web server should this process be killed outright."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)
