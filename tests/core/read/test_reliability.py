"""What is told of tests, against SciPy's distributions and printed tables."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from hastatus.core.read.dependence import ranks
from hastatus.core.read.reliability import smallest_change, typical_error_interval


@pytest.mark.parametrize("freedom", [1, 2, 5, 10, 40, 200])
def test_a_typical_error_is_as_sure_as_its_differences_are_many(freedom: int) -> None:
    least, most = stats.chi2.ppf([0.025, 0.975], freedom)
    expected = math.sqrt(freedom / most), math.sqrt(freedom / least)
    assert typical_error_interval(1.0, freedom) == pytest.approx(expected, rel=1e-9)


def test_an_interval_by_a_printed_table() -> None:
    """χ² of 10: 3.247 and 20.483 (tables of the NIST/SEMATECH handbook, memory)."""
    low, high = typical_error_interval(20.0, 10)
    assert low == pytest.approx(20 * math.sqrt(10 / 20.483), rel=1e-4)
    assert high == pytest.approx(20 * math.sqrt(10 / 3.247), rel=1e-4)


@pytest.mark.parametrize(("tests", "t"), [(3, 12.706), (4, 4.303), (12, 2.228), (32, 2.042)])
def test_few_tests_tell_of_large_changes_only(tests: int, t: float) -> None:
    """Student's t at 97.5 % by a printed table (memory)."""
    assert smallest_change(10.0, tests) == pytest.approx(10 * math.sqrt(2) * t, rel=1e-3)
    assert smallest_change(10.0, tests) > smallest_change(10.0)


@given(st.lists(st.integers(-5, 5), min_size=1, max_size=60))
def test_equal_answers_share_a_rank(values: list[int]) -> None:
    found = ranks(np.array(values, dtype=np.float64))
    assert found.tolist() == stats.rankdata(values).tolist()
