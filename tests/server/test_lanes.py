"""Whose request is next, and what a connection may send: the rules of the web server."""

from __future__ import annotations

import http.client
import socket
import subprocess
from collections.abc import Iterator
from dataclasses import dataclass, field
from threading import Lock

import pytest
from sqlalchemy import Engine

from hastatus.server.lanes import BURST, MOST_RUNNING, MOST_WAITING, RATE_HZ, Lanes
from tests.command.test_serve import fresh_url, serving


@pytest.fixture(scope="module")
def served(engine: Engine) -> Iterator[tuple[subprocess.Popen[str], int]]:
    """One server for all: what is sent here changes nothing."""
    with serving(fresh_url(engine)) as process_and_port:
        yield process_and_port


@dataclass
class Asked:
    """A request of an address; None: signed in."""

    address: str | None
    done: list[str] = field(default_factory=list)

    def service(self) -> None:
        self.done.append("served")

    def cancel(self) -> None:
        self.done.append("cancelled")


@dataclass
class Clock:
    now_s: float = 100.0

    def __call__(self) -> float:
        return self.now_s


def lanes_of(clock: Clock) -> Lanes:
    return Lanes(lambda task: task.address, Lock(), clock)  # type: ignore[attr-defined]


def serve_all(lanes: Lanes) -> list[str | None]:
    """Serve what may be served now, one after the other; the addresses in order."""
    order = []
    while lanes:
        task = lanes.popleft()
        order.append(getattr(task, "_task", task).address)
        task.service()
    return order


def test_who_is_signed_in_goes_first_and_strangers_come_through() -> None:
    lanes = lanes_of(Clock())
    for _ in range(8):
        lanes.append(Asked("10.0.0.9"))
    for _ in range(8):
        lanes.append(Asked(None))
    order = serve_all(lanes)
    assert len(order) == 16
    assert [place for place, each in enumerate(order[:8]) if each] == [3, 7]


def test_addresses_take_turns() -> None:
    lanes = lanes_of(Clock())
    for _ in range(50):
        lanes.append(Asked("10.0.0.9"))
    lanes.append(Asked("10.0.0.5"))
    assert "10.0.0.5" in serve_all(lanes)[:2]


def test_strangers_have_a_pace_and_few_threads() -> None:
    clock = Clock()
    lanes = lanes_of(clock)
    crowd = [Asked("10.0.0.9") for _ in range(MOST_WAITING + 5)]
    for each in crowd:
        lanes.append(each)
    assert [each.done for each in crowd[MOST_WAITING:]] == [["cancelled"]] * 5
    held = [lanes.popleft() for _ in range(MOST_RUNNING)]
    assert not lanes
    lanes.append(Asked(None))
    assert len(lanes) == 1
    lanes.popleft().service()
    for task in held:
        task.service()
    assert len(serve_all(lanes)) == BURST - MOST_RUNNING
    clock.now_s += 0.5
    assert len(serve_all(lanes)) == RATE_HZ / 2


def answer(port: int, body_bytes: int, cookie: str = "") -> http.client.HTTPResponse:
    """The answer to a body that is sent to its end, whatever comes back meanwhile."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
    connection.putrequest("POST", "/api/students")
    for name, value in {"Content-Type": "application/json", "Cookie": cookie}.items():
        connection.putheader(name, value)
    connection.putheader("Content-Length", str(body_bytes))
    connection.endheaders()
    for _ in range(body_bytes // 2**16):
        connection.send(b" " * 2**16)
    return connection.getresponse()


def test_what_is_too_large_is_refused_in_words_that_arrive(
    served: tuple[subprocess.Popen[str], int],
) -> None:
    """Before: the connection broke, and a browser took it for a lost line."""
    _, port = served
    stranger = answer(port, 2**20 + 2**16)
    assert stranger.status == 401
    assert b"Sign in to continue" in stranger.read()
    assert answer(port, 2**19).status == 401
    large = answer(port, 30 * 2**20, "hastatus=some-token")
    assert (large.status, large.headers["Content-Type"]) == (413, "application/problem+json")


@pytest.fixture
def raw(served: tuple[subprocess.Popen[str], int]) -> Iterator[socket.socket]:
    with socket.create_connection(("127.0.0.1", served[1]), timeout=10) as connection:
        yield connection


@pytest.mark.parametrize(
    ("sent", "status"),
    [
        (b"what?\r\n\r\n", b"400"),
        (b"POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Length: many\r\n\r\n", b"400"),
        (b"GET / HTTP/1.1\r\nHost: x\r\nX-Long: " + b"a" * 40_000 + b"\r\n\r\n", b"431"),
    ],
)
def test_what_is_no_request_is_said_to_be_none(
    raw: socket.socket, sent: bytes, status: bytes
) -> None:
    raw.sendall(sent)
    assert raw.recv(200).split()[1] == status
