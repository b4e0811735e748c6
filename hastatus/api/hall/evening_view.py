"""An evening as an answer: its times, who is here, who works with whom."""

from __future__ import annotations

import uuid
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal
from zoneinfo import ZoneInfo

from hastatus.api.hall import models as hall_models
from hastatus.api.http.session import db, who
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.hall.attendee import Attendee
from hastatus.core.hall.evening import Block, Evening
from hastatus.core.hall.evening_limits import evening_limits
from hastatus.core.hall.fit import MET, MET_LITTLE, Wishes
from hastatus.core.hall.pairing import Grouping, grouping
from hastatus.core.hall.timetable import BlockTimes, DrillTimes, timetable
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.core.trade.gear import Gear
from hastatus.store import drills, evenings, head_knocks, rooms, students
from hastatus.store import models as rows

AnyDrill = Drill | PartnerDrill
LATE = timedelta(hours=2)
"""So long after its end an evening is still tonight's."""


def tonight_of(lines: Sequence[hall_models.EveningLine]) -> uuid.UUID | None:
    """The evening that is on or was until just now, or else the next one."""
    now = datetime.now(UTC)
    coming = [line for line in lines if line.ends_at + LATE > now]
    return min(coming, key=lambda line: line.starts_at).id if coming else None


def evening_view(row: rows.Evening) -> hall_models.EveningView:
    """All that a coach sees of an evening."""
    plan = evenings.plan_of(row)
    known = drills_of(row, plan)
    people = people_of(row)
    here = [person for person in people if person.here]
    table = timetable(plan, drill_times(known), len(here))
    tonight = _Tonight(
        plan, known, here, evenings.groups(db(), row), evenings.met(db(), row.club_id, but=row.id)
    )
    return hall_models.EveningView(
        id=row.id,
        edit=row.edit,
        plan=plan,
        ends_at=_local(plan, table.ends_s),
        over_min=round(table.over_s / 60, 1),
        offers=[
            hall_models.OfferView(
                key=offer.key,
                what=offer.what,
                block=offer.block,
                saves_min=round(offer.saves_s / 60, 1),
            )
            for offer in table.offers[:6]
        ],
        findings=list(table.findings),
        blocks=[_block(tonight, one) for one in table.blocks],
        people=people,
        here=len(here),
    )


def _local(plan: Evening, seconds: float) -> datetime:
    return plan.at(seconds).astimezone(ZoneInfo(plan.zone))


def drills_of(row: rows.Evening, plan: Evening) -> dict[uuid.UUID, AnyDrill]:
    """The newest version of each drill of an evening's plan that there still is."""
    documents: dict[uuid.UUID, AnyDrill] = {}
    for drill_id in {block.drill_id for block in plan.blocks if block.drill_id}:
        version = drills.version(db(), row.club_id, drill_id)
        if version is not None:
            documents[drill_id] = drills.read_any(version)
    return documents


def drill_times(known: Mapping[uuid.UUID, AnyDrill]) -> dict[uuid.UUID, DrillTimes]:
    """What each of these drills takes."""
    return {
        drill_id: DrillTimes(tuple(drill.lengths_s), drill.place.floor_m)
        for drill_id, drill in known.items()
    }


def people_of(row: rows.Evening) -> list[hall_models.PersonTonight]:
    """Everybody of the club who trains, and whoever else came that evening, by name."""
    club_id = row.club_id
    came = evenings.attendances(db(), row)
    listed = students.all_of(db(), club_id)
    ids = {student.id for student in listed}
    listed += [
        student
        for student_id in came
        if student_id not in ids and (student := students.find(db(), club_id, student_id))
    ]
    holds = head_knocks.holds(db(), club_id)
    return [_person(one, came.get(one.id), holds.get(one.id)) for one in listed]


def _person(
    student: rows.Student, came: rows.Attendance | None, hold: MedicalHold | None
) -> hall_models.PersonTonight:
    here = came is not None and came.came_at is not None and came.left_at is None
    gear: list[Gear] = student.gear if came is None or came.gear is None else came.gear  # type: ignore[assignment]
    no_touch = came is not None and came.no_touch
    limits = evening_limits(
        student.contact,
        hold=hold,
        consent=student.consent,
        no_touch=no_touch,
        readiness=student.readiness,
        spares=student.spares,
        senses=student.senses,
    )
    return hall_models.PersonTonight(
        student_id=student.id,
        name=student.name,
        stance=student.stance,
        level=student.level,
        height_m=student.height_m,
        arm_m=student.arm_m,
        contact=limits.contact,
        gear=gear,
        here=here,
        came_at=came.came_at if came else None,
        left_at=came.left_at if came else None,
        no_touch=no_touch,
        ready_before=came.ready_before if came else None,
        ready_after=came.ready_after if came else None,
        off=limits.off,
        note="; ".join(limits.notes),
    )


@dataclass(frozen=True, slots=True)
class _Tonight:
    """What the blocks of an evening are seen with. known: drills by id; kept: groups by block."""

    plan: Evening
    known: dict[uuid.UUID, AnyDrill]
    here: Sequence[hall_models.PersonTonight]
    kept: dict[str, rows.BlockGroups]
    met: evenings.Met


def _block(tonight: _Tonight, times: BlockTimes) -> hall_models.BlockView:
    plan, kept = tonight.plan, tonight.kept.get(times.key)
    block = next(one for one in plan.blocks if one.key == times.key)
    drill = tonight.known.get(block.drill_id) if block.drill_id else None
    written = [[uuid.UUID(one) for one in group] for group in kept.groups] if kept else []
    settled = [tuple(map(str, group)) for group in written]
    met = met_by(plan, block, tonight.kept, tonight.met)
    now = together(tonight.here, wishes_of(block, drill, met), settled) if kept else None
    as_kept = now is not None and [group.members for group in now.groups] == settled
    return hall_models.BlockView(
        key=block.key,
        starts_at=_local(plan, times.starts_s),
        ends_at=_local(plan, times.ends_s),
        minutes=round((times.ends_s - times.starts_s) / 60, 1),
        waves=times.waves,
        parts=list(times.parts),
        drill=drill.title if drill else None,
        rungs=[drill.rungs[rung - 1].name for rung in block.rungs if rung <= len(drill.rungs)]
        if drill
        else [],
        groups=[_group(group, now) for group in written],
        alone=[
            hall_models.AloneView(student_id=uuid.UUID(key), why=why)
            for key, why in (now.alone if now else ())
        ],
        edit=kept.edit if kept else None,
        stale=now is not None and not as_kept,
    )


def _group(members: list[uuid.UUID], now: Grouping | None) -> hall_models.WorkGroup:
    keys = tuple(map(str, members))
    but = next((group.but for group in now.groups if group.members == keys), ()) if now else ()
    return hall_models.WorkGroup(members=members, but=list(but))


def together(
    here: Sequence[hall_models.PersonTonight], wishes: Wishes, kept: Sequence[tuple[str, ...]]
) -> Grouping:
    """Everybody who is here put together; `kept` as in `core.hall.pairing.grouping`."""
    known = {student.id: student for student in students.all_of(db(), who().club_id)}
    no_touch = rooms.no_touch(db(), who().club_id)
    people = [
        Attendee(
            key=str(person.student_id),
            name=person.name,
            stance=person.stance,
            level=person.level,
            height_m=known[person.student_id].height_m if person.student_id in known else None,
            arm_m=known[person.student_id].arm_m if person.student_id in known else None,
            contact="none" if no_touch else person.contact,
            gear=frozenset(person.gear),
            off=person.off,
        )
        for person in here
    ]
    return grouping(people, wishes, kept)


def met_by(
    plan: Evening, block: Block, kept: dict[str, rows.BlockGroups], before: evenings.Met
) -> evenings.Met:
    """How often each two have worked together by the time of a block: on other evenings, `before`,
    and in the blocks ahead of it."""
    ahead = plan.blocks[: plan.blocks.index(block)]
    return sum(
        (evenings.pairs_of(kept[one.key]) for one in ahead if one.key in kept), Counter(before)
    )


def wishes_of(block: Block, drill: AnyDrill | None, met: evenings.Met) -> Wishes:
    """What a block's pairs should be like."""
    counted = {frozenset(map(str, pair)): count for pair, count in met.items()}
    levels: Literal["alike", "unequal"] = "unequal" if block.people == "unequal" else "alike"
    met_cost = MET if block.people == "new" else MET_LITTLE
    if not isinstance(drill, PartnerDrill):
        return Wishes(levels=levels, met=counted, met_cost=met_cost)
    rung = drill.rungs[min((block.rungs or (1,))[0], len(drill.rungs)) - 1]
    return Wishes(
        levels=levels,
        stances=drill.stances,
        contact=rung.contact,
        gear=frozenset(drill.gear_on(rung)),
        met=counted,
        met_cost=met_cost,
    )
