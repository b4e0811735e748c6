"""What the bench does with a drill of either form: reads it, names its techniques, refuses it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol, TypeVar

from hastatus.api.http.lookup import find_version
from hastatus.api.http.problems import FaultPlace, Problem
from hastatus.api.http.session import db, who
from hastatus.api.plan.models import BenchRequest
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.trade.label_packs import Labels
from hastatus.store import club_catalogue
from hastatus.store.models import DrillVersion

D = TypeVar("D", Drill, PartnerDrill)


class Located(Protocol):
    """What is wrong with a drill, and where in its document."""

    @property
    def where(self) -> str: ...
    @property
    def what(self) -> str: ...


def drill_of(body: BenchRequest, form: type[D], kept: Callable[[DrillVersion], D]) -> D:
    """The drill that is asked for: what is being edited, or a kept one, which `kept` reads.

    Raises pydantic's `ValidationError` where the document is no drill of the form, and 404 or 422
    where the rung is none of it.
    """
    if body.document is not None:
        drill = form.model_validate(body.document)
    else:
        assert body.drill_id is not None  # the request says one of the two
        drill = kept(find_version(body.drill_id))
    if body.rung > len(drill.rungs):
        raise Problem(422, "Cannot be done", f"rung: the drill has no rung {body.rung}")
    return drill


def in_labels_of_club(drill: D) -> tuple[D, Labels]:
    """A drill with the techniques of its own that its club's words name, and those words."""
    labels = drill.labels(club_catalogue.labels(db(), who().club_id))
    own = tuple({**labels.own}.values())
    return drill.model_copy(update={"techniques": own or drill.techniques}), labels


def refused(title: str, faults: Sequence[Located]) -> Problem:
    """A drill that cannot be kept or run, as a 422 that names the places in its document."""
    places = [FaultPlace(where=f"document.{fault.where}", what=fault.what) for fault in faults]
    return Problem(422, title, f"{places[0].where}: {places[0].what}", places)
