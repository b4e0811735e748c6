"""A device's profile: what was measured on it, and which pad is hit for which answer."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import Field

from hastatus.core.fields import Document, Line
from hastatus.core.run.calibration import Measured
from hastatus.core.run.device import Correction, Pads, Source


class Profile(Document):
    """corrections: measured latencies, the newest of each input. wireless: the sound seems to go
    by radio. frame_ms: from one picture of the display to the next. pads: learned ones.
    """

    name: Line = "This device"
    corrections: Annotated[tuple[Correction, ...], Field(max_length=8)] = ()
    wireless: bool = False
    frame_ms: Annotated[float | None, Field(ge=1, le=100, allow_inf_nan=False)] = None
    pads: Pads = ()

    def corrected(self, source: Source, measured: Measured, on: date) -> Profile:
        """The profile with a new measurement of `source` in place of the one before."""
        kept = [correction for correction in self.corrections if correction.source != source]
        newest = Correction(
            source=source, ms=measured.ms, spread_ms=measured.spread_ms, measured_on=on
        )
        change: dict[str, object] = {"corrections": (*kept, newest)}
        if source == "microphone":
            change["wireless"] = measured.wireless
        return self.model_copy(update=change)

    def correction(self, source: Source) -> Correction | None:
        """The measurement of `source`, None before the first."""
        return next(
            (correction for correction in self.corrections if correction.source == source), None
        )
