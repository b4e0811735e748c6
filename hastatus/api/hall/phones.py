"""Phones of those who train: a code for each, and what it opens, without an account.

A code opens one evening for one person: whom they work with, the clock, and while they feed what
they feed; never what others feed. It opens nothing once the evening is over, once they have gone,
or once the coach has renewed the codes.
"""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime

from flask import Response
from flask_openapi3 import Tag
from sqlalchemy.orm import Session

from hastatus.api.hall import models as hall_models
from hastatus.api.hall import phone_models
from hastatus.api.hall.evening_view import people_of
from hastatus.api.hall.evenings import find_evening
from hastatus.api.hall.known_view import unless_known
from hastatus.api.hall.live import clock_view, limit_of, stretch_views
from hastatus.api.hall.running_block import running_block
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.code_picture import code_picture
from hastatus.api.http.document import also, done, file
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, public, signed_in
from hastatus.api.sound.assets import say
from hastatus.core.drill.header import Voice
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.hall.block_plan import BlockPlan
from hastatus.core.hall.class_clock import class_clock
from hastatus.core.hall.evening import Block
from hastatus.core.hall.numbered_call import Card
from hastatus.core.hall.pair_feed import PairFeed, card_places
from hastatus.core.hall.pair_mark import PairMark, pair_key
from hastatus.core.hall.pair_review import pace
from hastatus.core.hall.readiness import Word
from hastatus.store import class_runs, evenings
from hastatus.store import models as rows

bp = ApiBlueprint("phones", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])

OPENS_NOTHING = "This code opens nothing, or nothing any more. Ask your coach for tonight’s."


@bp.get("/evenings/<uuid:evening_id>/codes", responses={200: phone_models.CodeList})
@signed_in
def list_codes(path: hall_models.EveningPath, query: phone_models.CodesQuery) -> Response:
    """A code for the phone of everybody who is here, with its picture."""
    row = find_evening(path)
    given = class_runs.codes(db(), row)
    return reply(
        phone_models.CodeList(
            codes=[
                _code(person, given[person.student_id], query.origin)
                for person in people_of(row)
                if person.student_id in given
            ]
        )
    )


@bp.delete("/evenings/<uuid:evening_id>/codes", responses=done())
@signed_in
def renew_codes(path: hall_models.EveningPath) -> Response:
    """Every code that was given out opens nothing any more; new ones are made when asked for."""
    class_runs.renew_codes(db(), find_evening(path))
    return Response(status=204)


@bp.put("/evenings/<uuid:evening_id>/codes", responses=done())
@signed_in
def restore_codes(path: hall_models.EveningPath, body: phone_models.GivenCodes) -> Response:
    """Codes that were renewed by mistake open the evening again, and those made since do not."""
    given = {one.student_id: one.code for one in body.codes}
    class_runs.restore_codes(db(), find_evening(path), given)
    return Response(status=204)


def _code(person: hall_models.PersonTonight, code: str, origin: str) -> phone_models.CodeView:
    address = f"/mine/{code}"
    return phone_models.CodeView(
        student_id=person.student_id,
        name=person.name,
        path=address,
        **code_picture(origin + address)._asdict(),
    )


@bp.get("/phones/<string:code>", responses={200: phone_models.PhoneView, 304: None, **also(404)})
@public
def phone_view(path: phone_models.CodePath) -> Response:
    """An evening as one person sees it on their phone."""
    row, came = _opened(path)
    return unless_known(row, lambda: _view(db(), row, came))


@bp.patch("/phones/<string:code>", responses={200: phone_models.PhoneView, **also(404)})
@public
def say_of_oneself(path: phone_models.CodePath, body: phone_models.OwnWord) -> Response:
    """How ready somebody feels, or how a block was, by their own tap."""
    row, came = _opened(path)
    said = body.model_dump(exclude_unset=True)
    word = said.pop("word", None)
    for name, value in said.items():
        setattr(came, name, value)
    if word is not None:
        class_runs.say_word(db(), row, came.student_id, word)
    db().flush()
    evenings.touch(db(), row)
    return reply(_view(db(), row, came))


@bp.get("/phones/<string:code>/spoken.wav", responses={**file("audio/wav"), **also(404)})
@public
def spoken_to_phone(path: phone_models.CodePath, query: phone_models.PhoneSpokenQuery) -> Response:
    """A call for the feeder's ear; only what the phone shows is spoken."""
    row, came = _opened(path)
    view = _view(db(), row, came)
    if query.words not in {feed.call for feed in view.feeds}:
        raise Problem(404, "Not found", "Nothing like that comes in this block.")
    answer = Response(say(query.words, Voice(), row.club_id), content_type="audio/wav")
    answer.headers["Cache-Control"] = "private, max-age=86400"
    return answer


def _opened(path: phone_models.CodePath) -> tuple[rows.Evening, rows.Attendance]:
    """What a code opens; a 404 in plain words where that is nothing."""
    opening = class_runs.opened(db(), path.code)
    if opening is None:
        raise Problem(404, "Not found", OPENS_NOTHING)
    row, came = opening
    plan = evenings.plan_of(row)
    clock = class_clock(class_runs.acts(db(), row))
    over = clock.ended or datetime.now(UTC) > plan.ends_at + class_runs.OPEN_AFTER
    if over or came.left_at is not None:
        raise Problem(404, "Not found", OPENS_NOTHING)
    return row, came


def _view(session: Session, row: rows.Evening, came: rows.Attendance) -> phone_models.PhoneView:
    plan, now, me = evenings.plan_of(row), datetime.now(UTC), str(came.student_id)
    clock = class_clock(class_runs.acts(session, row))
    people = {str(person.student_id): person for person in people_of(row)}
    on = next((block for block in plan.blocks if block.key == clock.block), None)
    running = running_block(session, row, on, clock) if on else None
    group = next((one for one in (running.groups if running else ()) if me in one), None)
    marks = class_runs.marks(session, row)
    feeds = _feeds(running, group, marks) if running and group else []
    mine = people[me]
    limit = limit_of(session, row, running, people, group) if running and group else ""
    return phone_models.PhoneView(
        changes=row.changes,
        title=plan.title,
        name=mine.name,
        here=mine.here,
        clock=clock_view(clock, now),
        block=on.name if on else None,
        feed_way=on.feeds if on and on.kind == "partner" else None,
        drill=running.drill.title if running and running.drill else None,
        partners=[people[key].name for key in group or () if key != me and key in people],
        stretches=list(stretch_views(running)) if running else [],
        roles=_roles(feeds, me),
        feeds=_own_feeds(running, feeds, me) if running else [],
        cards=list(_cards(running, group, me)) if running and group else [],
        ready_before=came.ready_before,
        ready_after=came.ready_after,
        word=_word(marks, on, came),
        limits=list(filter(None, [mine.off, mine.note, limit])),
    )


def _feeds(running: BlockPlan, group: tuple[str, ...], marks: list[PairMark]) -> list[PairFeed]:
    key = pair_key(group)
    own = [mark for mark in marks if mark.block == running.block.key and mark.pair == key]
    return (
        running.feeds(group, lambda at_s: pace([mark for mark in own if mark.at_s <= at_s])) or []
    )


def _roles(feeds: list[PairFeed], me: str) -> list[phone_models.PhoneRole]:
    """What somebody does, from when on; said once until it changes."""
    roles: list[phone_models.PhoneRole] = []
    for feed in feeds:
        role = {feed.feeder: "feeds", feed.defender: "defends"}.get(me, "out")
        if not roles or roles[-1].role != role:
            roles.append(phone_models.PhoneRole(at_s=feed.at_s, role=role))
    return roles


def _own_feeds(running: BlockPlan, feeds: list[PairFeed], me: str) -> list[phone_models.PhoneFeed]:
    """What somebody feeds where a phone says it; nothing that they defend against."""
    drill = running.drill
    if not isinstance(drill, PartnerDrill) or running.block.feeds not in ("phone", "ear"):
        return []
    own = []
    for one in feeds:
        if one.feeder == me and one.feed is not None:
            first, *then = [drill.passage(key) for key in one.passages]
            own.append(
                phone_models.PhoneFeed(
                    at_s=one.at_s,
                    ends_s=one.ends_s,
                    call=first.called,
                    mark=first.mark,
                    then=[passage.called for passage in then],
                    tell=one.feed.tell,
                    counter=one.feed.counter,
                )
            )
    return own


def _cards(running: BlockPlan, group: tuple[str, ...], me: str) -> Iterator[phone_models.PhoneCard]:
    """The secret cards of the rounds in which somebody feeds."""
    for calls, made in zip(running.calls, running.cards_of(group), strict=True):
        places = {
            stretch.round: stretch
            for stretch in running.row
            if stretch.kind == "work" and stretch.piece == calls.piece
        }
        numbers = {round_.round: place for place, round_ in enumerate(calls.rounds, start=1)}
        for card in made:
            stretch = places[numbers[card.round]]
            if card_places(group, card.round)[0] == me:
                yield phone_models.PhoneCard(
                    from_s=stretch.starts_s,
                    to_s=stretch.ends_s,
                    part=card.part,
                    of=sum(other.round == card.round for other in made),
                    lines=[
                        phone_models.PhoneCardLine(
                            number=number, call=calls.drill.passage(key).called
                        )
                        for number, key in enumerate(card.attacks, start=1)
                    ],
                )


def _lines(drill: PartnerDrill, card: Card) -> list[phone_models.PhoneCardLine]:
    return [
        phone_models.PhoneCardLine(number=number, call=drill.passage(key).called)
        for number, key in enumerate(card.attacks, start=1)
    ]


def _word(marks: list[PairMark], on: Block | None, came: rows.Attendance) -> Word | None:
    """What somebody said last of the block that is on."""
    said = [
        mark.words
        for mark in marks
        if on and mark.kind == "word" and mark.block == on.key and mark.student == came.student_id
    ]
    return said[-1] if said else None  # type: ignore[return-value]
