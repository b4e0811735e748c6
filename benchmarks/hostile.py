"""Two hundred hostile clients at once: what a coach's post takes meanwhile.

They hold half-sent bodies and heads, dribble, flood, guess passwords and send bodies that are too
large or too many-parted, all from one address and not signed in, as fast as they are answered.
"""

from __future__ import annotations

import asyncio
import json
import os
import subprocess
import sys
import threading
import time
from collections.abc import Awaitable, Callable, Iterator

from benchmarks.figure import Figure, percentile
from benchmarks.load import WARM, Live, _prepare, sender, sign_in
from tests.harness.club import Server
from tests.harness.database import temporary_database, url_of

CLIENTS = 200
RUNS = 4
EVERY_S = 0.5
SETTLE_S = 3.0


def figures(loose: bool) -> Iterator[Figure]:
    """Post as a coach's devices do, while the others do what they can."""
    posts = 12 if loose else 60
    taken: list[int] = []
    with temporary_database() as engine:
        server = Server(url_of(engine))
        try:
            live, _ = _prepare(engine, posts + WARM)
            server.start()
            signed = sign_in(server)
            for number in range(WARM):
                for run in live[:RUNS]:
                    sender(server, *signed, taken)(run, number)
            send = sender(server, *signed, taken)
            attack = subprocess.Popen(
                [sys.executable, "-m", "benchmarks.hostile", str(server.port)]
            )
            try:
                time.sleep(SETTLE_S)
                times = _post(send, live, WARM, posts)
                assert attack.poll() is None
            finally:
                attack.kill()
                attack.wait()
        finally:
            server.stop()
    yield Figure(f"a coach's post, {CLIENTS} hostile clients at once, p95",
                 percentile(times, 0.95), "ms", 100, 5)  # fmt: skip
    yield Figure("posts lost meanwhile", (posts + WARM) * RUNS - len(taken), "", 0)


def _post(
    send: Callable[[Live, int], float], live: list[Live], first: int, count: int
) -> list[float]:
    """Times of the posts, in ms."""
    times: list[float] = []

    def post(run: Live) -> None:
        for number in range(first, first + count):
            times.append(send(run, number))
            time.sleep(EVERY_S)

    threads = [threading.Thread(target=post, args=(run,)) for run in live[:RUNS]]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return times


def _request(method: str, path: str, body: bytes = b"", length: int | None = None) -> bytes:
    head = f"{method} {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\n"
    size = len(body) if length is None else length
    return f"{head}Content-Length: {size}\r\n\r\n".encode() + body


GUESS = json.dumps({"login": "bench@lockside.example", "password": "not this one"}).encode()
PARTS = b"[" + b"{}," * 1_300_000 + b"{}]"
DRILL = "/api/drills/6d0ee1d0-0c2c-4f0c-8a8c-0a3b8c3f6f11/file"

HELD = [_request("POST", "/api/session", b"{", 900), b"POST /api/session HTTP/1.1\r\nHost: x\r\n"]
ASKED = [
    _request("GET", "/api/students"),
    _request("POST", "/api/session", GUESS),
    _request("POST", "/api/drills", PARTS),
    _request("PUT", DRILL, b"x" * 16 * 2**20),
    _request("GET", "/index.html"),
]


async def _hold(port: int, part: bytes) -> None:
    """Half a request, and a letter now and then."""
    reader, writer = await asyncio.open_connection("127.0.0.1", port)
    writer.write(part)
    while not reader.at_eof():
        await asyncio.sleep(2)
        writer.write(b"a")
        await writer.drain()


async def _ask(port: int, asked: bytes) -> None:
    """A whole request; its answer is read to its end."""
    reader, writer = await asyncio.open_connection("127.0.0.1", port)
    writer.write(asked.replace(b"Host:", b"Connection: close\r\nHost:", 1))
    await writer.drain()
    while await reader.read(2**16):
        pass
    writer.close()


async def _again(what: Callable[[int, bytes], Awaitable[None]], port: int, asked: bytes) -> None:
    while True:
        try:
            await what(port, asked)
        except OSError:
            await asyncio.sleep(0.05)


async def _attack(port: int) -> None:
    clients = [
        _again(_hold, port, HELD[n % 2]) if n % 2 else _again(_ask, port, ASKED[n // 2 % 5])
        for n in range(CLIENTS)
    ]
    await asyncio.gather(*clients)


if __name__ == "__main__":
    os.nice(10)  # in the world it has a processor of its own
    asyncio.run(_attack(int(sys.argv[1])))
