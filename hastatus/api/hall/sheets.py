"""Paper for a class: every pair's own feed sheet of a block, in one print."""

from __future__ import annotations

from collections.abc import Iterator

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.hall import models as hall_models
from hastatus.api.hall import sheet_models
from hastatus.api.hall.evening_view import people_of
from hastatus.api.hall.running_block import asked_block
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import signed_in
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.hall.block_plan import BlockPlan
from hastatus.core.hall.pair_feed import PairFeed

bp = ApiBlueprint("sheets", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])


@bp.get(
    "/evenings/<uuid:evening_id>/blocks/<string:block>/sheets",
    responses={200: sheet_models.PairSheets, **also(422)},
)
@signed_in
def pair_sheets(path: hall_models.BlockPath) -> Response:
    """Every pair's feed sheet; 422 where the feeders choose, or have cards."""
    row, running = asked_block(path)
    drill = running.drill
    if not isinstance(drill, PartnerDrill) or running.block.feeds in ("own", "numbered"):
        raise Problem(422, "No sheets", "block: its feeders have no sheets; see how it is fed.")
    names = {str(person.student_id): person.name for person in people_of(row)}
    return reply(
        sheet_models.PairSheets(
            title=running.block.name,
            drill=drill.title,
            pairs=[
                sheet_models.PairSheet(
                    names=[names.get(key, "?") for key in group],
                    rounds=list(_rounds(running, drill, running.feeds(group) or [], names)),
                )
                for group in running.groups
            ],
        )
    )


def _rounds(
    running: BlockPlan, drill: PartnerDrill, feeds: list[PairFeed], names: dict[str, str]
) -> Iterator[sheet_models.SheetRound]:
    """A pair's rounds, numbered over the block, each exchange with its moment in the round."""
    work = [stretch for stretch in running.row if stretch.kind == "work"]
    for number, stretch in enumerate(work, start=1):
        yield sheet_models.SheetRound(
            round=number,
            rung=drill.rungs[running.pieces[stretch.piece].rung - 1].name,
            lines=[
                sheet_models.SheetLine(
                    at_s=round(feed.at_s - stretch.starts_s, 1),
                    feeder=names.get(feed.feeder, "?"),
                    calls=[drill.passage(key).called for key in feed.passages],
                    tell=feed.feed.tell if feed.feed else "plain",
                    counter=feed.feed.counter if feed.feed else True,
                )
                for feed in feeds
                if stretch.starts_s <= feed.at_s < stretch.ends_s
            ],
        )
