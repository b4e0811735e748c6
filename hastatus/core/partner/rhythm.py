"""The tempo that two people kept, and whether they ran ahead of it.

Only the strikes are heard, and some are lost. Their unevenness has two levels (Wing and
Kristofferson 1973, from memory): the beat itself wanders (*clock*: what is off adds up from beat to
beat), and each strike falls a little beside its beat (*motor*: the next one knows nothing of it).
How much there is of either is estimated along with the tempo, since the same eight beats that stand
out around a kept pulse are nothing unusual where the beat wanders.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import solve_triangular

LENGTHS = (4, 6, 8, 12, 16)
"""Beats that a stretch of running ahead is looked for in."""
SHARES = (0.0, 0.1, 0.25, 0.5, 0.75, 0.9, 0.97, 1.0)
"""Share of the unevenness that is motor, as it is tried."""
FEWEST = 24
"""Fewer strikes than this say nothing of running ahead."""
STANDS_OUT = 21.0
"""How much likelier (twice the log likelihood ratio) a stretch must make the strikes to be told.

Chosen so that under each way to be uneven fewer than two in a hundred rounds raise a false alarm.
"""

_PLACE, _LENGTH = 0.8, 0.1
"""How far the place and the length of the beat follow a strike that is off."""

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class RanAhead:
    """A stretch of beats that came faster. faster: by which share the interval was shorter."""

    from_beat: int
    beats: int
    faster: float


@dataclass(frozen=True, slots=True)
class Rhythm:
    """The rhythm of a round.

    beat_s: mean time from beat to beat, a stretch of running ahead left out. uneven: standard
    deviation of a strike's time against its beat and of the beat itself, as a share of the beat.
    motor: share of that unevenness that does not add up: 1 is a kept pulse. strikes: how many it
    rests on. ran_ahead: None where nothing stands out, or too little is heard to say.
    """

    beat_s: float
    uneven: float
    motor: float
    strikes: int
    ran_ahead: RanAhead | None

    @property
    def tempo_bpm(self) -> float:
        """Beats a minute: 60 s / beat."""
        return 60.0 / self.beat_s


def number_beats(times_s: Sequence[float], beat_s: float) -> list[int]:
    """Which beat each strike is on, the first being 0; lost ones are stepped over.

    The next beat is expected from where the beat is, not only from the last strike, and both the
    place and the length of the beat follow what is heard. Of two strikes on one beat both have its
    number.
    """
    numbers = [0]
    lately, at = beat_s, times_s[0]
    for time in times_s[1:]:
        beats = round((time - at) / lately)
        numbers.append(numbers[-1] + beats)
        off = time - (at + beats * lately)
        at += beats * lately + _PLACE * off
        if beats:
            lately += _LENGTH * min(max(off / beats, -0.3 * lately), 0.4 * lately)
    return numbers


def rhythm(
    times_s: Sequence[float], beat_s: float, *, parts: int = 1, pulse: bool = False
) -> Rhythm | None:
    """The rhythm of strikes at these times; None for fewer than three beats.

    beat_s: the beat that was asked for, from which the count begins. parts: 2 where strikes come on
    half beats, too. pulse: a metronome was heard, with a beat at time 0: each strike is on the beat
    it is nearest to, however long the pause before it.
    """
    if parts > 1:
        told = rhythm(times_s, beat_s / parts, pulse=pulse)
        return _in_beats(told, parts) if told else None
    beats, heard = _one_a_beat(times_s, beat_s, pulse=pulse)
    if len(beats) < 3:
        return None
    scale = (heard[-1] - heard[0]) / (beats[-1] - beats[0])
    plain = [_fit(beats, heard / scale, share) for share in SHARES]
    best = max(plain, key=lambda fit: fit.likelihood)
    found = _ahead(beats, heard / scale, best.likelihood) if len(beats) >= FEWEST else None
    uneven = found.fit if found else best
    ran = None
    if found:
        faster = float(np.clip(-found.slope, 0, 1))
        ran = RanAhead(found.start, found.length, round(faster, 4))
    return Rhythm(
        beat_s=_mean_beat(beats, heard, ran),
        uneven=round(float(uneven.spread), 4),
        motor=uneven.share,
        strikes=len(times_s),
        ran_ahead=ran,
    )


def _in_beats(told: Rhythm, parts: int) -> Rhythm:
    """What was counted in parts of a beat, in beats."""
    ran = told.ran_ahead
    if ran:
        beats = max(1, round(ran.beats / parts))
        ran = RanAhead(ran.from_beat // parts, beats, ran.faster)
    uneven = round(told.uneven / parts, 4)
    return Rhythm(told.beat_s * parts, uneven, told.motor, told.strikes, ran)


def _one_a_beat(
    times_s: Sequence[float], beat_s: float, *, pulse: bool
) -> tuple[NDArray[np.int64], Floats]:
    """Beats that were heard, and when: the mean where both struck on one."""
    ordered = sorted(times_s)
    if not ordered:
        return np.empty(0, dtype=np.int64), np.empty(0)
    counted = [round(time / beat_s) for time in ordered] if pulse else None
    numbers = np.array(counted or number_beats(ordered, beat_s))
    numbers -= numbers[0]
    beats = np.unique(numbers)
    times = np.asarray(ordered)
    return beats, np.array([times[numbers == beat].mean() for beat in beats])


@dataclass(frozen=True, slots=True)
class _Fit:
    """Strikes fitted as an even beat. spread: in beats. share: of motor in it."""

    likelihood: float
    spread: float
    share: float


@dataclass(frozen=True, slots=True)
class _Found:
    """The stretch that makes the strikes likeliest. slope: change of the interval, in beats."""

    start: int
    length: int
    slope: float
    fit: _Fit


def _fit(beats: NDArray[np.int64], times: Floats, share: float) -> _Fit:
    white, logdet = _whitened(tuple(beats.tolist()), share)
    even = white @ np.column_stack([np.ones(len(beats)), beats])
    y = white @ times
    basis, _ = np.linalg.qr(even)
    rest = y - basis @ (basis.T @ y)
    return _likelihood(float(rest @ rest), len(beats), logdet, share)


def _likelihood(squares: float, count: int, logdet: float, share: float) -> _Fit:
    """The log likelihood with the best spread: Gaussian, with a floor where nothing is uneven."""
    variance = max(squares / count, 1e-8)
    return _Fit(-0.5 * (count * np.log(variance) + logdet), float(np.sqrt(variance)), share)


def _ahead(beats: NDArray[np.int64], times: Floats, plain: float) -> _Found | None:
    """The stretch of faster beats that stands out, each length and share of motor tried."""
    starts, lengths, ramps = _ramps(tuple(beats.tolist()))
    best: _Found | None = None
    for share in SHARES:
        white, logdet = _whitened(tuple(beats.tolist()), share)
        basis, _ = np.linalg.qr(white @ np.column_stack([np.ones(len(beats)), beats]))
        y = white @ times
        y = y - basis @ (basis.T @ y)
        tried = white @ ramps
        tried = tried - basis @ (basis.T @ tried)
        size = np.einsum("ij,ij->j", tried, tried)
        slopes = (y @ tried) / size
        gains = np.where(slopes < 0, slopes**2 * size, 0.0)
        place = int(np.argmax(gains))
        fit = _likelihood(float(y @ y - gains[place]), len(beats), logdet, share)
        if best is None or fit.likelihood > best.fit.likelihood:
            best = _Found(int(starts[place]), int(lengths[place]), float(slopes[place]), fit)
    assert best is not None
    return best if 2 * (best.fit.likelihood - plain) > STANDS_OUT else None


@lru_cache(maxsize=64)
def _whitened(beats: tuple[int, ...], share: float) -> tuple[Floats, float]:
    """A matrix that makes the unevenness of these beats independent, and its log determinant.

    The clock's part adds up: two strikes have in common what came before the earlier one.
    """
    at = np.asarray(beats, dtype=float)
    common = np.minimum(at[:, None], at[None, :])
    covariance = (1 - share) * common + share * np.eye(len(at)) + 1e-6 * np.eye(len(at))
    lower = np.linalg.cholesky(covariance)
    white = solve_triangular(lower, np.eye(len(at)), lower=True)
    return white, 2 * float(np.log(np.diag(lower)).sum())


@lru_cache(maxsize=64)
def _ramps(beats: tuple[int, ...]) -> tuple[NDArray[np.int64], NDArray[np.int64], Floats]:
    """For each start and length, how much of the stretch is behind each beat."""
    at = np.asarray(beats)
    pairs = [
        (start, length)
        for length in LENGTHS
        for start in range(int(at[0]), int(at[-1]) - length + 1)
    ]
    starts, lengths = np.array(pairs).T
    ramps = np.clip(at[:, None] - starts[None, :], 0, lengths[None, :]).astype(float)
    return starts, lengths, ramps


def _mean_beat(beats: NDArray[np.int64], heard: Floats, ran: RanAhead | None) -> float:
    """Mean time from beat to beat; what lies in the stretch is left out."""
    span, count = float(heard[-1] - heard[0]), int(beats[-1] - beats[0])
    if ran:
        inside = (beats >= ran.from_beat) & (beats <= ran.from_beat + ran.beats)
        places = np.flatnonzero(inside)
        if len(places) > 1:
            first, last = places[0], places[-1]
            without = count - int(beats[last] - beats[first])
            if without >= 2:
                span -= float(heard[last] - heard[first])
                count = without
    return span / count
