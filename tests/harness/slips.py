"""A drill of slips, which land on nothing, and a run of it before a simulated camera."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from hastatus.core.drill.blank import fresh_drill
from hastatus.core.drill.cue import Chain, Mark, Sound, Step
from hastatus.core.drill.solo import Drill
from hastatus.core.loop.live_run import RUN_STATE, RunState, Tail, begin, fold_batch, revise
from hastatus.core.motion.zone import Zone
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device, device_of
from hastatus.core.run.events import Batch
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import Response
from hastatus.demo.student import Done, Habits, SimulatedPlayer

HEAD = Zone(part="head", left=0.4, top=0.1, width=0.2, height=0.2)
CAMERA = device_of("camera by the door", (), ("camera",), zones=(HEAD,))


def slip_drill(cues: int = 40, catch_share: float = 0.1, rule: str = "measured") -> Drill:
    """One round of slips to either side, each on a sound of its own, and a catch cue among them."""
    drill = fresh_drill()
    first, rung = drill.cues[0], drill.rungs[0]
    made = [
        first.model_copy(
            update={
                "key": key,
                "stimulus": Sound(sound=sound),
                "mark": Mark(shape=shape, colour="blue"),
                "asks": (Chain(steps=(Step(technique="slip", side=side),)),) if side else (),
            }
        )
        for key, sound, shape, side in (
            ("left", "low_knock", "circle", "lead"),
            ("right", "bell", "square", "rear"),
            ("stay", "tone", "triangle", None),
        )
    ]
    changes = {
        "cues": tuple(cue.key for cue in made),
        "waiting": rung.waiting.model_copy(update={"least_s": 1.6}),
        "rounds": rung.rounds.model_copy(
            update={"ends": "count", "cues": cues, "count": 1, "rehearse": False}
        ),
        "catch_share": catch_share,
    }
    rungs = (rung.model_copy(update=changes),)
    pace = drill.pace.model_copy(update={"rule": rule})
    document = {"title": "Slip the sound", "cues": made, "rungs": rungs, "pace": pace}
    return Drill.model_validate(drill.model_dump() | document)


@dataclass(slots=True)
class SlipRun:
    """A run of slips as it was played. done: what was really done. kept: the state was written and
    read again after each batch, as between two requests."""

    setup: Setup
    state: RunState
    batches: list[Batch] = field(default_factory=list)
    responses: list[Response] = field(default_factory=list)
    done: list[Done] = field(default_factory=list)

    def pairs(self) -> list[tuple[Done, Response]]:
        """What was done about each cue, and what was scored."""
        done = {(one.round, one.slot): one for one in self.done}
        return [(done[response.round, response.slot], response) for response in self.responses]

    def _post(self, batch: Batch) -> Tail | None:
        self.batches.append(batch)
        self.responses += fold_batch(self.setup, self.state, batch)
        self.state = RUN_STATE.validate_json(RUN_STATE.dump_json(self.state))
        return revise(self.setup, self.state, batch)


def slip_run(
    drill: Drill, seed: int, habits: Habits | None = None, device: Device = CAMERA
) -> SlipRun:
    """Play a run of slips."""
    setup = Setup(drill, plan_run(drill, seed=seed), device)
    run = SlipRun(setup, begin(setup))
    player = SimulatedPlayer(setup, habits or Habits(), np.random.default_rng(seed), run._post)
    player.play()
    run.done = player.done
    return run
