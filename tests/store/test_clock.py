"""A clock that is set back by an hour holds nobody up and moves nothing backwards."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import Engine

from hastatus.core.run.medical_hold import Knock, medical_hold
from hastatus.core.run.sheet_clock import Stands
from hastatus.store import attempts
from hastatus.store.database import transaction
from hastatus.store.models import Attempt

HOUR = timedelta(hours=1)
NOW = datetime.now(UTC)


def test_wrong_passwords_of_a_later_hour_lock_nobody_out(engine: Engine) -> None:
    subjects = attempts.at_sign_in(f"{uuid.uuid4().hex}@weir.example", "127.0.0.1")
    with transaction(engine) as db:
        keys = [subject.key for subject in subjects]
        db.add_all(Attempt(subject=key, at=NOW + HOUR) for key in keys for _ in range(9))
    with transaction(engine) as db:
        attempts.check(db, subjects)
        for _ in range(9):
            attempts.note_failure(db, subjects)
    with transaction(engine) as db, pytest.raises(attempts.TooSoon) as told:
        attempts.check(db, subjects)
    assert told.value.wait_s <= 60


@pytest.mark.parametrize("passed_s", [-3600.0, -0.5, 0.0])
def test_a_round_does_not_run_backwards(passed_s: float) -> None:
    stands = Stands(phase="round", round=2, sheet_s=12.5, bpm=60)
    assert stands.after(passed_s, 66.0) == stands


def test_a_round_that_nobody_ended_stands_at_a_day_at_most() -> None:
    stands = Stands(phase="round", round=2, sheet_s=86_399, bpm=60)
    later = stands.after(60.0, 60.0)
    assert Stands.model_validate(later.model_dump()) == later
    assert later.sheet_s > stands.sheet_s


def test_a_head_knock_of_a_later_hour_holds_all_the_same() -> None:
    hold = medical_hold([Knock(NOW + HOUR, cleared_at=NOW + HOUR)], NOW)
    assert hold is not None
    assert hold.off_until == NOW + HOUR + timedelta(days=1)
