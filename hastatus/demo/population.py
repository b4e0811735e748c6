"""Populations of simulated response times, for trying controllers out.

`ex_gaussian` is the usual shape; `gamma` and `two_speed` are there so that nothing is tuned to it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.signal import lfilter
from scipy.special import ndtr

from hastatus.core.adapt.controllers import ControllerState, fold_outcome, settle, take_measured
from hastatus.core.adapt.window_belief import TimedOutcome
from hastatus.core.drill.solo import Pace
from hastatus.core.plan.prior import Prior

Times = NDArray[np.float64]
Draw = Callable[[np.random.Generator, int], Times]


@dataclass(frozen=True, slots=True)
class Subject:
    """A simulated student: response times in seconds from `draw`, and shares of lapses and of
    wrong answers."""

    draw: Draw
    lapses: float
    wrong: float = 0.0

    def quantile(self, share: float, rng: np.random.Generator) -> float:
        """The window met with probability `share`: the share/(1 − lapses)(1 − wrong) quantile."""
        times = self.draw(rng, 20_000)
        answered = (1.0 - self.lapses) * (1.0 - self.wrong)
        return float(np.quantile(times, min(1.0, share / answered)))


def ex_gaussian(rng: np.random.Generator) -> Subject:
    """µ 0.3–0.6 s, σ 0.03–0.08 s, τ 0.05–0.2 s, lapses 0–6 %."""
    mu, sigma, tau = rng.uniform(0.3, 0.6), rng.uniform(0.03, 0.08), rng.uniform(0.05, 0.2)
    return Subject(
        lambda generator, count: (
            generator.normal(mu, sigma, count) + generator.exponential(tau, count)
        ),
        rng.uniform(0, 0.06),
    )


def gamma(rng: np.random.Generator) -> Subject:
    """A shifted gamma: shift 0.2–0.4 s, shape 2–6, scale 0.02–0.06 s, lapses 0–6 %."""
    shift, shape, scale = rng.uniform(0.2, 0.4), rng.uniform(2, 6), rng.uniform(0.02, 0.06)
    return Subject(
        lambda generator, count: shift + generator.gamma(shape, scale, count),
        rng.uniform(0, 0.06),
    )


def two_speed(rng: np.random.Generator) -> Subject:
    """Mostly quick answers and, one time in five, slow ones by 0.1–0.25 s."""
    quick, slower, sigma = rng.uniform(0.35, 0.6), rng.uniform(0.1, 0.25), rng.uniform(0.03, 0.06)
    return Subject(
        lambda generator, count: (
            generator.normal(quick, sigma, count) + slower * (generator.random(count) < 0.2)
        ),
        rng.uniform(0, 0.06),
    )


def lognormal(rng: np.random.Generator) -> Subject:
    """A shifted log-normal: shift 0.15–0.35 s, median 0.1–0.35 s after it, spread 0.25–0.6."""
    shift, middle, spread = rng.uniform(0.15, 0.35), rng.uniform(0.1, 0.35), rng.uniform(0.25, 0.6)
    return Subject(
        lambda generator, count: shift + middle * np.exp(spread * generator.standard_normal(count)),
        rng.uniform(0, 0.06),
    )


def wald(rng: np.random.Generator) -> Subject:
    """A shifted Wald: shift 0.15–0.35 s, mean 0.12–0.35 s after it."""
    shift, mean, even = rng.uniform(0.15, 0.35), rng.uniform(0.12, 0.35), rng.uniform(3, 12)
    return Subject(
        lambda generator, count: shift + generator.wald(mean, mean * even, count),
        rng.uniform(0, 0.06),
    )


def narrow(rng: np.random.Generator) -> Subject:
    """Answers that are all about as quick: µ 0.2–0.5 s, σ and τ of 15–25 ms."""
    mu, sigma, tau = rng.uniform(0.2, 0.5), rng.uniform(0.015, 0.025), rng.uniform(0.015, 0.025)
    return Subject(
        lambda generator, count: (
            generator.normal(mu, sigma, count) + generator.exponential(tau, count)
        ),
        rng.uniform(0, 0.06),
    )


def wide(rng: np.random.Generator) -> Subject:
    """Answers far apart: µ 0.3–0.6 s, σ 0.08 s, τ 0.2–0.25 s."""
    mu, tau = rng.uniform(0.3, 0.6), rng.uniform(0.2, 0.25)
    return Subject(
        lambda generator, count: (
            generator.normal(mu, 0.08, count) + generator.exponential(tau, count)
        ),
        rng.uniform(0, 0.06),
    )


def autocorrelated(rng: np.random.Generator) -> Subject:
    """The usual shape, each answer like the one before it: correlation 0.3 of normal scores."""
    mu, sigma, tau = rng.uniform(0.3, 0.6), rng.uniform(0.03, 0.08), rng.uniform(0.05, 0.2)

    def draw(generator: np.random.Generator, count: int) -> Times:
        shocks = generator.standard_normal(count)
        scores = lfilter([np.sqrt(1 - 0.3**2)], [1, -0.3], shocks)
        slow = -tau * np.log(ndtr(-np.clip(scores, -6, 6)))
        return np.asarray(mu + slow + sigma * generator.standard_normal(count))

    return Subject(draw, rng.uniform(0, 0.06))


@dataclass(frozen=True, slots=True)
class Tracking:
    """How well a controller followed.

    clean_share: of the cues from the eleventh on (measured) or the twenty-first; after a step, from
    the eleventh after it. early_p90, error_p90: 90th percentile of |ln(window / true quantile)|
    after 15 outcomes, and at the end.
    """

    clean_share: float
    early_p90: float
    error_p90: float


GRACE_S = 0.4


def track(
    population: Callable[[np.random.Generator], Subject],
    pace: Pace,
    *,
    students: int,
    seed: int,
    start_s: float,
    prior: Prior | None = None,
    cues: int = 60,
    drift: float = 0.0,
    step: float = 0.0,
) -> Tracking:
    """Run `students` of a population under `pace`; each outcome arrives one cue late.

    drift: how much slower a student is at the end than at the start, in ln time; step: how much all
    at once, after a third of the cues.
    """
    rng = np.random.default_rng(seed)
    shares, early, errors = [], [], []
    for _ in range(students):
        subject = population(rng)
        stepped = step * (np.arange(cues) >= cues // 3)
        slower = np.exp(drift * np.arange(cues) / cues + stepped)
        times, lapsed = subject.draw(rng, cues) * slower, rng.random(cues) < subject.lapses
        wrong = rng.random(cues) < subject.wrong if subject.wrong else np.zeros(cues, dtype=bool)
        windows, clean = follow_subject(pace, start_s, prior, times, lapsed, wrong)
        settled = 10 if pace.rule == "measured" else 20
        shares.append(np.mean(clean[settled + (cues // 3 if step else 0) :]))
        right = subject.quantile(pace.target, rng)
        early.append(abs(np.log(windows[15] / (right * slower[15]))))
        errors.append(abs(np.log(windows[cues] / (right * np.exp(drift + step)))))
    return Tracking(
        float(np.mean(shares)), float(np.quantile(early, 0.9)), float(np.quantile(errors, 0.9))
    )


def follow_subject(
    pace: Pace,
    start_s: float,
    prior: Prior | None,
    times: Times,
    lapsed: NDArray[np.bool_],
    wrong: NDArray[np.bool_],
) -> tuple[list[float], list[bool]]:
    """The window after each number of outcomes, and which cues were clean."""
    state = ControllerState(window_s=start_s)
    windows, clean = [start_s], list[bool]()
    happened = zip(times.tolist(), lapsed.tolist(), wrong.tolist(), strict=True)
    for cue, (time, lapse, error) in enumerate(happened):
        # The window of this cue was committed before the last outcome came back.
        window = windows[max(0, cue - 1)]
        came = not lapse and time <= window + GRACE_S
        clean.append(came and not error and time <= window)
        if pace.rule == "measured":
            seen = time if came else window + GRACE_S
            right = came and not error
            take_measured(state, TimedOutcome(None if came and error else 1000 * seen, right))
            settle(state, pace, prior or Prior(window_s=start_s))
        else:
            fold_outcome(state, pace, clean=clean[-1])
        windows.append(state.window_s)
    return windows, clean
