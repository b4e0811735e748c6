"""Zones: the boxes of a picture in which a part of the body is while somebody waits for a cue.

They are drawn once on a still of a film and kept with the camera's place, since a phone that stands
where it stood sees the same.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from hastatus.core.fields import Document, Line

BodyPart = Literal["head", "lead_hand", "rear_hand", "hips", "feet"]
BODY_PARTS: dict[BodyPart, str] = {
    "head": "head",
    "lead_hand": "lead hand",
    "rear_hand": "rear hand",
    "hips": "hips",
    "feet": "feet",
}
"""The parts of the body that a zone is drawn around, with their names."""
LEAST_SIDE = 0.02
"""Shortest side of a zone, as a share of the picture's: fewer pixels tell nothing."""

_Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Zone(Document):
    """A box in the upright picture. left, top: of its corner; all four as shares of the picture's
    width and height."""

    part: BodyPart
    left: _Share
    top: _Share
    width: Annotated[float, Field(ge=LEAST_SIDE, le=1, allow_inf_nan=False)]
    height: Annotated[float, Field(ge=LEAST_SIDE, le=1, allow_inf_nan=False)]

    @model_validator(mode="after")
    def _is_inside(self) -> Self:
        if self.left + self.width > 1 + 1e-9 or self.top + self.height > 1 + 1e-9:
            raise ValueError(f"the zone of the {BODY_PARTS[self.part]} reaches out of the picture")
        return self


class CameraPlace(Document):
    """Where a camera stands, and what it sees from there. One zone a part of the body.

    sound_m: from the loudspeaker to the camera, in m; sound takes 3 ms a metre.
    """

    kind: Literal["hastatus-camera-place"] = "hastatus-camera-place"
    schema_version: Literal[1] = 1
    name: Line
    zones: Annotated[tuple[Zone, ...], Field(min_length=1, max_length=5)]
    sound_m: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 0.0

    @model_validator(mode="after")
    def _has_each_part_once(self) -> Self:
        parts = [zone.part for zone in self.zones]
        for part in parts:
            if parts.count(part) > 1:
                raise ValueError(f"there are two zones of the {BODY_PARTS[part]}; keep one")
        return self
