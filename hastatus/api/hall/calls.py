"""Numbered calls of a block: what is called for all, and each feeder's secret card."""

from __future__ import annotations

import hashlib
import uuid

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from hastatus.api.drill.models import MOST_SEED
from hastatus.api.hall import models as hall_models
from hastatus.api.hall.class_members import find_block
from hastatus.api.hall.evening_view import drills_of, people_of
from hastatus.api.hall.evenings import find_evening
from hastatus.api.http.document import also
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.hall.numbered_call import Card, cards, numbered_round
from hastatus.store import evenings

bp = APIBlueprint("calls", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])


@bp.get(
    "/evenings/<uuid:evening_id>/blocks/<string:block>/calls",
    responses={200: hall_models.NumberedCalls, **also(422)},
)
@signed_in
def numbered_calls(path: hall_models.BlockPath) -> Response:
    """The calls and cards of a block; 422 where its drill has nothing to call."""
    row = find_evening(path)
    plan, block = find_block(row, path)
    drill = drills_of(plan).get(block.drill_id) if block.drill_id else None
    if not isinstance(drill, PartnerDrill):
        raise Problem(422, "Nothing to call", "block: only a partner drill has feeds to call.")
    place = min((block.rungs or (1,))[0], len(drill.rungs))
    rung = drill.rungs[place - 1]
    shares = drill.shares(rung)
    if rung.order.kind in ("free", "both") or not shares:
        raise Problem(422, "Nothing to call", "block: on this rung the feeder chooses freely.")
    seed = _seed(row.id, block.key)
    rounds = [numbered_round(drill, rung, seed, one + 1) for one in range(rung.rounds.count)]
    kept = evenings.groups(db(), row).get(block.key)
    groups = kept.groups if kept else []
    names = {str(person.student_id): person.name for person in people_of(row)}
    made = cards(shares, rounds, len(groups), seed)
    return reply(
        hall_models.NumberedCalls(
            title=block.name,
            drill=drill.title,
            rung=rung.name,
            rounds=[
                hall_models.RoundOfCalls(
                    round=one.round,
                    calls=[
                        hall_models.CallView(at_s=call.at_s, number=call.number)
                        for call in one.calls
                    ],
                )
                for one in rounds
            ],
            cards=[
                _card(drill, card, [names.get(key, "?") for key in groups[card.pair]],
                      len(rounds[card.round - 1].numbers))
                for card in made
            ],
        )
    )  # fmt: skip


def _card(drill: PartnerDrill, card: Card, pair: list[str], parts: int) -> hall_models.CardView:
    return hall_models.CardView(
        pair=pair,
        feeder=pair[(card.round - 1) % len(pair)],
        round=card.round,
        part=card.part,
        of=parts,
        lines=[
            hall_models.CardLineView(
                number=number, call=drill.passage(key).called, passage=drill.passage(key).name
            )
            for number, key in enumerate(card.attacks, start=1)
        ],
    )


def _seed(evening_id: uuid.UUID, block: str) -> int:
    """The same for a block whenever it is asked for, and known to nobody who has not the cards."""
    digest = hashlib.sha256(evening_id.bytes + block.encode()).digest()
    return int.from_bytes(digest[:8]) % MOST_SEED
