"""Clubs, coaches and sign-in sessions."""

from __future__ import annotations

import hashlib
import secrets
import uuid
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import func, select, text, update
from sqlalchemy.orm import Session

from hastatus.store import starters
from hastatus.store.models import Club, Coach, SignIn

HASHER = PasswordHasher(time_cost=2, memory_cost=19 * 1024, parallelism=1)
"""Argon2id with 19 MiB, 2 passes, 1 lane: the least OWASP's Password Storage Cheat Sheet allows."""

SIGN_IN_LASTS = timedelta(days=14)
SEEN_EVERY = timedelta(minutes=5)
REOPENED_WITHIN = timedelta(minutes=1)
"""For so long a sign-in that its coach has ended can be opened again."""
SHORTEST_PASSWORD = 10
LEAST_STRENGTH = 3
"""Of 0 to 4: more than 10^8 guesses, common passwords, names and keyboard rows tried first
(Wheeler, zxcvbn, USENIX Security 2016; its lists hold the passwords of known breaches)."""
_ESTIMATED = 72
MOST_DEVICE = 300
"""So much of what a browser calls itself is kept, characters."""

_DUMMY = HASHER.hash(secrets.token_urlsafe())


class BadPassword(ValueError):
    """A new password that is not accepted; the message says why."""


class LastOwner(ValueError):
    """The club would have no owner any more."""


@dataclass(frozen=True, slots=True)
class SignedIn:
    """Who is signed in. second_factor: a code is asked for at their sign-in."""

    club_id: uuid.UUID
    club_name: str
    coach_id: uuid.UUID
    coach_name: str
    role: str
    sign_in_id: uuid.UUID
    second_factor: bool


def add_club(db: Session, name: str) -> Club:
    """A new club with its starter drills."""
    club = Club(id=uuid.uuid4(), name=name)
    db.add(club)
    db.flush()
    starters.add_all(db, club.id)
    return club


def first_club(db: Session) -> Club | None:
    """The oldest club, None in an empty database."""
    return db.scalars(select(Club).order_by(Club.created_at, Club.id)).first()


def add_coach(
    db: Session, club_id: uuid.UUID, *, login: str, name: str, password: str, role: str
) -> Coach:
    """A new coach. `BadPassword` when the password is too short or soon guessed."""
    coach = Coach(
        club_id=club_id,
        id=uuid.uuid4(),
        login=login.strip().lower(),
        name=name.strip(),
        role=role,
        password_hash=_hash(password, [login, name, "hastatus"]),
    )
    db.add(coach)
    db.flush()
    return coach


def coach_names(db: Session, club_id: uuid.UUID) -> dict[uuid.UUID, str]:
    """The names of a club's coaches by id."""
    rows = db.execute(select(Coach.id, Coach.name).where(Coach.club_id == club_id))
    return {row.id: row.name for row in rows}


def coaches(db: Session, club_id: uuid.UUID) -> list[Coach]:
    """A club's coaches, those who have left too, by name."""
    return list(
        db.scalars(select(Coach).where(Coach.club_id == club_id).order_by(Coach.name, Coach.id))
    )


def last_seen(db: Session, club_id: uuid.UUID) -> dict[uuid.UUID, datetime]:
    """When each coach was last here, by id."""
    query = select(SignIn.coach_id, func.max(SignIn.seen_at).label("at"))
    rows = db.execute(query.where(SignIn.club_id == club_id).group_by(SignIn.coach_id))
    return {row.coach_id: row.at for row in rows}


def find_coach(db: Session, login: str) -> Coach | None:
    """The coach with this login who has not left."""
    mine = (Coach.login == login.strip().lower(), Coach.removed_at.is_(None))
    return db.scalars(select(Coach).where(*mine)).first()


def is_taken(db: Session, login: str) -> bool:
    """Whether somebody has this login, perhaps one who has left."""
    return db.scalar(select(Coach.id).where(Coach.login == login.strip().lower())) is not None


def set_role(db: Session, coach: Coach, role: str) -> None:
    """Make a coach an owner, or not any more. Raises `LastOwner`."""
    if role != "owner":
        _check_owner_besides(db, coach)
    coach.role = role
    db.flush()


def remove(db: Session, coach: Coach, removed: bool) -> None:
    """Have a coach leave, whose sign-ins end for good, or come back. Raises `LastOwner`."""
    if not removed:
        coach.removed_at = None
    elif coach.removed_at is None:
        _check_owner_besides(db, coach)
        coach.removed_at = now()
        _end_sign_ins(db, coach)
    db.flush()


def _check_owner_besides(db: Session, coach: Coach) -> None:
    """Two who leave at the same moment come one after the other."""
    db.execute(select(Club.id).where(Club.id == coach.club_id).with_for_update())
    db.refresh(coach)
    owners = select(Coach.id).where(
        Coach.club_id == coach.club_id, Coach.role == "owner", Coach.removed_at.is_(None)
    )
    if coach.role == "owner" and set(db.scalars(owners)) <= {coach.id}:
        raise LastOwner


def now() -> datetime:
    return datetime.now(UTC)


def set_password(
    db: Session, coach: Coach, password: str, *, keep: uuid.UUID | None = None
) -> None:
    """Set a new password and revoke every sign-in of the coach but `keep`, for good."""
    coach.password_hash = _hash(password, [coach.login, coach.name, "hastatus"])
    _end_sign_ins(db, coach, keep=keep)


def _end_sign_ins(db: Session, coach: Coach, *, keep: uuid.UUID | None = None) -> None:
    db.execute(
        update(SignIn)
        .where(SignIn.club_id == coach.club_id, SignIn.coach_id == coach.id)
        .where(SignIn.id != (keep or uuid.UUID(int=0)))
        .values(revoked_at=func.coalesce(SignIn.revoked_at, func.now()), expires_at=func.now())
    )


def verify(coach: Coach | None, password: str) -> bool:
    """Whether the password is right; takes as long when there is no such coach."""
    try:
        HASHER.verify(coach.password_hash if coach else _DUMMY, password)
    except (VerificationError, InvalidHashError):
        return False
    return coach is not None


def sign_in(db: Session, coach: Coach, device: str) -> str:
    """Open a sign-in session; the token is returned once and only its hash is kept."""
    token = secrets.token_urlsafe(32)
    db.add(
        SignIn(
            club_id=coach.club_id,
            id=uuid.uuid4(),
            coach_id=coach.id,
            token_hash=token_hash(token),
            device=device[:MOST_DEVICE],
            expires_at=datetime.now(UTC) + SIGN_IN_LASTS,
        )
    )
    return token


def token_hash(token: str) -> bytes:
    """What is kept of a token."""
    return hashlib.sha256(token.encode()).digest()


# Asked at every request, so it is a plain statement.
_SIGNED_IN = text("""
    SELECT coaches.club_id, clubs.name, coaches.id, coaches.name, coaches.role, sign_ins.id,
           coaches.totp_since IS NOT NULL, seen_at
    FROM sign_ins
    JOIN coaches ON coaches.club_id = sign_ins.club_id AND coaches.id = sign_ins.coach_id
    JOIN clubs ON clubs.id = sign_ins.club_id
    WHERE token_hash = :hash AND revoked_at IS NULL AND expires_at > now()
      AND coaches.removed_at IS NULL
""")


def signed_in(db: Session, token: str) -> SignedIn | None:
    """Who holds this token, None when it is unknown, revoked or too old."""
    row = db.connection().execute(_SIGNED_IN, {"hash": token_hash(token)}).first()
    if row is None:
        return None
    *who, seen_at = row
    signed_in = SignedIn(*who)
    if datetime.now(UTC) - seen_at > SEEN_EVERY:
        # Whoever else is noting it right now does it for all: nobody waits.
        own = (SignIn.club_id == signed_in.club_id, SignIn.id == signed_in.sign_in_id)
        free = select(SignIn.id).where(*own).with_for_update(skip_locked=True)
        db.execute(update(SignIn).where(*own, SignIn.id.in_(free)).values(seen_at=func.now()))
    return signed_in


def sign_ins(db: Session, who: SignedIn) -> list[SignIn]:
    """The coach's open sign-ins, newest first."""
    return list(
        db.scalars(
            select(SignIn)
            .where(SignIn.club_id == who.club_id, SignIn.coach_id == who.coach_id)
            .where(SignIn.revoked_at.is_(None), SignIn.expires_at > func.now())
            .order_by(SignIn.created_at.desc())
        )
    )


def revoke(db: Session, who: SignedIn, sign_in_id: uuid.UUID, *, for_good: bool = False) -> bool:
    """Revoke one of the coach's sign-ins; False when there is no such one.

    for_good: it is not to be opened again: its holder has signed out.
    """
    expires = {"expires_at": func.now()} if for_good else {}
    revoked = db.scalars(
        update(SignIn)
        .where(SignIn.club_id == who.club_id, SignIn.coach_id == who.coach_id)
        .where(SignIn.id == sign_in_id, SignIn.revoked_at.is_(None))
        .values(revoked_at=func.now(), **expires)
        .returning(SignIn.id)
    ).first()
    return revoked is not None


def reopen(db: Session, who: SignedIn, sign_in_id: uuid.UUID) -> bool:
    """Take `revoke` back; False where it was for good, is too long ago, or there is no such one."""
    opened = db.scalars(
        update(SignIn)
        .where(SignIn.club_id == who.club_id, SignIn.coach_id == who.coach_id)
        .where(SignIn.id == sign_in_id, SignIn.expires_at > func.now())
        .where(SignIn.revoked_at > func.now() - REOPENED_WITHIN)
        .values(revoked_at=None)
        .returning(SignIn.id)
    ).first()
    return opened is not None


def _hash(password: str, about: list[str]) -> str:
    """Hash a new password. about: words of the person that a guesser would try first."""
    if len(password) < SHORTEST_PASSWORD:
        raise BadPassword(f"a password has at least {SHORTEST_PASSWORD} characters")
    from zxcvbn import zxcvbn  # its word lists take a moment to load

    # Its time grows with the length; what is beyond this only makes a password stronger.
    if zxcvbn(password[:_ESTIMATED], user_inputs=about)["score"] < LEAST_STRENGTH:
        raise BadPassword(
            "this password is among the first that are guessed; take a few words that do not "
            "belong together"
        )
    return HASHER.hash(password)
