"""Runs in which much goes wrong: answers late, twice, by the wrong hand, pauses, a page anew."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from hastatus.core.drill.requirement import ask
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.controls import HOME, controls
from hastatus.core.run.device import Device
from hastatus.core.run.events import (
    Batch,
    CueShown,
    Distrust,
    Event,
    Finish,
    Input,
    Pause,
    Remark,
    Resume,
    Sync,
)
from hastatus.core.run.setup import Setup
from hastatus.core.starter import STARTERS
from hastatus.demo.student import Habits, simulate

KINDS: dict[str, Device] = {
    "keys": Device(inputs=("key",)),
    "home": Device(inputs=("key",), home=True),
    "microphone": Device(place="floor", inputs=("microphone", "key")),
    "pads": Device(place="floor", inputs=("pad",)),
}
REASONS = ("blocked", "dropped_frames", "sound_lost", "clock_jump", "flood")
KIT_AHEAD_MS = 70_000.0
"""By how much a simulated pad kit's clock is ahead of the page's."""


def messy_batches(pattern: str, kind: str, seed: int) -> tuple[Setup, list[Batch]]:
    """A run of a starter's hardest rung on a kind of device, cut into batches, with one reload."""
    drill = STARTERS[pattern]()
    setup = Setup(drill, plan_run(drill, seed=seed, rung=len(drill.rungs)), KINDS[kind])
    played, _ = simulate(setup, Habits(), seed)
    rng = np.random.default_rng(seed)
    frame = [e for batch in played for e in batch.events if not isinstance(e, Input | Finish)]
    events = sorted(_happened(setup, kind, frame, rng), key=lambda event: event.t_ms)
    return setup, list(_cut(events, rng))


def _happened(
    setup: Setup, kind: str, frame: list[Event], rng: np.random.Generator
) -> Iterator[Event]:
    """The frame of a run, its cues as well or badly known as it comes, with what was done."""
    names = _controls(setup)
    for event in frame:
        if not isinstance(event, CueShown):
            yield event
            continue
        known = rng.choice(["presentation", "audio", "audio", "frame"], p=[0.4, 0.3, 0.25, 0.05])
        spread = float(rng.choice([1.0, 3.0, 3.5, 8.0]))
        shown = event.model_copy(update={"source": str(known), "spread_ms": spread})
        yield shown
        if rng.random() < 0.05:
            yield shown.model_copy(update={"t_ms": shown.t_ms + 40})
        yield from _odd(shown.t_ms, rng)
        for t_ms, control in _answers(setup, shown, names, rng):
            yield from _hit(kind, t_ms, control, rng)
    for number in range(40 if kind == "pads" else 0):
        t_ms = 200.0 * number + 50
        yield Sync(t_ms=t_ms, sent_ms=t_ms - 4 - number % 3, own_ms=t_ms - 2 + KIT_AHEAD_MS)


def _odd(t_ms: float, rng: np.random.Generator) -> Iterator[Event]:
    """Now and then a pause, a stretch that is not trusted, a remark."""
    drawn = rng.random()
    if drawn < 0.04:
        yield Pause(t_ms=t_ms + 300, reason="coach")
        yield Resume(t_ms=t_ms + 900)
    elif drawn < 0.14:
        reason = REASONS[int(rng.integers(len(REASONS)))]
        from_ms = t_ms + float(rng.uniform(-300, 200))
        yield Distrust(t_ms=t_ms + 400, from_ms=max(0.0, from_ms), reason=reason)  # type: ignore[arg-type]
    elif drawn < 0.16:
        yield Remark(t_ms=t_ms, what="Volume changed.")


def _answers(
    setup: Setup, shown: CueShown, names: list[str], rng: np.random.Generator
) -> Iterator[tuple[float, str]]:
    """What somebody does about a cue: the chain asked for, with slips of every kind."""
    rung = setup.drill.rungs[setup.plan.rung - 1]
    stance = setup.plan.rounds[shown.round - 1].stance
    chains = ask(setup.drill, rung, setup.drill.cue(shown.cue)).chains
    by_answer = {(c.technique, c.side): c.control for c in controls(setup.drill, rung, stance)}
    t_ms = shown.t_ms + shown.window_ms * float(rng.lognormal(-0.35, 0.35))
    if rng.random() < 0.15:
        yield t_ms + float(rng.uniform(-1200, 300)), str(rng.choice(names))
    if not chains or rng.random() < 0.08:
        return
    for step in chains[int(rng.integers(len(chains)))].steps:
        control = by_answer.get((step.technique, step.side))
        if control is None or rng.random() < 0.06:
            t_ms += 250
            continue
        yield t_ms, control if rng.random() > 0.07 else str(rng.choice(names))
        if rng.random() < 0.12:
            yield t_ms + float(rng.choice([30.0, 60.0, 180.0, 349.0, 500.0, 999.0])), control
        t_ms += float(rng.uniform(120, 700))


def _controls(setup: Setup) -> list[str]:
    rung = setup.drill.rungs[setup.plan.rung - 1]
    stance = setup.plan.rounds[0].stance
    return [*(control.control for control in controls(setup.drill, rung, stance)), "KeyQ"]


def _hit(kind: str, t_ms: float, control: str, rng: np.random.Generator) -> Iterator[Event]:
    """One hit as a device tells of it."""
    t_ms = max(1.0, t_ms)
    level = float(rng.choice([-18.0, -22.0, -25.0, -48.0]))
    if kind == "microphone":
        yield Input(t_ms=t_ms, device="microphone", control="strike", level_db=level)
        if rng.random() < 0.3:
            yield Input(t_ms=t_ms + float(rng.uniform(-70, 70)), device="key", control=control)
    elif kind == "pads":
        serial = int(t_ms) if rng.random() < 0.9 else int(t_ms) + 3
        yield Input(
            t_ms=t_ms + 12, device="pad", control=control, own_ms=t_ms + KIT_AHEAD_MS, serial=serial
        )
    else:
        if kind == "home":
            leaves = float(rng.choice([60.0, 99.0, 180.0, 400.0]))
            yield Input(t_ms=max(0.0, t_ms - leaves), device="key", control=HOME, edge="up")
            yield Input(t_ms=t_ms + leaves, device="key", control=HOME, edge="down")
        yield Input(t_ms=t_ms, device="key", control=control)
        yield Input(t_ms=t_ms + 40, device="key", control=control, edge="up")


def _cut(events: list[Event], rng: np.random.Generator) -> Iterator[Batch]:
    """Batches of about four seconds; the page was loaded anew in the middle; the last is told."""
    end_ms = events[-1].t_ms + 5000
    edges = [*np.cumsum(rng.uniform(2000, 6000, int(end_ms / 4000))).tolist(), end_ms]
    before, anew = -1.0, len(edges) // 2
    for number, edge in enumerate(edge for edge in edges if edge <= end_ms):
        inside = [event for event in events if before < event.t_ms <= edge]
        last = edge == end_ms
        if last:
            inside.append(Finish(t_ms=end_ms, reason="complete"))
        yield Batch(
            number=number,
            epoch=int(number >= anew),
            until_ms=edge,
            last=last,
            events=tuple(inside),
        )
        before = edge
