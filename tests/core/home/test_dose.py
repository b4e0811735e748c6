"""How much is practised at home, and what is proposed (common practice, no source)."""

from __future__ import annotations

import uuid
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.home.dose import Done, dose, proposal, weeks, within
from hastatus.core.home.practice import HomeWord, Piece, Practice, order

MONDAY = date(2026, 11, 2)
SAID: tuple[HomeWord | None, ...] = ("too_easy", "right", "too_hard", None)


def practice(days: int = 3, starts: int = 0, lasts: int = 27) -> Practice:
    first = MONDAY + timedelta(days=starts)
    piece = Piece(drill_id=uuid.UUID(int=1))
    last = first + timedelta(days=lasts)
    return Practice(title="At home", pieces=(piece,), days=days, starts_on=first, ends_on=last)


@given(st.integers(1, 12), st.lists(st.sampled_from(SAID), max_size=30))
def test_rounds_stay_near_what_was_asked(asked: int, said: list[HomeWord | None]) -> None:
    done = [Done(MONDAY, word, whole=True) for word in said]
    one = dose(asked, done, follows=True)
    assert asked - (asked - 1) // 2 <= one.rounds <= asked + 2
    assert bool(one.reason) == (one.rounds != asked)
    assert dose(asked, done, follows=False).rounds == asked


def test_two_in_a_row_change_a_round_and_one_does_not() -> None:
    def rounds(*said: HomeWord | None) -> int:
        return dose(4, [Done(MONDAY, word, whole=True) for word in said], follows=True).rounds

    assert rounds("too_hard") == 4
    assert rounds("too_hard", "too_hard") == 3
    assert rounds("too_hard", "right", "too_hard") == 4
    assert rounds("too_easy", "too_easy") == 5
    assert rounds("too_hard", "too_hard", "too_easy", "too_easy") == 4


@given(
    st.integers(2, 60),
    st.lists(st.tuples(st.integers(1, 10), st.floats(20, 200)), min_size=1, max_size=6),
)
def test_what_is_fitted_fits_or_is_one_round_of_each(
    minutes: int, pieces: list[tuple[int, float]]
) -> None:
    rounds, each_s = [one for one, _ in pieces], [one for _, one in pieces]
    fitted = within(minutes, rounds, each_s)
    lasts_s = sum(count * one for count, one in zip(fitted, each_s, strict=True))
    assert lasts_s <= minutes * 60 or set(fitted) == {1}
    assert all(1 <= one <= asked for one, asked in zip(fitted, rounds, strict=True))
    assert within(None, rounds, each_s) == rounds


def test_a_week_counts_days_and_not_drills_and_asks_for_its_share() -> None:
    one = practice(days=3, starts=3)  # from a Thursday: four days of the first week
    done = [MONDAY + timedelta(days=day) for day in (4, 4, 5, 8)]
    told = weeks(one, done, MONDAY + timedelta(days=9))
    assert [(week.days, week.asked) for week in told] == [(2, 1), (1, 3)]
    assert weeks(one, done, MONDAY + timedelta(days=400))[-1].starts_on <= one.ends_on


def test_a_proposal_says_what_it_rests_on() -> None:
    one, today = practice(days=3), MONDAY + timedelta(days=15)

    def proposed(days: list[int], said: list[HomeWord | None]) -> str | None:
        past = weeks(one, [MONDAY + timedelta(days=day) for day in days], today)
        found = proposal(one, past, said)
        return found.kind if found else None

    assert proposed([], []) == "fewer_days"
    assert proposed([0, 2, 4, 7, 9, 11], ["right"] * 6) is None
    assert proposed([0, 2, 4, 5, 7, 9, 11, 12], ["right"] * 6) == "more_days"
    assert proposed([0, 2, 4, 7, 9, 11], ["too_hard", "too_hard", "right", "too_hard"]) == "easier"
    assert proposed([0, 2, 4, 7, 9, 11], ["too_easy"] * 5) == "harder"
    assert proposed([0, 2, 4, 7, 9, 11], ["too_hard", None]) is None


@given(st.lists(st.booleans(), min_size=1, max_size=6), st.integers(0, 2**40))
def test_each_day_has_another_order_and_what_is_counted_comes_first(
    guided: list[bool], seed: int
) -> None:
    before: list[int] = []
    for number in range(1, 12):
        row = order(guided, seed, number)
        assert sorted(row) == list(range(len(guided)))
        kinds = [guided[place] for place in row]
        assert kinds == sorted(kinds, reverse=True)
        if guided.count(False) > 1:
            assert row != before
        before = row
        assert row == order(guided, seed, number)
