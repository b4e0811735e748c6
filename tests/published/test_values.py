"""Single published values and properties of the planner."""

import re
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from argon2 import Type, extract_parameters
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats as reference

from hastatus.core.drill import foreperiod
from hastatus.core.drill.repeats import longest_repeat
from hastatus.core.drill.settings import Unguessable
from hastatus.core.drill.solo import Judging
from hastatus.core.plan import flash_limit
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.plan.timeline import lay_out
from hastatus.core.read.proportion import wilson
from hastatus.core.read.summary import quantile
from hastatus.core.sound import tones
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.core.trade.colours import HEX, contrast
from hastatus.store import accounts

DRILL = block_on_sound_strike_on_light()
LIGHTS = {cue.key for cue in DRILL.cues if cue.channel == "see"}


def test_wilson_interval() -> None:
    # Newcombe 1998, Stat. Med. 17:857 (from memory): 81 of 263.
    found = wilson(81, 263)
    assert (round(found.low, 4), round(found.high, 4)) == (0.2553, 0.3662)


def test_quantile_of_censored_times_by_hand() -> None:
    # Product-limit estimate by hand: survival 4/5, then 4/5 · 2/3 after one censored at 2.5.
    assert quantile([1.0, 3.0], [2.5, 9.0, 9.0], 0.2) == 1.0
    assert quantile([1.0, 3.0], [2.5, 9.0, 9.0], 0.4) == 3.0
    assert quantile([1.0, 3.0], [2.5, 9.0, 9.0], 0.5) is None


def test_jump_cut_is_above_the_false_start_limit() -> None:
    # World Athletics Technical Rules (from memory): a reaction under 0.100 s is none.
    assert Judging().jump_cut_s > 0.1
    with pytest.raises(ValueError, match=r"0\.1"):
        Judging(jump_cut_s=0.09)


def test_waiting_times_are_a_truncated_exponential() -> None:
    # Luce 1986 (from memory): constant hazard. Kolmogorov-Smirnov at the known rate, fixed seed;
    # a right generator fails p > 0.001 once in a thousand seeds.
    wait = Unguessable(least_s=0.5, mean_s=0.6, most_s=4.0)
    drawn = foreperiod.draw(wait, 20_000, np.random.default_rng(5))
    law = reference.truncexpon(b=(4.0 - 0.5) / 0.6, loc=0.5, scale=0.6)
    assert reference.kstest(drawn, law.cdf).pvalue > 0.001
    assert foreperiod.mean(wait) == pytest.approx(law.mean(), rel=1e-9)
    assert foreperiod.guessable_share(wait) == pytest.approx(1 - law.cdf(3.8), rel=1e-6)


def test_tones_have_their_pitch() -> None:
    # ISO 16:1975: A4 is 440 Hz. The peak of the spectrum lies within one bin.
    samples = tones.tone(tones.pitch(0), seconds=1.0)
    spectrum = np.abs(np.fft.rfft(samples))
    assert abs(np.argmax(spectrum) * tones.RATE / samples.size - 440.0) <= 1.0
    for make in tones.SOUNDS.values():
        assert abs(make()[0]) > 0.005
        assert np.abs(make()).max() < 0.9


def test_contrast() -> None:
    # W3C WCAG 2.2, SC 1.4.3.
    assert contrast("#767676", "#ffffff") == pytest.approx(4.54, abs=0.005)


THEME = dict(
    re.findall(
        r"--(?:color|cue)-([a-z-]+): (#[0-9a-f]{6})",
        (Path(__file__).parents[2] / "ui/src/theme.css").read_text(),
    )
)


@pytest.mark.parametrize(
    ("front", "ground", "least"),
    [
        ("ink", "chalk", 4.5),
        ("ink", "wash", 4.5),
        ("soft", "chalk", 4.5),
        ("soft", "wash", 4.5),
        ("chalk", "ink", 4.5),
        ("floor-soft", "floor", 4.5),
        ("edge", "chalk", 3.0),
        ("floor-edge", "floor", 3.0),
        *((hue, "floor", 3.0) for hue in HEX),
    ],
)
def test_theme_contrast(front: str, ground: str, least: float) -> None:
    # W3C WCAG 2.2: SC 1.4.3 asks for 4.5:1 in text, SC 1.4.11 for 3:1 in controls and marks.
    assert contrast(THEME[front], THEME[ground]) >= least


def test_marks_on_a_light_ground_are_outlined_because_hues_alone_do_not_stand_out() -> None:
    # W3C WCAG 2.2, SC 1.4.11; the hues are those of core.
    assert {hue: THEME[hue] for hue in HEX} == {hue: hex.lower() for hue, hex in HEX.items()}
    # That they are outlined is looked at in the browser (tests/browser/test_reading.py).
    assert min(contrast(hex, THEME["chalk"]) for hex in HEX.values()) < 3.0


def test_stored_passwords_are_argon2id_strong_enough() -> None:
    # OWASP Password Storage Cheat Sheet (from memory): Argon2id, at least 19 MiB, 2 passes, 1 lane.
    kept = accounts.HASHER.hash("correct horse battery")
    found = extract_parameters(kept)
    assert kept.startswith("$argon2id$")
    assert found.type is Type.ID
    assert found.memory_cost >= 19 * 1024
    assert found.time_cost >= 2
    assert found.parallelism >= 1
    assert found.hash_len >= 16
    assert found.salt_len >= 16


@settings(max_examples=40)
@given(
    seed=st.integers(0, 2**40),
    rung=st.integers(1, 3),
    windows=st.tuples(st.floats(0.25, 2.0), st.floats(0.25, 2.0)),
    cut=st.integers(1, 12),
)
def test_no_second_has_four_flashes_not_even_in_a_tail(seed, rung, windows, cut) -> None:
    # W3C WCAG 2.2, SC 2.3.1: at most three flashes in any one second.
    plan = plan_run(DRILL, seed=seed, rung=rung, window_s=windows[0])
    assert plan == plan_run(DRILL, seed=seed, rung=rung, window_s=windows[0])
    step = DRILL.rungs[rung - 1]
    for each in plan.rounds:
        head = each.cues[:cut]
        cues = [*head, *lay_out(DRILL, step, each.slots, windows[1], head[-4:])]
        flashes = [cue.at_s for cue in cues if cue.cue in LIGHTS]
        assert flash_limit.worst_second(flashes) <= 3
        flash_limit.check_flashes(flashes)
        assert longest_repeat([slot.cue for slot in each.slots]) <= step.order.repeat_cap
        assert [cue.slot for cue in cues] == list(range(len(cues)))
        assert all(cue.closes_s <= step.rounds.duration_s for cue in cues)
        channel = {cue.key: cue.channel for cue in DRILL.cues}
        for one, other in pairwise(cues):
            if other.at_s < one.closes_s:
                assert step.overlap
                assert channel[one.cue] != channel[other.cue]
