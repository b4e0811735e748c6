"""What a coach chooses among is all that there is to choose, with a name of its own each."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, get_args

import pytest

from hastatus.core.drill import blank, choices, partner, settings, solo
from hastatus.core.drill.cue import Direction, Part, PictureName, Place, SoundName, Stimulus, Within
from hastatus.core.drill.header import Language, Level
from hastatus.core.drill.partner_step import Perceived
from hastatus.core.drill.passage import GIVES_NAMES, Gives
from hastatus.core.read.solo_run import CONTRAST_NAMES, Contrast
from hastatus.core.run.device import SOURCE_NAMES, TIMED_TO, Source
from hastatus.core.run.partner_events import GRADE_NAMES, Grade
from hastatus.core.score.response import STRAY_NAMES, Why
from hastatus.core.trade.contact import CONTACTS
from hastatus.core.trade.footwork import FOOTWORK_NAMES, Footwork
from hastatus.core.trade.gear import GEAR_NAMES, Gear
from hastatus.core.trade.reach import Surface
from hastatus.core.trade.technique import Side, Target, Use
from hastatus.core.trade.tell import Tell


def _of(model: type[Any], field: str) -> tuple[str, ...]:
    return get_args(model.model_fields[field].annotation)


def _kinds(union: Any) -> tuple[str, ...]:
    return tuple(model.model_fields["kind"].default for model in get_args(get_args(union)[0]))


ALL: list[tuple[str, Mapping[Any, str], tuple[str, ...]]] = [
    ("side", choices.SIDE, get_args(Side)),
    ("contact", choices.CONTACT, CONTACTS),
    ("level", choices.LEVEL, get_args(Level)),
    ("purpose", choices.PURPOSE, _of(solo.Drill, "purpose")),
    ("stimulus", choices.STIMULUS, _kinds(Stimulus)),
    ("sound", choices.SOUND, get_args(SoundName)),
    ("place of a light", choices.LIGHT_PLACE, get_args(Place)),
    ("direction", choices.DIRECTION, get_args(Direction)),
    ("picture", choices.PICTURE, get_args(PictureName)),
    ("language", choices.LANGUAGE, get_args(Language)),
    ("depth", choices.DEPTH, get_args(Part)),
    ("unit of a limit", choices.LIMIT_UNIT, ("window", *_of(Within, "unit"))),
    ("order", choices.ORDER, _kinds(settings.Order)),
    ("waiting", choices.WAITING, _kinds(settings.Waiting)),
    ("rule of the window", choices.PACE_RULE, _of(solo.Pace, "rule")),
    ("early", choices.EARLY, _of(solo.Judging, "early")),
    ("lead-in", choices.LEAD_IN, ("none", *_kinds(settings.LeadIn))),
    ("end of a round", choices.ROUND_END, _of(settings.Rounds, "ends")),
    ("stances of rounds", choices.ROUND_STANCES, _of(settings.Rounds, "stances")),
    ("call", choices.ROUND_CALL, get_args(settings.RoundCall)),
    ("part of the defender", choices.DEFENDER_PART, get_args(Part)),
    ("order of feeds", choices.FEED_ORDER, _kinds(partner.FeedOrder)),
    ("end of a partner round", choices.FEED_END, _of(partner.PartnerRounds, "ends")),
    ("switch of roles", choices.ROLE_SWITCH, _of(partner.Turns, "switch")),
    ("stances of a pair", choices.STANCES, _of(partner.PartnerDrill, "stances")),
    ("start", choices.START, get_args(partner.Start)),
    ("perceived", choices.PERCEIVED, get_args(Perceived)),
    ("target", choices.TARGET, get_args(Target)),
    ("surface", choices.SURFACE, get_args(Surface)),
    ("tell", choices.TELL, get_args(Tell)),
    ("contact of a step", choices.STEP_CONTACT, CONTACTS),
    ("contact of a rung", choices.RUNG_CONTACT, CONTACTS),
    ("use", choices.USE, get_args(Use)),
    ("footwork", FOOTWORK_NAMES, get_args(Footwork)),
    ("what a partner gives", GIVES_NAMES, get_args(Gives)),
    ("gear", GEAR_NAMES, get_args(Gear)),
    ("grade", GRADE_NAMES, get_args(Grade)),
    ("source", SOURCE_NAMES, get_args(Source)),
    ("what is timed", TIMED_TO, (*get_args(Source), "home")),
    ("stray", STRAY_NAMES, get_args(Why)),
    ("contrast", CONTRAST_NAMES, get_args(Contrast)),
]


@pytest.mark.parametrize(("name", "choice", "values"), ALL, ids=[name for name, _, _ in ALL])
def test_every_value_has_a_name_and_no_name_is_left_over(
    name: str, choice: Mapping[str, str], values: tuple[str, ...]
) -> None:
    assert len(values) > 1, name
    assert set(choice) == set(values)
    assert all(words.strip() and "_" not in words for words in choice.values())
    if name != "what is timed":  # keys and zones are both "hand to key"
        assert len(set(choice.values())) == len(choice)


@pytest.mark.parametrize(
    ("models", "union"),
    [
        (blank.NEW_STIMULI, Stimulus),
        (blank.NEW_ORDERS, settings.Order),
        (blank.NEW_FEED_ORDERS, partner.FeedOrder),
        (blank.NEW_WAITS, settings.Waiting),
        (blank.NEW_LEAD_INS, settings.LeadIn),
    ],
)
def test_every_kind_has_what_it_begins_with(models: tuple[Any, ...], union: Any) -> None:
    assert sorted(model.kind for model in models) == sorted(_kinds(union))
