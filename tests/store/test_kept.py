"""What is derived and kept for lists is never older than what it is derived from."""

from __future__ import annotations

import pytest
from sqlalchemy import Engine, delete, func, select, text, update

from hastatus.core.drill.outline import outline
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.store import derived, drills, runs, standings
from hastatus.store.database import transaction
from hastatus.store.models import DrillOutline, Run, StudentStanding
from tests.store.test_runs import begin_run, take


def stands(engine: Engine, run: Run) -> standings.StudentStanding:
    with transaction(engine) as db:
        return standings.of(db, run.club_id, run.student_id)


def anew(engine: Engine, run: Run) -> standings.StudentStanding:
    """The same with nothing kept."""
    with transaction(engine) as db:
        db.execute(delete(StudentStanding).where(StudentStanding.student_id == run.student_id))
        return standings.of(db, run.club_id, run.student_id)


def no_runs(*_: object) -> list[Run]:
    raise AssertionError("the runs were read")


def test_a_standing_follows_the_runs_and_is_read_without_them(
    engine: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    run, batches, _ = begin_run(engine)
    before = stands(engine, run)
    assert (before.runs, before.course) == (1, [])
    for batch in batches:
        take(engine, run, batch)
    after = stands(engine, run)
    assert after.last is not None
    assert after.last.settled_window_s
    assert after.course == [after.last.settled_window_s]
    assert after == anew(engine, run)
    with monkeypatch.context() as patch:
        patch.setattr(runs, "latest_of_each", no_runs)
        assert stands(engine, run) == after
    # Any change of a run counts, whoever makes it: here it turns out to have been simulated.
    with engine.begin() as connection:
        connection.execute(update(Run).where(Run.id == run.id).values(simulated=True))
    assert stands(engine, run).last is None
    assert stands(engine, run) == anew(engine, run)


def test_a_standing_holds_for_the_newest_version_of_its_drill(
    engine: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    run, batches, _ = begin_run(engine)
    for batch in batches:
        take(engine, run, batch)
    stands(engine, run)
    with transaction(engine) as db:
        drill = block_on_sound_strike_on_light().model_copy(update={"title": "Ours"})
        drills.add_version(db, run.club_id, run.drill_id, 1, drill)
    monkeypatch.setattr(runs, "latest_of_each", no_runs)
    with pytest.raises(AssertionError, match="runs were read"):
        stands(engine, run)


def test_outlines_are_those_of_the_documents_and_made_for_older_rows(engine: Engine) -> None:
    run, _, _ = begin_run(engine)
    with transaction(engine) as db:
        shelf = drills.shelf(db, run.club_id)
        assert {each.id: each.runs for each in shelf}[run.drill_id] == 1
        for each in shelf:
            version = drills.version(db, run.club_id, each.id)
            assert version
            told = outline(drills.read_any(version))
            assert all(getattr(each, name) == getattr(told, name) for name in told.__slots__)
        db.execute(delete(DrillOutline).where(DrillOutline.club_id == run.club_id))
        assert drills.shelf(db, run.club_id) == shelf


def test_other_rules_forget_what_was_derived(engine: Engine) -> None:
    run, _, _ = begin_run(engine)
    stands(engine, run)
    with engine.connect() as connection, connection.begin() as undone:
        assert not derived.renew(connection)
        connection.execute(text("UPDATE derivations SET rules = 'older'"))
        assert derived.renew(connection)
        for each in derived.DERIVED:
            assert connection.scalar(select(func.count()).select_from(each)) == 0
        assert not derived.renew(connection)
        undone.rollback()
