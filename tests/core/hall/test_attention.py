"""Whom a coach looks at next: nobody is forgotten."""

from __future__ import annotations

import numpy as np
import pytest

from hastatus.core.hall.attention import UNSEEN_S, PairSeen, in_order


@pytest.mark.parametrize("pairs", [1, 5, 10])
@pytest.mark.parametrize("seed", range(3))
def test_who_follows_the_tiles_sees_each_pair_every_four_minutes(pairs: int, seed: int) -> None:
    """Twenty seconds a look, attacks getting through at random, for an hour."""
    rng = np.random.default_rng(seed)
    seen_s, quiet_s = (
        dict.fromkeys(map(str, range(pairs)), 0.0),
        dict.fromkeys(map(str, range(pairs)), 0.0),
    )
    for now_s in np.arange(0.0, 3600.0, 20.0).tolist():
        facts = [
            PairSeen(pair, now_s - seen_s[pair], now_s - quiet_s[pair], int(rng.integers(0, 4)))
            for pair in seen_s
        ]
        assert max(fact.unseen_s for fact in facts) <= UNSEEN_S + 20.0
        seen_s[in_order(facts)[0].pair] = now_s + 20.0
        quiet_s[str(rng.integers(pairs))] = now_s


def test_what_presses_comes_first_and_says_so() -> None:
    order = in_order(
        [
            PairSeen("calm", 60),
            PairSeen("forgotten", 250),
            PairSeen("hit", 60, 5, through=2),
            PairSeen("hurt", 10, knocked=True),
        ]
    )
    assert [one.pair for one in order] == ["hurt", "forgotten", "hit", "calm"]
    assert order[1].why == ("not seen for 4 min",)
    assert order[2].why == ("two got through in a row",)
    assert order[3].why == ()
