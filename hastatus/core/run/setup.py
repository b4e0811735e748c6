"""What is fixed for a run: its drill, its plan and the device that plays it."""

from __future__ import annotations

from dataclasses import dataclass

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan, without_lights
from hastatus.core.run.device import Device


@dataclass(frozen=True, slots=True, eq=False, weakref_slot=True)
class Setup:
    """What is fixed for a run; equal to itself alone, so that what is made of it can be kept."""

    drill: Drill
    plan: RunPlan
    device: Device

    @property
    def played(self) -> Drill:
        """The drill as it is played: without its lights when the run is sound only."""
        return without_lights(self.drill) if self.plan.sound_only else self.drill
