"""Numbered calls of a block: what is called for all, and each feeder's secret card."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.hall import models as hall_models
from hastatus.api.hall.evening_view import people_of
from hastatus.api.hall.running_block import asked_block
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import signed_in
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.hall.block_plan import BlockPlan
from hastatus.core.hall.class_voice import BlockCalls, block_calls
from hastatus.core.hall.numbered_call import Card, cards
from hastatus.core.hall.pair_feed import card_places

bp = ApiBlueprint("calls", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])


@bp.get(
    "/evenings/<uuid:evening_id>/blocks/<string:block>/calls",
    responses={200: hall_models.NumberedCalls, **also(422)},
)
@signed_in
def numbered_calls(path: hall_models.BlockPath) -> Response:
    """The calls and cards of a block; 422 where its drill has nothing to call."""
    row, running = asked_block(path)
    drill = running.drill
    if not isinstance(drill, PartnerDrill):
        raise Problem(422, "Nothing to call", "block: only a partner drill has feeds to call.")
    calls = block_calls(drill, running.pieces, running.seed)
    if not calls:
        raise Problem(422, "Nothing to call", "block: on this rung the feeder chooses freely.")
    names = {str(person.student_id): person.name for person in people_of(row)}
    return reply(
        hall_models.NumberedCalls(
            title=running.block.name,
            drill=drill.title,
            rung=", then ".join(dict.fromkeys(drill.rungs[one.rung - 1].name for one in calls)),
            rounds=[
                hall_models.RoundOfCalls(
                    round=round_.round,
                    calls=[
                        hall_models.CallView(at_s=call.at_s, number=call.number)
                        for call in round_.calls
                    ],
                )
                for one in calls
                for round_ in one.rounds
            ],
            cards=[view for one in calls for view in _cards(running, one, names)],
        )
    )


def _cards(
    running: BlockPlan, calls: BlockCalls, names: dict[str, str]
) -> list[hall_models.CardView]:
    """The cards of a piece of the block, pair by pair."""
    shares = calls.drill.shares(calls.drill.rungs[calls.rung - 1])
    sizes = {round_.round: len(round_.numbers) for round_ in calls.rounds}
    return [
        _card(calls.drill, card, running.groups[card.pair], names, sizes[card.round])
        for card in cards(shares, calls.rounds, len(running.groups), running.seed)
    ]


def _card(
    drill: PartnerDrill, card: Card, members: tuple[str, ...], names: dict[str, str], parts: int
) -> hall_models.CardView:
    return hall_models.CardView(
        pair=[names.get(key, "?") for key in members],
        feeder=names.get(card_places(members, card.round)[0], "?"),
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
