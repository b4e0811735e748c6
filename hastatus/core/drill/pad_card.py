"""The pad holder's card: for each strike on a pad, how the pad is held and where to stand."""

from __future__ import annotations

from dataclasses import dataclass

from hastatus.core.drill.gap_line import gaps_at_steps
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import walks
from hastatus.core.fields import Key
from hastatus.core.trade.label_packs import PLAIN, Labels
from hastatus.core.trade.pair import Pair
from hastatus.core.trade.technique import Target


@dataclass(frozen=True, slots=True)
class PadLine:
    """One strike on a pad. beat: in its passage.

    what: the strike in words. height: where the pad is held. angle_deg: 0 faces the striker, 90 is
    edge on. ahead_m: from the holder's midline to its face. apart_m: between the midlines of the
    two. gives: the holder gives ground with it.
    """

    passage: Key
    step: int
    beat: float
    what: str
    height: Target
    angle_deg: int
    ahead_m: float
    apart_m: float
    gives: bool


def pad_card(drill: PartnerDrill, pair: Pair, labels: Labels = PLAIN) -> list[PadLine]:
    """Every strike on a pad, in the order of the drill; empty for a drill without pads."""
    lines: dict[tuple[str, int], PadLine] = {}
    for walk in walks(drill):
        for stand in gaps_at_steps(drill, walk, pair):
            step = stand.walked
            pad = step.step.pad
            if pad is None:
                continue
            line = PadLine(
                passage=step.written,
                step=step.index,
                beat=step.step.beat,
                what=step.step.name(labels),
                height=step.step.target or step.technique.line,
                angle_deg=pad.angle_deg,
                ahead_m=pad.ahead_m,
                apart_m=round(stand.gap_m, 2),
                gives=pad.gives,
            )
            lines.setdefault((line.passage, line.step), line)
    order = {passage.key: index for index, passage in enumerate(drill.passages)}
    return sorted(lines.values(), key=lambda line: (order[line.passage], line.beat, line.step))
