"""Zones: the boxes of a picture in which a part of the body is while somebody waits for a cue.

They are drawn once on a still of a film and kept with the camera's place, since a phone that stands
where it stood sees the same.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from hastatus.core.fields import Document, Line
from hastatus.core.trade.technique import Limb, Side

BodyPart = Literal["head", "lead_hand", "rear_hand", "hips", "feet"]
BODY_PARTS: dict[BodyPart, str] = {
    "head": "head",
    "lead_hand": "lead hand",
    "rear_hand": "rear hand",
    "hips": "hips",
    "feet": "feet",
}
"""The parts of the body that a zone is drawn around, with their names."""
Person = Literal["left", "right"]
"""Whose zone it is where two are in the picture: who stands left in it, or right."""
LEAST_SIDE = 0.02
"""Shortest side of a zone, as a share of the picture's: fewer pixels tell nothing."""

_Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Zone(Document):
    """A box in the upright picture. left, top: of its corner; all four as shares of the picture's
    width and height. person: whose; None: only one is in the picture."""

    part: BodyPart
    person: Person | None = None
    left: _Share
    top: _Share
    width: Annotated[float, Field(ge=LEAST_SIDE, le=1, allow_inf_nan=False)]
    height: Annotated[float, Field(ge=LEAST_SIDE, le=1, allow_inf_nan=False)]

    @model_validator(mode="after")
    def _is_inside(self) -> Self:
        if self.left + self.width > 1 + 1e-9 or self.top + self.height > 1 + 1e-9:
            raise ValueError(f"the zone of the {self.words} reaches out of the picture")
        return self

    @property
    def words(self) -> str:
        """What it is drawn around, for example "head on the left"."""
        name = BODY_PARTS[self.part]
        return f"{name} on the {self.person}" if self.person else name


class CameraPlace(Document):
    """Where a camera stands, and what it sees from there. One zone a part of a body.

    sound_m: from the loudspeaker to the camera, in m; sound takes 3 ms a metre.
    """

    kind: Literal["hastatus-camera-place"] = "hastatus-camera-place"
    schema_version: Literal[1] = 1
    name: Line
    zones: Annotated[tuple[Zone, ...], Field(min_length=1, max_length=10)]
    sound_m: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 0.0

    @model_validator(mode="after")
    def _has_each_part_once(self) -> Self:
        drawn = [(zone.part, zone.person) for zone in self.zones]
        for zone in self.zones:
            if drawn.count((zone.part, zone.person)) > 1:
                raise ValueError(f"there are two zones of the {zone.words}; keep one")
        if len({zone.person is None for zone in self.zones}) > 1:
            raise ValueError("some zones say whose they are and some do not; say it of all or none")
        return self

    @property
    def of_two(self) -> bool:
        """Whether it shows two people."""
        return self.zones[0].person is not None

    def of(self, person: Person | None) -> list[int]:
        """The places of a person's zones among all."""
        return [place for place, zone in enumerate(self.zones) if zone.person == person]


def seen_in(limb: Limb, side: Side) -> tuple[BodyPart, ...]:
    """The zones in which what a limb does is seen, the best first."""
    if limb in ("hand", "forearm", "elbow"):
        return ("lead_hand",) if side == "lead" else ("rear_hand",)
    if limb in ("head", "trunk"):
        return ("head", "hips")
    return ("feet", "hips")
