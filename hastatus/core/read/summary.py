"""Summaries that say how sure they are.

Response times are described over right answers, clean or late; a missed cue is an answer that had
not come when listening stopped, so it is *censored* there, and every quantile treats it so.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass
from typing import TypeVar

from hastatus.core.read.dependence import Dependence, Place, dependence
from hastatus.core.read.proportion import TOO_FEW, Z_95, Interval, wilson_of
from hastatus.core.score.response import Response


def quantile(times: Sequence[float], censored: Sequence[float], share: float) -> float | None:
    """The `share` quantile of times of which some are only known to exceed a limit.

    Kaplan and Meier's product-limit estimate (1958, J. Am. Stat. Assoc. 53:457): the smallest time
    by which at least `share` had answered. None where so much is censored that it is not reached.
    Without censoring it is the ordinary inverse of the empirical distribution.
    """
    observed = sorted(times)
    limits = sorted(censored)
    total = len(observed) + len(limits)
    surviving = 1.0
    for index, time in enumerate(observed):
        gone = index + bisect_left(limits, time)
        surviving *= 1.0 - 1.0 / (total - gone)
        if 1.0 - surviving >= share - 1e-12:
            return time
    return None


def quantile_interval(
    times: Sequence[float], censored: Sequence[float], share: float, widening: float = 1.0
) -> tuple[float | None, float | None]:
    """A 95 % interval for `quantile`, from the binomial spread of how many lie below it.

    widening: standard error against independent answers (see `dependence`). The ends are quantiles
    of the sample; None where not reached.
    """
    count = len(times) + len(censored)
    if count == 0:
        return None, None
    # The ends are whole answers, which makes the interval a little too long.
    spread = Z_95 * widening * math.sqrt(share * (1 - share) / count) - 0.1 / count
    low = quantile(times, censored, max(1 / count, share - spread))
    high = quantile(times, censored, min(1.0, share + spread))
    return low, high


def places_of(responses: Sequence[Response]) -> list[Place]:
    """Where responses stand in their run."""
    return [Place(response.round, response.slot) for response in responses]


def time_dependence(responses: Iterable[Response]) -> Dependence:
    """How far right answers go together, each less the median of its own cue."""
    kept = [response for response in responses if response.counts and response.right_ms is not None]
    times: dict[str, list[float]] = {}
    for response in kept:
        times.setdefault(response.cue, []).append(response.time_ms or 0.0)
    usual = {cue: sorted(times_ms)[len(times_ms) // 2] for cue, times_ms in times.items()}
    return dependence(
        [(response.time_ms or 0.0) - usual[response.cue] for response in kept], places_of(kept)
    )


@dataclass(frozen=True, slots=True)
class Summary:
    """Figures of a group of responses that count.

    count: cues that asked for an answer. clean_share with its interval (None when count is 0).
    median_ms, quarter_ms, three_quarter_ms: of right answers, censored ones taken into account;
    None where there are fewer than `TOO_FEW` or where it is not reached. median_low_ms,
    median_high_ms: 95 % interval of the median. held, held_of: catch cues.
    counters, counters_of: counters that were clean, of those asked for after a right answer.
    not_sensed: cues whose answer lands on nothing. left_out: for any other reason. holds_cut: holds
    that the next step cut short, of `holds_of`. before: answers that were struck just before the
    cue, too.
    """

    count: int
    clean: int
    late: int
    wrong: int
    missed: int
    jumped: int
    clean_share: float | None
    clean_interval: Interval | None
    median_ms: float | None
    quarter_ms: float | None
    three_quarter_ms: float | None
    censored: int
    held: int
    held_of: int
    left_out: int
    counters: int = 0
    counters_of: int = 0
    not_sensed: int = 0
    holds_cut: int = 0
    holds_of: int = 0
    before: int = 0
    median_low_ms: float | None = None
    median_high_ms: float | None = None


def right_times(
    responses: Iterable[Response], *, less_offset: bool = False
) -> tuple[list[float], list[float]]:
    """Times of right answers (ms) and the limits of missed ones (ms), over what counts.

    less_offset: less what the window held beyond the answer window, to be set against that.
    """
    times: list[float] = []
    censored: list[float] = []
    for response in responses:
        if not response.counts or response.asked_technique is None:
            continue
        less_ms = response.offset_ms if less_offset else 0.0
        if response.right_ms is not None:
            times.append(response.right_ms - less_ms)
        elif response.censored_ms is not None:
            censored.append(response.censored_ms - less_ms)
    return times, censored


def summarise(responses: Sequence[Response], together: Dependence | None = None) -> Summary:
    """The figures of `responses`. together: how far the answers of the run go together, where
    these are some of them."""
    trusted = [response for response in responses if response.counts]
    asked = [response for response in trusted if response.asked_technique is not None]
    catch = [response for response in trusted if response.asked_technique is None]
    tally = {
        outcome: sum(response.outcome == outcome for response in asked)
        for outcome in ("clean", "late", "wrong", "missed", "jumped")
    }
    steps = [response.step("counter") for response in asked]
    counters = [step.outcome for step in steps if step is not None]
    not_sensed = sum(response.left_out == "not_sensed" for response in responses)
    times, censored = right_times(asked)
    enough = len(times) + len(censored) >= TOO_FEW
    together = together or time_dependence(asked)
    low, high = _median_interval(asked, times, censored, together) if enough else (None, None)
    quarter, median, three_quarter = (
        quantile(times, censored, share) if enough else None for share in (0.25, 0.5, 0.75)
    )
    return Summary(
        count=len(asked),
        clean=tally["clean"],
        late=tally["late"],
        wrong=tally["wrong"],
        missed=tally["missed"],
        jumped=tally["jumped"],
        clean_share=tally["clean"] / len(asked) if asked else None,
        clean_interval=_clean_interval(asked, together) if asked else None,
        median_ms=median,
        quarter_ms=quarter,
        three_quarter_ms=three_quarter,
        censored=len(censored),
        held=sum(response.outcome == "held" for response in catch),
        held_of=len(catch),
        left_out=len(responses) - len(trusted) - not_sensed,
        counters=counters.count("clean"),
        counters_of=len(counters),
        not_sensed=not_sensed,
        holds_cut=sum(hold.cut_short for response in asked for hold in response.holds),
        holds_of=sum(len(response.holds) for response in asked),
        before=sum(response.before_ms is not None for response in asked),
        median_low_ms=low,
        median_high_ms=high,
    )


def _median_interval(
    asked: Sequence[Response],
    times: Sequence[float],
    censored: Sequence[float],
    together: Dependence,
) -> tuple[float | None, float | None]:
    known = [response for response in asked if response.timed]
    widening = together.of_sides.widening([1.0] * len(known), places_of(known))
    return quantile_interval(times, censored, 0.5, widening)


def _clean_interval(asked: Sequence[Response], together: Dependence) -> Interval:
    """Wilson's interval for as many independent answers as say as much."""
    widening = together.of_sides.widening([1.0] * len(asked), places_of(asked))
    clean = sum(response.outcome == "clean" for response in asked)
    return wilson_of(clean / len(asked), len(asked) / widening**2)


K = TypeVar("K", bound=Hashable)


def grouped(
    responses: Iterable[Response], key: Callable[[Response], K | None]
) -> dict[K, list[Response]]:
    """Responses by `key`, in order of first appearance; those whose key is None are dropped."""
    groups: dict[K, list[Response]] = {}
    for response in responses:
        name = key(response)
        if name is not None:
            groups.setdefault(name, []).append(response)
    return groups
