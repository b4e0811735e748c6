"""What the times of a run say: their distribution, what makes a difference, tiring inside the run.

Times are those of right answers. Each comparison keeps to what can be compared: words take time to
be told from one another, so cues that are spoken are left out of it.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.read import exgaussian
from hastatus.core.read.dependence import Dependence, dependence
from hastatus.core.read.difference import Difference, Group, difference
from hastatus.core.read.proportion import TOO_FEW
from hastatus.core.read.summary import places_of, quantile_interval, right_times, time_dependence
from hastatus.core.read.trend import Slope, robust_slope
from hastatus.core.score.response import Response

SLOW_FROM = 1.5
"""An answer is slow from this many times the median on."""
BINS = 24
SHORT_GAP_MS = 350.0
"""Up to this gap the first answer of an overlapping pair can be in the way of the second."""

Contrast = Literal["side", "channel", "overlap", "switch", "half"]
CONTRAST_NAMES: dict[Contrast, str] = {
    "side": "rear side, against lead side",
    "channel": "light, against sound",
    "overlap": "second of a pair, against alone",
    "switch": "switching block and strike, against same again",
    "half": "second half, against first half",
}


@dataclass(frozen=True, slots=True)
class Distribution:
    """Right answers' times by bins, and the ex-Gaussian that fits them.

    from_ms, bin_ms: start of the first bin, and width of each. counts: answers in each bin.
    curve: answers a bin that the fit expects, at the middle of each. mu_ms, sigma_ms, tau_ms: of
    the fit (see `exgaussian`); None and an empty curve where the answers are too few to fit.
    slow: answers later than 1.5 times the median. never: cues whose answer never came.
    """

    from_ms: float
    bin_ms: float
    counts: list[int]
    curve: list[float]
    mu_ms: float | None
    sigma_ms: float | None
    tau_ms: float | None
    answers: int
    slow: int
    never: int


@dataclass(frozen=True, slots=True)
class Compared:
    """One comparison. found: None where either side of it has too few answers to say."""

    contrast: Contrast
    first: str
    second: str
    found: Difference | None


@dataclass(frozen=True, slots=True)
class Middle:
    """A median with its 95 % interval, ms."""

    ms: float
    low_ms: float
    high_ms: float


@dataclass(frozen=True, slots=True)
class HomeTimes:
    """Medians of a run with a home key: cue to leaving home, leaving to the hit, the hit to being
    back. None with fewer than eight of them. left: answers that home was left for.
    """

    reaction: Middle | None
    movement: Middle | None
    back: Middle | None
    left: int


@dataclass(frozen=True, slots=True)
class Reading:
    """tiring: ms that answers get slower by in a minute of the run, each against its own cue.

    queue: ms of time that the second of an overlapping pair gains for each ms of gap; −1 where it
    waits for the first (Welford 1952; Pashler 1994, memory). left_out: cues by why they are.
    """

    distribution: Distribution | None
    compared: list[Compared]
    tiring: Slope | None
    queue: Slope | None
    left_out: dict[str, int]
    home: HomeTimes | None = None


def read_times(drill: Drill, responses: Sequence[Response]) -> Reading:
    """Read the times of a scored run of `drill`."""
    asked = [response for response in responses if response.asked_technique is not None]
    counted = comparable(drill, asked)
    seconds = second_of_a_pair(asked)
    return Reading(
        distribution=_distribution(asked),
        compared=compare(drill, counted, seconds),
        tiring=tiring(asked),
        queue=_queue([response for response in counted if id(response) in seconds]),
        left_out=dict(Counter(response.left_out for response in responses if response.left_out)),
        home=_home([response for response in asked if response.left_out is None]),
    )


def _home(kept: Sequence[Response]) -> HomeTimes | None:
    left = [
        response
        for response in kept
        if response.reaction_ms is not None and response.reaction_ms >= 0
    ]
    if not left:
        return None
    back = [response for response in left if response.home_ms is not None]
    hits = [
        response
        for response in left
        if response.timed_with != "home" and response.time_ms is not None
    ]
    return HomeTimes(
        reaction=_middle(left, [response.reaction_ms or 0.0 for response in left]),
        movement=_middle(hits, [(hit.time_ms or 0.0) - (hit.reaction_ms or 0.0) for hit in hits]),
        back=_middle(
            back, [(response.home_ms or 0.0) - (response.time_ms or 0.0) for response in back]
        ),
        left=len(left),
    )


def _middle(of: Sequence[Response], values: Sequence[float]) -> Middle | None:
    if len(values) < TOO_FEW:
        return None
    places = places_of(of)
    together = dependence(values, places).of_sides
    low, high = quantile_interval(values, (), 0.5, together.widening([1.0] * len(of), places))
    middle = float(np.median(values))
    return Middle(middle, min(middle, low or middle), max(middle, high or middle))


def comparable(drill: Drill, responses: Sequence[Response]) -> list[Response]:
    """Those whose times can be set against those of other cues.

    Not the spoken ones; and where several inputs timed a run, only what most answers came from,
    for each has a latency of its own.
    """
    spoken = {cue.key for cue in drill.cues if cue.stimulus.kind in ("call", "recording")}
    counted = [response for response in responses if response.cue not in spoken]
    inputs = Counter(response.timed_with for response in counted if response.timed_with)
    if len(inputs) > 1:
        usual = inputs.most_common(1)[0][0]
        counted = [response for response in counted if response.timed_with in (usual, None)]
    return counted


def side_difference(drill: Drill, responses: Sequence[Response]) -> Difference | None:
    """How much slower the rear side was than the lead; None with too few answers to say."""
    counted = comparable(drill, responses)
    sides = {
        side: [response for response in counted if response.asked_side == side]
        for side in ("lead", "rear")
    }
    return _difference("lead", sides["lead"], "rear", sides["rear"], time_dependence(counted))


def _distribution(asked: Sequence[Response]) -> Distribution | None:
    times, censored = right_times(asked)
    if not times:
        return None
    low, high = min(times), max(times)
    width = max(10.0, float(np.ceil((high - low) / BINS / 5) * 5))
    start = float(np.floor(low / width) * width)
    bins = int((high - start) // width) + 1
    edges = np.linspace(start, start + width * bins, bins + 1, dtype=np.float64)
    counts, _ = np.histogram(times, edges)
    fitted = exgaussian.fit(times, censored)
    curve: list[float] = []
    if fitted:
        middle = np.asarray(edges[:-1] + width / 2, dtype=np.float64)
        expected = np.exp(fitted.log_density(middle)) * width * (len(times) + len(censored))
        curve = [round(share, 3) for share in expected.tolist()]
    return Distribution(
        from_ms=start,
        bin_ms=width,
        counts=counts.tolist(),
        curve=curve,
        mu_ms=fitted.mu if fitted else None,
        sigma_ms=fitted.sigma if fitted else None,
        tau_ms=fitted.tau if fitted else None,
        answers=len(times),
        slow=sum(time > SLOW_FROM * float(np.median(times)) for time in times),
        never=len(censored),
    )


def second_of_a_pair(asked: Sequence[Response]) -> set[int]:
    """Ids of the responses to the later cue of an overlapping pair."""
    seconds = set()
    for before, after in pairwise(asked):
        gap_ms = after.onset_ms - before.onset_ms
        if after.gap_ms is not None and abs(after.gap_ms - gap_ms) < 1:
            seconds.add(id(after))
    return seconds


def compare(drill: Drill, counted: Sequence[Response], seconds: set[int]) -> list[Compared]:
    """What makes answers slower, one comparison at a time. seconds: see `second_of_a_pair`."""
    alone = [response for response in counted if response.gap_ms is None]
    same, switched = _switches(drill, alone)
    half = len(alone) // 2
    together = time_dependence(counted)
    pairs: list[tuple[Contrast, str, Sequence[Response], str, Sequence[Response]]] = [
        (
            "side",
            "lead",
            [response for response in counted if response.asked_side == "lead"],
            "rear",
            [response for response in counted if response.asked_side == "rear"],
        ),
        (
            "channel",
            "sound",
            [response for response in counted if response.channel == "hear"],
            "light",
            [response for response in counted if response.channel == "see"],
        ),
        ("overlap", "alone", alone, "overlapping", [x for x in counted if id(x) in seconds]),
        ("switch", "same again", same, "switching", switched),
        ("half", "first half", alone[:half], "second half", alone[half:]),
    ]
    return [
        Compared(contrast, name, other, _difference(name, first, other, second, together))
        for contrast, name, first, other, second in pairs
        if first and second
    ]


def _difference(
    name: str,
    first: Sequence[Response],
    other: str,
    second: Sequence[Response],
    together: Dependence,
) -> Difference | None:
    """As wide as the answers' going together makes it: halves and rounds of their own more than
    what comes by turns."""
    ours, theirs = (
        [response for response in group if _is_timed(response)] for group in (first, second)
    )
    if not ours or not theirs:
        return None
    weights = [1 / len(ours)] * len(ours) + [-1 / len(theirs)] * len(theirs)
    # Ranks go together a little less than the times themselves.
    ranks = Dependence(0.9 * together.lag, 0.8 * together.rounds)
    widening = ranks.widening(weights, places_of([*ours, *theirs]))
    return difference(_group(name, first), _group(other, second), widening)


def _is_timed(response: Response) -> bool:
    return response.counts and response.timed


def _group(name: str, responses: Sequence[Response]) -> Group:
    times, censored = right_times(responses)
    return Group(name, times, censored)


def _switches(drill: Drill, counted: Sequence[Response]) -> tuple[list[Response], list[Response]]:
    """Answers that ask for the same use as the cue before, and those that switch.

    The uses are defending and attacking.
    """
    same, switched = list[Response](), list[Response]()
    for before, after in pairwise(counted):
        if before.round != after.round:
            continue
        uses = [_use(drill, responses) for responses in (before, after)]
        (same if uses[0] == uses[1] else switched).append(after)
    return same, switched


def _use(drill: Drill, response: Response) -> str:
    technique = drill.technique(response.asked_technique or "")
    return technique.use if technique else ""


def round_lengths_s(plan: RunPlan, responses: Sequence[Response]) -> list[float]:
    """Length of each round as far as it went, s: one by count may outlast its first plan."""
    last = {round_plan.number: round_plan.duration_s for round_plan in plan.rounds}
    for response in responses:
        last[response.round] = max(last[response.round], response.at_s + response.window_ms / 1000)
    return [round(last[number], 3) for number in sorted(last)]


def tiring(asked: Sequence[Response]) -> Slope | None:
    """Each answer less the median of its own cue, over minutes since the first."""
    times: dict[str, list[float]] = {}
    kept = [
        response
        for response in asked
        if response.counts and response.gap_ms is None and response.right_ms is not None
    ]
    for response in kept:
        times.setdefault(response.cue, []).append(response.time_ms or 0.0)
    usual = {cue: float(np.median(times_ms)) for cue, times_ms in times.items()}
    if not kept:
        return None
    first = kept[0].onset_ms
    minutes = [(response.onset_ms - first) / 60_000 for response in kept]
    off = [(response.time_ms or 0.0) - usual[response.cue] for response in kept]
    slope = robust_slope(minutes, off, 20)
    if slope is None:
        return None
    rest = [ms - slope.slope * at for ms, at in zip(off, minutes, strict=True)]
    places, middle = places_of(kept), sum(minutes) / len(minutes)
    together = dependence(rest, places, fitted=1)
    widening = together.widening([at - middle for at in minutes], places)
    return robust_slope(minutes, off, 20, widening)


def _queue(seconds: Sequence[Response]) -> Slope | None:
    kept = [
        second
        for second in seconds
        if second.counts and second.right_ms is not None and (second.gap_ms or 0.0) <= SHORT_GAP_MS
    ]
    return robust_slope(
        [response.gap_ms or 0.0 for response in kept],
        [response.time_ms or 0.0 for response in kept],
        12,
    )
