"""Evenings: their plans, who is on them, who works with whom."""

from __future__ import annotations

import uuid
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from datetime import UTC, datetime, timedelta
from itertools import combinations

from sqlalchemy import func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.core.hall import evening as plans
from hastatus.store.models import Attendance, BlockGroups, Evening, EveningTemplate

Pair = frozenset[uuid.UUID]
Met = Mapping[Pair, int]
SEASON = timedelta(days=120)
"""So long ago two may have worked together for it to count."""


class ChangedMeanwhile(Exception):
    """Somebody else has changed it since it was read."""


def add(db: Session, club_id: uuid.UUID, evening_id: uuid.UUID, plan: plans.Evening) -> Evening:
    """A new evening."""
    row = Evening(
        club_id=club_id, id=evening_id, plan=plan.model_dump(mode="json"), starts_at=plan.starts_at
    )
    db.add(row)
    db.flush()
    return row


def plan_of(row: Evening) -> plans.Evening:
    """The plan of an evening as a model."""
    return plans.Evening.model_validate(row.plan)


def find(db: Session, club_id: uuid.UUID, evening_id: uuid.UUID) -> Evening | None:
    """The club's evening with this id."""
    return db.get(Evening, (club_id, evening_id))


def latest(db: Session, club_id: uuid.UUID, *, limit: int = 60) -> list[Evening]:
    """The club's evenings, the furthest in the future first."""
    query = select(Evening).where(Evening.club_id == club_id, Evening.deleted_at.is_(None))
    return list(db.scalars(query.order_by(Evening.starts_at.desc(), Evening.id).limit(limit)))


def change(db: Session, row: Evening, plan: plans.Evening, base: int) -> None:
    """Keep a changed plan. `ChangedMeanwhile` where `base` is not its last edit."""
    db.refresh(row, with_for_update=True)
    if row.edit != base:
        raise ChangedMeanwhile
    row.plan, row.starts_at = plan.model_dump(mode="json"), plan.starts_at
    row.edit += 1
    db.flush()
    touch(db, row)


def touch(db: Session, row: Evening) -> None:
    """Something that is seen of an evening has changed."""
    mine = (Evening.club_id == row.club_id, Evening.id == row.id)
    db.execute(update(Evening).where(*mine).values(changes=Evening.changes + 1))
    db.refresh(row, ["changes"])


def put_away(db: Session, row: Evening, away: bool) -> None:
    """Delete an evening, or bring it back."""
    row.deleted_at = datetime.now(UTC) if away else None
    db.flush()


def attendances(db: Session, row: Evening) -> dict[uuid.UUID, Attendance]:
    """Who is or was on an evening, by student."""
    query = select(Attendance).where(
        Attendance.club_id == row.club_id, Attendance.evening_id == row.id
    )
    return {one.student_id: one for one in db.scalars(query)}


def attend(db: Session, row: Evening, student_id: uuid.UUID) -> Attendance:
    """A student's row on an evening, locked; made where there is none."""
    key = {"club_id": row.club_id, "evening_id": row.id, "student_id": student_id}
    db.execute(insert(Attendance).values(key).on_conflict_do_nothing())
    mine = select(Attendance).filter_by(**key).with_for_update()
    return db.scalars(mine.execution_options(populate_existing=True)).one()


def be_here(attendance: Attendance, here: bool) -> None:
    """Somebody comes, or goes; who comes again has not gone."""
    now = datetime.now(UTC)
    if here:
        attendance.came_at, attendance.left_at = attendance.came_at or now, None
    elif attendance.came_at is not None:
        attendance.left_at = now


def groups(db: Session, row: Evening) -> dict[str, BlockGroups]:
    """Who works with whom, by block."""
    query = select(BlockGroups).where(
        BlockGroups.club_id == row.club_id, BlockGroups.evening_id == row.id
    )
    return {one.block: one for one in db.scalars(query)}


def keep_groups(
    db: Session,
    row: Evening,
    block: str,
    members: Iterable[Sequence[uuid.UUID]],
    base: int | None,
) -> None:
    """Keep who works with whom in a block. `ChangedMeanwhile` where `base` is not its last
    edit; None: there is none yet."""
    db.refresh(row, with_for_update=True)  # one coach after the other
    kept = db.get(BlockGroups, (row.club_id, row.id, block), populate_existing=True)
    if base != (kept.edit if kept else None):
        raise ChangedMeanwhile
    written = [[str(one) for one in group] for group in members]
    if kept is None:
        key = {"club_id": row.club_id, "evening_id": row.id, "block": block}
        db.add(BlockGroups(**key, groups=written))
    else:
        kept.groups, kept.edit = written, kept.edit + 1
    db.flush()
    touch(db, row)


_TOGETHER = text("""
    SELECT one.student_id, other.student_id, count(DISTINCT run.started_at::date)
    FROM partner_run_students AS one
    JOIN partner_run_students AS other
      ON other.club_id = one.club_id AND other.run_id = one.run_id
     AND other.student_id > one.student_id
    JOIN partner_runs AS run ON run.club_id = one.club_id AND run.id = one.run_id
    WHERE one.club_id = :club_id AND run.started_at > :since AND run.deleted_at IS NULL
    GROUP BY 1, 2
""")


_MARKED = text("""
    SELECT DISTINCT mark.evening_id, mark.document->>'block', mark.document->'members'
    FROM pair_marks AS mark
    JOIN evenings ON evenings.club_id = mark.club_id AND evenings.id = mark.evening_id
    WHERE mark.club_id = :club_id AND evenings.starts_at > :since AND evenings.deleted_at IS NULL
      AND mark.evening_id IS DISTINCT FROM CAST(:but AS uuid)
      AND mark.document->>'kind' IN ('seen', 'watched', 'through')
      AND jsonb_array_length(mark.document->'members') > 1
""")


def met(db: Session, club_id: uuid.UUID, *, but: uuid.UUID | None = None) -> Counter[Pair]:
    """How often each two have worked together of late: in blocks of evenings that have begun, and
    on days with a partner run. but: an evening that does not count."""
    since = datetime.now(UTC) - SEASON
    times_met = Counter[Pair]()
    asked = {"club_id": club_id, "since": since}
    for one, other, count in db.execute(_TOGETHER, asked):
        times_met[frozenset((one, other))] += count
    begun = (
        select(BlockGroups)
        .join(
            Evening,
            (Evening.club_id == BlockGroups.club_id) & (Evening.id == BlockGroups.evening_id),
        )
        .where(BlockGroups.club_id == club_id, Evening.deleted_at.is_(None))
        .where(Evening.starts_at > since, Evening.starts_at < func.now())
    )
    known = set[tuple[uuid.UUID, str, Pair]]()
    for row in db.scalars(begun.where(Evening.id != but) if but else begun):
        times_met += pairs_of(row)
        known |= {(row.evening_id, row.block, pair) for pair in pairs_of(row)}
    # Put together anew since, they have worked together all the same.
    for evening_id, block, members in db.execute(_MARKED, asked | {"but": but}):
        for pair in combinations(sorted(members), 2):
            two = frozenset(map(uuid.UUID, pair))
            if (evening_id, block, two) not in known:
                known.add((evening_id, block, two))
                times_met[two] += 1
    return times_met


def pairs_of(row: BlockGroups) -> Counter[Pair]:
    """Each two who work together in a block."""
    return Counter(
        frozenset(map(uuid.UUID, pair)) for group in row.groups for pair in combinations(group, 2)
    )


def came(db: Session, club_id: uuid.UUID) -> Counter[uuid.UUID]:
    """How many came, by evening."""
    query = (
        select(Attendance.evening_id, func.count().label("came"))
        .where(Attendance.club_id == club_id, Attendance.came_at.is_not(None))
        .group_by(Attendance.evening_id)
    )
    return Counter({row.evening_id: row.came for row in db.execute(query)})


def templates(db: Session, club_id: uuid.UUID) -> list[EveningTemplate]:
    """The club's templates, by name."""
    query = select(EveningTemplate).where(EveningTemplate.club_id == club_id)
    return list(db.scalars(query.order_by(EveningTemplate.name, EveningTemplate.id)))


def keep_template(
    db: Session, club_id: uuid.UUID, template_id: uuid.UUID, name: str, plan: plans.Evening
) -> None:
    """Keep a plan as a template, once for each id."""
    values = {"club_id": club_id, "id": template_id, "name": name,
              "plan": plan.model_dump(mode="json")}  # fmt: skip
    db.execute(insert(EveningTemplate).values(values).on_conflict_do_nothing())


def attended(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, *, limit: int = 60
) -> list[tuple[Evening, Attendance]]:
    """The evenings that a student was on, the newest first."""
    query = (
        select(Evening, Attendance)
        .join(
            Attendance,
            (Attendance.club_id == Evening.club_id) & (Attendance.evening_id == Evening.id),
        )
        .where(Evening.club_id == club_id, Evening.deleted_at.is_(None))
        .where(Attendance.student_id == student_id, Attendance.came_at.is_not(None))
        .order_by(Evening.starts_at.desc())
    )
    return [(row.Evening, row.Attendance) for row in db.execute(query.limit(limit))]
