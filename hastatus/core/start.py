"""Where a student starts a drill that is new to them: from what is known already, and from what.

In this order: the student's own times of the same answers in other drills; the last baseline, by
what choice costs; what the club's other students settled at; else the rung's own window.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

from hastatus.core.baseline import Baseline
from hastatus.core.drill import Drill
from hastatus.core.expect import Measured
from hastatus.core.figures import entropy
from hastatus.core.ladder import Suggestion, rule_of
from hastatus.core.stats import quantile

LEAST_ANSWERS = 20
LEAST_STUDENTS = 3
WINDOW_TO_MEDIAN = 1.4
"""A window that most answers are inside is about this many medians (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of a student before the first run of a drill.

    answers: the last times of the same answers in other drills. baseline: the last one.
    club_s: where the first runs of other students settled on the first rung, s.
    """

    answers: Sequence[Measured] = ()
    baseline: Baseline | None = None
    club_s: Sequence[float] = ()


def first(drill: Drill, known: Known) -> Suggestion:
    """The first rung, with the window that what is known speaks for. A fixed window stays."""
    rung = drill.rungs[0]
    found = None
    if drill.pace.rule != "hold":
        found = _from_answers(drill, known) or _from_baseline(drill, known) or _from_club(known)
    if found is None:
        reason = "No run yet: begin on rung 1 with its own window."
        return Suggestion("start", 1, rung.window_s, reason, rule_of(drill, "start"))
    window_s = round(min(max(found[0], drill.pace.least_s), drill.pace.most_s), 2)
    reason = f"No run yet: begin on rung 1 with {found[1]}."
    return Suggestion("start", 1, window_s, reason, rule_of(drill, "start"))


def _from_answers(drill: Drill, known: Known) -> tuple[float, str] | None:
    times = [each.time_ms for each in known.answers if each.right and each.time_ms is not None]
    if len(times) < LEAST_ANSWERS:
        return None
    found = quantile(times, (), drill.pace.target)
    if found is None:
        return None
    share = f"{drill.pace.target:.0%}".replace("%", " %")
    said = f"the window that {share} of the last {len(times)} same answers in other drills kept"
    return found / 1000, said


def _from_baseline(drill: Drill, known: Known) -> tuple[float, str] | None:
    if known.baseline is None or known.baseline.choice is None:
        return None
    shares = drill.shares(drill.rungs[0])
    asking = [share for key, share in shares.items() if not drill.cue(key).is_catch]
    bits = entropy([share / sum(asking) for share in asking])
    cost = known.baseline.choice
    usual_s = cost.base_s + cost.cost_s * bits
    said = f"what the last five-minute test makes of {bits:.1f} bits of choice"
    return WINDOW_TO_MEDIAN * usual_s, said


def _from_club(known: Known) -> tuple[float, str] | None:
    if len(known.club_s) < LEAST_STUDENTS:
        return None
    said = f"the middle of where {len(known.club_s)} other students' first runs settled"
    return median(known.club_s), said
