"""An evening afterwards: what was done, what was seen, and what is proposed for the next time."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from itertools import pairwise
from math import inf
from typing import get_args
from zoneinfo import ZoneInfo

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.hall import models as hall_models
from hastatus.api.hall import review_models
from hastatus.api.hall.evening_view import evening_view, people_of
from hastatus.api.hall.evenings import find_evening
from hastatus.api.hall.running_block import running_block
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_student
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.hall.block_plan import BlockPlan
from hastatus.core.hall.class_clock import Act, class_clock
from hastatus.core.hall.evening import Block, Evening, again
from hastatus.core.hall.pair_mark import PairMark, pair_key
from hastatus.core.hall.pair_review import PairReview, block_proposal, pace, pair_review
from hastatus.core.hall.readiness import WORD_NAMES, Word, step_proposal
from hastatus.core.trade.contact import is_harder
from hastatus.store import class_runs, evenings, students
from hastatus.store import models as rows

bp = ApiBlueprint("review", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])

_WORDS: tuple[Word, ...] = get_args(Word)


@dataclass(slots=True)
class _Seen:
    """What is told of an evening. spans: minutes that each block ran; contact_min: by student."""

    row: rows.Evening
    plan: Evening
    acts: list[Act]
    marks: list[PairMark]
    people: dict[str, hall_models.PersonTonight]
    spans: dict[str, float]
    contact_min: dict[str, float] = field(default_factory=lambda: defaultdict(float))
    partners: dict[str, set[str]] = field(default_factory=dict)

    def name(self, key: object) -> str:
        person = self.people.get(str(key))
        return person.name if person else "somebody who is gone"


@bp.get("/evenings/<uuid:evening_id>/review", responses={200: review_models.EveningReview})
@signed_in
def review(path: hall_models.EveningPath) -> Response:
    """An evening as it went, with what is proposed for the next one."""
    row = find_evening(path)
    plan = evenings.plan_of(row)
    acts = sorted(class_runs.acts(db(), row), key=lambda act: act.at)
    seen = _Seen(
        row=row,
        plan=plan,
        acts=acts,
        marks=class_runs.marks(db(), row),
        people={str(person.student_id): person for person in people_of(row)},
        spans=_spans(acts),
    )
    blocks = [_block(seen, block) for block in plan.blocks]
    came = [person for person in seen.people.values() if person.came_at is not None]
    known = {student.id: student for student in students.all_of(db(), row.club_id)}
    return reply(
        review_models.EveningReview(
            title=plan.title,
            starts_at=plan.starts_at,
            ended_at=next((act.at for act in reversed(acts) if act.kind == "end"), None),
            blocks=blocks,
            people=[_person(seen, person, known.get(person.student_id)) for person in came],
            acts=[_said(plan, act) for act in acts],
        )
    )


@bp.post(
    "/evenings/<uuid:evening_id>/next",
    responses={200: hall_models.EveningView, 201: hall_models.EveningView, **also(404)},
)
@signed_in
def plan_next(path: hall_models.EveningPath, body: review_models.NextEvening) -> Response:
    """Plan the same evening again with what was accepted, in one sweep."""
    row = find_evening(path)
    known = evenings.find(db(), row.club_id, body.id)
    if known is not None:
        return reply(evening_view(known))
    for step in body.steps:
        find_student(step.student_id).readiness = step.readiness
    rungs = {one.block: one.rungs for one in body.blocks}
    plan = again(evenings.plan_of(row), datetime.now(UTC))
    blocks = tuple(
        block.model_copy(update={"rungs": rungs.get(block.key, block.rungs)})
        for block in plan.blocks
    )
    made = evenings.add(db(), row.club_id, body.id, plan.model_copy(update={"blocks": blocks}))
    return reply(evening_view(made), 201)


def _spans(acts: Sequence[Act]) -> dict[str, float]:
    """For how many minutes each block ran, pauses left out."""
    spans = defaultdict[str, float](float)
    now = datetime.now(UTC)
    moments = [*(act.at for act in acts), now]
    for place, (low, high) in enumerate(pairwise(moments)):
        clock = class_clock(acts[: place + 1])
        if clock.block is not None and clock.since is not None and not clock.ended:
            spans[clock.block] += (high - low).total_seconds() / 60
    return dict(spans)


def _block(seen: _Seen, block: Block) -> review_models.BlockOutcome:
    clock = class_clock(seen.acts)
    running = running_block(db(), seen.row, block, clock)
    reviews = {}
    groups = [*running.groups, *_former(running, seen.marks)]
    for group in groups if block.in_pairs else ():
        key = pair_key(group)
        marks = [mark for mark in seen.marks if mark.block == block.key and mark.pair == key]
        reviews[group] = _pair(running, group, marks)
        _count(seen, running, group)
    rungs = list(block.rungs or (1,)) if block.drill_id else []
    proposed, why = _next(running, list(reviews.values()))
    lasted = seen.spans.get(block.key)
    return review_models.BlockOutcome(
        key=block.key,
        name=block.name,
        kind=block.kind,
        lasted_min=None if lasted is None else round(lasted, 1),
        pairs=[_outcome(seen, group, one) for group, one in reviews.items() if _told(one)],
        not_watched=[
            " and ".join(map(seen.name, group)) for group, one in reviews.items() if not _told(one)
        ],
        rungs=rungs,
        proposed=proposed,
        why=why,
    )


def _former(running: BlockPlan, marks: Sequence[PairMark]) -> list[tuple[str, ...]]:
    """Pairs that were marked and then put together anew, in the middle of the block."""
    known = {frozenset(group) for group in running.groups}
    groups: dict[frozenset[str], tuple[str, ...]] = {}
    for mark in marks:
        members = tuple(map(str, mark.members))
        if mark.block == running.block.key and len(members) > 1 and frozenset(members) not in known:
            groups.setdefault(frozenset(members), members)
    return list(groups.values())


def _pair(running: BlockPlan, group: tuple[str, ...], marks: list[PairMark]) -> PairReview:
    def pace_at(at_s: float) -> float:
        return pace([mark for mark in marks if mark.at_s <= at_s])

    feeds = running.feeds(group, pace_at) if marks else None
    return pair_review(marks, None if feeds is None else [feed.at_s for feed in feeds])


def _told(one: PairReview) -> bool:
    """Whether anything was seen of a pair."""
    return bool(one.watched_s or one.through or one.faults or one.notes or one.knocked)


def _count(seen: _Seen, running: BlockPlan, group: tuple[str, ...]) -> None:
    """Add who worked with whom, and the minutes with contact."""
    minutes = seen.spans.get(running.block.key)
    if minutes is None:
        return
    drill = running.drill
    touched = running.block.kind == "free" or (
        isinstance(drill, PartnerDrill)
        and any(is_harder(drill.rungs[piece.rung - 1].contact, "none") for piece in running.pieces)
    )
    for one in group:
        seen.partners.setdefault(one, set()).update(key for key in group if key != one)
        seen.contact_min[one] += minutes if touched else 0.0


def _next(running: BlockPlan, reviews: list[PairReview]) -> tuple[list[int] | None, str]:
    """The rungs that are proposed for the next time, and why; None: there is nothing to go by."""
    if not isinstance(running.drill, PartnerDrill) or not any(map(_told, reviews)):
        return None, ""
    rung = max(piece.rung for piece in running.pieces)
    _, step = block_proposal(running.drill, rung, reviews)
    as_it_was = list(running.block.rungs or (1,))
    return ([step.rung] if step.kind in ("next", "back") else as_it_was), step.reason


def _outcome(seen: _Seen, group: tuple[str, ...], one: PairReview) -> review_models.PairOutcome:
    return review_models.PairOutcome(
        names=[seen.name(key) for key in group],
        watched_s=round(one.watched_s),
        exchanges=one.exchanges,
        through=one.through,
        faults=[
            f"{fault} ×{count}" + (f" ({seen.name(whose)})" if whose else "")
            for (fault, whose), count in one.faults.most_common()
        ],
        forfeits=[f"{seen.name(key)} ×{count}" for key, count in one.forfeits.items()],
        knocked=[seen.name(key) for key in one.knocked],
        notes=list(one.notes),
        pace=one.pace,
        carry_over=one.carry_over,
    )


def _person(
    seen: _Seen, person: hall_models.PersonTonight, student: rows.Student | None
) -> review_models.PersonOutcome:
    key = str(person.student_id)
    own = [mark for mark in seen.marks if mark.student == person.student_id]
    words = _last_words(own)
    faults = Counter(mark.words for mark in own if mark.kind == "fault")
    readiness = student.readiness if student else "free"
    minutes = _minutes(seen, person)
    step = step_proposal(readiness, person.ready_before, person.ready_after, words)
    return review_models.PersonOutcome(
        student_id=person.student_id,
        name=person.name,
        minutes=minutes,
        contact_min=round(min(seen.contact_min[key], inf if minutes is None else minutes), 1),
        partners=sorted(map(seen.name, seen.partners.get(key, ()))),
        ready_before=person.ready_before,
        ready_after=person.ready_after,
        words=[WORD_NAMES[word] for word in words],
        faults=[f"{fault} ×{count}" for fault, count in faults.most_common()],
        readiness=readiness,
        proposed=step.readiness if step else None,
        why=step.why if step else "",
    )


def _last_words(own: Sequence[PairMark]) -> tuple[Word, ...]:
    """What somebody said of each block, the last word where they said several."""
    last: dict[str, str] = {mark.block: mark.words for mark in own if mark.kind == "word"}
    return tuple(word for said in last.values() for word in _WORDS if word == said)


def _minutes(seen: _Seen, person: hall_models.PersonTonight) -> float | None:
    """How long somebody was here; None: they still are, and nobody has ended the evening."""
    ended = next((act.at for act in reversed(seen.acts) if act.kind == "end"), None)
    left = person.left_at or ended
    if person.came_at is None or left is None:
        return None
    first = min((act.at for act in seen.acts), default=seen.plan.starts_at)
    begun = max(person.came_at, min(seen.plan.starts_at, first))
    return round(max(0.0, (left - begun).total_seconds() / 60), 1)


def _said(plan: Evening, act: Act) -> str:
    """An act in words, with the time on the hall's clock."""
    names = {block.key: block.name for block in plan.blocks}
    what = {
        "begin": f"began {names.get(act.block or '', 'a block that is gone')}",
        "pause": "paused",
        "go_on": "went on",
        "stop_word": "stop word",
        "end": "ended the evening",
        "reopen": "took it up again",
        "lengthen": f"{'longer' if act.seconds > 0 else 'shorter'} by {abs(act.seconds):.0f} s",
    }[act.kind]
    return f"{act.at.astimezone(ZoneInfo(plan.zone)).strftime('%H:%M')} {what}"
