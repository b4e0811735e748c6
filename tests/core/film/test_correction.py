"""Corrections are laid over a reading: the latest counts, what follows from them follows."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.film.correction import OnsetCorrection, corrected, corrected_pair
from hastatus.core.film.exchange_seen import Began, ExchangeSeen, PartnerSeen
from hastatus.core.film.pair_reading import PairFilmReading
from hastatus.core.film.reading import CueSeen, FilmReading, LinedUp, ZoneSeen

LINED = LinedUp(epoch=0, starts_s=1.0, rate=1.0, spread_ms=3, heard=9, asked=9)
HEAD = ZoneSeen(part="head", onset_ms=420, spread_ms=30, home_ms=900, home_spread_ms=40)
CUE = CueSeen(epoch=0, round=1, slot=4, cue="a", film_s=9, answer="head", zones=(HEAD,))
READING = FilmReading(length_s=60, line_ups=(LINED,), cues=(CUE,))


def head(at_ms: float | None, why: str = "looked") -> OnsetCorrection:
    return OnsetCorrection(round=1, number=4, part="head", at_ms=at_ms, why=why)


def test_the_latest_correction_counts_and_the_reading_stays_as_it_was_read() -> None:
    zone = corrected(READING, [head(300), head(333)], rate_hz=25).cues[0].zones[0]
    assert (zone.onset_ms, zone.spread_ms, zone.home_ms, zone.corrected) == (333, 20, 900, True)
    assert READING.cues[0].zones[0] == HEAD


def test_what_is_said_to_be_wrong_has_no_time() -> None:
    zone = corrected(READING, [head(None)], rate_hz=25).cues[0].zones[0]
    assert (zone.onset_ms, zone.home_ms, zone.reason) == (None, None, "said_wrong")


def test_a_correction_of_another_cue_or_zone_changes_nothing() -> None:
    others = [
        OnsetCorrection(round=2, number=4, part="head", at_ms=1, why="-"),
        OnsetCorrection(round=1, number=4, part="feet", at_ms=1, why="-"),
        OnsetCorrection(round=1, number=4, whose="fed", at_ms=1, why="-"),
    ]
    assert corrected(READING, others, rate_hz=25) == READING


def exchange(number: int, answered_ms: float) -> ExchangeSeen:
    fed = Began(part="lead_hand", at_ms=-100, spread_ms=10)
    answered = Began(part="head", at_ms=answered_ms, spread_ms=10)
    return ExchangeSeen(
        round=1, number=number, passage="a", film_s=5.0 * number, feeder=0, defender=1,
        fed=fed, answered=answered,
    ).reckoned()  # fmt: skip


@given(at_ms=st.floats(-1000, 1000), number=st.integers(1, 9))
def test_reaction_and_who_moved_first_follow(at_ms: float, number: int) -> None:
    exchanges = tuple(exchange(one, 150 + one) for one in range(1, 10))
    reading = PairFilmReading(
        length_s=60, left=0, line_up=LINED, exchanges=exchanges,
        partners=(PartnerSeen(partner=0), PartnerSeen(partner=1)),
    )  # fmt: skip
    one = OnsetCorrection(round=1, number=number, whose="answered", at_ms=at_ms, why="looked")
    after = corrected_pair(reading, [one], rate_hz=25)
    seen = after.exchanges[number - 1]
    assert seen.reaction_ms == pytest.approx(at_ms + 100)
    assert seen.ran_ahead == (at_ms + 100 < -((20**2 + 10**2) ** 0.5))
    assert after.partners[1].ahead == seen.ran_ahead
    assert after.partners[1].of == 9
    gone = OnsetCorrection(round=1, number=number, whose="answered", why="somebody walked by")
    assert corrected_pair(reading, [one, gone], rate_hz=25).partners[1].of == 8
