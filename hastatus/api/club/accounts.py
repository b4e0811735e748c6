"""Signing in and out, passwords, open sign-ins."""

from __future__ import annotations

import logging
import uuid

from flask import Response, current_app, g, request
from flask_openapi3 import Tag
from sqlalchemy.orm import Session

from hastatus.api.club import models as club_models
from hastatus.api.club.browser_name import browser_name
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.code_picture import code_picture
from hastatus.api.http.document import also, done
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import COOKIE, csrf_token, db, signed_in, who
from hastatus.core.drill.cautions import CAUTIONS
from hastatus.store import accounts, attempts, audit, second_factor
from hastatus.store.database import transaction
from hastatus.store.models import Coach

log = logging.getLogger("hastatus.sign_in")

CODE_NEEDED = "Code needed"
"""The title of the problem that asks for the second factor."""

bp = ApiBlueprint("accounts", __name__, url_prefix="/api", abp_tags=[Tag(name="accounts")])


@bp.post("/session", responses={200: club_models.SessionView, **also(401, 429)})
def sign_in(body: club_models.SignInRequest) -> Response:
    """Sign in."""
    subjects = attempts.at_sign_in(body.login, request.remote_addr or "unknown")
    with transaction(current_app.config["ENGINE"]) as session:
        check_attempts(session, subjects)
        coach = accounts.find_coach(session, body.login)
        if accounts.verify(coach, body.password):
            assert coach is not None
            if coach.totp_since is None or _has_code(session, coach, body.code):
                _log("signed in", coach.id)
                audit.note(session, coach.club_id, coach.id, "signed in", request_id=g.request_id)
                return open_session(session, coach)
        _log("sign-in refused", coach.id if coach else None)
        attempts.note_failure(session, subjects)  # kept: the transaction is committed
    wrong = WRONG_CODE if g.get("code_refused") else "Login or password is wrong."
    raise Problem(401, "Not signed in", wrong)


WRONG_CODE = "This code is wrong, or was used already. Wait for the next one, or use a spare code."


def _has_code(session: Session, coach: Coach, code: str | None) -> bool:
    """Whether the code of the second factor is right; where there is none yet, it is asked for."""
    if code is None:
        raise Problem(401, CODE_NEEDED, "Now the code from your phone, or a spare code.")
    g.code_refused = not second_factor.passes(session, coach, code)
    return not g.code_refused


def _log(event: str, coach_id: uuid.UUID | None) -> None:
    """Who came in, went or was refused, from where; never what was written in the form."""
    log.info(event, extra={"coach": coach_id, "address": request.remote_addr})


def check_attempts(session: Session, subjects: list[attempts.Subject]) -> None:
    """Refuse an attempt that comes too soon after those that failed."""
    try:
        attempts.check(session, subjects)
    except attempts.TooSoon as error:
        raise Problem(
            429,
            "Too many attempts",
            f"Wait for {error.wait_s} s, then try again.",
            retry_after_s=error.wait_s,
        ) from None


def open_session(session: Session, coach: Coach) -> Response:
    """Sign a coach in on this device."""
    token = accounts.sign_in(session, coach, request.headers.get("User-Agent", "unknown"))
    session.flush()
    signed_in = accounts.signed_in(session, token)
    assert signed_in is not None
    response = reply(_view(signed_in, token))
    response.set_cookie(
        COOKIE,
        token,
        max_age=int(accounts.SIGN_IN_LASTS.total_seconds()),
        httponly=True,
        secure=request.is_secure or request.host.split(":")[0] in ("localhost", "127.0.0.1"),
        samesite="Strict",
        path="/",
    )
    return response


def _view(signed_in: accounts.SignedIn, token: str) -> club_models.SessionView:
    return club_models.SessionView(
        club=signed_in.club_name,
        coach=signed_in.coach_name,
        role=signed_in.role,
        csrf=csrf_token(token),
        cautions=list(CAUTIONS),
        second_factor=signed_in.second_factor,
    )


@bp.get("/session", responses={200: club_models.SessionView})
@signed_in
def session() -> Response:
    """Who is signed in."""
    return reply(_view(who(), request.cookies[COOKIE]))


@bp.delete("/session", responses=done())
@signed_in
def sign_out() -> Response:
    """Sign out."""
    accounts.revoke(db(), who(), who().sign_in_id, for_good=True)
    _log("signed out", who().coach_id)
    response = Response(status=204)
    response.delete_cookie(COOKIE, path="/")
    return response


@bp.post("/session/second-factor", responses={200: club_models.SecondFactorBegun, **also(429)})
@signed_in
def begin_second_factor(body: club_models.SecondFactorRequest) -> Response:
    """Begin to have codes asked for at sign-in; the phone's app reads what is told here."""
    coach = _myself(body.password)
    if coach.totp_since is not None:
        raise Problem(409, "Asked for already", "Remove the second factor first.")
    secret, address = second_factor.begin(db(), coach, "Hastatus")
    picture = code_picture(address)
    return reply(club_models.SecondFactorBegun(secret=secret, address=address, **picture._asdict()))


@bp.put("/session/second-factor", responses={200: club_models.SpareCodes, **also(429)})
@signed_in
def confirm_second_factor(body: club_models.SecondFactorCode) -> Response:
    """Have codes asked for from now on, with a first one from the phone."""
    coach = db().get_one(Coach, (who().club_id, who().coach_id))
    if coach.totp_secret is None or coach.totp_since is not None:
        raise Problem(409, "Not begun", "Begin with the picture for your phone.")
    spare = second_factor.confirm(db(), coach, body.code)
    if spare is None:
        raise Problem(422, "Not valid", "code: wrong. Is the phone’s clock right?")
    _log("second factor added", coach.id)
    return reply(club_models.SpareCodes(codes=spare))


@bp.post("/session/second-factor/removal", responses={**done(), **also(429)})
@signed_in
def remove_second_factor(body: club_models.SecondFactorRequest) -> Response:
    """Have no code asked for any more."""
    coach = _myself(body.password)
    second_factor.remove(db(), coach)
    _log("second factor removed", coach.id)
    return Response(status=204)


def _myself(password: str) -> Coach:
    """Who is signed in, with the password said once more."""
    coach = db().get_one(Coach, (who().club_id, who().coach_id))
    subjects = attempts.at_old_password(str(coach.id), request.remote_addr or "unknown")
    check_attempts(db(), subjects)
    if not accounts.verify(coach, password):
        attempts.note_failure(db(), subjects)
        _log("password refused", coach.id)
        db().commit()  # what is raised undoes the rest
        raise Problem(403, "Refused", "The password is wrong.")
    return coach


@bp.put("/session/password", responses={**done(), **also(429)})
@signed_in
def change_password(body: club_models.PasswordRequest) -> Response:
    """Change one's password; every other sign-in ends."""
    coach = _myself(body.old)
    try:
        accounts.set_password(db(), coach, body.new, keep=who().sign_in_id)
    except accounts.BadPassword as error:
        raise Problem(422, "Not valid", f"new: {error}") from error
    _log("password changed", coach.id)
    return Response(status=204)


@bp.get("/sign-ins", responses={200: club_models.SignInList})
@signed_in
def sign_ins() -> Response:
    """One's open sign-ins."""
    return reply(
        club_models.SignInList(
            sign_ins=[
                club_models.SignInView(
                    id=sign_in.id,
                    device=browser_name(sign_in.device),
                    created_at=sign_in.created_at,
                    seen_at=sign_in.seen_at,
                    current=sign_in.id == who().sign_in_id,
                )
                for sign_in in accounts.sign_ins(db(), who())
            ]
        )
    )


@bp.delete("/sign-ins/<uuid:sign_in_id>", responses=done())
@signed_in
def revoke(path: club_models.SignInPath) -> Response:
    """End one of one's sign-ins."""
    if not accounts.revoke(db(), who(), path.sign_in_id):
        raise not_found("sign-in")
    return Response(status=204)


@bp.patch("/sign-ins/<uuid:sign_in_id>", responses=done())
@signed_in
def reopen(path: club_models.SignInPath, body: club_models.SignInChange) -> Response:
    """Open one of one's sign-ins again that was ended within the last minute; 404 after that."""
    del body  # says what is wanted, and can say nothing else
    if not accounts.reopen(db(), who(), path.sign_in_id):
        raise not_found("sign-in")
    return Response(status=204)
