"""The web server: workers forked from one warm process, which starts each anew that ends.

Each worker has a socket of its own on the one port, and the kernel deals out connections. They are
opened once and kept here: while a worker is replaced, its clients wait and are not refused. A
worker reads a whole request before a thread works on it, so half-sent ones hold up nobody.
"""

from __future__ import annotations

import ctypes
import logging
import mmap
import os
import resource
import signal
import socket
import struct
import threading
import time
import traceback
from collections.abc import Callable
from contextlib import AbstractContextManager, suppress
from importlib import import_module
from pathlib import Path
from typing import Any

from flask_openapi3 import OpenAPI
from waitress.server import BaseWSGIServer, create_server
from werkzeug.http import parse_cookie

from hastatus.api.http.session import COOKIE, KnownTokens
from hastatus.server import logs
from hastatus.server.connection import Channel
from hastatus.server.lanes import Dispatcher, Task

WORKERS = 2
THREADS = 8
IDLE_S = 30
"""A connection that says nothing for so long is closed, in the middle of a request too."""
LARGEST_BODY = 20 * 2**20
"""More than the API takes of anything: what is larger is refused before it is read."""
MOST_CONNECTIONS = 4000
HUNG_S = 60.0
"""A worker that has shown no life for so long is ended and replaced."""
LATER = ("scipy.stats", "scipy.signal", "scipy.optimize")
LATER_S = 15.0
"""What takes a second to load and is not needed to begin with, and how long after its start a
worker loads it, so that nobody who opens results has to wait for it."""
_STOP_S = 8.0
_MOST_FAILED = 6
"""When so many workers in a row end before they can answer, the server gives up."""
_SIGNALS = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)
_PR_SET_PDEATHSIG = 1


class Web:
    """The workers of a server. fork_alone: within it no other thread here holds a lock."""

    def __init__(
        self, port: int, log: Path, app: OpenAPI, fork_alone: AbstractContextManager[Any]
    ) -> None:
        self.log = log
        self.app = app
        self.fork_alone = fork_alone
        self.workers: dict[int, int] = {}
        self.failed = 0
        self.life = mmap.mmap(-1, 8 * WORKERS)
        self.answers = mmap.mmap(-1, WORKERS)
        self.sockets = [listen(port) for _ in range(WORKERS)]

    def start(self) -> None:
        for worker in range(WORKERS):
            self._fork(worker)

    def keep(self) -> bool:
        """Replace the workers that have ended or hang. False: they keep ending, give up."""
        now = time.monotonic()
        logs.rotate(self.log)
        for pid, worker in list(self.workers.items()):
            if now - self._seen(worker) > HUNG_S:
                with suppress(ProcessLookupError):
                    os.kill(pid, signal.SIGKILL)
            if _has_ended(pid):
                del self.workers[pid]
                self.failed = 0 if self.answers[worker] else self.failed + 1
                self._fork(worker)
        return self.failed < _MOST_FAILED

    def stop(self) -> None:
        """End the workers; each answers first what it is working on."""
        for listener in self.sockets:
            listener.close()
        for pid in self.workers:
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGTERM)
        deadline = time.monotonic() + _STOP_S
        while self.workers and time.monotonic() < deadline:
            for pid in list(self.workers):
                if _has_ended(pid):
                    del self.workers[pid]
            time.sleep(0.02)
        for pid in self.workers:
            os.kill(pid, signal.SIGKILL)
            os.waitpid(pid, 0)

    def _fork(self, worker: int) -> None:
        self._live(worker)
        self.answers[worker] = 0
        parent = os.getpid()
        with self.fork_alone:
            # An interrupt between the fork and the note of it would lose the worker.
            signal.pthread_sigmask(signal.SIG_BLOCK, _SIGNALS)
            pid = os.fork()
            if pid:
                self.workers[pid] = worker
                signal.pthread_sigmask(signal.SIG_UNBLOCK, _SIGNALS)
                return
        code = 1
        try:
            self._work(worker, parent)
            code = 0
        except BaseException:
            traceback.print_exc()
        finally:
            os._exit(code)

    def _work(self, worker: int, parent: int) -> None:
        """Be a worker until told to end."""
        own = self.sockets[worker]
        ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)
        if os.getppid() != parent:
            return  # it ended before it could be asked to tell
        os.setsid()  # Ctrl-C comes to the parent, which ends this one in order
        for stop in (signal.SIGINT, signal.SIGHUP):
            signal.signal(stop, signal.SIG_IGN)
        signal.signal(signal.SIGTERM, _end)
        signal.pthread_sigmask(signal.SIG_UNBLOCK, _SIGNALS)
        os.umask(0o077)  # a log names addresses and coaches
        output = os.open(self.log, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600)
        for stream in (1, 2):
            os.dup2(output, stream)
        # A lock on the data folder that came along would outlive the parent.
        for name in os.listdir("/proc/self/fd"):
            if int(name) > 2 and int(name) != own.fileno():
                with suppress(OSError):
                    os.close(int(name))
        logs.to_file(self.log)
        threading.Thread(target=self._beat, args=(worker,), daemon=True).start()
        later = threading.Timer(LATER_S, load_later)
        later.daemon = True
        later.start()
        self.answers[worker] = 1
        serve(own, self.app)

    def _beat(self, worker: int) -> None:
        while True:
            self._live(worker)
            time.sleep(1)

    def _live(self, worker: int) -> None:
        struct.pack_into("d", self.life, 8 * worker, time.monotonic())

    def _seen(self, worker: int) -> float:
        return float(struct.unpack_from("d", self.life, 8 * worker)[0])


def load_later() -> None:
    """Load what a worker has not needed so far."""
    for name in LATER:
        import_module(name)


def _has_ended(pid: int) -> bool:
    """Whether a child is over; also where an interrupt came just after that was found out."""
    try:
        return os.waitpid(pid, os.WNOHANG) != (0, 0)
    except ChildProcessError:
        return True


def listen(port: int) -> socket.socket:
    """A socket that clients can connect to from now on, one of several at a port."""
    opened = socket.socket()
    opened.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    opened.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    opened.bind(("127.0.0.1", port))
    opened.listen(1024)
    return opened


def serve(opened: socket.socket, app: OpenAPI) -> None:
    """Answer on a listening socket until SIGTERM, then finish what is being worked on."""
    most = resource.getrlimit(resource.RLIMIT_NOFILE)[1]
    resource.setrlimit(resource.RLIMIT_NOFILE, (most, most))
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    dispatcher = Dispatcher(addresses(app.config["KNOWN_TOKENS"], app.config.get("PROXIES", 0)))
    dispatcher.set_thread_count(THREADS)
    server = create_server(
        app.wsgi_app,
        sockets=[opened],
        _dispatcher=dispatcher,
        asyncore_use_poll=True,
        recv_bytes=2**16,
        send_bytes=1,  # the thread that made the answer sends it
        connection_limit=min(MOST_CONNECTIONS, most - 100),
        channel_timeout=IDLE_S,
        cleanup_interval=5,
        max_request_body_size=LARGEST_BODY,
        max_request_header_size=32 * 2**10,
        clear_untrusted_proxy_headers=False,
        ident=None,
    )
    assert isinstance(server, BaseWSGIServer)  # one socket
    server.channel_class = Channel
    server.run()
    for channel in list(server.active_channels.values()):  # type: ignore[attr-defined]
        channel.handle_write()


def addresses(known: KnownTokens, proxies: int) -> Callable[[Any], str | None]:
    """Finds a stranger's address; None: signed in. proxies: how many of one's own to believe."""

    def address(task: Task) -> str | None:
        headers = task.requests[0].headers  # type: ignore[attr-defined]
        if parse_cookie(headers.get("COOKIE", "")).get(COOKIE, "") in known:
            return None
        hops = headers.get("X_FORWARDED_FOR", "").split(",") if proxies else []
        nearest: str = task.addr[0]  # type: ignore[attr-defined]
        return hops[-proxies].strip() if len(hops) >= proxies > 0 else nearest

    return address


def _end(number: int, frame: object) -> None:
    raise SystemExit
