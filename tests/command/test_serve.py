"""Serving: a private database, a port that is taken, coaches from the command line, Ctrl-C."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path

import psycopg
import pytest
from sqlalchemy import Engine

from hastatus.server.cluster import Cluster, free_port
from hastatus.store import accounts, role
from hastatus.store.database import StoreError, make_engine, migrate, transaction
from tests.command.test_files import hastatus, in_a_shell
from tests.harness.club import film_folder
from tests.harness.database import reachable_folder, superuser_url

TO_START_S = 120
"""A machine that is busy with other work may take so long to start a command."""


@pytest.fixture
def folder() -> Iterator[Path]:
    with reachable_folder() as made:
        yield made


@pytest.fixture
def own_url(engine: Engine) -> str:
    return fresh_url(engine)


def fresh_url(engine: Engine) -> str:
    """A fresh database on the tests' server."""
    name = f"own_{time.time_ns()}"
    with psycopg.connect(superuser_url(engine), autocommit=True) as connection:
        connection.execute(f"CREATE DATABASE {name} OWNER {role.ROLE}")
    url = engine.url.set(drivername="postgresql", database=name)
    return url.render_as_string(hide_password=False)


def start(command: str, port: int, url: str) -> subprocess.Popen[str]:
    return subprocess.Popen(
        [sys.executable, "-u", "-m", "hastatus.command.main", command],
        env={
            **os.environ,
            "HASTATUS_DATABASE_URL": url,
            "HASTATUS_FILMS": film_folder(url).name,
            "PORT": str(port),
        },
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    )


def read_until(process: subprocess.Popen[str], words: str) -> list[str]:
    assert process.stdout is not None
    lines = []
    for line in process.stdout:
        lines.append(line)
        if words in line:
            return lines
    raise AssertionError(f"{words!r} was never printed: {lines}")


def test_serve_add_a_coach_sign_in_and_stop(own_url: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("HASTATUS_DATABASE_URL", own_url)
    port = free_port()
    process = start("serve", port, own_url)
    try:
        assert "coach add" in "".join(read_until(process, "is up"))
        add = ("coach", "add", "--login", "Owner@club.example", "--name", "Ines")
        short = hastatus(*add, "--club", "Weir", "--password", "short")
        assert (short.returncode, "at least 10" in short.stderr) == (2, True)
        for soon in ("password1234", "owner@club.example"):
            refused = hastatus(*add, "--club", "Weir", "--password", soon)
            assert (refused.returncode, "first that are guessed" in refused.stderr) == (2, True)
        assert hastatus(*add, "--club", "Weir", "--password", "long enough one").returncode == 0
        assert hastatus(*add, "--password", "long enough one").returncode == 2
        new = ("--password", "yet another one")
        reset = ("coach", "password", "--login", "owner@club.example", *new)
        assert hastatus(*reset).returncode == 0
        taken = start("serve", port, own_url)
        _, said = taken.communicate(timeout=TO_START_S)
        assert taken.returncode == 2
        assert said.strip().splitlines() == [said.strip()]
        assert f"port {port}" in said
        assert f"PORT={port + 1}" in said
    finally:
        process.send_signal(signal.SIGINT)
        assert process.wait(timeout=30) == 0
    with pytest.raises(OSError, match="refused"):
        urllib.request.urlopen(f"http://127.0.0.1:{port}/healthz", timeout=2)
    engine = make_engine(own_url)
    with transaction(engine) as db:
        coach = accounts.find_coach(db, "owner@club.example")
        assert coach is not None
        assert coach.role == "owner"
        assert accounts.verify(coach, "yet another one")
    engine.dispose()


@pytest.mark.parametrize(
    ("loaded", "heavy"),
    [
        ("hastatus.command.clubs", {"av", "procrastinate", "scipy.signal"}),
        ("hastatus.server.wsgi", {"scipy.signal", "scipy.stats", "scipy.optimize"}),
    ],
    ids=["commands", "web server"],
)
def test_what_takes_long_to_load_is_not_loaded_by_what_starts(loaded: str, heavy: set[str]) -> None:
    code = f"""
import sys, {loaded}
print({heavy} & set(sys.modules))
from hastatus.server.web import load_later
load_later()
print({{"scipy.signal"}} - set(sys.modules))
"""
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.split() == ["set()", "set()"]


def test_a_private_cluster_comes_back_and_says_what_is_wrong(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = Cluster(folder / "pg")
    url = first.start()
    with pytest.raises(StoreError, match="already running"):
        Cluster(folder / "pg").start()
    assert Cluster(folder / "pg").running_url() == url
    engine = make_engine(url)
    migrate(engine)
    with transaction(engine) as db:
        accounts.add_club(db, "Still here")
    engine.dispose()
    # Killed outright: the next start clears up what was left behind.
    assert first._process is not None
    first._process.send_signal(signal.SIGQUIT)
    first._process.wait()
    first.stop()
    assert Cluster(folder / "pg").running_url() is None
    again = Cluster(folder / "pg")
    engine = make_engine(again.start())
    with transaction(engine) as db:
        club_found = accounts.first_club(db)
        assert club_found is not None
        assert club_found.name == "Still here"
    engine.dispose()
    again.stop()
    (again.data / "PG_VERSION").write_text("9\n")
    with pytest.raises(StoreError, match="PostgreSQL 9"):
        Cluster(folder / "pg").start()
    with pytest.raises(StoreError, match=r"/proc/none cannot be written \(.+\); make it writable"):
        Cluster(Path("/proc/none")).start()
    monkeypatch.setattr("hastatus.server.cluster.LEAST_FREE_BYTES", 2**62)
    with pytest.raises(StoreError, match="nearly full"):
        Cluster(folder / "other").start()
    monkeypatch.setattr("hastatus.server.cluster.PROGRAMS", folder / "none")
    monkeypatch.setattr("hastatus.server.cluster.LEAST_FREE_BYTES", 0)
    with pytest.raises(StoreError, match="not installed"):
        Cluster(folder / "third").start()


def test_a_database_that_does_not_answer_is_one_line(monkeypatch: pytest.MonkeyPatch) -> None:
    with socket.socket() as closed:
        closed.bind(("127.0.0.1", 0))
        port = closed.getsockname()[1]
        monkeypatch.setenv("HASTATUS_DATABASE_URL", f"postgresql://x:y@127.0.0.1:{port}/none")
        add = ("coach", "add", "--login", "a", "--name", "b")
        done = hastatus(*add, "--password", "long enough too")
    assert done.returncode == 2
    assert len(done.stderr.strip().splitlines()) == 1
    monkeypatch.setenv("HASTATUS_DATABASE_URL", "mysql://somewhere")
    assert "PostgreSQL address" in in_a_shell("serve", "--port", free_port()).stderr


def until(met: Callable[[], bool], within_s: float) -> float:
    """Wait until something is so; how long it took, in seconds."""
    began = time.monotonic()
    while not met():
        assert time.monotonic() - began < within_s
        time.sleep(0.05)
    return time.monotonic() - began


def answers(port: int, wait_s: float = 2) -> bool:
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/readyz", timeout=wait_s) as answer:
            return bool(answer.status == 200)
    except OSError:
        return False


def children(pid: int) -> list[int]:
    """Processes that `pid` started, by /proc."""
    return [int(each) for each in Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]


def is_replaced(process: subprocess.Popen[str], gone: int) -> bool:
    workers = children(process.pid)
    return len(workers) == 2 and gone not in workers


@pytest.fixture(scope="module")
def served(engine: Engine) -> Iterator[tuple[subprocess.Popen[str], int]]:
    """`hastatus serve` in a process of its own, and its port."""
    with serving(fresh_url(engine)) as process_and_port:
        yield process_and_port


@contextmanager
def serving(url: str) -> Iterator[tuple[subprocess.Popen[str], int]]:
    """A server of its own for a while."""
    port = free_port()
    process = start("serve", port, url)
    try:
        read_until(process, "is up")
        yield process, port
    finally:
        process.send_signal(signal.SIGINT)
        assert process.wait(timeout=30) == 0
        assert not answers(port)


def test_workers_that_are_killed_come_back_and_nobody_is_turned_away(
    served: tuple[subprocess.Popen[str], int],
) -> None:
    process, port = served
    for killed in (1, 2, 2):
        until(lambda: len(children(process.pid)) == 2, 30)  # and no helper of a moment
        before = children(process.pid)
        for worker in before[:killed]:
            os.kill(worker, signal.SIGKILL)
        assert answers(port, wait_s=8)  # it waited, and was not refused
        for gone in before[:killed]:
            until(partial(is_replaced, process, gone), 30)


def test_a_half_sent_body_holds_nobody_up(served: tuple[subprocess.Popen[str], int]) -> None:
    _, port = served
    held = [socket.create_connection(("127.0.0.1", port)) for _ in range(60)]
    half = b"POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Length: 900\r\n\r\n{"
    for each in held:
        each.sendall(half)
    assert answers(port)
    until(lambda: answers(port), 15)
    for each in held:
        each.close()


def test_what_is_being_worked_on_is_answered_before_the_end(engine: Engine) -> None:
    """SIGTERM in the middle of a sign-in, which takes its time to check a password."""
    with serving(fresh_url(engine)) as (process, port):
        with socket.create_connection(("127.0.0.1", port)) as asked:
            body = b'{"login": "nobody@club.example", "password": "something long"}'
            head = f"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\n"
            length = f"Content-Type: application/json\r\nContent-Length: {len(body)}\r\n\r\n"
            asked.sendall((head + length).encode() + body)
            time.sleep(0.01)
            process.send_signal(signal.SIGTERM)
            asked.settimeout(10)
            assert asked.recv(100).startswith(b"HTTP/1.1 401")
        assert process.wait(timeout=30) == 0


def test_a_database_that_is_killed_comes_back_at_its_port(folder: Path) -> None:
    """Connections that were open are tried and replaced: nobody has to do anything."""
    cluster = Cluster(folder / "pg")
    engine = make_engine(cluster.start())
    try:
        migrate(engine)
        with transaction(engine) as db:
            accounts.add_club(db, "Still here")
        assert not cluster.keep()
        assert cluster._process is not None
        cluster._process.kill()
        cluster._process.wait()

        def again() -> bool:
            try:
                return cluster.keep()
            except StoreError:  # what its processes held is not free yet
                return False

        until(again, 15)
        with transaction(engine) as db:
            assert accounts.first_club(db) is not None
    finally:
        engine.dispose()
        cluster.stop()


def test_a_second_server_goes_on_when_the_first_one_stops(folder: Path) -> None:
    first, second = Cluster(folder / "pg"), Cluster(folder / "pg")
    url = first.start()
    assert second.running_url() == url
    engine = make_engine(url)
    try:
        migrate(engine)
        assert not second.keep()
        first.stop()
        assert second.keep()
        with engine.connect() as connection:  # the same port
            assert connection.exec_driver_sql("SELECT 1").scalar_one() == 1
    finally:
        engine.dispose()
        second.stop()
        first.stop()
