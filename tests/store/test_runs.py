"""Batches in PostgreSQL: taken once, in any order, and never half."""

import uuid
from dataclasses import fields, replace

import numpy as np
import pytest
from sqlalchemy import Engine, select, text
from sqlalchemy.exc import ProgrammingError
from sqlalchemy.orm import Session

from hastatus.core.loop.live_run import rescore
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import HoldResult, Response, StepResult
from hastatus.demo.student import Habits, simulate
from hastatus.store import (
    accounts,
    away,
    batch_intake,
    drills,
    event_batches,
    ladders,
    runs,
    students,
)
from hastatus.store.database import check, downgrade, migrate, transaction
from hastatus.store.models import Response as KeptResponse


def begin_run(engine: Engine, seed: int = 3) -> tuple[runs.Run, list[Batch], Setup]:
    with transaction(engine) as db:
        club = accounts.add_club(db, "Testing club")
        coach = accounts.add_coach(
            db,
            club.id,
            login=f"{club.id}@x.example",
            name="A",
            password="long enough too",
            role="owner",
        )
        student = students.add(db, club.id, name="B", stance="left_lead")
        version = drills.newest(db, club.id)[0]
        drill = drills.read(version)
        plan = plan_run(drill, seed=seed)
        run = runs.add(
            db,
            club.id,
            uuid.uuid4(),
            student_id=student.id,
            coach_id=coach.id,
            version=version,
            recorder=uuid.uuid4(),
            plan=plan,
            device=Device(),
        )
        setup = Setup(drill, plan, Device())
    return run, simulate(setup, Habits(), seed)[0], setup


def take(
    engine: Engine, run: runs.Run, batch: Batch, digest: bytes | None = None
) -> event_batches.BatchResult:
    with transaction(engine) as db:
        body = digest or batch_intake.payload_hash(batch.model_dump_json().encode())
        taken = event_batches.take(db, run.club_id, run.id, run.recorder, batch, body)
    assert taken is not None
    return taken


def kept_responses(db: Session, run: runs.Run) -> list[Response]:
    """The derived rows of a run, as values."""
    names = [field.name for field in fields(Response)]
    rows = db.scalars(
        select(KeptResponse)
        .where(KeptResponse.run_id == run.id)
        .order_by(KeptResponse.round, KeptResponse.slot)
    )
    kept = [Response(*(getattr(row, name) for name in names)) for row in rows]
    for each in kept:
        each.steps = tuple(StepResult(**step) for step in each.steps)  # type: ignore[arg-type]
        each.holds = tuple(HoldResult(**hold) for hold in each.holds)  # type: ignore[arg-type]
    return kept


def test_batches_twice_and_out_of_order_are_taken_once(engine: Engine) -> None:
    run, batches, setup = begin_run(engine)
    order = np.random.default_rng(1).permutation(len(batches))
    for number in [*order, *order[:5]]:
        taken = take(engine, run, batches[number])
    assert taken.complete
    with transaction(engine) as db:
        kept = kept_responses(db, run)
        assert kept == rescore(setup, batches).responses
        state = ladders.state(db, run.club_id, run.student_id, run.drill_id)
    assert state is not None


def test_same_number_with_other_contents_is_refused(engine: Engine) -> None:
    run, batches, _ = begin_run(engine)
    take(engine, run, batches[0])
    with pytest.raises(batch_intake.BatchConflict):
        take(engine, run, batches[0], b"other")
    with pytest.raises(batch_intake.OtherRecorder), transaction(engine) as db:
        event_batches.take(db, run.club_id, run.id, uuid.uuid4(), batches[1], b"x")


def test_a_closed_run_with_a_gap_is_scored_and_takes_what_comes_late(engine: Engine) -> None:
    run, batches, setup = begin_run(engine)
    for batch in [*batches[:5], *batches[6:20]]:
        take(engine, run, batch)
    with transaction(engine) as db:
        scored = runs.close(db, runs.find(db, run.club_id, run.id))
    assert scored.figures.missing == [5]
    for batch in [batches[5], *batches[20:]]:
        taken = take(engine, run, batch)
    assert taken.complete
    with transaction(engine) as db:
        assert kept_responses(db, run) == rescore(setup, batches).responses


def test_drill_versions_and_batches_cannot_be_changed(engine: Engine) -> None:
    run, batches, _ = begin_run(engine)
    take(engine, run, batches[0])
    for table in ("drill_versions", "event_batches"):
        with pytest.raises(ProgrammingError, match="append-only"), engine.begin() as connection:
            connection.execute(text(f"UPDATE {table} SET club_id = club_id"))


def test_another_club_sees_nothing(engine: Engine) -> None:
    run, batches, _ = begin_run(engine)
    other, _, _ = begin_run(engine)
    with transaction(engine) as db:
        assert runs.find(db, other.club_id, run.id) is None
        assert students.find(db, other.club_id, run.student_id) is None
        assert drills.version(db, other.club_id, run.drill_id) is None
        assert event_batches.take(db, other.club_id, run.id, run.recorder, batches[0], b"x") is None


def test_passwords_and_sign_ins(engine: Engine) -> None:
    # OWASP Password Storage Cheat Sheet (from memory): Argon2id, 19 MiB, 2 passes, 1 lane at least.
    run, _, _ = begin_run(engine)
    with transaction(engine) as db:
        coach = accounts.find_coach(db, f"{run.club_id}@X.example")
        assert coach is not None
        assert coach.password_hash.startswith("$argon2id$v=19$m=19456,t=2,p=1$")
        assert accounts.verify(coach, "long enough too")
        assert not accounts.verify(coach, "long enougH")
        assert not accounts.verify(None, "long enough too")
        token = accounts.sign_in(db, coach, "test")
        db.flush()
        who = accounts.signed_in(db, token)
        assert who is not None
        assert accounts.revoke(db, who, who.sign_in_id)
        assert accounts.signed_in(db, token) is None
        assert accounts.reopen(db, who, who.sign_in_id)
        assert accounts.signed_in(db, token) == who
        with pytest.raises(accounts.BadPassword):
            accounts.set_password(db, coach, "short")


def test_a_run_whose_answers_are_not_trusted_is_kept_all_the_same(engine: Engine) -> None:
    """On a machine that stood still nothing may count; it was answered, and the coach sees it."""
    run, batches, _ = begin_run(engine)
    with transaction(engine) as db:
        for batch in batches:
            event_batches.take(db, run.club_id, run.id, run.recorder, batch, bytes([batch.number]))
    with transaction(engine) as db:
        kept = db.merge(run)
        scored = runs.score_run(db, kept)
        nothing = replace(scored.figures.evidence, answers=0, answered=0)
        left_out = [replace(one, left_out="dropped_frames") for one in scored.responses]
        figures = replace(scored.figures, evidence=nothing)
        untrusted = replace(scored, responses=left_out, figures=figures)
        away.settle_solo(kept, untrusted, guided=False)
        assert kept.deleted_at is None
        away.settle_solo(kept, replace(untrusted, responses=[]), guided=False)
        assert kept.deleted_at is not None


@pytest.mark.parametrize("ended", ["signed out", "password changed", "a minute ago", "of another"])
def test_a_sign_in_that_ended_for_good_is_not_opened_again(engine: Engine, ended: str) -> None:
    run, _, _ = begin_run(engine)
    other, _, _ = begin_run(engine)
    with transaction(engine) as db:
        coach = accounts.find_coach(db, f"{run.club_id}@X.example")
        stranger = accounts.find_coach(db, f"{other.club_id}@X.example")
        assert coach
        assert stranger
        token, of_stranger = (accounts.sign_in(db, one, "test") for one in (coach, stranger))
        db.flush()
        who, somebody = accounts.signed_in(db, token), accounts.signed_in(db, of_stranger)
        assert who
        assert somebody
        if ended == "password changed":
            accounts.revoke(db, who, who.sign_in_id)
            accounts.set_password(db, coach, "four reeds by the lock")
        else:
            accounts.revoke(db, who, who.sign_in_id, for_good=ended == "signed out")
        if ended == "a minute ago":
            db.execute(text("UPDATE sign_ins SET revoked_at = now() - interval '61 seconds'"
                            " WHERE id = :id"), {"id": who.sign_in_id})  # fmt: skip
        assert not accounts.reopen(db, somebody if ended == "of another" else who, who.sign_in_id)
        assert accounts.signed_in(db, token) is None


def test_models_and_migrations_agree(engine: Engine) -> None:
    check(engine)
    downgrade(engine, "base")
    migrate(engine)
    check(engine)


def test_what_is_kept_of_runs_in_a_process_is_bounded_by_its_size(
    engine: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    begun = [begin_run(engine)[0] for _ in range(4)]
    monkeypatch.setattr(runs, "_fixed", {})

    def read(run: runs.Run) -> int:
        with transaction(engine) as db:
            assert runs.fixed_of(db, run.club_id, run.id).recorder == run.recorder
        return runs._fixed[run.club_id, run.id][1]

    size = read(begun[0])
    assert size > 1000
    monkeypatch.setattr(runs, "MOST_KEPT_BYTES", int(2.5 * size))
    for run in begun:
        read(run)
    assert [key[1] for key in runs._fixed] == [run.id for run in begun[-2:]]
    monkeypatch.setattr(runs, "MOST_KEPT_BYTES", 1)
    read(begun[0])
    assert [key[1] for key in runs._fixed] == [begun[0].id]  # the one that is in use
