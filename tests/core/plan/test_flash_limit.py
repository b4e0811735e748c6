"""No four flashes within 1.1 s. WCAG 2.2, SC 2.3.1: at most three in any one second; the rest of
the 1.1 s is a frame's margin of the product's own."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.plan.flash_limit import (
    UnsafePlan,
    check_flashes,
    earliest_flash,
    worst_second,
)


def test_three_flashes_are_free_and_the_fourth_waits_for_the_first() -> None:
    assert earliest_flash([]) == 0
    assert earliest_flash([5.0, 5.1]) == 0
    assert earliest_flash([5.0, 5.1, 5.2]) == pytest.approx(6.1)
    assert earliest_flash([1.0, 5.0, 5.1, 5.2]) == pytest.approx(6.1)


def test_the_worst_second_is_closed_at_both_ends_and_may_lie_anywhere() -> None:
    assert worst_second([]) == 0
    assert worst_second([4.0]) == 1
    assert worst_second([1.0, 2.0]) == 2
    assert worst_second([1.0, 2.01]) == 1
    assert worst_second([9.3, 0.0, 9.0, 3.0, 9.9, 9.6]) == 4  # in any order


@pytest.mark.parametrize("fourth_s", [2.0, 2.05, 2.0999])
def test_a_fourth_flash_within_the_margin_is_refused_with_its_place(fourth_s: float) -> None:
    with pytest.raises(UnsafePlan) as refused:
        check_flashes([8.0, fourth_s, 1.3, 1.0, 1.6])
    assert str(refused.value) == (
        f"four flashes within {fourth_s - 1:.2f} s at 1.00 s; at least 1.1 s is needed"
    )


def test_a_fourth_flash_after_the_margin_is_let_through() -> None:
    check_flashes([])
    check_flashes([1.0, 1.0, 1.0, 2.1, 2.1, 2.1])
    check_flashes([0.1, 0.2, 0.3, 0.1 + 1.1])  # 1.1 s but for the rounding of a float


@given(st.lists(st.floats(0, 30), max_size=30))
def test_what_is_let_through_has_three_flashes_in_any_second_at_most(onsets: list[float]) -> None:
    try:
        check_flashes(onsets)
    except UnsafePlan:
        return
    assert worst_second(onsets) <= 3
