"""Starting a database and a web server, and stopping just these."""

from __future__ import annotations

import os
import signal
import socket
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from sqlalchemy import Engine

from hastatus.server import backup, cluster, restore
from hastatus.server.film_reader import FilmReader
from hastatus.server.network import network
from hastatus.server.nightly import Nightly
from hastatus.store.database import (
    URL_VARIABLE,
    StoreError,
    make_engine,
    migrate,
    needs_migration,
)
from hastatus.store.films import FOLDER_VARIABLE, Folder

if TYPE_CHECKING:
    from hastatus.server import web

VAR = Path(__file__).resolve().parents[2] / "var"
BACKUPS = Path(os.environ.get("HASTATUS_BACKUPS") or VAR / "backups")
FILMS = Path(os.environ.get(FOLDER_VARIABLE) or VAR / "films")
_READY_SECONDS = 300
_SAY_EVERY_S = 10.0
_LOOK_EVERY_S = 0.3
_KEEP_EVERY_S = 0.1
_alone = threading.Lock()
"""Held while this process forks, and while another thread of it does anything that holds a lock."""

Say = Callable[[str], None]


def kept_backups() -> int:
    """How many nightly backups are kept; 0: none is made. `StoreError` where that is no number."""
    said = os.environ.get("HASTATUS_BACKUPS_KEPT", "14")
    if not said.isdecimal() or int(said) > 1000:
        raise StoreError(f"HASTATUS_BACKUPS_KEPT must be a number from 0 to 1000, not {said!r}")
    return int(said)


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

    An older schema is backed up to var/backups before it is changed. The private server is stopped
    at the end if this call started it, and only used if it is already running.
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
                with _alone:
                    if private.keep():
                        say("the database had ended; it is up again")
            except (StoreError, OSError) as error:
                with _alone:
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


@contextmanager
def stopped_database(name: str, say: Say) -> Iterator[str]:
    """The address of a database that nobody else works on, as it is: `StoreError` where Hastatus is
    running on it."""
    given = os.environ.get(URL_VARIABLE)
    private = cluster.Cluster(VAR / name, say)
    if not given and private.running_url():
        raise StoreError("Hastatus is running; stop it first (Ctrl-C)")
    try:
        yield given or _start(private, say)
    finally:
        private.stop()


def _bring_up_to_date(engine: Engine, url: str, say: Say) -> None:
    if restore.put_back(url):
        say("a restore was cut short: what was there before is back")
    if needs_migration(engine):
        target = new_backup("before-upgrade")
        backup.write(url, target, say)
        say(f"backed up to {target} before changing the schema")
    migrate(engine)


def new_backup(why: str) -> Path:
    """Where a backup goes that is made now. why: the first part of its name."""
    return BACKUPS / f"{why}-{datetime.now(UTC).strftime('%Y%m%d-%H%M%S')}.zip"


def serve(
    engine: Engine, port: int, say: Say, ready: Callable[[str], None], *, backups: int = 0
) -> int:
    """Serve until interrupted; `ready` gets the address once it answers. Returns an exit code.

    backups: how many nightly ones are kept; 0: none is made.

    A worker of the web server that ends is started again, unless they keep ending.
    """
    # Loaded here and not above: it takes seconds, and other commands do without.
    from hastatus.server import web, wsgi

    url = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
    door = network(os.environ, VAR / "tls", say)
    log = VAR / "server.log"
    log.parent.mkdir(parents=True, exist_ok=True)
    for name in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(name, _interrupt)
    engine.dispose()  # its connections must not be shared with a worker
    server = web.Web(port, log, wsgi.create(url, door, Folder(FILMS, url)), _alone)
    reader: FilmReader | None = None
    try:
        server.start()
        address = f"http://127.0.0.1:{port}"
        _await_ready(server, address, log, say)
        if door is not None:
            door.open(port)
            say(f"on the club's network: {door.address}")
            if door.authority is not None:
                say(f"  tablets need {door.address}/authority.pem once: see docs/operating.md")
        ready(address)
        nightly = Nightly(BACKUPS, backups, say)
        reader = FilmReader(Folder(FILMS, url), url, log)
        while server.keep():
            with _alone:
                try:
                    nightly.look(datetime.now().astimezone())
                except OSError as error:  # a full disk must not end a class
                    say(f"the nightly backup was not made: {error}")
                try:
                    reader.look(datetime.now(UTC))
                except OSError as error:
                    say(f"films cannot be read now: {error}")
                if door is not None:
                    door.keep(datetime.now(UTC))
            time.sleep(_KEEP_EVERY_S)
        say(f"the web server keeps ending; its last words are in {log}")
        return 1
    except KeyboardInterrupt:
        return 0
    finally:
        if door is not None:
            door.close()
        if reader is not None:
            reader.stop()
        server.stop()


def _await_ready(server: web.Web, address: str, log: Path, say: Say) -> None:
    """Wait until the web server answers from the database, however busy the machine is."""
    begun = time.monotonic()
    said = begun
    while time.monotonic() < begun + _READY_SECONDS:
        if not server.keep():
            raise StoreError(f"the web server could not start; its last words are in {log}")
        try:
            with urllib.request.urlopen(f"{address}/readyz", timeout=2):
                return
        except (urllib.error.URLError, OSError):
            time.sleep(0.05)
        if time.monotonic() > said + _SAY_EVERY_S:
            said = time.monotonic()
            say(f"waiting for the web server, {said - begun:.0f} s so far")
    raise StoreError(f"the web server did not answer within {_READY_SECONDS} s; see {log}")


def _interrupt(number: int, frame: object) -> None:
    raise KeyboardInterrupt
