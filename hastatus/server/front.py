"""The door to the club's network: HAProxy takes https and hands it on to the server on loopback.

Nothing beyond loopback is listened on unless HASTATUS_LISTEN says so.
"""

from __future__ import annotations

import ipaddress
import os
import shutil
import signal
import socket
import subprocess
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

from hastatus.store.database import StoreError

PROGRAM = "haproxy"
_STOP_S = 10
_OPEN_S = 10

_CONFIG = """\
global
    maxconn 4000
    ssl-default-bind-options ssl-min-ver TLSv1.2
    tune.ssl.default-dh-param 2048
defaults
    mode http
    timeout connect 5s
    timeout client 60s
    timeout server 120s
    timeout http-request 30s
    errorfile 503 {folder}/away.http
frontend club
    bind {address} ssl crt {chain} alpn h2,http/1.1
    option forwardfor
    http-request set-header X-Forwarded-Proto https
    http-request set-header X-Request-Id %[uuid()]
    http-request set-header X-Forwarded-Host %[req.hdr(host)]
    http-response set-header Strict-Transport-Security max-age=86400
    default_backend hastatus
backend hastatus
    option redispatch
    retries 10
    server own 127.0.0.1:{port}
"""
_AWAY = (
    "HTTP/1.0 503 Service Unavailable\r\nContent-Type: text/plain; charset=utf-8\r\n"
    "Retry-After: 5\r\nConnection: close\r\n\r\nHastatus is starting again: a moment.\r\n"
)


@dataclass(frozen=True, slots=True)
class Address:
    """Where it listens. host: an address of this machine, or 0.0.0.0 or :: for all of them."""

    host: str
    port: int

    @property
    def text(self) -> str:
        return f"[{self.host}]:{self.port}" if ":" in self.host else f"{self.host}:{self.port}"

    @property
    def is_every(self) -> bool:
        """Whether it is every address of this machine."""
        return ipaddress.ip_address(self.host).is_unspecified


def address(said: str) -> Address:
    """What HASTATUS_LISTEN says, such as 192.168.1.20:8443. Raises `StoreError`."""
    host, _, port = said.strip().rpartition(":")
    try:
        found = Address(str(ipaddress.ip_address(host.strip("[]"))), int(port))
    except ValueError:
        found = Address("", 0)
    if not 0 < found.port < 65536:
        raise StoreError(
            f"HASTATUS_LISTEN must be an address of this machine and a port, such as "
            f"192.168.1.20:8443, not {said!r}"
        )
    return found


def names(listens: Address, hosts: Sequence[str]) -> list[str]:
    """The names and addresses that a certificate has to be for."""
    own = [] if listens.is_every else [listens.host]
    return list(dict.fromkeys([*hosts, *own, "localhost", "127.0.0.1"]))


class Front:
    """HAProxy as a process of its own. chain: PEM file of certificate and key; port: of the server
    on loopback."""

    def __init__(
        self, listens: Address, chain: Path, port: int, say: Callable[[str], None]
    ) -> None:
        self._listens, self._chain, self._port, self._say = listens, chain, port, say
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Raises `StoreError` where it cannot listen there."""
        program = shutil.which(PROGRAM) or shutil.which(PROGRAM, path="/usr/sbin:/sbin")
        if program is None:
            raise StoreError("HASTATUS_LISTEN needs HAProxy; run 'apt install haproxy'")
        folder = self._chain.parent
        ended = _stop_orphan(folder / "haproxy.pid", folder / "haproxy.cfg")
        _await_free(self._listens, _STOP_S if ended else 0.0)
        (folder / "away.http").write_text(_AWAY)
        config = folder / "haproxy.cfg"
        config.write_text(
            _CONFIG.format(
                folder=folder, address=self._listens.text, chain=self._chain, port=self._port
            )
        )
        checked = subprocess.run([program, "-c", "-f", config], capture_output=True, text=True)
        if checked.returncode:
            raise StoreError(f"HAProxy refuses {config}: {checked.stderr.strip()[-300:]}")
        pid = folder / "haproxy.pid"
        with (folder / "haproxy.log").open("wb") as log:
            self._process = subprocess.Popen(
                [program, "-db", "-f", config],
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=subprocess.STDOUT,
                start_new_session=True,
            )
        pid.write_text(str(self._process.pid))
        self._await_open(self._process, folder / "haproxy.log")

    def _await_open(self, process: subprocess.Popen[bytes], log: Path) -> None:
        """Wait until somebody could come in."""
        deadline = time.monotonic() + _OPEN_S
        while process.poll() is None and time.monotonic() < deadline:
            try:
                socket.create_connection((_near(self._listens), self._listens.port), 1).close()
                return
            except OSError:
                time.sleep(0.05)
        said = log.read_text(errors="replace").strip()[-300:] or "no reason given"
        raise StoreError(f"HAProxy could not start: {said}")

    def keep(self) -> None:
        """Start it again where it has ended. Raises `StoreError` where it cannot."""
        if self._process is not None and self._process.poll() is not None:
            self.start()
            self._say("the door to the network had closed; it is open again")

    def stop(self) -> None:
        """Take no new connections, end what is on, stop."""
        process, self._process = self._process, None
        if process is None or process.poll() is not None:
            return
        process.send_signal(signal.SIGUSR1)
        try:
            process.wait(timeout=_STOP_S)
        except subprocess.TimeoutExpired:
            os.killpg(process.pid, signal.SIGKILL)
            process.wait()


def _stop_orphan(pid_file: Path, config: Path) -> bool:
    """End one that a killed Hastatus left behind with this very configuration; whether there was
    one."""
    try:
        pid = int(pid_file.read_text())
    except (OSError, ValueError):
        return False
    if not _runs(pid, config):
        return False
    os.kill(pid, signal.SIGTERM)
    deadline = time.monotonic() + _STOP_S
    while _runs(pid, config) and time.monotonic() < deadline:
        time.sleep(0.05)
    return True


def _runs(pid: int, config: Path) -> bool:
    """Whether a process runs with this configuration; one that has ended has no arguments."""
    try:
        return os.fsencode(config) in Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
    except OSError:
        return False


def _near(listens: Address) -> str:
    """An address by which this machine itself comes in."""
    if not listens.is_every:
        return listens.host
    return "::1" if ":" in listens.host else "127.0.0.1"


def _await_free(listens: Address, seconds: float) -> None:
    """Wait until nothing listens there: a process that ends has no arguments any more a while
    before its port is free. Raises `StoreError` where it is not by then."""
    deadline = time.monotonic() + seconds
    while True:
        try:
            _check_free(listens)
            return
        except StoreError:
            if time.monotonic() >= deadline:
                raise
            time.sleep(0.05)


def _check_free(listens: Address) -> None:
    family = socket.AF_INET6 if ":" in listens.host else socket.AF_INET
    with socket.socket(family) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((listens.host, listens.port))
        except OSError as error:
            raise StoreError(
                f"{listens.text} cannot be listened on ({error.strerror}); HASTATUS_LISTEN must be "
                "an address of this machine, with a port that is free"
            ) from error
