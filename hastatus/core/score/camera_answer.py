"""Answers that land on nothing, as a live camera sees them: when the zone of the answer moves."""

from __future__ import annotations

from hastatus.core.drill.requirement import Asked, ask
from hastatus.core.drill.solo import Drill
from hastatus.core.motion.camera_watch import CameraState, CameraWatch
from hastatus.core.motion.movement import Movement
from hastatus.core.motion.zone import seen_in
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import Device
from hastatus.core.run.events import MotionSeen
from hastatus.core.score.expectation import Expected, Expecting
from hastatus.core.score.response import OpenCue, ScoreState


class CameraAnswers:
    """What the camera of a run's device can tell of its cues. sees_all: it sees each answer of the
    rung that lands on nothing."""

    def __init__(self, drill: Drill, plan: RunPlan, device: Device, expecting: Expecting) -> None:
        self._drill = drill
        self._zones = device.zones if "camera" in device.inputs else ()
        rung = drill.rungs[plan.rung - 1]
        cues = [ask(drill, rung, cue) for cue in drill.cues_on(rung)]
        silent = [asked for asked in cues if asked.timed_by == "not_sensed"]
        self._watched = sorted({zone for asked in silent for zone in self._seen_in(asked)})
        self.sees_all = bool(silent) and all(self._seen_in(asked) for asked in silent)
        self._only_evades = self.sees_all and expecting.all_evade
        self._watch = CameraWatch(self._zones, self._watched)

    def answer_zones(self, expected: Expected) -> list[int]:
        """The zones that an answer to such a cue is seen in; none where it lands on something.

        After a catch cue, where nobody should move, all that answers are seen in.
        """
        if expected.first:
            return []
        if not expected.asks:
            return self._watched if self._only_evades else []
        return self._seen_in(expected.asked)

    def add(self, state: ScoreState, t_ms: float, event: MotionSeen) -> None:
        """Take a picture, which was taken at `t_ms`, corrected."""
        if not self._watched:
            return
        state.camera = state.camera or CameraState()
        if state.paused:
            self._watch.asked(state.camera, t_ms / 1000)
        self._watch.add(state.camera, t_ms / 1000, event.moved[0], event.rows, event.columns)
        needed_ms = min((cue.onset_ms for cue in state.open), default=t_ms)
        self._watch.forget(state.camera, needed_ms / 1000)

    def asked(self, state: ScoreState, t_ms: float) -> None:
        """A cue came at `t_ms`."""
        if state.camera:
            self._watch.asked(state.camera, t_ms / 1000)

    def answer(self, state: ScoreState, cue: OpenCue, expected: Expected) -> None:
        """What became of a cue that is listened for no more, in place."""
        zones = self.answer_zones(expected)
        if not zones:
            return
        camera = state.camera or CameraState()
        first = _first(
            [
                self._watch.after(camera, zone, cue.onset_ms / 1000, cue.limit_ms / 1000)
                for zone in zones
            ]
        )
        if first.onset_s is not None:
            cue.answered_ms, cue.timed_with = 1000 * first.onset_s, "camera"
        elif first.reason != "still":
            cue.left_out = "moving_before" if first.reason == "moving_before" else "not_seen"

    def _seen_in(self, asked: Asked) -> list[int]:
        """The drawn zones in which the first steps of a cue's chains are seen, the best of each."""
        drawn = [zone.part for zone in self._zones]
        places = set[int]()
        for chain in asked.chains:
            known = self._drill.technique(chain.steps[0].technique)
            parts = seen_in(known.limb, chain.steps[0].side) if known else ()
            places.update([drawn.index(part) for part in parts if part in drawn][:1])
        return sorted(places)


def _first(movements: list[Movement]) -> Movement:
    """The first movement of all; where there is none, what kept one from being told, if anything
    did."""
    told = [movement for movement in movements if movement.reason != "still"]
    onsets = [movement for movement in told if movement.onset_s is not None]
    unsure = [movement for movement in told if movement.onset_s is None]
    if onsets:
        return min(onsets, key=lambda movement: movement.onset_s or 0.0)
    return (unsure or movements)[0]
