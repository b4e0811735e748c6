"""The time budget of an attack: what it needs at full speed, and how fast to feed it.

Speeds and tells are rules of thumb, no source: they say which of two attacks is sooner, and what
"full speed" is about; the feed pace itself comes from the defender's measured times.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, inf, pi, sin
from typing import Literal

from hastatus.core.adapt.need import BEHIND_S, Need, need
from hastatus.core.read.defender_time import Held
from hastatus.core.read.expected_share import Measured
from hastatus.core.read.summary import TOO_FEW
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
    "step_off_lead": 0.25, "step_off_rear": 0.25, "pivot": 0.20,
}  # fmt: skip
HAND_M_S = 3.0
FOOT_M_S = 4.0
_ARC: dict[str, float] = {"wide_swing": pi, "spinning_back_fist": pi, "spinning_kick": pi}

FromWhat = Literal["partner", "solo", "rule"]


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


@dataclass(frozen=True, slots=True)
class FeedPace:
    """How fast to feed an attack.

    start_to_arrival_s: from the first visible movement. of_full: share of full speed, at most 1.
    answers: how many measured answers it rests on. source: partner rounds, solo drills (another
    stimulus and movement: a first guess), or the rule of thumb. need: what partner rounds tell.
    """

    start_to_arrival_s: float
    of_full: float
    answers: int
    source: FromWhat
    need: Need | None = None


@dataclass(frozen=True, slots=True)
class Needed:
    """The time (s) to leave a defender for an answer, on how many measured answers it rests, what
    they are from, and what partner rounds tell."""

    time_s: float
    answers: int
    source: FromWhat
    need: Need | None = None


def needed_time(
    target: float, *, partner: Sequence[Held] = (), solo: Sequence[Measured] = ()
) -> Needed:
    """The time in which a share `target` of answers is expected to come right.

    partner: what partner rounds tell (see `need.need`). solo: answers in solo drills: the
    smallest time that held this share of them, wrong and missed ones counting as never; where these
    are more than it allows, the slowest right answer. Too few of either: the rule of thumb.
    """
    in_pairs = need(partner, target)
    if in_pairs is not None:
        return Needed(in_pairs.feed_s, in_pairs.attacks, "partner", in_pairs)
    alone_s = needed(solo, target)
    if alone_s is not None:
        return Needed(alone_s, len(solo), "solo")
    return Needed(BEHIND_S, 0, "rule")


def feed_pace(time: AttackTime, to_leave: Needed) -> FeedPace:
    """The pace that leaves the defender this time; no attack is faster than full speed."""
    paced = max(to_leave.time_s, time.full_s)
    return FeedPace(
        start_to_arrival_s=round(paced, 3),
        of_full=round(time.full_s / paced, 3),
        answers=to_leave.answers,
        source=to_leave.source,
        need=to_leave.need,
    )


def needed(measured: Sequence[Measured], target: float) -> float | None:
    """The time (s) inside which a share `target` of answers came right; None: too few to say."""
    if len(measured) < TOO_FEW:
        return None
    times = sorted(
        each.time_ms / 1000 if each.right and each.time_ms is not None else inf for each in measured
    )
    held = times[ceil(target * len(times) - 1e-9) - 1]
    if held < inf:
        return held
    right = [time for time in times if time < inf]
    return right[-1] if right else None


def rests_on(pace: FeedPace) -> str:
    """What a feed pace comes from, in words."""
    return {
        "partner": _in_pairs(pace),
        "solo": f"from {pace.answers} answers in solo drills: a first guess, the cue and the "
        "movement were others",
        "rule": "nothing measured yet: who reacts is about half a second behind",
    }[pace.source]


def _in_pairs(pace: FeedPace) -> str:
    told = f"from {pace.answers} attacks in partner rounds"
    if pace.need is None:
        return told
    if pace.need.at_least:
        return f"{told}: at least {pace.need.time_s:.2f} s, none was slow enough to tell"
    between = f"{pace.need.low_s:.2f} to {pace.need.high_s:.2f} s"
    return f"{told}: about {pace.need.time_s:.2f} s are needed ({between}), fed on the safe side"


_FIFTHS = ("a fifth", "two fifths", "three fifths", "four fifths", "full speed")


def speed_in_words(of_full: float) -> str:
    """Share of full speed as a coach says it: "about three fifths of full speed"."""
    fifths = min(5, max(1, round(of_full * 5)))
    if fifths == 5:
        return "full speed" if of_full >= 0.99 else "nearly full speed"
    return f"about {_FIFTHS[fifths - 1]} of full speed"
