"""Where a student starts a drill that is new to them: from what is known already, and from what.

In this order: the student's own times of the same answers in other drills; where the first runs of
the club's other students settled, and how that goes with their tests and the student's own; the
last test alone, by what choice costs; else the rung's own window.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hastatus.core.adapt.ladder import Suggestion, rule_of
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.prior import LEAST_STUDENTS, FirstRun, Prior, of_club
from hastatus.core.plan.statistics import entropy
from hastatus.core.read.baseline import Baseline
from hastatus.core.read.expected_share import Measured
from hastatus.core.read.summary import quantile

LEAST_ANSWERS = 20
ANSWERS_SPREAD = 0.25
"""How far, in ln time, the same answers in another drill may lie from this one."""


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of a student before the first run of a drill.

    answers: the last times of the same answers in other drills. baseline: the last test.
    club: where the first runs of other students settled on the first rung, s, and their last test.
    """

    answers: Sequence[Measured] = ()
    baseline: Baseline | None = None
    club: Sequence[tuple[float, Baseline | None]] = ()


def first(drill: Drill, known: Known) -> Suggestion:
    """The first rung, with the window that what is known speaks for. A fixed window stays."""
    rung = drill.rungs[0]
    first = None if drill.pace.rule == "hold" else _told(drill, known)
    if first is None:
        reason = "No run yet: begin on rung 1 with its own window."
        return Suggestion("start", 1, rung.window_s, reason, rule_of(drill, "start"))
    window_s = round(min(max(first[0].window_s, drill.pace.least_s), drill.pace.most_s), 2)
    reason = f"No run yet: begin on rung 1 with {first[1]}."
    return Suggestion("start", 1, window_s, reason, rule_of(drill, "start"))


def prior(drill: Drill, known: Known) -> Prior | None:
    """What is believed of the window on the first rung; None where nothing is known."""
    first = _told(drill, known)
    return first[0] if first else None


def tested_s(drill: Drill, baseline: Baseline | None) -> float | None:
    """The usual answer on the first rung, s, as a test foretells it by the bits of choice."""
    if baseline is None or baseline.choice is None or baseline.doubt:
        return None
    return baseline.choice.base_s + baseline.choice.cost_s * _bits(drill)


def _bits(drill: Drill) -> float:
    shares = drill.shares(drill.rungs[0])
    asking = [share for key, share in shares.items() if not drill.cue(key).is_catch]
    return entropy([share / sum(asking) for share in asking])


def _told(drill: Drill, known: Known) -> tuple[Prior, str] | None:
    """What is believed, and on what it rests."""
    return _from_answers(drill, known) or _from_club(drill, known)


def _from_answers(drill: Drill, known: Known) -> tuple[Prior, str] | None:
    times = [
        answer.time_ms for answer in known.answers if answer.right and answer.time_ms is not None
    ]
    if len(times) < LEAST_ANSWERS:
        return None
    window = quantile(times, (), drill.pace.target)
    if window is None:
        return None
    share = f"{drill.pace.target:.0%}".replace("%", " %")
    said = f"the window that {share} of the last {len(times)} same answers in other drills kept"
    return Prior(window_s=window / 1000, spread=ANSWERS_SPREAD), said


def _from_club(drill: Drill, known: Known) -> tuple[Prior, str] | None:
    tested = tested_s(drill, known.baseline)
    runs = [FirstRun(window_s, tested_s(drill, test)) for window_s, test in known.club]
    window = of_club(runs, tested)
    if window is None:
        return None
    by_test = f"what the last five-minute test makes of {2 ** _bits(drill):.1f} choices"
    both = sum(run.tested_s is not None for run in runs)
    if tested is None:
        said = f"the middle of where {len(runs)} other students' first runs settled"
    elif both < LEAST_STUDENTS:
        said = by_test
    else:
        said = f"{by_test}, as it went for {both} other students"
    return window, said
