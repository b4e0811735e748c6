"""Whether each strike reaches at the gap that the footwork has led to, and has room."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from hastatus.core.drill.checks.fault import Mend
from hastatus.core.drill.checks.finding import Finding, at, mend, path_of
from hastatus.core.drill.gap_line import (
    SHORT_M,
    STOPPED_M,
    GapAtStep,
    gaps_at_steps,
    moved,
    reached_m,
)
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walk
from hastatus.core.trade.footwork import Footwork
from hastatus.core.trade.limbs import Limbs
from hastatus.core.trade.pair import Pair
from hastatus.core.trade.reach import (
    SHORTER,
    Surface,
    surface_of,
)

TOO_NEAR = 0.5
"""A kick needs at least this share of the gap that it reaches."""


def gap_findings(drill: PartnerDrill, walk: Walk, pair: Pair) -> Iterator[Finding]:
    """Strikes that do not reach at the gap that the footwork has led to, or have no room."""
    for stand in gaps_at_steps(drill, walk, pair):
        if stand.reached_m is None:
            continue
        step = stand.walked
        stopped = step.step.contact == "none" and step.step.pad is None
        if stand.short_m > (STOPPED_M if stopped else SHORT_M):
            yield _short(drill, stand, pair)
        elif step.technique.limb in ("foot", "shin") and stand.gap_m < TOO_NEAR * stand.reached_m:
            yield at(
                drill,
                step,
                "room",
                f"The distance is {stand.gap_m:.2f} m: too near for a {step.technique.name}",
                field="footwork",
                better=mend("step back with it", (f"{path_of(drill, step)}.footwork", "retreat")),
            )


def _short(drill: PartnerDrill, stand: GapAtStep, pair: Pair) -> Finding:
    step, body = stand.walked, pair.of(stand.walked.person)
    reached = stand.reached_m or 0.0
    what = (
        f"The distance is {stand.gap_m:.2f} m, {step.step.name()} ends at {reached:.2f} m, "
        f"{ceil(stand.short_m * 100 - 1e-9)} cm short"
    )
    longer = _longer_surface(drill, stand, body)
    if longer:
        return at(
            drill,
            step,
            "surface",
            f"{what}; with the {longer} it reaches",
            field="surface",
            better=mend(f"with the {longer}", (f"{path_of(drill, step)}.surface", longer)),
        )
    return at(drill, step, "reach", what, field="footwork", better=_nearer(drill, stand, body))


def _longer_surface(drill: PartnerDrill, stand: GapAtStep, body: Limbs) -> Surface | None:
    """The palm or fist gives way to what of the hand would reach."""
    own = stand.walked.step.surface or surface_of(stand.walked.technique)
    if own != "palm":
        return None
    for surface in sorted(SHORTER, key=SHORTER.__getitem__, reverse=True):
        reached = reached_m(drill.gear_throughout, stand.walked, body, surface)
        if SHORTER[surface] < SHORTER[own] and stand.gap_m - reached <= SHORT_M:
            return surface
    return None


def _nearer(drill: PartnerDrill, stand: GapAtStep, body: Limbs) -> Mend | None:
    """A pad held nearer, a step in, or a nearer start, whichever is the least that reaches."""
    step, path = stand.walked, path_of(drill, stand.walked)
    pad = step.step.pad
    if pad:
        wanted = round(max(pad.ahead_m, 0.12) + stand.short_m, 2)
        if wanted <= 0.9:
            return mend(
                f"pad {ceil(stand.short_m * 100 - 1e-9)} cm nearer", (f"{path}.pad.ahead_m", wanted)
            )
        return None
    before = stand.gap_m
    if step.step.footwork == "hold":
        moves: tuple[tuple[Footwork, str], ...] = (
            ("advance", "step in with it"),
            ("slide_step", "slide-step in with it"),
            ("cross_step", "cross-step in with it"),
        )
        for move, label in moves:
            if moved(before, move, body) - (stand.reached_m or 0) <= SHORT_M:
                return mend(label, (f"{path}.footwork", move))
    return None
