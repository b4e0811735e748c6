"""A simulated pad kit: a clock of its own, and a way to the page that jitters and loses hits."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from hastatus.core.run.events import Event, Input, Sync

SYNC_EVERY_MS = 1000.0


@dataclass(slots=True)
class PadKit:
    """offset_ms, drift_ppm: of the kit's clock against the page's. way_ms: shortest way to the
    page. jitter_ms: what a way takes beyond that, on average. loss: share of hits that never come.
    double: share of hits that ring, and come again 25 ms later.
    """

    rng: np.random.Generator
    offset_ms: float = 80.0
    drift_ppm: float = 40.0
    way_ms: float = 2.0
    jitter_ms: float = 5.0
    loss: float = 0.01
    double: float = 0.0
    _serial: int = field(default=0)

    def own_ms(self, t_ms: float) -> float:
        """What the kit's clock shows at `t_ms` of the page's."""
        return self.offset_ms + t_ms * (1 + self.drift_ppm / 1e6)

    def hit(self, t_ms: float, control: str) -> list[Input]:
        """What reaches the page of a hit at `t_ms`."""
        pads = []
        times = [t_ms, t_ms + 25.0] if self.rng.random() < self.double else [t_ms]
        for at in times:
            serial, self._serial = self._serial, self._serial + 1
            if self.rng.random() < self.loss:
                continue
            pads.append(
                Input(
                    t_ms=at + self._way(),
                    device="pad",
                    control=control,
                    own_ms=self.own_ms(at),
                    serial=serial,
                )
            )
        return pads

    def sync(self, t_ms: float) -> Sync:
        """The kit's answer to being asked for its time at `t_ms`."""
        there = t_ms + self._way()
        return Sync(t_ms=there + self._way(), sent_ms=t_ms, own_ms=self.own_ms(there))

    def syncs(self, from_ms: float, to_ms: float) -> list[Event]:
        """Its answers, asked for once a second."""
        return [self.sync(float(at)) for at in np.arange(from_ms, to_ms, SYNC_EVERY_MS)]

    def _way(self) -> float:
        return self.way_ms + float(self.rng.exponential(self.jitter_ms))
