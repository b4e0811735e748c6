"""The time that an attack needs from its start to its arrival at full speed.

Speeds and tells are rules of thumb, no source: they say which of two attacks is sooner, and what
"full speed" is about; how fast to feed comes from the defender's measured times (`plan.feed_pace`).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sin

from hastatus.core.trade.footwork import Footwork
from hastatus.core.trade.limbs import Limbs
from hastatus.core.trade.reach import DEPTH_M
from hastatus.core.trade.technique import Technique
from hastatus.core.trade.tell import Tell

LEG_ARC = pi / 2
TELL_S: dict[Tell, float] = {"big": 0.40, "plain": 0.20, "trimmed": 0.05, "mixed": 0.40}
"""The visible draw-back, s. Mixed: the big one, which has to be waited for."""
STEP_S: dict[Footwork, float] = {
    "hold": 0.0, "advance": 0.25, "retreat": 0.25, "slide_step": 0.30, "cross_step": 0.40,
    "cross_back": 0.40, "step_off_lead": 0.25, "step_off_rear": 0.25, "step_round": 0.40,
    "pivot": 0.20,
}  # fmt: skip
HAND_M_S = 3.0
FOOT_M_S = 4.0
_ARC: dict[str, float] = {"wide_swing": pi, "spinning_back_fist": pi, "spinning_kick": pi}


def path_ratio(angle: float) -> float:
    """How much longer an arc of this angle (rad) is than its chord: rθ against 2r sin(θ/2).

    A half-circle swing is π/2 times the straight line (geometry).
    """
    return angle / (2 * sin(angle / 2)) if angle else 1.0


def path_of_flight(technique: Technique, body: Limbs, gap_m: float) -> float:
    """How far the striking limb travels from the guard to the target, m."""
    if technique.limb in ("foot", "shin", "knee"):
        straight = max(0.2, gap_m - DEPTH_M)  # from under the hips
    else:
        straight = max(0.1, gap_m - DEPTH_M - body.forearm)  # the fist waits a forearm ahead
    return straight * path_ratio(arc(technique))


def arc(technique: Technique) -> float:
    """The angle that the striking limb swings through, rad; 0 for a straight line."""
    if technique.key in _ARC:
        return _ARC[technique.key]
    return LEG_ARC if technique.family in ("circular", "round_kick", "falling") else 0.0


@dataclass(frozen=True, slots=True)
class AttackTime:
    """What an attack needs from its start to its arrival at full speed, in seconds."""

    tell_s: float
    step_s: float
    flight_s: float
    path_m: float

    @property
    def full_s(self) -> float:
        """Start to arrival at full speed."""
        return self.tell_s + self.step_s + self.flight_s


def attack_time(
    technique: Technique, body: Limbs, gap_m: float, *, tell: Tell, footwork: Footwork
) -> AttackTime:
    """The time of one attack, thrown from a gap of `gap_m`."""
    path = path_of_flight(technique, body, gap_m)
    speed = FOOT_M_S if technique.limb in ("foot", "shin", "knee") else HAND_M_S
    return AttackTime(TELL_S[tell], STEP_S[footwork], path / speed, path)
