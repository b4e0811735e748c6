"""Three evenings of the made-up club that are over, and tonight's, with people put together."""

from __future__ import annotations

import uuid
from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime, timedelta

import numpy as np
from sqlalchemy.orm import Session

from hastatus.core.drill.header import Level
from hastatus.core.hall.attendee import Attendee
from hastatus.core.hall.evening import Block, Evening
from hastatus.core.hall.fit import Pair, Wishes
from hastatus.core.hall.pairing import grouping
from hastatus.core.hall.readiness import Readiness
from hastatus.demo import class_runs
from hastatus.store import drills, evenings, incidents
from hastatus.store.models import Coach, Student

PAST = 3
LENGTH = timedelta(minutes=90)
_LATE = timedelta(hours=1)
ZONE = "Europe/London"
AFTER_WEEK: Mapping[str, Level] = {
    "Alba Renn": "settled", "Cato Lindqvar": "advanced", "Fenn Astley": "settled",
    "Hanneke Voss": "advanced", "Kesi Brandt": "settled", "Lorne Quist": "settled",
}  # fmt: skip
"""Who is no beginner."""
SPARES = {"Gwil Tamsen": "right wrist"}
READINESS: Mapping[str, Readiness] = {"Gwil Tamsen": "light", "Noor Whitlam": "blocks"}
SENSES = {"Edda Falk-Ibe": "hears little on the left"}
_NAMESPACE = uuid.UUID("0f6c0c4e-3f6d-4a7e-9a34-7b1d0f7c2a51")


def fill(
    db: Session,
    coach: Coach,
    shelf: Mapping[str, uuid.UUID],
    members: Sequence[Student],
    *,
    past: Sequence[datetime],
    today: datetime,
) -> None:
    """Keep the evenings. shelf: drills by title. past: when the classes before today began."""
    rng = np.random.default_rng(20_261_124)
    for member in members:
        member.level = AFTER_WEEK.get(member.name, "new")
        member.spares = SPARES.get(member.name, "")
        member.senses = SENSES.get(member.name, "")
        member.readiness = READINESS.get(member.name, "free")
    tonight = today.astimezone(UTC).replace(hour=18, minute=30, second=0, microsecond=0)
    if today > tonight + LENGTH + _LATE:  # late at night the next one is shown
        tonight += timedelta(days=1)
    met = Counter[Pair]()
    for number, begins in enumerate([*past[-PAST:], tonight]):
        is_over = begins != tonight
        plan = _plan(begins, shelf, number)
        row = evenings.add(db, coach.club_id, uuid.uuid5(_NAMESPACE, begins.isoformat()), plan)
        here = [member for member in members if rng.random() < (0.8 if is_over else 0.75)]
        for member in here:
            attendance = evenings.attend(db, row, member.id)
            attendance.came_at = begins - timedelta(minutes=float(rng.uniform(2, 12)))
            attendance.ready_before = int(rng.integers(4, 10))
            if is_over:
                attendance.left_at = begins + LENGTH
                attendance.ready_after = min(10, attendance.ready_before + 1)
        groups = dict[str, list[list[uuid.UUID]]]()
        for block in plan.blocks:
            if block.in_pairs and (is_over or block.feeds == "numbered"):
                grouped = grouping([_attendee(member) for member in here], Wishes(met=dict(met)))
                groups[block.key] = [
                    [uuid.UUID(key) for key in group.members] for group in grouped.groups
                ]
                evenings.keep_groups(db, row, block.key, groups[block.key], None)
                met.update(frozenset(group.members) for group in grouped.groups)
        if is_over and number == 1:
            incidents.write(
                db,
                coach.club_id,
                uuid.uuid5(_NAMESPACE, "ankle"),
                what="Turned an ankle on a step back",
                students=[here[0].id],
                happened_at=begins + timedelta(minutes=52),
                done="Sat out, ice, walked home with a friend",
                coach_id=coach.id,
            )
        if is_over:
            known = _drills(db, coach.club_id, plan)
            class_runs.fill(db, row, coach.id, plan, known, groups, rng)


def _drills(db: Session, club_id: uuid.UUID, plan: Evening) -> dict[uuid.UUID, drills.Document]:
    """The drills of a plan."""
    ids = {block.drill_id for block in plan.blocks if block.drill_id}
    versions = {drill_id: drills.version(db, club_id, drill_id) for drill_id in ids}
    return {key: drills.read_any(version) for key, version in versions.items() if version}


def _attendee(member: Student) -> Attendee:
    return Attendee(
        key=str(member.id),
        name=member.name,
        stance=member.stance,
        level=member.level,
        height_m=member.height_m,
    )


def _plan(begins: datetime, shelf: Mapping[str, uuid.UUID], number: int) -> Evening:
    """Base, a solo drill for all, two partner drills, a free round, and a word at the end."""
    first, second = (
        ("One hits, one guards", "Turn about") if number % 2 else
        ("Two beats, then in", "One hits, one guards")
    )  # fmt: skip
    return Evening(
        title="Tuesday class" if begins.weekday() == 1 else "Evening class",
        starts_at=begins,
        ends_at=begins + LENGTH,
        zone=ZONE,
        floor_m2=80,
        blocks=(
            Block(key="base", kind="base", name="Base and warm-up", minutes=15,
                  notes="joints, steps, single strikes; check your feet"),
            Block(key="alone", kind="solo", name="Block the sound, strike the light",
                  drill_id=shelf["Block the sound, strike the light"], minutes=8),
            Block(key="first", kind="partner", name=first, drill_id=shelf[first], rungs=(1, 2),
                  minutes=6, feeds="numbered", people="new"),
            Block(key="water", kind="break", name="Water", minutes=3),
            Block(key="second", kind="partner", name=second, drill_id=shelf[second], rungs=(2,),
                  minutes=8, stances="both", people="new"),
            Block(key="free", kind="free", name="Free round, light", minutes=6, repeats=2,
                  people="kept"),
            Block(key="end", kind="talk", name="What was clean, what changes", minutes=5),
        ),
    )  # fmt: skip
