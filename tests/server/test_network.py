"""The door to the club's network: its certificates, and who is let in."""

from __future__ import annotations

import http.client
import json
import socket
import ssl
import threading
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID
from cryptography.x509.verification import PolicyBuilder, Store, VerificationError
from sqlalchemy import Engine

from hastatus.server import certificate, front, network
from hastatus.server.cluster import free_port
from hastatus.store.database import StoreError
from tests.harness.club import PASSWORD, Made, Server, make_club
from tests.harness.database import url_of

NOW = datetime.now(UTC)
NAMES = ["hall.example", "127.0.0.1", "localhost"]


def verified(root: Path, chain: Path, name: str, at: datetime = NOW) -> bool:
    """Whether who trusts `root` believes `chain` for a name (RFC 5280, by `cryptography`)."""
    store = Store(x509.load_pem_x509_certificates(root.read_bytes()))
    leaf = x509.load_pem_x509_certificate(chain.read_bytes())
    verifier = PolicyBuilder().store(store).time(at).build_server_verifier(x509.DNSName(name))
    try:
        verifier.verify(leaf, [])
    except VerificationError:
        return False
    return True


def test_the_authority_vouches_for_this_machine_and_no_other(tmp_path: Path) -> None:
    made = certificate.own(tmp_path, NAMES, NOW)
    root = tmp_path / "authority.pem"
    assert verified(root, made.chain, "hall.example")
    assert not verified(root, made.chain, "bank.example")
    assert not verified(root, made.chain, "hall.example", NOW + timedelta(days=400))
    assert made.ends_at - NOW <= timedelta(days=398)
    for secret in (made.chain, tmp_path / "authority.key"):
        assert secret.stat().st_mode & 0o077 == 0
    elsewhere = certificate.own(tmp_path / "another club", NAMES, NOW)
    assert not verified(root, elsewhere.chain, "hall.example")


def test_a_certificate_goes_on_until_its_end_is_near_and_the_authority_stays(
    tmp_path: Path,
) -> None:
    made = certificate.own(tmp_path, NAMES, NOW)
    root, first = (tmp_path / "authority.pem").read_bytes(), made.chain.read_bytes()
    assert certificate.own(tmp_path, NAMES, NOW + timedelta(days=300)) == made
    assert made.chain.read_bytes() == first
    later = NOW + timedelta(days=380)
    renewed = certificate.own(tmp_path, NAMES, later)
    assert renewed.ends_at > made.ends_at
    assert verified(tmp_path / "authority.pem", renewed.chain, "hall.example", later)
    more = certificate.own(tmp_path, [*NAMES, "192.168.1.20"], later)
    assert "192.168.1.20" in more.names
    assert (tmp_path / "authority.pem").read_bytes() == root


def files(folder: Path, ends: datetime, name: str = "hall.example") -> tuple[Path, Path]:
    """A certificate of the club's own buying, and its key."""
    key = ec.generate_private_key(ec.SECP256R1())
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, name)])
    made = (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(ends - timedelta(days=90))
        .not_valid_after(ends)
        .add_extension(x509.SubjectAlternativeName([x509.DNSName(name)]), critical=False)
        .sign(key, hashes.SHA256())
    )
    folder.mkdir(exist_ok=True)
    (folder / "cert.pem").write_bytes(made.public_bytes(serialization.Encoding.PEM))
    (folder / "key.pem").write_bytes(
        key.private_bytes(
            serialization.Encoding.PEM,
            serialization.PrivateFormat.PKCS8,
            serialization.NoEncryption(),
        )
    )
    return folder / "cert.pem", folder / "key.pem"


def settings(listen: str, hosts: str = "", pair: tuple[Path, Path] | None = None) -> dict[str, str]:
    said = {"HASTATUS_LISTEN": listen, "HASTATUS_HOSTS": hosts}
    if pair:
        said |= {"HASTATUS_CERTIFICATE": str(pair[0]), "HASTATUS_KEY": str(pair[1])}
    return said


def test_settings_that_cannot_be_are_said_in_plain_words(tmp_path: Path) -> None:
    said: list[str] = []
    good = files(tmp_path / "good", NOW + timedelta(days=60))
    old = files(tmp_path / "old", NOW - timedelta(days=1))
    text = tmp_path / "text.pem"
    text.write_text("no certificate")
    wrong = {
        "not 'hall'": settings("hall"),
        "not '192.168.1.20'": settings("192.168.1.20"),
        "name those that tablets use": settings("0.0.0.0:8443"),
        "has ended on": settings("127.0.0.1:8443", pair=old),
        "does not belong to": settings("127.0.0.1:8443", pair=(good[0], old[1])),
        "must be a certificate and its key": settings("127.0.0.1:8443", pair=(text, good[1])),
        "cannot be read": settings("127.0.0.1:8443", pair=(tmp_path / "none", good[1])),
        "go together": settings("127.0.0.1:8443") | {"HASTATUS_KEY": str(good[1])},
    }
    for words, environ in wrong.items():
        with pytest.raises(StoreError, match=words):
            network.network(environ, tmp_path / "tls", said.append)
    assert network.network({}, tmp_path / "tls", said.append) is None
    assert network.network({"HASTATUS_HOSTS": "a.example"}, tmp_path, said.append) is None
    soon = files(tmp_path / "soon", NOW + timedelta(days=9), "*.hall.example")
    network.network(settings("127.0.0.1:8443", "a.hall.example,club.example", soon),
                    tmp_path / "tls", said.append)  # fmt: skip
    assert said[0] == "the certificate is not for club.example: browsers will warn there"
    assert "renew it" in said[1]
    with pytest.raises(StoreError, match="cannot be listened on"):
        front.Front(front.Address("192.0.2.1", 8443), good[0], 1, said.append).start()


@pytest.fixture(scope="module")
def opened(
    engine: Engine, tmp_path_factory: pytest.TempPathFactory
) -> Iterator[tuple[network.Network, Made]]:
    """A door to a server, on loopback."""
    server = Server(url_of(engine))
    folder, port = tmp_path_factory.mktemp("tls"), free_port()
    environ = settings(f"127.0.0.1:{port}", "hall.example")
    door = network.network(environ, folder, lambda _: None)
    assert door is not None
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("HASTATUS_HOSTS", "hall.example")
        patch.setenv("HASTATUS_PROXIES", "1")
        server.start()
    door.open(server.port)
    yield door, make_club(engine)
    door.close()
    server.stop()


def asked(
    door: network.Network, method: str, path: str, body: str = "", host: str = "hall.example"
) -> http.client.HTTPResponse:
    """A request over TLS by somebody who trusts the club's authority."""
    context = ssl.create_default_context(cafile=str(door.authority))
    line = http.client.HTTPSConnection("127.0.0.1", door.listens.port, context=context, timeout=20)
    address = f"{host}:{door.listens.port}"
    headers = {"Host": address, "Origin": f"https://{address}", "Content-Type": "application/json"}
    line.request(method, path, body, headers)
    return line.getresponse()


def test_a_tablet_signs_in_over_https_and_a_stranger_host_is_turned_away(
    opened: tuple[network.Network, Made],
) -> None:
    door, made = opened
    login = json.dumps({"login": made.login, "password": PASSWORD})
    answer = asked(door, "POST", "/api/session", login)
    assert answer.status == 200
    cookie = answer.headers["Set-Cookie"]
    assert {"Secure", "HttpOnly", "SameSite=Strict"} <= {part.strip() for part in cookie.split(";")}
    assert answer.headers["Strict-Transport-Security"]
    assert asked(door, "POST", "/api/session", login, host="evil.example").status == 421
    with pytest.raises(ssl.SSLError):
        http.client.HTTPSConnection("127.0.0.1", door.listens.port, timeout=20).request("GET", "/")


def test_a_door_that_a_killed_server_left_open_is_taken_over(tmp_path: Path) -> None:
    port = free_port()
    environ = settings(f"127.0.0.1:{port}", "hall.example")
    left = network.network(environ, tmp_path, lambda _: None)
    again = network.network(environ, tmp_path, lambda _: None)
    assert left is not None
    assert again is not None
    left.open(free_port())
    again.open(free_port())
    before = left._door
    assert before is not None
    assert before._process is not None
    assert before._process.wait(timeout=10) is not None
    again.close()


def test_a_port_that_is_freed_late_is_waited_for(monkeypatch: pytest.MonkeyPatch) -> None:
    """On a slow machine a process that was ended still holds its port for a moment."""
    listens = front.Address("127.0.0.1", free_port())
    with socket.create_server((listens.host, listens.port)) as holder:
        with pytest.raises(StoreError, match="cannot be listened on"):
            front._await_free(listens, 0.0)
        later = threading.Timer(0.3, holder.close)
        later.start()
        front._await_free(listens, 10.0)
        later.join()


def test_a_disk_that_is_full_is_said_and_ends_nothing(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    said: list[str] = []
    door = network.network(
        settings(f"127.0.0.1:{free_port()}", "hall.example"), tmp_path, said.append
    )
    assert door is not None
    door.open(free_port())

    def full(_: front.Front) -> None:
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patch:
        patch.setattr(front.Front, "keep", full)
        door.keep(NOW)
        door.keep(NOW)
    door.close()
    assert len(said) == 1
    assert "No space left" in said[0]


def test_a_door_that_closes_is_opened_again(opened: tuple[network.Network, Made]) -> None:
    door, _ = opened
    inner = door._door
    assert inner is not None
    assert inner._process is not None
    inner._process.kill()
    inner._process.wait()
    door.keep(NOW)
    assert asked(door, "GET", "/healthz").status == 200
    before = door.shown
    door.keep(before.ends_at - timedelta(days=1))
    assert door.shown.ends_at > before.ends_at
    with pytest.raises(ssl.SSLCertVerificationError, match="not yet valid"):  # of a year from now
        asked(door, "GET", "/healthz")
