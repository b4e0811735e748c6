"""A drill in one line, and its small picture."""

from __future__ import annotations

import pytest

from hastatus.core.drill.outline import MOST_DOTS, outline
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.store.starters import all_starters


@pytest.mark.parametrize("drill", list(all_starters()), ids=lambda drill: drill.title)
def test_a_picture_shows_the_cues_or_both_sides_of_the_first_exchange(
    drill: Drill | PartnerDrill,
) -> None:
    dots = outline(drill).picture
    assert len(dots) <= MOST_DOTS
    assert all(0 <= dot.at <= 1 and dot.lane in (0, 1) for dot in dots)
    if isinstance(drill, Drill):
        shown = drill.cues[:MOST_DOTS]
        assert [dot.mark for dot in dots] == [cue.mark for cue in shown]
        assert [dot.lane for dot in dots] == [int(cue.channel == "see") for cue in shown]
        places = [dot.at for dot in dots]
        assert places == sorted(places)
    else:
        assert {dot.lane for dot in dots} == {0, 1}
        assert all((dot.mark is None) == (dot.lane == 1) for dot in dots)
