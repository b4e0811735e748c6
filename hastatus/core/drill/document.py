"""Solo and partner drills as one language: a document is one or the other by its form."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Discriminator, Tag, TypeAdapter

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill


def form_of(document: Any) -> str:
    """ "solo" or "partner"; drills of before there were partner drills do not say."""
    if isinstance(document, dict):
        return str(document.get("form", "solo"))
    return str(getattr(document, "form", "solo"))


AnyDrill = Annotated[
    Annotated[Drill, Tag("solo")] | Annotated[PartnerDrill, Tag("partner")],
    Discriminator(form_of),
]

_ANY: TypeAdapter[Drill | PartnerDrill] = TypeAdapter(AnyDrill)


def parse(document: Any) -> Drill | PartnerDrill:
    """The drill in a document; pydantic's ValidationError where it is none."""
    return _ANY.validate_python(document)
