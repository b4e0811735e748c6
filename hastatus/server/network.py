"""What the operator says of the club's network, and the door that it opens to it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from pathlib import Path

from hastatus.server import certificate, front
from hastatus.store.database import StoreError

LISTEN, CERTIFICATE, KEY = "HASTATUS_LISTEN", "HASTATUS_CERTIFICATE", "HASTATUS_KEY"
HOSTS = "HASTATUS_HOSTS"
"""Names and addresses, with commas between, that the server is reached by besides loopback's."""
_AGAIN = timedelta(seconds=10)
_RENEW = timedelta(days=certificate.RENEW_DAYS)


def hosts_of(environ: Mapping[str, str]) -> list[str]:
    """What HASTATUS_HOSTS names."""
    return [host.strip() for host in environ.get(HOSTS, "").split(",") if host.strip()]


@dataclass
class Network:
    """The door to the club's network.

    names: by which the server is reached; shown: the certificate that it shows; authority: what
    tablets have to be given where that is of the club's own making.
    """

    listens: front.Address
    names: list[str]
    shown: certificate.Certificate
    authority: Path | None
    say: Callable[[str], None]
    _door: front.Front | None = field(default=None, init=False)
    _again_at: datetime = field(default=datetime.min.replace(tzinfo=UTC), init=False)

    @property
    def address(self) -> str:
        """By which a tablet reaches it."""
        return f"https://{self.names[0]}:{self.listens.port}"

    def open(self, port: int) -> None:
        """Let the network in to the server at `port` on loopback. Raises `StoreError`."""
        self._door = front.Front(self.listens, self.shown.chain, port, self.say)
        self._door.start()

    def keep(self, now: datetime) -> None:
        """Open the door again where it has closed; with a new certificate before one ends."""
        if self._door is None or now < self._again_at:
            return
        try:
            self._look_after(self._door, now)
        except (StoreError, OSError) as error:  # a full disk must not end a class
            self.say(f"the door to the network is closed: {error}")
            self._again_at = now + _AGAIN

    def _look_after(self, door: front.Front, now: datetime) -> None:
        if self.authority is not None and now > self.shown.ends_at - _RENEW:
            self.shown = certificate.own(self.authority.parent, self.names, now)
            door.stop()
            door.start()
        door.keep()

    def close(self) -> None:
        if self._door is not None:
            self._door.stop()


def network(environ: Mapping[str, str], folder: Path, say: Callable[[str], None]) -> Network | None:
    """The door that the settings ask for; None: they ask for none, and loopback is all.

    folder: where certificates are kept. Raises `StoreError` where the settings cannot be.
    """
    said = environ.get(LISTEN, "").strip()
    if not said:
        return None
    listens, hosts, now = front.address(said), hosts_of(environ), datetime.now(UTC)
    if listens.is_every and not hosts:
        raise StoreError(
            f"{LISTEN}={said} is every address of this machine: name those that tablets use in "
            f"{HOSTS}, such as hall.example,192.168.1.20"
        )
    names = front.names(listens, hosts)
    files = [environ.get(CERTIFICATE, "").strip(), environ.get(KEY, "").strip()]
    if any(files) and not all(files):
        raise StoreError(f"{CERTIFICATE} and {KEY} go together: set both, or neither")
    if not all(files):
        shown = certificate.own(folder, names, now)
        return Network(listens, names, shown, folder / "authority.pem", say)
    shown = certificate.given(Path(files[0]), Path(files[1]), folder, now)
    missing = certificate.lacks(shown, [name for name in names if name in hosts])
    if missing:
        say(f"the certificate is not for {', '.join(missing)}: browsers will warn there")
    if now > shown.ends_at - _RENEW:
        say(f"the certificate ends on {shown.ends_at:%Y-%m-%d}: renew it")
    return Network(listens, names, shown, None, say)
