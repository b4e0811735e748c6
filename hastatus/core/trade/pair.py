"""Two people opposite each other: who is who, and how long their limbs are."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from hastatus.core.trade.limbs import USUAL_HEIGHT_M, Limbs, estimated

Person = Literal["a", "b"]
"""One of the two, whatever the role: "a" feeds first."""


@dataclass(frozen=True, slots=True)
class Pair:
    """The limbs of the two; "a" feeds first. estimated: nobody's were measured or given."""

    a: Limbs
    b: Limbs

    def of(self, person: Person) -> Limbs:
        """The limbs of one of them."""
        return self.a if person == "a" else self.b


USUAL_PAIR = Pair(estimated(USUAL_HEIGHT_M), estimated(USUAL_HEIGHT_M))
"""Two people of usual height, for a drill that is written for nobody yet."""
