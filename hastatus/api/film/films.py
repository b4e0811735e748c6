"""Films of a run: they come in pieces, wait, are read beside the web server, and are looked at."""

from __future__ import annotations

import errno
import uuid
from datetime import UTC, datetime

from flask import Response, after_this_request, current_app, request
from flask_openapi3 import Tag
from sqlalchemy import Engine

from hastatus.api.club.coaches import only_owner
from hastatus.api.film import models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also, file
from hastatus.api.http.lookup import find_run
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.run.partner_runs import find_partner_run
from hastatus.core.film.correction import OnsetCorrection, corrected, corrected_pair
from hastatus.core.film.pair_reading import PairFilmReading
from hastatus.core.film.part_median import part_medians
from hastatus.core.film.reading import FilmReading
from hastatus.film_io.film_file import FACTS, BadFilm, still
from hastatus.store import accounts, film_corrections, film_queue, films, partner_runs
from hastatus.store import models as rows

bp = ApiBlueprint("films", __name__, url_prefix="/api", abp_tags=[Tag(name="film")])


@bp.get("/runs/<uuid:run_id>/films", responses={200: models.FilmList})
@signed_in
def list_films(path: models.FilmedRunPath) -> Response:
    """The films of a run, the oldest first."""
    return reply(_list(find_run(path.run_id).id))


@bp.get("/partner-runs/<uuid:partner_run_id>/films", responses={200: models.FilmList})
@signed_in
def list_pair_films(path: models.FilmedPairPath) -> Response:
    """The films of a partner run, the oldest first."""
    return reply(_list(find_partner_run(path.partner_run_id).id))


@bp.post("/partner-runs/<uuid:partner_run_id>/films", responses={201: models.FilmView})
@signed_in
def add_pair_film(path: models.FilmedPairPath, body: models.FilmRequest) -> Response:
    """Say that a film is going to be sent; the same request again changes nothing."""
    return reply(_view(_add(body, find_partner_run(path.partner_run_id))), 201)


@bp.post("/runs/<uuid:run_id>/films", responses={201: models.FilmView})
@signed_in
def add_film(path: models.FilmedRunPath, body: models.FilmRequest) -> Response:
    """Say that a film is going to be sent; the same request again changes nothing."""
    return reply(_view(_add(body, find_run(path.run_id))), 201)


@bp.put("/films/<uuid:film_id>/bytes", responses={200: models.FilmView})
@signed_in
def send_piece(path: models.FilmPath, query: models.PieceQuery) -> Response:
    """A piece of a film's file, as it is; the same again changes nothing."""
    film = find_film(path.film_id)
    data = request.get_data()
    end = query.from_byte + len(data)
    if end > film.size:
        raise Problem(422, "Too long", f"The film has {film.size} bytes; this piece ends at {end}.")
    if query.from_byte > film.received:
        raise Problem(409, "Something is missing", f"Go on from byte {film.received}.")
    if film.file_gone_at is not None:
        raise Problem(409, "Its time is over", "The film’s file was deleted; send it as a new one.")
    if end > film.received:
        _write(film, query.from_byte, data)
        film.received = end
        if film.received == film.size:
            _begin(film, film.place_id, film.left_place)
    return reply(_view(film))


@bp.put("/films/<uuid:film_id>/place", responses={200: models.FilmView, **also(404)})
@signed_in
def read_again(path: models.FilmPath, body: models.FilmPlaceRequest) -> Response:
    """Say where the phone stood: the film is read with the zones of that place."""
    film = find_film(path.film_id)
    if film.received == film.size and not _has_file(film):
        raise Problem(409, "Its time is over", "The film’s file was deleted; it is not read again.")
    if film.blurred_at is not None:
        raise Problem(409, "Blurred", "Heads are blurred in this film; what was read of it stays.")
    if body.left_place is not None and film.partner_run_id is None:
        raise Problem(422, "Alone", "left_place: only one is in a film of a solo run.")
    _begin(film, _place(body.place_id), body.left_place)
    return reply(_view(film))


@bp.get("/films/<uuid:film_id>", responses={200: models.FilmReadView})
@signed_in
def get_film(path: models.FilmPath) -> Response:
    """A film with what it tells of its run."""
    return reply(read_view(find_film(path.film_id)))


@bp.get("/films/<uuid:film_id>/still.jpg", responses=file("image/jpeg"))
@signed_in
def get_still(path: models.FilmPath, query: models.StillQuery) -> Response:
    """One picture of a film, upright, to draw zones on."""
    film = find_film(path.film_id)
    if not _has_file(film):
        raise not_found("film with its file")
    try:
        data = still(_folder().file(film.club_id, film.id), query.at_s)
    except BadFilm as error:
        raise Problem(422, "Cannot be read", f"film: {error}") from error
    return Response(data, content_type="image/jpeg")


@bp.patch("/films/<uuid:film_id>", responses={200: models.FilmList})
@signed_in
def remove_film(path: models.FilmPath, body: models.FilmRemoval) -> Response:
    """Remove a film, or bring it back."""
    film = films.find(db(), who().club_id, path.film_id)
    if film is None:
        raise not_found("film")
    film.removed_at = datetime.now(UTC) if body.removed else None
    db().flush()
    if film.run_id is not None:
        return reply(_list(find_run(film.run_id).id))
    assert film.partner_run_id is not None
    return reply(_list(find_partner_run(film.partner_run_id).id))


@bp.get("/film-days", responses={200: models.FilmDays})
@signed_in
def get_film_days() -> Response:
    """How long the club keeps its films, and how."""
    days, blur = films.kept(db(), who().club_id)
    return reply(models.FilmDays(days=days, blur=blur))


@bp.put("/film-days", responses={200: models.FilmDays, **also(403)})
@signed_in
def set_film_days(body: models.FilmDays) -> Response:
    """Keep films longer or shorter, those that are there already, too."""
    only_owner()
    films.keep(db(), who().club_id, body.days, blur=body.blur)
    return reply(body)


def _add(body: models.FilmRequest, run: rows.Run | rows.PartnerRun) -> rows.Film:
    """The film of that id, which is new or was told of before."""
    film = films.find(db(), run.club_id, body.id)
    if film is None:
        return _new(body, run)
    if run.id not in (film.run_id, film.partner_run_id):
        raise Problem(409, "Another film", "A film of another run has this id; make a new one.")
    return film


def _new(body: models.FilmRequest, run: rows.Run | rows.PartnerRun) -> rows.Film:
    _check_consent(run)
    there = films.of_run(db(), run.club_id, run.id)
    if len(there) >= films.MOST_OF_A_RUN:
        most = films.MOST_OF_A_RUN
        raise Problem(409, "Enough films", f"A run has {most} films at most; remove one first.")
    try:
        _folder().check_room(body.size)
    except films.NoRoom as error:
        raise Problem(507, "Disk full", f"film: {error}.") from error
    film = rows.Film(
        club_id=run.club_id,
        id=body.id,
        run_id=run.id if isinstance(run, rows.Run) else None,
        partner_run_id=None if isinstance(run, rows.Run) else run.id,
        name=body.name,
        size=body.size,
        received=0,
        place_id=_place(body.place_id) if body.place_id else None,
        state="coming",
        progress=0.0,
        said="",
        made_by=who().coach_id,
        created_at=datetime.now(UTC),
    )
    db().add(film)
    db().flush()
    return film


def _check_consent(run: rows.Run | rows.PartnerRun) -> None:
    """Refuse a film of somebody whose guardian's consent is still missing."""
    if isinstance(run, rows.Run):
        people = [db().get_one(rows.Student, (run.club_id, run.student_id))]
    else:
        people = partner_runs.students_of(db(), run)
    missing = next((one.name for one in people if one.consent == "needed"), None)
    if missing is not None:
        what = f"{missing} needs a guardian’s consent before a film is taken; write it down first."
        raise Problem(409, "No consent", what)


def _write(film: rows.Film, from_byte: int, data: bytes) -> None:
    try:
        _folder().write(film, from_byte, data)
    except OSError as error:
        if error.errno not in (errno.ENOSPC, errno.EDQUOT):
            raise
        what = (
            f"The server’s disk is full; make room there, then send on from byte {film.received}."
        )
        raise Problem(507, "Disk full", what, retry_after_s=10) from error


def _begin(film: rows.Film, place_id: uuid.UUID | None, left_place: int | None) -> None:
    """Have a film read once this request's transaction is over."""
    films.wait(film, place_id, left_place)
    db().flush()
    if film.state != "waiting":
        return
    engine, folder, key = _engine(), _folder(), (film.club_id, film.id)

    @after_this_request
    def _put(response: Response) -> Response:
        if response.status_code < 400:
            film_queue.prepare(engine)
            film_queue.put(engine, *key)
            folder.marker.touch()
        return response


def find_film(film_id: uuid.UUID) -> rows.Film:
    """A film of the club that is not removed."""
    film = films.find(db(), who().club_id, film_id)
    if film is None or film.removed_at is not None:
        raise not_found("film")
    return film


def _place(place_id: uuid.UUID) -> uuid.UUID:
    if films.place(db(), who().club_id, place_id) is None:
        raise not_found("camera place")
    return place_id


def _engine() -> Engine:
    engine: Engine = current_app.config["ENGINE"]
    return engine


def _folder() -> films.Folder:
    folder: films.Folder | None = current_app.config["FILMS"]
    if folder is None:
        raise Problem(503, "No films here", "This server has no folder for films.")
    return folder


def _list(run_id: uuid.UUID) -> models.FilmList:
    found = films.of_run(db(), who().club_id, run_id)
    days, _ = films.kept(db(), who().club_id)
    return models.FilmList(films=[_view(film) for film in found], kept_days=days)


def read_view(film: rows.Film) -> models.FilmReadView:
    """A film with what it tells, corrections laid over."""
    kept = film_corrections.of_film(db(), film)
    made = [OnsetCorrection.model_validate(row.document) for row in kept]
    coaches = accounts.coach_names(db(), film.club_id)
    shown = models.FilmReadView(
        film=_view(film),
        corrections=[
            models.CorrectionView(
                id=row.id,
                correction=one,
                coach=coaches.get(row.made_by, ""),
                created_at=row.created_at,
            )
            for row, one in zip(kept, made, strict=True)
        ],
    )
    if not film.reading or not film.facts:
        return shown
    rate_hz = FACTS.validate_python(film.facts).rate_hz
    if film.run_id is not None:
        shown.reading = corrected(FilmReading.model_validate(film.reading), made, rate_hz)
        shown.medians = [median.words for median in part_medians(shown.reading)]
    else:
        pair = PairFilmReading.model_validate(film.reading)
        shown.pair = corrected_pair(pair, made, rate_hz)
    return shown


def _view(film: rows.Film) -> models.FilmView:
    return models.FilmView.model_validate(
        {
            **{name: getattr(film, name) for name in _SHOWN},
            "has_file": _has_file(film),
            "blurred": film.blurred_at is not None,
        }
    )


def _has_file(film: rows.Film) -> bool:
    """Whether a film's file is here whole: a club that was restored or loaded has none."""
    folder: films.Folder | None = current_app.config["FILMS"]
    if folder is None or film.file_gone_at is not None or film.received < film.size:
        return False
    return folder.file(film.club_id, film.id).exists()


_SHOWN = tuple(name for name in models.FilmView.model_fields if name not in ("has_file", "blurred"))
