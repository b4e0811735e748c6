"""A new rung is a step harder: less help first, then less that can be known, then quicker."""

from __future__ import annotations

import pytest

from hastatus.core.drill.harder import harder, harder_pair
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.solo import Drill, Rung
from hastatus.store.starters import all_starters

SOLO = [drill for drill in all_starters() if isinstance(drill, Drill)]
PARTNER = [drill for drill in all_starters() if isinstance(drill, PartnerDrill)]


def changed(one: Rung | PartnerRung, other: Rung | PartnerRung) -> set[str]:
    fields = type(one).model_fields
    return {name for name in fields if getattr(one, name) != getattr(other, name)} - {"name"}


@pytest.mark.parametrize("drill", SOLO, ids=lambda drill: drill.title)
def test_a_solo_rung_gets_harder_one_thing_at_a_time_and_stays_a_rung(drill: Drill) -> None:
    rung = drill.rungs[0]
    seen: list[set[str]] = []
    for _ in range(40):
        following = harder(rung)
        Rung.model_validate(following.model_dump())
        assert following.window_s <= rung.window_s
        seen.append(changed(rung, following))
        rung = following
    if drill.rungs[0].guide is None:
        assert rung.lead_in is None
        assert seen[-1] <= {"window_s", "goal_window_s"}  # help goes before speed comes
        assert all(len(each - {"goal_window_s"}) <= 1 for each in seen)
    else:
        assert not any(seen)


@pytest.mark.parametrize("drill", PARTNER, ids=lambda drill: drill.title)
def test_a_partner_rung_gets_harder_and_stays_a_rung(drill: PartnerDrill) -> None:
    rung = drill.rungs[0]
    for _ in range(80):
        following = harder_pair(rung)
        PartnerRung.model_validate(following.model_dump())
        assert (following.tempo_bpm or 0) >= (rung.tempo_bpm or 0)
        if rung.announced:
            assert not following.announced
            assert following.tempo_bpm == rung.tempo_bpm
        rung = following
    assert not rung.announced
    assert rung.tempo_bpm in (None, 300.0)
    assert len(rung.name) <= 120
