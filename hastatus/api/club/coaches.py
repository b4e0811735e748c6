"""The club's coaches: who they are, links for new ones and for new passwords, and who leaves."""

from __future__ import annotations

import logging
import uuid

from flask import Response, g
from flask_openapi3 import Tag

from hastatus.api.club import coach_models
from hastatus.api.club.accounts import open_session
from hastatus.api.club.models import SessionView
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also, done
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, public, signed_in, who
from hastatus.store import accounts, audit, invitations, second_factor
from hastatus.store import models as rows

log = logging.getLogger("hastatus.coaches")

bp = ApiBlueprint("coaches", __name__, url_prefix="/api", abp_tags=[Tag(name="accounts")])

OPENS_NOTHING = (
    "This link opens nothing, or nothing any more. Ask an owner of the club for another."
)


@bp.get("/coaches", responses={200: coach_models.CoachList})
@signed_in
def list_coaches() -> Response:
    """The club's coaches; logins, who has left and open links for its owners alone."""
    return reply(_list())


@bp.post("/invitations", responses={201: coach_models.LinkMade})
@signed_in
def invite(body: coach_models.InvitationRequest) -> Response:
    """A link for a new coach, told once."""
    only_owner()
    made, token = invitations.invite(
        db(), who().club_id, who().coach_id, name=body.name, role=body.role
    )
    _log("invited", made.id)
    return reply(_link(made, token), 201)


@bp.delete("/invitations/<uuid:invitation_id>", responses=done())
@signed_in
def revoke(path: coach_models.InvitationPath) -> Response:
    """Have a link open nothing any more."""
    only_owner()
    if not invitations.revoke(db(), who().club_id, path.invitation_id):
        raise not_found("invitation")
    _log("invitation revoked", path.invitation_id)
    return Response(status=204)


@bp.post("/coaches/<uuid:coach_id>/resets", responses={201: coach_models.LinkMade, **also(409)})
@signed_in
def reset(path: coach_models.CoachPath) -> Response:
    """A link by which a coach sets a new password, told once."""
    only_owner()
    coach = _find(path.coach_id)
    if coach.removed_at is not None:
        raise Problem(409, "Has left", f"{coach.name} has left; bring them back first.")
    made, token = invitations.reset(db(), coach, who().coach_id)
    _log("password link made", coach.id)
    return reply(_link(made, token), 201)


@bp.patch("/coaches/<uuid:coach_id>", responses={200: coach_models.CoachList, **also(409)})
@signed_in
def change(path: coach_models.CoachPath, body: coach_models.CoachChange) -> Response:
    """Make a coach an owner or not, or have them leave or come back."""
    only_owner()
    coach = _find(path.coach_id)
    said = body.model_dump(exclude_unset=True, exclude_none=True)
    try:
        if "role" in said:
            accounts.set_role(db(), coach, said["role"])
        if "removed" in said:
            accounts.remove(db(), coach, said["removed"])
    except accounts.LastOwner:
        raise Problem(
            409,
            "The last owner",
            f"{coach.name} is the only owner of the club; make somebody else an owner first.",
        ) from None
    _log("coach changed", coach.id)
    return reply(_list())


@bp.delete("/coaches/<uuid:coach_id>/second-factor", responses={200: coach_models.CoachList})
@signed_in
def remove_second_factor(path: coach_models.CoachPath) -> Response:
    """Have no code asked for at a coach's sign-in any more: they have lost their phone."""
    only_owner()
    coach = _find(path.coach_id)
    second_factor.remove(db(), coach)
    _log("second factor removed by an owner", coach.id)
    return reply(_list())


@bp.get("/joins/<string:token>", responses={200: coach_models.JoinView, **also(404)})
@public
def join_view(path: coach_models.JoinPath) -> Response:
    """What a link is for."""
    row = _opened(path)
    club = db().get_one(rows.Club, row.club_id)
    return reply(coach_models.JoinView(name=row.name, club=club.name, is_new=row.coach_id is None))


@bp.post("/joins/<string:token>", responses={200: SessionView, **also(404, 409)})
@public
def join(path: coach_models.JoinPath, body: coach_models.JoinRequest) -> Response:
    """Become a coach, or set a new password; then signed in."""
    row = _opened(path)
    try:
        coach = _joined(row, body)
    except accounts.BadPassword as error:
        raise Problem(422, "Not valid", f"password: {error}") from error
    row.used_at = accounts.now()
    db().flush()
    done_as = "joined by a link" if row.coach_id is None else "set a password by a link"
    audit.note(db(), coach.club_id, coach.id, done_as, request_id=g.request_id)
    _log("joined" if row.coach_id is None else "password set by link", coach.id)
    return open_session(db(), coach)


def _joined(row: rows.Invitation, body: coach_models.JoinRequest) -> rows.Coach:
    if row.coach_id is not None:
        coach = _of_link(row)
        accounts.set_password(db(), coach, body.password)
        return coach
    if body.login is None:
        raise Problem(422, "Not valid", "login: what do you want to sign in with?")
    if accounts.is_taken(db(), body.login):
        raise Problem(409, "Taken", "There is a coach with this login already: take another one.")
    return accounts.add_coach(
        db(),
        row.club_id,
        login=body.login,
        name=row.name,
        password=body.password,
        role=row.role,
    )


def _of_link(row: rows.Invitation) -> rows.Coach:
    coach = db().get_one(rows.Coach, (row.club_id, row.coach_id))
    if coach.removed_at is not None:
        raise Problem(404, "Not found", OPENS_NOTHING)
    return coach


def _opened(path: coach_models.JoinPath) -> rows.Invitation:
    row = invitations.opened(db(), path.token)
    if row is None:
        raise Problem(404, "Not found", OPENS_NOTHING)
    return row


def only_owner() -> None:
    """Refuse whoever is no owner of the club."""
    if who().role != "owner":
        raise Problem(403, "For owners", "Only an owner of the club can do this.")


def _find(coach_id: uuid.UUID) -> rows.Coach:
    coach = db().get(rows.Coach, (who().club_id, coach_id))
    if coach is None:
        raise not_found("coach")
    return coach


def _list() -> coach_models.CoachList:
    owner = who().role == "owner"
    seen = accounts.last_seen(db(), who().club_id) if owner else {}
    return coach_models.CoachList(
        coaches=[
            coach_models.CoachView(
                id=coach.id,
                name=coach.name,
                login=coach.login if owner else None,
                role=coach.role,
                me=coach.id == who().coach_id,
                removed_at=coach.removed_at,
                seen_at=seen.get(coach.id),
                second_factor=coach.totp_since is not None if owner else None,
            )
            for coach in accounts.coaches(db(), who().club_id)
            if owner or coach.removed_at is None
        ],
        invitations=[
            coach_models.InvitationView(
                id=row.id,
                name=row.name,
                role=row.role,
                is_new=row.coach_id is None,
                expires_at=row.expires_at,
            )
            for row in (invitations.open_ones(db(), who().club_id) if owner else ())
        ],
    )


def _link(row: rows.Invitation, token: str) -> coach_models.LinkMade:
    return coach_models.LinkMade(id=row.id, path=f"/join/{token}", expires_at=row.expires_at)


def _log(event: str, about: uuid.UUID) -> None:
    """Who did what about whom; never a name or a token."""
    by = g.get("who")
    log.info(event, extra={"coach": by.coach_id if by else None, "about": about})
