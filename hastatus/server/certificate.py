"""Certificates for the club's network: an authority of the club's own, and what it signs.

Tablets that have been given the authority's certificate once believe every certificate that it
signs for this machine, so the browser lets them have the microphone, MIDI and the wake lock.
"""

from __future__ import annotations

import ipaddress
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.asymmetric.types import PrivateKeyTypes
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from hastatus.store.database import StoreError

AUTHORITY_DAYS = 3650
CERTIFICATE_DAYS = 397
"""Browsers believe none that is good for longer (CA/Browser Forum, from memory)."""
RENEW_DAYS = 30
"""So long before its end, one of the club's own authority is made anew."""


@dataclass(frozen=True, slots=True)
class Certificate:
    """What a server shows. chain: PEM file of certificate and key together."""

    chain: Path
    names: tuple[str, ...]
    ends_at: datetime


def own(folder: Path, names: Sequence[str], now: datetime) -> Certificate:
    """A certificate for these names and addresses, signed by the club's own authority in `folder`.

    Both are made when there are none; the certificate is made anew when other names are asked for
    or its end is near. Raises `StoreError`.
    """
    chain = folder / "server.pem"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        folder.chmod(0o700)
        authority, key = _authority(folder, now)
        kept = _read(chain) if chain.exists() else None
        if kept is not None and _is_good(kept, authority, names, now):
            return _told(chain, kept)
        made, made_key = _signed(authority, key, names, now)
        _write(chain, _pem(made) + _key_pem(made_key))
    except OSError as error:
        raise StoreError(f"{error.filename} cannot be used: {error.strerror}") from error
    return _told(chain, made)


def given(certificate: Path, key: Path, folder: Path, now: datetime) -> Certificate:
    """The club's own certificate, from their files. Raises `StoreError` where it is of no use."""
    try:
        found = x509.load_pem_x509_certificates(certificate.read_bytes())
        secret = serialization.load_pem_private_key(key.read_bytes(), None)
    except OSError as error:
        raise StoreError(f"{error.filename} cannot be read: {error.strerror}") from error
    except (ValueError, TypeError) as error:
        raise StoreError(
            f"{certificate} and {key} must be a certificate and its key as PEM, without a password"
        ) from error
    leaf = found[0]
    if leaf.public_key() != secret.public_key():
        raise StoreError(f"the key {key} does not belong to the certificate {certificate}")
    if leaf.not_valid_after_utc < now:
        raise StoreError(
            f"the certificate {certificate} has ended on {leaf.not_valid_after_utc:%Y-%m-%d}; "
            "renew it, or leave HASTATUS_CERTIFICATE out to have one made"
        )
    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(0o700)
    chain = folder / "given.pem"
    _write(chain, b"".join(_pem(one) for one in found) + _key_pem(secret))
    return _told(chain, leaf)


def lacks(certificate: Certificate, names: Sequence[str]) -> list[str]:
    """Of these names, those that a certificate is not for: browsers warn there."""
    wild = {name[1:] for name in certificate.names if name.startswith("*.")}
    return [
        name
        for name in names
        if name not in certificate.names and f".{name.partition('.')[2]}" not in wild
    ]


def _authority(folder: Path, now: datetime) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    """The club's authority; made at first, and never again while it lasts."""
    public, secret = folder / "authority.pem", folder / "authority.key"
    if public.exists() and secret.exists():
        key = serialization.load_pem_private_key(secret.read_bytes(), None)
        assert isinstance(key, ec.EllipticCurvePrivateKey)
        return _read(public), key
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Hastatus of this club")])
    made = (
        _begun(name, name, key.public_key(), now, AUTHORITY_DAYS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .sign(key, hashes.SHA256())
    )
    _write(secret, _key_pem(key))
    _write(public, _pem(made))
    return made, key


def _signed(
    authority: x509.Certificate,
    key: ec.EllipticCurvePrivateKey,
    names: Sequence[str],
    now: datetime,
) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    own_key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, names[0][:64])])
    issuer = x509.AuthorityKeyIdentifier.from_issuer_public_key(key.public_key())
    made = (
        _begun(name, authority.subject, own_key.public_key(), now, CERTIFICATE_DAYS)
        .add_extension(x509.SubjectAlternativeName([_named(one) for one in names]), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(issuer, critical=False)
        .sign(key, hashes.SHA256())
    )
    return made, own_key


def _begun(
    name: x509.Name,
    issuer: x509.Name,
    key: ec.EllipticCurvePublicKey,
    now: datetime,
    days: int,
) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(issuer)
        .public_key(key)
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))  # a tablet's clock may be a little behind
        .not_valid_after(now + timedelta(days=days))
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key), critical=False)
    )


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs,
        key_cert_sign=signs,
        crl_sign=signs,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _named(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _is_good(
    kept: x509.Certificate, authority: x509.Certificate, names: Sequence[str], now: datetime
) -> bool:
    """Whether a certificate that is there goes on: signed by this authority, for these names."""
    try:
        kept.verify_directly_issued_by(authority)
    except (ValueError, TypeError, InvalidSignature):
        return False
    ends = kept.not_valid_after_utc
    return set(_names_of(kept)) == set(names) and ends > now + timedelta(days=RENEW_DAYS)


def _names_of(certificate: x509.Certificate) -> tuple[str, ...]:
    try:
        found = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except x509.ExtensionNotFound:
        return ()
    return (
        *found.get_values_for_type(x509.DNSName),
        *(str(address) for address in found.get_values_for_type(x509.IPAddress)),
    )


def _told(chain: Path, certificate: x509.Certificate) -> Certificate:
    return Certificate(chain, _names_of(certificate), certificate.not_valid_after_utc)


def _read(file: Path) -> x509.Certificate:
    try:
        return x509.load_pem_x509_certificate(file.read_bytes())
    except ValueError as error:
        raise StoreError(f"{file} is damaged; move it away, and another one is made") from error


def _write(file: Path, content: bytes) -> None:
    """Write a file for its owner alone, whole or not at all."""
    part = file.with_name(f"{file.name}.part")
    part.touch(mode=0o600)
    part.chmod(0o600)
    part.write_bytes(content)
    part.replace(file)


def _pem(certificate: x509.Certificate) -> bytes:
    return certificate.public_bytes(serialization.Encoding.PEM)


def _key_pem(key: PrivateKeyTypes) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )
