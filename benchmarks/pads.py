"""Hits stamped by a pad kit's own clock: how far off they are once they are on the page's."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from benchmarks.figure import Figure
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.controls import controls
from hastatus.core.run.device import device_of
from hastatus.core.run.events import Batch, CueShown, Event, Finish, RoundStart
from hastatus.core.score.scorer import score
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.demo.pad_kit import PadKit

RUNS = 20
BATCH_MS = 500.0


def figures(loose: bool) -> Iterator[Figure]:
    """Score runs of made-up hits and set their times against the true ones; not noisy."""
    drill = block_on_sound_strike_on_light()
    errors: list[float] = []
    for seed in range(RUNS):
        rng = np.random.default_rng((seed, 4))
        plan = plan_run(drill, seed=seed, rung=3)
        kit = PadKit(rng)
        rung = drill.rungs[plan.rung - 1]
        control = controls(drill, rung, plan.rounds[0].stance)[0].control
        events: list[Event] = [RoundStart(t_ms=3000, round=1)]
        given: dict[int, float] = {}
        for cue in plan.rounds[0].cues:
            onset = 3000 + cue.at_s * 1000
            events.append(
                CueShown(
                    t_ms=onset, round=1, slot=cue.slot, cue=cue.cue, at_s=cue.at_s,
                    window_ms=cue.window_s * 1000, source="audio",
                )
            )  # fmt: skip
            given[cue.slot] = float(rng.uniform(250, 600))
            events += kit.hit(onset + given[cue.slot], control)
        end = max(event.t_ms for event in events) + 2000
        events += kit.syncs(0.0, end - 1000)
        responses, _ = score(drill, plan, device_of(None, (), ("pad",)), _batches(events, end))
        errors += [
            abs(response.time_ms - given[response.slot])
            for response in responses
            if response.time_ms is not None
        ]
    name = "pad hits, 40 ppm drift, 80 ms offset, 5 ms jitter, 1 % lost"
    yield Figure(
        f"{name}, {len(errors)} corrected times, median", float(np.median(errors)), "ms", 2
    )


def _batches(events: list[Event], end: float) -> list[Batch]:
    edges = [*np.arange(BATCH_MS, end, BATCH_MS).tolist(), end]
    batches, before = [], -1.0
    for number, edge in enumerate(edges):
        inside = [event for event in events if before < event.t_ms <= edge]
        last = number == len(edges) - 1
        if last:
            inside.append(Finish(t_ms=end, reason="complete"))
        # Late hits are waited for, as the player does.
        batches.append(
            Batch(number=number, epoch=0, until_ms=max(0.0, edge - 60), last=last,
                  events=tuple(sorted(inside, key=lambda event: event.t_ms)))
        )  # fmt: skip
        before = edge
    return batches
