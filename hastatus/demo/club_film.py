"""The film that the made-up club has of one of its runs, with what is read of it."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory

from sqlalchemy.orm import Session

from hastatus.core.film.heard_signals import rises_of
from hastatus.core.film.reading import read_film
from hastatus.core.plan.round_signal import sounds_of_solo
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.film import Camera
from hastatus.demo.film_picture import Look
from hastatus.demo.filmed_run import FilmedRun, Filming
from hastatus.demo.student import Habits, simulate
from hastatus.film_io.film_file import FACTS, read_film_file
from hastatus.store import assets, drills, films, runs
from hastatus.store.films import Folder
from hastatus.store.models import Coach, Film, Student

TITLE = "One thing more"
NAME = "slips, from the corner.mp4"
SEED = 20_261_128
_NAMESPACE = uuid.UUID("5f0c6a52-6d0e-4a57-9d0a-3a1f0a8d2f11")
_FILMING = Filming(
    look=Look(width=320, height=180), camera=Camera(rate_hz=20.0), starts_s=-4.0, length_s=30.0
)


def fill(
    db: Session,
    coach: Coach,
    student: Student,
    at: datetime,
    today: datetime,
    folder: Folder | None,
) -> None:
    """Slips of a student in front of a phone, read today. folder: where the film's file is kept;
    None: it is gone already, and its times stay."""
    club_id = coach.club_id
    entry = next(one for one in drills.shelf(db, club_id) if one.title == TITLE)
    version = drills.version(db, club_id, entry.id)
    assert version is not None
    drill = drills.read(version)
    plan = plan_run(drill, seed=SEED, stance="left_lead", rounds=1)
    batches, state = simulate(Setup(drill, plan, Device()), Habits(), SEED)
    ids = [uuid.uuid5(_NAMESPACE, what) for what in ("run", "recorder", "place", "film")]
    run = runs.add(
        db,
        club_id,
        ids[0],
        student_id=student.id,
        coach_id=coach.id,
        version=version,
        recorder=ids[1],
        plan=plan,
        device=Device(),
        started_at=at,
    )
    runs.import_batches(db, run, batches, state)
    filmed = FilmedRun.of(drill, plan, batches, _FILMING, SEED)
    clips = {clip.name: clip for clip in sounds_of_solo(drill, plan)}
    samples = {
        name: found
        for name, clip in clips.items()
        if (found := assets.samples(db, club_id, clip, drill.voice)) is not None
    }
    place = films.keep_place(db, club_id, ids[2], filmed.place)
    film = Film(
        club_id=club_id, id=ids[3], run_id=run.id, name=NAME,
        place_id=place.id, state="read", progress=1.0, said="", made_by=coach.id,
        created_at=at + timedelta(minutes=4), read_at=today,
    )  # fmt: skip
    rises = {name: rises_of(name, one) for name, one in samples.items()}
    with TemporaryDirectory() as where:
        file = Path(where) / "film.mp4"
        filmed.write(file, samples)
        shown, facts = read_film_file(file, filmed.place.zones)
        data = file.read_bytes()
    reading = read_film(drill, plan, batches, filmed.place, shown, rises)
    film.size = film.received = len(data)
    film.facts, film.reading = (
        FACTS.dump_python(facts, mode="json"),
        reading.model_dump(mode="json"),
    )
    if folder is None:
        film.file_gone_at = film.read_at
    else:
        folder.write(film, 0, data)
    db.add(film)
    db.flush()
