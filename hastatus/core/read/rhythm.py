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

from hastatus.core.read.beats import Chance, find_asked, find_beats

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

_TOGETHER = 0.15
"""Strikes this near to one another, in beats, are on one beat."""
_PARTS, _STANDS_IN = 8, 3
"""One strike in so many is left out, for each second of the ways to do so; a stretch of running
ahead must stand in so many of the four."""
_SAME_BEAT = 0.006
"""The tempo may differ by this share when strikes are left out; by more, the count was a guess."""
_LEAST_HEARD, _LEAST_COUNTED = 0.5, 0.2
"""Share of the strikes that a sheet asks for, and of beats that are only counted, not all of which
need have one. Where fewer are heard, what was counted may be somebody else's."""
_SLIP, _SLIPS = 0.4, 3
"""Who is that much nearer to a metronome's beat from one strike to the next, in beats, has gone
over to another one; who does so that often does not keep its time."""
_MOST_EXTRA = 0.45
"""Strikes beside the beat for each beat. With more, they may have a beat of their own: the next
pair is often heard as well as the one at the mat, and nothing tells whose count it is."""

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

    beat_s: mean time from beat to beat, a stretch of running ahead left out; None where it cannot
    be told, since the count of the beats changes with a few strikes more or less. uneven: standard
    deviation of a strike's time against its beat and of the beat itself, as a share of the beat.
    motor: share of that unevenness that does not add up: 1 is a kept pulse. strikes: how many it
    rests on. ran_ahead: None where nothing stands out, or too little is heard to say.
    """

    beat_s: float | None
    uneven: float
    motor: float
    strikes: int
    ran_ahead: RanAhead | None

    @property
    def tempo_bpm(self) -> float | None:
        """Beats a minute: 60 s / beat."""
        return 60.0 / self.beat_s if self.beat_s else None


def rhythm(
    times_s: Sequence[float],
    beat_s: float,
    *,
    parts: int = 1,
    pulse: bool = False,
    asked: Sequence[float] | None = None,
) -> Rhythm | None:
    """The rhythm of strikes at these times; None for fewer than three beats.

    beat_s: the beat that was asked for. parts: 2 where strikes come on half beats, too. pulse: a
    metronome was heard, with a beat at time 0: the count is the metronome's. asked: with a pulse,
    the beats on which the sheet asks for a strike, from time 0; None: any may be.
    """
    if parts > 1:
        finer = None if asked is None else [parts * beat for beat in asked]
        fitted = rhythm(times_s, beat_s / parts, pulse=pulse, asked=finer)
        return _in_beats(fitted, parts) if fitted else None
    times = np.sort(np.asarray(times_s, dtype=float)) / beat_s
    sheet = None
    if pulse and len(times):
        every = np.arange(np.floor(times[0]), np.ceil(times[-1]) + 1)
        sheet = every if asked is None else np.asarray(asked, dtype=float)
    heard = _heard(times, sheet)
    return _told(times, sheet, heard, beat_s, asked=asked is not None) if heard else None


def _told(
    times: Floats, sheet: Floats | None, heard: _Heard, beat_s: float, *, asked: bool
) -> Rhythm:
    """What is told of the beats that were heard: what stands without each eighth strike, too."""
    even, ahead = _even(heard), None
    if len(heard.beats) >= FEWEST:
        ahead = _ahead(heard, even.likelihood)
    fit = ahead.fit if ahead else even
    fewer = [
        _heard(np.delete(times, np.s_[first::_PARTS]), sheet, heard.chance)
        for first in range(0, _PARTS, 2)
    ]
    chance = heard.chance
    least = _LEAST_HEARD if asked else _LEAST_COUNTED if sheet is None else 0.0
    countable = chance.heard >= least and chance.extra <= _MOST_EXTRA and heard.slips < _SLIPS
    sure = countable and all(
        part is None or abs(_even(part).beat / even.beat - 1) <= _SAME_BEAT for part in fewer
    )
    ran = None
    if sure and ahead:
        again = [_ahead(part, _even(part).likelihood) for part in fewer if part]
        alike = sum(_overlap(ahead, part) for part in again)
        if alike >= _STANDS_IN:
            faster = float(np.clip(-ahead.slope / fit.beat, 0, 1))
            ran = RanAhead(ahead.start, ahead.length, round(faster, 4))
    return Rhythm(
        beat_s=fit.beat * beat_s if sure else None,
        uneven=round(float(fit.spread / fit.beat), 4),
        motor=fit.share,
        strikes=len(times),
        ran_ahead=ran,
    )


def _even(heard: _Heard) -> _Fit:
    """The likeliest even beat, nobody running ahead."""
    return max((_fit(heard, share) for share in SHARES), key=lambda fit: fit.likelihood)


def _overlap(ahead: _Found, again: _Found | None) -> bool:
    near = max(ahead.length, 8)
    return again is not None and abs(again.start - ahead.start) <= near


def _in_beats(heard: Rhythm, parts: int) -> Rhythm:
    """What was counted in parts of a beat, in beats."""
    ran = heard.ran_ahead
    if ran:
        beats = max(1, round(ran.beats / parts))
        ran = RanAhead(ran.from_beat // parts, beats, ran.faster)
    uneven = round(heard.uneven / parts, 4)
    beat_s = heard.beat_s * parts if heard.beat_s else None
    return Rhythm(beat_s, uneven, heard.motor, heard.strikes, ran)


@dataclass(frozen=True, slots=True)
class _Heard:
    """Beats that were heard. beats: number of each, from 0; times: when, in asked beats; even: what
    an even beat would make of them: its start, anew after each pause, its length, and whether every
    second one is off by as much; chance: how strikes come; pulse: whether the count is a
    metronome's; slips: how often the strikes went over from one of its beats to the next."""

    beats: NDArray[np.int64]
    times: Floats
    even: Floats
    chance: Chance
    pulse: bool
    slips: int


def _heard(times: Floats, sheet: Floats | None, chance: Chance | None = None) -> _Heard | None:
    """The beats among the strikes; None for fewer than three. All in asked beats."""
    if len(times) < 3:
        return None
    fit = find_beats(times, chance) if sheet is None else find_asked(times, sheet, chance)
    if len(fit.place) < 3:
        return None
    at = np.array([times[np.abs(times - times[one]) <= _TOGETHER].mean() for one in fit.place])
    number, slips = fit.number, 0
    if sheet is not None:
        lead = times[fit.place] - sheet[fit.number]
        slips = int((np.abs(np.diff(lead)) > _SLIP).sum())
        number = np.rint(sheet).astype(np.int64)[fit.number]
        at += number - sheet[fit.number]
    beats = number - number[0]
    columns = [(fit.count == number).astype(float) for number in range(int(fit.count[-1]) + 1)]
    columns += [beats.astype(float), np.where(beats % 2, 0.5, -0.5)]
    return _Heard(beats, at, np.column_stack(columns), fit.chance, sheet is not None, slips)


@dataclass(frozen=True, slots=True)
class _Fit:
    """Strikes fitted as an even beat. spread: in asked beats. share: of motor in it. beat: its
    length, in asked beats."""

    likelihood: float
    spread: float
    share: float
    beat: float


@dataclass(frozen=True, slots=True)
class _Found:
    """The stretch that makes the strikes likeliest. slope: change of the interval, in beats."""

    start: int
    length: int
    slope: float
    fit: _Fit


def _fit(heard: _Heard, share: float, ramp: Floats | None = None) -> _Fit:
    """Generalised least squares; with a ramp, the stretch it stands for left out of the beat."""
    white, logdet = _whitened(tuple(heard.beats.tolist()), share)
    columns = heard.even if ramp is None else np.column_stack([heard.even, ramp])
    solved, *_ = np.linalg.lstsq(white @ columns, white @ heard.times, rcond=None)
    rest = white @ (heard.times - columns @ solved)
    beat = float(solved[heard.even.shape[1] - 2])
    return _likelihood(float(rest @ rest), len(heard.beats), logdet, share, beat)


def _likelihood(squares: float, count: int, logdet: float, share: float, beat: float) -> _Fit:
    """The log likelihood with the best spread: Gaussian, with a floor where nothing is uneven."""
    variance = max(squares / count, 1e-8)
    likelihood = -0.5 * (count * np.log(variance) + logdet)
    return _Fit(float(likelihood), float(np.sqrt(variance)), share, beat)


def _ahead(heard: _Heard, plain: float) -> _Found | None:
    """The stretch of faster beats that stands out, each length and share of motor tried."""
    beats = tuple(heard.beats.tolist())
    starts, lengths, ramps = _ramps(beats, heard.pulse)
    best: _Found | None = None
    for share in SHARES:
        white, logdet = _whitened(beats, share)
        basis, _ = np.linalg.qr(white @ heard.even)
        y = white @ heard.times
        y = y - basis @ (basis.T @ y)
        tried = white @ ramps
        tried = tried - basis @ (basis.T @ tried)
        size = np.maximum(np.einsum("ij,ij->j", tried, tried), 1e-9)
        slopes = (y @ tried) / size
        gains = np.where(slopes < 0, slopes**2 * size, 0.0)
        place = int(np.argmax(gains))
        fit = _likelihood(float(y @ y - gains[place]), len(heard.beats), logdet, share, 1.0)
        if best is None or fit.likelihood > best.fit.likelihood:
            fit = _fit(heard, share, ramps[:, place])
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
def _ramps(
    beats: tuple[int, ...], pulse: bool
) -> tuple[NDArray[np.int64], NDArray[np.int64], Floats]:
    """For each start and length, how much of the stretch is behind each beat.

    With a pulse also for one who falls back to it, two beats after the stretch.
    """
    at = np.asarray(beats)
    pairs = [
        (start, length)
        for length in LENGTHS
        for start in range(int(at[0]), int(at[-1]) - length + 1)
    ]
    starts, lengths = np.array(pairs).T
    since = at[:, None] - starts[None, :]
    ramps = np.clip(since, 0, lengths[None, :]).astype(float)
    if not pulse:
        return starts, lengths, ramps
    back = np.where(since <= lengths[None, :] + 2, ramps, 0.0)
    return np.tile(starts, 2), np.tile(lengths, 2), np.hstack([ramps, back])
