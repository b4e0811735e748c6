"""What a coach corrects in the reading of a film, looking at it picture by picture."""

from __future__ import annotations

from datetime import UTC, datetime

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.film import models
from hastatus.api.film.films import find_film, read_view
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.store import film_corrections

bp = ApiBlueprint("corrections", __name__, url_prefix="/api", abp_tags=[Tag(name="film")])


@bp.post("/films/<uuid:film_id>/corrections", responses={201: models.FilmReadView})
@signed_in
def correct(path: models.FilmPath, body: models.CorrectionRequest) -> Response:
    """Correct an onset, or say that what was read is wrong; the same request again changes
    nothing."""
    film = find_film(path.film_id)
    one = body.correction
    if (one.part if film.run_id else one.whose) is None:
        missing = "part" if film.run_id else "whose"
        raise Problem(422, "Not valid", f"correction.{missing}: say what is corrected.")
    if len(film_corrections.of_film(db(), film)) >= film_corrections.MOST:
        raise Problem(409, "Enough", f"A film has {film_corrections.MOST} corrections at most.")
    known = film_corrections.find(db(), film.club_id, body.id)
    if known is not None and known.film_id != film.id:
        raise Problem(409, "Another film", "A correction of another film has this id.")
    film_corrections.keep(db(), film, body.id, one, who().coach_id)
    return reply(read_view(film), 201)


@bp.patch(
    "/films/<uuid:film_id>/corrections/<uuid:correction_id>",
    responses={200: models.FilmReadView},
)
@signed_in
def take_back(path: models.CorrectionPath, body: models.CorrectionRemoval) -> Response:
    """Have a correction count no more, or again."""
    film = find_film(path.film_id)
    kept = film_corrections.find(db(), film.club_id, path.correction_id)
    if kept is None or kept.film_id != film.id:
        raise not_found("correction")
    kept.taken_back_at = datetime.now(UTC) if body.taken_back else None
    db().flush()
    return reply(read_view(film))
