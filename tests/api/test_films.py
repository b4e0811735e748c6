"""Films of a run: sent in pieces, read beside the server, kept for a day, refused in words."""

from __future__ import annotations

import errno
import uuid
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from hashlib import sha256
from pathlib import Path
from typing import Any

import pytest
from flask import Flask
from sqlalchemy import Engine, select, update
from werkzeug.test import TestResponse

from hastatus.core.film.reading import FilmReading
from hastatus.core.film.scene import Film as Filmed
from hastatus.core.motion.zone import Zone
from hastatus.core.sound import tones
from hastatus.demo.film_picture import Look
from hastatus.demo.filmed_run import FilmedRun, Filming
from hastatus.film_io.film_file import FilmFacts, read_film_file
from hastatus.server import film_reading, film_worker
from hastatus.store import away, film_queue, films
from hastatus.store.database import transaction
from hastatus.store.films import Folder
from hastatus.store.models import Film, Student
from tests.harness.addresses import PLACE
from tests.harness.coach import Coach, new_coach

SAMPLES = {f"tone:{name}": tones.named(name) for name in tones.SOUNDS}


@pytest.fixture(scope="module")
def own(app: Flask, engine: Engine) -> Coach:
    """A coach with a run that is done."""
    coach = new_coach(app, engine)  # type: ignore[arg-type]
    for batch in coach.batches:
        assert coach.post_batch(batch).status_code == 200
    return coach


@pytest.fixture(scope="module")
def filmed(own: Coach) -> FilmedRun:
    """Forty seconds of it, in front of a phone."""
    setup = own.setup
    filming = Filming(look=Look(width=320, height=180), length_s=40.0, starts_s=-4.0)
    drill, plan = setup.drill, setup.plan
    return FilmedRun.of(drill, plan, own.batches, filming, 2)


@pytest.fixture(scope="module")
def data(filmed: FilmedRun, tmp_path_factory: pytest.TempPathFactory) -> bytes:
    path = tmp_path_factory.mktemp("film") / "film.mp4"
    filmed.write(path, SAMPLES)
    return path.read_bytes()


_SEEN: dict[tuple[bytes, tuple[Zone, ...]], tuple[Filmed, FilmFacts]] = {}


@pytest.fixture(autouse=True)
def seen_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """Pictures that were looked through are not looked through again: seconds for each test."""

    def seen(
        path: Path, zones: tuple[Zone, ...], say: Callable[[float], None]
    ) -> tuple[Filmed, FilmFacts]:
        key = sha256(path.read_bytes()).digest(), zones
        if key not in _SEEN:
            _SEEN[key] = read_film_file(path, zones, say)
        return _SEEN[key]

    monkeypatch.setattr(film_reading, "read_film_file", seen)


@pytest.fixture
def place(own: Coach, filmed: FilmedRun) -> str:
    place_id = str(uuid.uuid4())
    document = filmed.place.model_dump(mode="json")
    kept = own.send("PUT", f"/api/camera-places/{place_id}", {"place": document})
    assert kept.get_json()["places"][0]["id"] == place_id
    return place_id


def begin(coach: Coach, size: int, **changes: Any) -> TestResponse:
    said = {"id": str(uuid.uuid4()), "name": "round 1.mp4", "size": size, **changes}
    return coach.post(f"/api/runs/{coach.run_id}/films", said)


def piece(coach: Coach, film: str, data: bytes, from_byte: int = 0) -> TestResponse:
    return coach.client.put(
        f"/api/films/{film}/bytes?from_byte={from_byte}",
        data=data,
        content_type="application/octet-stream",
        headers={"X-CSRF-Token": coach.csrf},
    )


def sent(coach: Coach, data: bytes, **changes: Any) -> str:
    """A film that is here whole; its id."""
    film = str(begin(coach, len(data), **changes).get_json()["id"])
    assert piece(coach, film, data).status_code == 200
    return film


def work(app: Flask, engine: Engine) -> None:
    assert film_worker.work(engine, app.config["FILMS"])


def told(coach: Coach, film: str) -> dict[str, Any]:
    return dict(coach.get(f"/api/films/{film}").get_json())


@pytest.fixture
def film(app: Flask, engine: Engine, own: Coach, data: bytes, place: str) -> str:
    """A film of the run that has been read; its id."""
    made = sent(own, data, place_id=place)
    work(app, engine)
    return made


@pytest.fixture(autouse=True)
def removed(own: Coach) -> Iterator[None]:
    """A run has eight films at most."""
    yield
    for film in own.get(f"/api/runs/{own.run_id}/films").get_json()["films"]:
        own.send("PATCH", f"/api/films/{film['id']}", {"removed": True})


def test_a_film_comes_in_pieces_is_read_and_its_file_goes(
    app: Flask, engine: Engine, own: Coach, filmed: FilmedRun, data: bytes, place: str
) -> None:
    before = own.get(f"/api/runs/{own.run_id}/readout").get_data()
    film = begin(own, len(data)).get_json()["id"]
    third = len(data) // 3
    missing = piece(own, film, data[third:], third)
    assert (missing.status_code, missing.get_json()["detail"]) == (409, "Go on from byte 0.")
    for first in (0, 0, third, 2 * third):
        end = first + third if first < 2 * third else len(data)
        answer = piece(own, film, data[first:end], first).get_json()
    assert (answer["state"], answer["received"]) == ("here", len(data))
    still = own.get(f"/api/films/{film}/still.jpg?at_s=2")
    assert still.content_type == "image/jpeg"
    assert still.get_data()[:3] == b"\xff\xd8\xff"
    waits = own.send("PUT", f"/api/films/{film}/place", {"place_id": place}).get_json()
    assert waits["state"] == "waiting"
    folder: Folder = app.config["FILMS"]
    assert folder.marker.exists()
    assert not Folder(folder.path, "postgresql://another").marker.exists()
    work(app, engine)
    view = told(own, film)
    assert (view["film"]["state"], view["film"]["said"]) == ("read", "")
    assert view["film"]["facts"]["width"] == 320
    reading = FilmReading.model_validate(view["reading"])
    assert reading.line_ups[0].starts_s == pytest.approx(-4.0, abs=0.01)
    onsets = {(one.cue.round, one.cue.slot): one.move for one in filmed.answers}
    seen = [
        abs(zone.onset_ms / 1000 + cue.film_s - move.onset_s)
        for cue in reading.cues
        for zone in cue.zones
        if zone.part == "head" and zone.onset_ms is not None
        and (move := onsets[cue.round, cue.slot]) is not None
    ]  # fmt: skip
    assert len(seen) >= 8
    assert sorted(seen)[len(seen) // 2] < 0.03
    assert own.get(f"/api/runs/{own.run_id}/readout").get_data() == before
    file = folder.file(*_key(engine, film))
    elsewhere = file.rename(file.with_name("elsewhere"))
    assert not told(own, film)["film"]["has_file"]  # as in a club that was restored
    assert own.get(f"/api/films/{film}/still.jpg").status_code == 404
    elsewhere.rename(file)
    assert told(own, film)["film"]["has_file"]
    with transaction(engine) as db:
        assert films.take_away_old(db, folder, datetime.now(UTC) + timedelta(hours=25)) >= 1
    assert not file.exists()
    again = told(own, film)
    assert again["reading"] == view["reading"]
    assert not again["film"]["has_file"]
    gone = own.send("PUT", f"/api/films/{film}/place", {"place_id": place})
    assert (gone.status_code, own.get(f"/api/films/{film}/still.jpg").status_code) == (409, 404)


def _key(engine: Engine, film: str) -> tuple[uuid.UUID, uuid.UUID]:
    with transaction(engine) as db:
        club = db.scalars(select(Film.club_id).where(Film.id == uuid.UUID(film))).one()
    return club, uuid.UUID(film)


def test_what_was_being_read_when_the_server_was_killed_is_read_again(
    app: Flask, engine: Engine, own: Coach, data: bytes, place: str
) -> None:
    film = sent(own, data, place_id=place)
    with transaction(engine) as db:
        db.execute(update(Film).where(Film.id == uuid.UUID(film)).values(state="reading"))
    queue = film_queue.worker_app(engine)
    with queue.open():
        doing = "UPDATE film_queue.procrastinate_jobs SET status = 'doing' WHERE status = 'todo'"
        queue.connector.get_sync_connector().execute_query(doing)
    work(app, engine)
    assert told(own, film)["film"]["state"] == "read"


def test_a_film_that_was_never_put_into_the_queue_is_read_all_the_same(
    app: Flask, engine: Engine, own: Coach, data: bytes, place: str
) -> None:
    """As after a power cut between the last piece and the queue."""
    film = sent(own, data)
    with transaction(engine) as db:
        row = db.scalars(select(Film).where(Film.id == uuid.UUID(film))).one()
        films.wait(row, uuid.UUID(place))
    work(app, engine)
    assert told(own, film)["film"]["state"] == "read"


@pytest.mark.parametrize(
    ("made", "said"),
    [
        (lambda data: b"no film at all", "this is no film that can be read"),
        (lambda data: data[: len(data) // 2], "cut short: its end is missing"),
    ],
    ids=["text", "cut short"],
)
def test_what_is_no_film_is_refused_in_words(
    app: Flask, engine: Engine, own: Coach, data: bytes, place: str, made: Any, said: str
) -> None:
    film = sent(own, made(data), place_id=place)
    work(app, engine)
    view = told(own, film)
    assert view["film"]["state"] == "refused"
    assert said in view["film"]["said"]
    assert view["reading"] is None
    assert own.get(f"/api/films/{film}/still.jpg").status_code == 422


def test_a_club_keeps_its_films_as_long_as_it_says(
    app: Flask, engine: Engine, own: Coach, film: str
) -> None:
    folder: Folder = app.config["FILMS"]
    with transaction(engine) as db:
        row = db.scalars(select(Film).where(Film.id == uuid.UUID(film))).one()
        file = folder.file(row.club_id, row.id)
    assert own.send("PUT", "/api/film-days", {"days": 0}).status_code == 422
    assert own.send("PUT", "/api/film-days", {"days": 30}).get_json() == {"days": 30, "blur": False}
    assert own.get(f"/api/runs/{own.run_id}/films").get_json()["kept_days"] == 30

    def swept(days: float) -> bool:
        with transaction(engine) as db:
            films.take_away_old(db, folder, datetime.now(UTC) + timedelta(days=days))
        return not file.exists()

    assert [swept(29.5), swept(30.5)] == [False, True]
    assert own.send("PUT", "/api/film-days", {"days": 1}).get_json() == {"days": 1, "blur": False}


def test_heads_are_blurred_in_a_film_that_is_kept_and_only_once(
    app: Flask, engine: Engine, own: Coach, data: bytes, place: str, film: str
) -> None:
    folder: Folder = app.config["FILMS"]
    own.send("PUT", "/api/film-days", {"days": 30, "blur": True})
    before = own.get(f"/api/films/{film}/still.jpg?at_s=2").data
    reading = told(own, film)["reading"]
    film_worker.blur_kept(engine, folder, datetime.now(UTC) + timedelta(hours=23))
    assert not told(own, film)["film"]["blurred"]
    film_worker.blur_kept(engine, folder, datetime.now(UTC) + timedelta(hours=25))
    view = told(own, film)
    assert view["film"]["blurred"]
    assert view["reading"] == reading
    assert own.get(f"/api/films/{film}/still.jpg?at_s=2").data != before
    again = own.send("PUT", f"/api/films/{film}/place", {"place_id": place})
    assert again.status_code == 409
    film_worker.blur_kept(engine, folder, datetime.now(UTC) + timedelta(hours=49))
    assert own.get(f"/api/films/{film}/still.jpg?at_s=2").status_code == 200


def test_a_film_whose_heads_cannot_be_blurred_is_not_kept(
    app: Flask, engine: Engine, own: Coach, film: str
) -> None:
    folder: Folder = app.config["FILMS"]
    own.send("PUT", "/api/film-days", {"days": 30, "blur": True})
    with transaction(engine) as db:
        row = db.scalars(select(Film).where(Film.id == uuid.UUID(film))).one()
        folder.file(row.club_id, row.id).write_bytes(b"no film any more")
    film_worker.blur_kept(engine, folder, datetime.now(UTC) + timedelta(hours=25))
    view = told(own, film)["film"]
    assert (view["blurred"], view["has_file"], view["state"]) == (False, False, "read")


def test_a_correction_is_kept_with_who_and_why_and_is_taken_back(own: Coach, film: str) -> None:
    cue = told(own, film)["reading"]["cues"][2]
    what = {"round": cue["round"], "number": cue["slot"], "part": "head", "why": "he only looked"}
    body = {"id": str(uuid.uuid4()), "correction": {**what, "at_ms": 310}}
    address = f"/api/films/{film}/corrections"
    for _ in range(2):  # sent twice, it is one
        view = own.post(address, body).get_json()
        assert onset_of(view["reading"]["cues"][2]) == 310
        assert [one["correction"]["why"] for one in view["corrections"]] == ["he only looked"]
        assert view["corrections"][0]["coach"]
    back = own.send("PATCH", f"{address}/{body['id']}", {"taken_back": True}).get_json()
    assert onset_of(back["reading"]["cues"][2]) == onset_of(cue)
    assert back["corrections"] == []
    nothing = {**body, "id": str(uuid.uuid4()), "correction": {**what, "part": None}}
    assert own.post(address, nothing).status_code == 422


def onset_of(cue: Any) -> Any:
    return next(zone for zone in cue["zones"] if zone["part"] == "head")["onset_ms"]


def test_nobody_is_filmed_whose_guardian_has_not_allowed_it(engine: Engine, own: Coach) -> None:
    def consent(value: str) -> None:
        with transaction(engine) as db:
            one = Student.id == uuid.UUID(own.student_id)
            db.execute(update(Student).where(one).values(consent=value))

    consent("needed")
    refused = begin(own, 1000)
    assert refused.status_code == 409
    assert "guardian’s consent" in refused.get_json()["detail"]
    consent("given")
    assert begin(own, 1000).status_code == 201
    consent("not_needed")


def test_a_film_of_another_run_is_refused(
    app: Flask, engine: Engine, own: Coach, data: bytes, place: str
) -> None:
    run_id, recorder = str(uuid.uuid4()), str(uuid.uuid4())
    other = own.begin(id=run_id, recorder=recorder, seed=77)
    assert other.status_code == 201
    for batch in own.batches[:1]:
        body = {"recorder": recorder, **batch.model_dump(mode="json")}
        own.post(f"/api/runs/{run_id}/batches", body)
    said = {"id": str(uuid.uuid4()), "name": "a.mp4", "size": len(data), "place_id": place}
    film = own.post(f"/api/runs/{run_id}/films", said).get_json()["id"]
    piece(own, film, data)
    work(app, engine)
    view = told(own, film)["film"]
    assert view["state"] == "refused"
    assert "run" in view["said"]
    moved = own.post(f"/api/runs/{own.run_id}/films", {**said, "place_id": None})
    assert moved.status_code == 409


def test_what_does_not_fit_is_said_before_it_is_sent(
    own: Coach, data: bytes, monkeypatch: pytest.MonkeyPatch
) -> None:
    film = begin(own, 1000).get_json()["id"]
    assert piece(own, film, b"x" * 1001).status_code == 422
    assert piece(own, film, b"x" * (9 * 2**20)).status_code == 413
    wrong = own.client.put(
        f"/api/films/{film}/bytes", data=b"x", content_type="text/plain",
        headers={"X-CSRF-Token": own.csrf},
    )  # fmt: skip
    assert wrong.status_code == 415
    assert begin(own, 3 * 2**30).status_code == 422
    assert begin(own, 0).status_code == 422
    assert begin(own, 10, place_id=str(uuid.uuid4())).status_code == 404
    monkeypatch.setattr(films, "KEPT_FREE_BYTES", 2**60)
    full = begin(own, 1000)
    assert full.status_code == 507
    assert "are free on the server’s disk" in full.get_json()["detail"]
    monkeypatch.undo()
    for _ in range(films.MOST_OF_A_RUN - 1):
        assert begin(own, 10).status_code == 201
    assert begin(own, 10).status_code == 409


def test_a_disk_that_fills_up_in_mid_upload_loses_nothing(
    own: Coach, data: bytes, monkeypatch: pytest.MonkeyPatch
) -> None:
    film = begin(own, len(data)).get_json()["id"]
    half = len(data) // 2
    assert piece(own, film, data[:half]).status_code == 200

    def full(*_: object) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(Folder, "write", full)
    answer = piece(own, film, data[half:], half)
    assert answer.status_code == 507
    assert f"send on from byte {half}" in answer.get_json()["detail"]
    monkeypatch.undo()
    assert told(own, film)["film"]["received"] == half
    assert piece(own, film, data[half:], half).get_json()["state"] == "here"
    file = next(Path(own.client.application.config["FILMS"].path).glob(f"*/{film}"))
    assert file.read_bytes() == data


def test_a_film_is_removed_and_brought_back_and_goes_with_its_run(
    app: Flask, engine: Engine, own: Coach, data: bytes
) -> None:
    film = sent(own, data)
    path = f"/api/films/{film}"
    listed = own.send("PATCH", path, {"removed": True}).get_json()["films"]
    assert film not in [one["id"] for one in listed]
    assert own.get(path).status_code == 404
    listed = own.send("PATCH", path, {"removed": False}).get_json()["films"]
    assert film in [one["id"] for one in listed]
    folder: Folder = app.config["FILMS"]
    club, film_id = _key(engine, film)
    with transaction(engine) as db:
        db.execute(update(Film).where(Film.id == film_id).values(run_id=_other_run(own)))
    own.send("PATCH", f"/api/runs/{_runs[own.login]}", {"away": "deleted"})
    long_ago = datetime.now(UTC) - timedelta(days=3)
    with transaction(engine) as db:
        row = db.get_one(away.Run, (club, uuid.UUID(_runs[own.login])))
        row.deleted_at = long_ago
        db.flush()
        away.purge(db, club)
        assert db.get(Film, (club, film_id)) is None
        assert (club, film_id) in films.without_a_row(db, folder)
    work(app, engine)
    assert not folder.file(club, film_id).exists()


_runs: dict[str, str] = {}


def _other_run(coach: Coach) -> str:
    _runs[coach.login] = str(uuid.uuid4())
    assert coach.begin(id=_runs[coach.login]).status_code == 201
    return _runs[coach.login]


def test_a_place_is_changed_removed_and_offered_again(own: Coach) -> None:
    place_id = str(uuid.uuid4())
    path = f"/api/camera-places/{place_id}"
    own.send("PUT", path, {"place": PLACE})
    changed = own.send("PUT", path, {"place": {**PLACE, "name": "by the window"}})
    assert changed.get_json()["places"][0]["place"]["name"] == "by the window"
    outside = {**PLACE["zones"][0], "left": 0.95}  # type: ignore[index]
    wrong = own.send("PUT", path, {"place": {**PLACE, "zones": [outside]}})
    assert wrong.status_code == 422
    assert "reaches out of the picture" in wrong.get_json()["detail"]
    for removed in (True, False):
        listed = own.send("PATCH", path, {"removed": removed}).get_json()["places"]
        assert (place_id in [one["id"] for one in listed]) != removed
