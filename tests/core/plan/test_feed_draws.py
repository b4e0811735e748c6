"""What chance decides in a round of feeds: each share is kept, and each choice is a stream."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import groupby

import pytest

from hastatus.core.drill.blank import fresh_partner_drill
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.passage import Branch, Passage
from hastatus.core.drill.settings import Balanced, Rotating, SetOrder, Unguessable
from hastatus.core.plan.feed_draws import Draws

BLANK = fresh_partner_drill().passages[0]


def passage(key: str, weight: float = 1.0, **shares: float) -> Passage:
    then = tuple(Branch(share=share, to=to) for to, share in shares.items())
    change = {"key": key, "name": key, "weight": weight, "then": then}
    return BLANK.model_copy(update=change)


def draws(*passages: Passage, seed: int = 4, blocks: int = 4, **of_rung: object) -> Draws:
    drill, rung = _drill(passages, blocks, of_rung)
    return Draws(drill, rung, (seed, 1), frozenset())


def _drill(
    passages: Iterable[Passage], blocks: int, of_rung: dict[str, object]
) -> tuple[PartnerDrill, PartnerRung]:
    blank = fresh_partner_drill()
    rung = blank.rungs[0].model_copy(update=of_rung)
    change = {"passages": tuple(passages), "rungs": (rung,), "blocks": blocks}
    return blank.model_copy(update=change), rung


def longest_run(of: list[object]) -> int:
    return max(len(list(same)) for _, same in groupby(of))


A, B, C = passage("a", 1), passage("b", 2), passage("c", 1)


def test_a_round_starts_by_the_weights_under_the_rungs_own_cap() -> None:
    drawn = draws(A, B, C, order=Balanced(repeat_cap=2, bag=8))
    starts = [drawn.start().key for _ in range(800)]
    assert [starts.count(key) for key in "abc"] == [200, 400, 200]
    assert longest_run(starts) == 2


def test_an_order_that_is_set_or_goes_round_is_followed_from_its_first() -> None:
    in_order = draws(A, B, C, order=SetOrder(sequence=("b", "a", "b")))
    assert [in_order.start().key for _ in range(7)] == ["b", "a", "b", "b", "a", "b", "b"]
    around = draws(A, B, C, order=Rotating())
    assert [around.start().key for _ in range(7)] == [*"abc", *"bca", "c"]
    assert [draws(A).start().key for _ in range(3)] == ["a"] * 3


@pytest.mark.parametrize("share", [0.5, 0.75, 0.8, 0.9, 0.97])
def test_a_branch_has_its_share_however_large_it_is(share: float) -> None:
    fork = passage("fork", b=share, c=1 - share)
    drawn = draws(fork, B, C)
    taken = [drawn.branch(fork) for _ in range(6000)]
    assert taken.count(0) / 6000 == pytest.approx(share, abs=0.01)
    assert longest_run(taken) >= 3


def test_shares_of_branches_need_not_add_up_and_one_without_a_share_never_comes() -> None:
    fork = passage("fork", a=0.0, b=0.2, c=0.6)
    drawn = draws(fork, A, B, C)
    taken = [drawn.branch(fork) for _ in range(4000)]
    assert taken.count(0) == 0
    assert taken.count(1) / 4000 == pytest.approx(0.25, abs=0.01)
    lone = passage("lone", a=0.0, b=0.3)
    assert {draws(lone, A, B).branch(lone) for _ in range(50)} == {1}


def test_each_passage_has_a_stream_of_branches_of_its_own() -> None:
    one, other = passage("one", b=0.5, c=0.5), passage("other", b=0.5, c=0.5)
    alone, beside = draws(one, other, B, C), draws(one, other, B, C)
    expected = [alone.branch(one) for _ in range(40)]
    found = []
    for _ in range(40):
        beside.branch(other)
        beside.start()
        beside.pause_s()
        found.append(beside.branch(one))
    assert found == expected
    again = draws(one, other, B, C, seed=5)
    assert [again.branch(one) for _ in range(40)] != expected


def test_a_mixed_tell_is_big_every_other_time_and_trimmed_else() -> None:
    drawn = draws(A, tell="mixed")
    tells = [drawn.tell() for _ in range(2400)]
    assert tells.count("big") == pytest.approx(1200, abs=12)
    assert set(tells) == {"big", "trimmed"}
    assert longest_run(list(tells)) <= 5
    assert [draws(A, tell=plain).tell() for plain in ("big", "plain", "trimmed")] == [
        "big", "plain", "trimmed",
    ]  # fmt: skip


def test_a_counter_comes_by_its_share_and_at_the_latest_after_the_most_blocks() -> None:
    drawn = draws(A, counter_share=0.5, blocks=2)
    asked, without = [], 0
    for _ in range(3000):
        asked.append(drawn.counter(without))
        without = 0 if asked[-1] else without + 1
    gaps = [len(list(same)) for is_asked, same in groupby(asked) if not is_asked]
    assert max(gaps) == 2
    free = draws(A, counter_share=0.3)
    shares = [free.counter(0) for _ in range(4000)]
    assert sum(shares) / 4000 == pytest.approx(0.3, abs=0.01)
    assert all(draws(A, counter_share=1.0).counter(0) for _ in range(20))
    assert not any(draws(A, counter_share=0.0).counter(9) for _ in range(20))
    assert not draws(A, counter_share=1.0, answers="answer").counter(9)
    assert draws(A, counter_share=0.01, blocks=4).counter(4)


def test_a_pause_is_whole_beats_where_a_beat_is_kept() -> None:
    waiting = Unguessable(least_s=1.5, mean_s=1.5, most_s=8)
    kept = draws(A, tempo_bpm=80.0, pause=waiting)
    pauses = [kept.pause_s() / 0.75 for _ in range(300)]
    assert all(beats == pytest.approx(round(beats)) for beats in pauses)
    assert 2 <= min(pauses) < max(pauses) <= 11
    free = draws(A, tempo_bpm=None, pause=waiting)
    own = [free.pause_s() for _ in range(300)]
    assert len(set(own)) == 300
    assert 1.5 <= min(own) < max(own) <= 8
    rounded = [-(-pause // 0.75) for pause in own]  # the same draw, rounded up
    assert [round(beats) for beats in pauses] == pytest.approx(rounded)
