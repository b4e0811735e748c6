"""The time a defender needs, believed from attacks of which only pass or fail is known.

The share kept out rises with the time there was as a log-normal distribution of the time needed
does, less a share that gets through whatever the time. Each made-up defender (the middle time, its
spread, that share) is weighted by how well the attacks fit (a grid posterior, as in Kontsevich and
Tyler 1999, Vision Research 39:2729, from memory). Before any attack half a second is believed, the
rule of thumb.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr, ndtri

from hastatus.core.plan.feed_pace import BEHIND_S, Need
from hastatus.core.read.defender_time import DefendedAttack
from hastatus.core.read.proportion import TOO_FEW

Array = NDArray[np.float64]

CAREFUL = 0.85
"""A feed is suggested that is long enough with this probability."""
NEAR_ENOUGH = 0.06
"""A feed is long enough that keeps out the target's share less this."""

_MIDDLES = np.exp(np.arange(np.log(0.2), np.log(1.6), 0.02))
_MIDDLE_SPREAD = 0.22
"""How far, in ln s, people's middle times are from one another."""
_SPREADS = np.array([0.08, 0.12, 0.16, 0.2, 0.25, 0.3, 0.4])
_SPREAD_WEIGHTS = np.array([0.17, 0.22, 0.2, 0.16, 0.12, 0.08, 0.05])
_THROUGH = np.array([0.0, 0.03, 0.07])
_THROUGH_WEIGHTS = np.array([0.5, 0.3, 0.2])
_BEYOND_S = 0.05
"""How far beyond the longest time that was tried anything is said to be, in seconds."""


def need(held: Sequence[DefendedAttack], target: float) -> Need | None:
    """What the attacks tell; None: too few."""
    if len(held) < TOO_FEW:
        return None
    weights = _belief(held)
    longest_s = max(attack.start_to_arrival_s for attack in held)
    times = _quantiles(target)
    believed_s = float(np.exp((weights * np.log(times)).sum()))
    time_s = min(believed_s, longest_s + _BEYOND_S)
    low_s, high_s = _weighted(times, weights, 0.025), _weighted(times, weights, 0.975)
    enough_s = _weighted(_quantiles(target - NEAR_ENOUGH), weights, CAREFUL)
    return Need(
        time_s=round(time_s, 3),
        low_s=round(min(low_s, time_s), 3),
        high_s=round(max(high_s, time_s), 3),
        at_least=believed_s > longest_s,
        feed_s=round(max(time_s, enough_s), 3),
        attacks=len(held),
    )


def _belief(held: Sequence[DefendedAttack]) -> Array:
    """A weight for each middle time, spread and share that gets through; their sum is one."""
    had = np.log([max(attack.start_to_arrival_s, 0.02) for attack in held])
    clean = np.array([attack.clean for attack in held])
    apart = (had[:, None] - np.log(_MIDDLES)[None, :])[:, :, None] / _SPREADS
    enough = ndtr(apart)[..., None] * (1 - _THROUGH)
    seen = np.where(clean[:, None, None, None], enough, 1 - enough)
    total = np.log(seen + 1e-12).sum(axis=0)
    total += (-0.5 * (np.log(_MIDDLES / BEHIND_S) / _MIDDLE_SPREAD) ** 2)[:, None, None]
    total += np.log(_SPREAD_WEIGHTS)[None, :, None] + np.log(_THROUGH_WEIGHTS)[None, None, :]
    weights = np.exp(total - total.max())
    result: Array = weights / weights.sum()
    return result


def _quantiles(target: float) -> Array:
    """The time in which each made-up defender keeps out this share, s."""
    within = np.minimum(target / (1 - _THROUGH), 0.995)
    times: Array = _MIDDLES[:, None, None] * np.exp(_SPREADS[:, None] * ndtri(within))
    return times


def _weighted(times: Array, weights: Array, share: float) -> float:
    order = np.argsort(times, axis=None)
    summed = np.cumsum(weights.ravel()[order])
    return float(np.interp(share, summed, times.ravel()[order]))
