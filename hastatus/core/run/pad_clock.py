"""A pad kit's own clock: how its stamps become times on the page's clock.

The page asks the kit for its time now and then and notes when it asked and when the answer came.
Whatever the way there and back took, the kit's stamp belongs between the two; a quick answer says
so most exactly (the clock filter of NTP, RFC 5905 section 10). A line through the quick ones gives
offset and drift.
"""

from __future__ import annotations

from dataclasses import dataclass, field

KEPT = 64
QUICKEST = 0.34
"""Share of the answers, the quickest, that the line is drawn through."""
DRIFT_FROM_MS = 15_000.0
"""With less than this between the first and the last of them the clocks are taken to run alike."""
MOST_DRIFT = 500e-6
JUMP_MS = 20.0
"""An answer that is this far off the line, its way apart, is the sign of a jump; two are one."""


@dataclass(slots=True)
class Sync:
    """One answer. own_ms: the kit's stamp. page_ms: middle of asking and answer. way_ms: half of
    the time between them."""

    own_ms: float
    page_ms: float
    way_ms: float


@dataclass(slots=True)
class PadClock:
    """What is known of a kit's clock. jumps: how often it has jumped."""

    syncs: list[Sync] = field(default_factory=list)
    strange: int = 0
    jumps: int = 0

    def add(self, sent_ms: float, own_ms: float, came_ms: float) -> None:
        """Take an answer that was asked for at `sent_ms` and came at `came_ms`."""
        sync = Sync(own_ms, (sent_ms + came_ms) / 2, max(0.0, (came_ms - sent_ms) / 2))
        if self.syncs and abs(self.to_page(own_ms) - sync.page_ms) > sync.way_ms + JUMP_MS:
            self.strange += 1
            if self.strange >= 2:
                self.syncs, self.strange = self.syncs[-1:], 0  # it was the first sign
                self.jumps += 1
        else:
            self.strange = 0
        self.syncs.append(sync)
        del self.syncs[:-KEPT]

    def to_page(self, own_ms: float) -> float:
        """The page's time (ms) of a stamp of the kit; `own_ms` itself before the first answer."""
        if not self.syncs:
            return own_ms
        quick = sorted(self.syncs, key=lambda sync: sync.way_ms)
        quick = quick[: max(1, round(QUICKEST * len(quick)))]
        own = sum(probe.own_ms for probe in quick) / len(quick)
        page = sum(probe.page_ms for probe in quick) / len(quick)
        return page + (1.0 + self._drift(quick, own, page)) * (own_ms - own)

    @staticmethod
    def _drift(quick: list[Sync], own: float, page: float) -> float:
        """How much faster the page's clock runs than the kit's, as a share."""
        stamps = [probe.own_ms for probe in quick]
        if max(stamps) - min(stamps) < DRIFT_FROM_MS:
            return 0.0
        over = sum((probe.own_ms - own) ** 2 for probe in quick)
        with_page = sum((probe.own_ms - own) * (probe.page_ms - page) for probe in quick)
        return min(max(with_page / over - 1.0, -MOST_DRIFT), MOST_DRIFT)
