"""A class that runs: its one clock, its pairs, what a coach marks of them.

Devices ask again and again. While nothing has changed the answer is 304, from a single row; what
says for how long nobody has looked at a pair is told anew every few seconds.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import UTC, datetime
from itertools import groupby

from flask import Response
from flask_openapi3 import Tag
from sqlalchemy.orm import Session

from hastatus.api.hall import live_models
from hastatus.api.hall import models as hall_models
from hastatus.api.hall.evening_view import drill_times, drills_of, people_of
from hastatus.api.hall.evenings import find_evening
from hastatus.api.hall.known_view import timed, unless_known
from hastatus.api.hall.running_block import asked_block, running_block
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.run.player_assets import sound_url
from hastatus.core.drill.header import Voice
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.hall.attention import in_order
from hastatus.core.hall.block_plan import BlockPlan
from hastatus.core.hall.class_clock import Act, ClassClock, class_clock
from hastatus.core.hall.class_voice import class_sounds
from hastatus.core.hall.evening import Block, Evening
from hastatus.core.hall.evening_limits import pair_limit
from hastatus.core.hall.pair_mark import pair_key
from hastatus.core.hall.pair_review import pair_review, pair_seen
from hastatus.core.hall.stretch import Stretch
from hastatus.core.hall.timetable import timetable, waves_of
from hastatus.core.trade.faults import FAULT_OWNERS
from hastatus.store import class_runs, club_catalogue, drills, evenings, rooms
from hastatus.store import models as rows

bp = ApiBlueprint("live", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])

MOST_ACTS, MOST_MARKS = 2_000, 20_000
"""Of one evening. Nobody taps so often; a page gone wrong might."""


@bp.get(
    "/evenings/<uuid:evening_id>/live",
    responses={200: live_models.LiveEvening, 304: None},
)
@signed_in
def live_evening(path: hall_models.EveningPath) -> Response:
    """How an evening stands now."""
    row = find_evening(path)
    return unless_known(row, lambda: live_view(db(), row))


@bp.post("/evenings/<uuid:evening_id>/acts", responses={200: live_models.LiveEvening})
@signed_in
def add_acts(path: hall_models.EveningPath, body: live_models.ClassActs) -> Response:
    """Keep what a coach did with the clock; the same acts again change nothing."""
    row = find_evening(path)
    plan = evenings.plan_of(row)
    if len(class_runs.acts(db(), row)) + len(body.acts) > MOST_ACTS:
        raise Problem(422, "Too many", "acts: this evening has had too many; plan another one.")
    sent = [_begun_with(row, plan, act) for act in body.acts]
    class_runs.keep_acts(db(), row, who().coach_id, sent)
    return timed(reply(live_view(db(), row)))


@bp.post("/evenings/<uuid:evening_id>/marks", responses={200: live_models.LiveEvening})
@signed_in
def add_marks(path: hall_models.EveningPath, body: live_models.ClassMarks) -> Response:
    """Keep what a coach marked of the pairs; the same marks again change nothing."""
    row = find_evening(path)
    if class_runs.count_marks(db(), row) + len(body.marks) > MOST_MARKS:
        raise Problem(422, "Too many", "marks: this evening has had too many.")
    known = {person.student_id for person in people_of(row)}
    named = {one for mark in body.marks for one in (*mark.members, mark.student) if one}
    if named - known:
        raise Problem(422, "Not kept", "marks: somebody in them is not of this club.")
    class_runs.keep_marks(db(), row, who().coach_id, body.marks)
    return timed(reply(live_view(db(), row)))


@bp.get(
    "/evenings/<uuid:evening_id>/blocks/<string:block>/sounds",
    responses={200: live_models.ClassSounds},
)
@signed_in
def block_sounds(path: hall_models.BlockPath) -> Response:
    """What is heard in a block, on its clock, as it has been lengthened so far."""
    row, running = asked_block(path)
    drill = running.drill
    voice = drill.voice if drill else Voice()
    labels = club_catalogue.labels(db(), row.club_id)
    heard = class_sounds(
        drill,
        running.pieces,
        running.row,
        seed=running.seed,
        numbered=running.block.feeds == "numbered",
        labels=drill.labels(labels) if drill else labels,
    )
    return reply(
        live_models.ClassSounds(
            sounds=[
                live_models.ClassSoundView(
                    at_s=sound.at_s,
                    kind=sound.kind,
                    name=sound.clip.name,
                    url=sound_url(sound.clip, voice),
                    shows=sound.shows,
                    mark=sound.mark,
                )
                for sound in heard
            ],
            stretches=list(stretch_views(running)),
        )
    )


def _begun_with(row: rows.Evening, plan: Evening, act: Act) -> Act:
    """The act with the version of its drill and the waves that its block begins with."""
    block = next((one for one in plan.blocks if one.key == act.block), None)
    if act.kind != "begin":
        return act.model_copy(update={"block": None, "version": None, "waves": 1})
    if block is None:
        raise Problem(422, "Not begun", "acts: the evening has no such block; look at the plan.")
    here = sum(person.here for person in people_of(row))
    waves = waves_of(block, plan.floor_m2, drill_times(drills_of(row, plan)), here)
    kept = drills.version(db(), row.club_id, block.drill_id) if block.drill_id else None
    return act.model_copy(update={"version": kept.number if kept else None, "waves": waves})


def live_view(session: Session, row: rows.Evening) -> live_models.LiveEvening:
    """How an evening stands now."""
    plan, now = evenings.plan_of(row), datetime.now(UTC)
    clock = class_clock(class_runs.acts(session, row))
    people = {str(person.student_id): person for person in people_of(row)}
    here = sum(person.here for person in people.values())
    table = timetable(plan, drill_times(drills_of(row, plan)), here)
    minutes = {one.key: round((one.ends_s - one.starts_s) / 60, 1) for one in table.blocks}
    on = next((block for block in plan.blocks if block.key == clock.block), None)
    running = running_block(session, row, on, clock) if on else None
    return live_models.LiveEvening(
        changes=row.changes,
        title=plan.title,
        ends_at=plan.at(table.ends_s),
        clock=clock_view(clock, now),
        blocks=[
            live_models.LiveBlock(
                key=block.key,
                name=block.name,
                kind=block.kind,
                minutes=minutes[block.key],
                feeds=block.feeds,
                begun=block.key in clock.first,
            )
            for block in plan.blocks
        ],
        next_block=_next(plan.blocks, clock),
        stretches=list(stretch_views(running)) if running else [],
        tiles=_tiles(session, row, running, people, now) if running and on else [],
        alone=_alone(running, people) if running and on and on.in_pairs else [],
        faults=_faults(session, row, running),
        pairs=[
            [people[key].name for key in group if key in people]
            for group in (running.groups if running else ())
        ],
    )


def clock_view(clock: ClassClock, now: datetime) -> live_models.ClockView:
    """The clock as it is at `now`."""
    return live_models.ClockView(
        at=now,
        block=clock.block,
        elapsed_s=round(max(0.0, clock.elapsed_s(now)), 3),
        running=clock.since is not None,
        stopped=clock.stopped,
        ended=clock.ended,
        changes=len(clock.changes),
    )


def _next(blocks: Sequence[Block], clock: ClassClock) -> str | None:
    """The block after the one that is on, or the first."""
    keys = [block.key for block in blocks]
    place = keys.index(clock.block) + 1 if clock.block in keys else 0
    return keys[place] if place < len(keys) else None


def stretch_views(running: BlockPlan) -> Iterator[live_models.StretchView]:
    """The stretches of a block, each with what it is in words."""
    for stretch in running.row:
        yield live_models.StretchView(
            kind=stretch.kind,
            starts_s=stretch.starts_s,
            ends_s=stretch.ends_s,
            says=_says(running, stretch),
        )


def _says(running: BlockPlan, stretch: Stretch) -> str:
    piece = running.pieces[stretch.piece]
    several = [
        running.drill.rungs[piece.rung - 1].name
        if running.drill and len(running.block.rungs) > 1
        else "",
        "other stance" if piece.other_stance else "",
        f"time {piece.repeat} of {running.block.repeats}" if running.block.repeats > 1 else "",
        f"group {piece.wave} of {running.waves}" if running.waves > 1 else "",
    ]
    what = {
        "work": f"Round {stretch.round} of {piece.rounds}" if piece.rounds > 1 else "",
        "rest": "Rest",
        "change": "Change over",
    }[stretch.kind]
    return " · ".join(filter(None, [what, *several]))


def _tiles(
    session: Session,
    row: rows.Evening,
    running: BlockPlan,
    people: dict[str, hall_models.PersonTonight],
    now: datetime,
) -> list[live_models.TileView]:
    """The pairs of the block that is on, whom to look at first."""
    marks = [mark for mark in class_runs.marks(session, row) if mark.block == running.block.key]
    by_pair = {
        key: list(of)
        for key, of in groupby(
            sorted(marks, key=lambda mark: (mark.pair, mark.at)), lambda mark: mark.pair
        )
    }
    groups = {pair_key(group): group for group in running.groups}
    began = running.clock.begun.get(running.block.key)
    at = began.at if began else None
    seen = {key: pair_seen(key, by_pair.get(key, []), began=at, now=now) for key in groups}
    tiles = []
    for one in in_order(list(seen.values())):
        review = pair_review(by_pair.get(one.pair, []), None)
        tiles.append(
            live_models.TileView(
                key=one.pair,
                members=[_person(people, key) for key in groups[one.pair] if key in people],
                urgency=round(one.urgency, 3),
                why=list(one.why),
                looked=bool(by_pair.get(one.pair)),
                unseen_s=round(seen[one.pair].unseen_s),
                through=review.through,
                watched_s=round(review.watched_s),
                pace=review.pace,
                limit=limit_of(session, row, running, people, groups[one.pair]),
                knocked=[people[str(key)].name for key in review.knocked if str(key) in people],
                faults=[f"{fault} ×{count}" for (fault, _), count in review.faults.most_common(4)],
            )
        )
    return tiles


def limit_of(
    session: Session,
    row: rows.Evening,
    running: BlockPlan,
    people: dict[str, hall_models.PersonTonight],
    group: Sequence[str],
) -> str:
    """What a pair has to keep to in a block, in words."""
    allowed = [people[key].contact for key in group if key in people]
    no_touch = rooms.no_touch(session, row.club_id)
    return pair_limit(running.contact, allowed, no_touch=no_touch)


def _person(people: dict[str, hall_models.PersonTonight], key: str) -> live_models.TilePerson:
    person = people[key]
    return live_models.TilePerson(
        student_id=person.student_id, name=person.name, note=person.off or person.note
    )


def _alone(running: BlockPlan, people: dict[str, hall_models.PersonTonight]) -> list[str]:
    """Who is here and works with nobody."""
    busy = {key for group in running.groups for key in group}
    return [person.name for key, person in people.items() if person.here and key not in busy]


def _faults(session: Session, row: rows.Evening, running: BlockPlan | None) -> list[str]:
    """The faults that can be tagged: the drill's own, or else the trade's and the club's."""
    if running is None or not running.block.in_pairs:
        return []
    if isinstance(running.drill, PartnerDrill) and running.drill.watch:
        return list(running.drill.watch)
    own = [fault.name for fault in club_catalogue.faults(session, row.club_id)]
    return [*own, *FAULT_OWNERS]
