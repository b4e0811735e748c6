"""The second factor at sign-in: codes of the moment (RFC 6238), and spare codes for a lost phone.

The secret is kept as it is: the server has to compute the same codes. Of spare codes only hashes
are kept; each opens once.
"""

from __future__ import annotations

import secrets
from datetime import UTC, datetime

import pyotp
from sqlalchemy.orm import Session

from hastatus.store import accounts
from hastatus.store.models import Coach

STEP_S = 30
SPARE_CODES = 8
_SLACK = 1
"""So many steps a phone's clock may be ahead or behind."""


def begin(db: Session, coach: Coach, issuer: str) -> tuple[str, str]:
    """A new secret and the address that a phone's app reads it from; asked for once confirmed."""
    coach.totp_secret, coach.totp_since, coach.totp_step = pyotp.random_base32(), None, None
    db.flush()
    address = pyotp.TOTP(coach.totp_secret).provisioning_uri(name=coach.login, issuer_name=issuer)
    return coach.totp_secret, address


def confirm(db: Session, coach: Coach, code: str) -> list[str] | None:
    """Ask for codes from now on, if this one is right; the spare codes, told this once."""
    if not _is_of_the_moment(coach, code):
        return None
    spare = [f"{secrets.randbelow(10**8):08d}" for _ in range(SPARE_CODES)]
    coach.totp_since = datetime.now(UTC)
    coach.spare_codes = [_hash(one) for one in spare]
    db.flush()
    return spare


def remove(db: Session, coach: Coach) -> None:
    """Ask for no code any more."""
    coach.totp_secret, coach.totp_since, coach.totp_step = None, None, None
    coach.spare_codes = []
    db.flush()


def passes(db: Session, coach: Coach, code: str) -> bool:
    """Whether a code opens; each does once, also when two come at the same time."""
    db.refresh(coach, with_for_update=True)
    plain = "".join(code.split())
    if _is_of_the_moment(coach, plain):
        db.flush()
        return True
    if _hash(plain) in coach.spare_codes:
        coach.spare_codes = [one for one in coach.spare_codes if one != _hash(plain)]
        db.flush()
        return True
    return False


def _is_of_the_moment(coach: Coach, code: str) -> bool:
    if coach.totp_secret is None:
        return False
    totp, now = pyotp.TOTP(coach.totp_secret, interval=STEP_S), datetime.now(UTC)
    plain = "".join(code.split())
    for step in range(-_SLACK, _SLACK + 1):
        number = int(now.timestamp()) // STEP_S + step
        fresh = coach.totp_step is None or number > coach.totp_step
        if fresh and secrets.compare_digest(
            totp.at(number * STEP_S).encode(), plain.encode("utf-8", "replace")
        ):
            coach.totp_step = number
            return True
    return False


def _hash(code: str) -> str:
    return accounts.token_hash(code).hex()
