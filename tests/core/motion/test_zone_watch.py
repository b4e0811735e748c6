"""When a zone begins to move, against movements with a known onset in idle motion of its own."""

from __future__ import annotations

import numpy as np
import pytest
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d

from hastatus.core.motion.meter import Motion
from hastatus.core.motion.movement import Movement
from hastatus.core.motion.zone_watch import SETTLES_S, ZoneWatch, backwards

MOST = 0.012
CUES_S = [3.0 * number for number in range(1, 21)]
LATER = 0.005
"""A picture shows what is about 5 ms later than its time."""


def path(times: NDArray[np.float64], onset_s: float, takes_s: float) -> NDArray[np.float64]:
    """A half cosine out and back again: no curve that the detector is made for."""
    out = np.clip((times - onset_s) / takes_s, 0, 1)
    back = np.clip((times - onset_s - takes_s - 0.1) / 0.4, 0, 1)
    return 0.5 * (np.cos(np.pi * back) - np.cos(np.pi * out))


def filmed(
    seed: int, rate_hz: float, onsets_s: list[float], *, sway: float = 0.002, lost: float = 0.0
) -> Motion:
    """A minute of a zone that sways and moves 0.1 of the picture's height at each onset."""
    rng = np.random.default_rng(seed)
    times = np.arange(0, CUES_S[-1] + 3, 1 / rate_hz)
    times = times[(rng.random(len(times)) >= lost) | (times < 0.1)]
    fine = np.arange(0, CUES_S[-1] + 3.1, 0.01)
    slow = gaussian_filter1d(rng.standard_normal((len(fine), 2)), 25, axis=0)
    slow *= sway / slow.std()
    where = np.stack([np.interp(times + LATER, fine, slow[:, axis]) for axis in (0, 1)], axis=1)
    where += rng.normal(0, 2e-4, where.shape)
    for onset_s in onsets_s:
        takes_s = rng.uniform(0.25, 0.4)
        where[:, 0] += 0.1 * path(times + LATER, onset_s, takes_s)
    moved = np.diff(where, axis=0, prepend=where[:1])
    still = np.zeros_like(moved)
    return Motion(times, moved[:, None], still, np.array([MOST]))


def after(motion: Motion) -> list[Movement]:
    watch = ZoneWatch(motion, 0, CUES_S)
    return [watch.after(cue_s, cue_s + 1.5) for cue_s in CUES_S]


@pytest.mark.parametrize("rate_hz", [24.0, 30.0, 60.0])
def test_an_onset_is_told_within_a_picture_and_its_interval_holds_it(rate_hz: float) -> None:
    off, inside = [], []
    for seed in range(6):
        rng = np.random.default_rng((seed, 1))
        onsets = [cue_s + rng.uniform(0.2, 0.6) for cue_s in CUES_S]
        for onset_s, movement in zip(onsets, after(filmed(seed, rate_hz, onsets)), strict=True):
            assert movement.onset_s is not None, movement
            off.append(abs(movement.onset_s - onset_s))
            inside.append(off[-1] <= movement.spread_s)
    assert np.median(off) < 0.5 / rate_hz + 0.005
    assert np.quantile(off, 0.95) < 1.5 / rate_hz
    assert np.mean(inside) >= 0.9


def test_who_stands_still_is_told_to() -> None:
    told = [movement for seed in range(6) for movement in after(filmed(seed, 30.0, []))]
    moving = [movement for movement in told if movement.reason != "still"]
    assert len(moving) <= 0.02 * len(told)


def test_what_was_under_way_before_its_cue_is_no_answer() -> None:
    early = after(filmed(1, 30.0, [cue_s - 0.05 for cue_s in CUES_S]))
    assert {movement.reason for movement in early} == {"moving_before"}


def test_a_film_backwards_tells_when_somebody_was_home() -> None:
    onsets = [cue_s + 0.4 for cue_s in CUES_S]
    turned = backwards(filmed(2, 30.0, onsets))
    watch = ZoneWatch(turned, 0, [-cue_s - SETTLES_S for cue_s in CUES_S])
    for onset_s in onsets[:-1]:
        home = watch.after(-onset_s - 2.4, -onset_s)
        assert home.onset_s is not None
        assert 0.7 < -home.onset_s - onset_s < 0.95  # 0.25 to 0.4 out, 0.1 there, 0.4 back


def test_lost_pictures_are_told_or_left_out_never_invented() -> None:
    onsets = [cue_s + 0.4 for cue_s in CUES_S]
    motion = filmed(3, 30.0, onsets, lost=0.1)
    for onset_s, movement in zip(onsets, after(motion), strict=True):
        assert movement.reason == "no_film" or abs(movement.onset_s - onset_s) < 0.1
    gone = (motion.times_s > 8.9) & (motion.times_s < 9.6)
    holed = Motion(motion.times_s[~gone], motion.moved[~gone], motion.shaken[~gone], motion.most)
    assert after(holed)[2].reason == "no_film"


def test_pictures_lost_after_a_movement_was_seen_do_not_take_it_away() -> None:
    motion = filmed(3, 30.0, [cue_s + 0.4 for cue_s in CUES_S])
    gone = (motion.times_s > 9.9) & (motion.times_s < 10.2)
    holed = Motion(motion.times_s[~gone], motion.moved[~gone], motion.shaken[~gone], motion.most)
    assert after(holed)[2].onset_s == pytest.approx(9.4, abs=0.05)


@pytest.mark.parametrize("seconds", [0.0, 0.05, 1.0])
def test_a_short_film_says_that_it_tells_nothing(seconds: float) -> None:
    whole = filmed(4, 30.0, [])
    part = whole.times_s < seconds
    motion = Motion(whole.times_s[part], whole.moved[part], whole.shaken[part], whole.most)
    told = ZoneWatch(motion, 0, [0.6]).after(0.6, 2.0)
    assert told.onset_s is None
    assert told.reason in ("no_film", "no_idle")


def test_a_shaken_camera_says_so() -> None:
    motion = filmed(5, 30.0, [cue_s + 0.4 for cue_s in CUES_S])
    shaken = motion.shaken.copy()
    shaken[(motion.times_s > 3.2) & (motion.times_s < 3.4)] = 0.05
    watch = ZoneWatch(Motion(motion.times_s, motion.moved, shaken, motion.most), 0, CUES_S)
    assert watch.after(3.0, 4.5).reason == "camera_shook"
    assert watch.after(6.0, 7.5).onset_s == pytest.approx(6.4, abs=0.05)
