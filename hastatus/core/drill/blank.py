"""Drills that have just been begun: the least that can be planned, with the usual settings."""

from __future__ import annotations

from typing import Final

from hastatus.core.drill.cue import (
    Arrow,
    Call,
    Chain,
    Cue,
    Light,
    Mark,
    Picture,
    Recording,
    Sound,
    Step,
    Stimulus,
)
from hastatus.core.drill.guide import Count, Guide, Hold
from hastatus.core.drill.partner import (
    RANDOM_FEEDS,
    Both,
    FeedOrder,
    Free,
    PartnerDrill,
    PartnerPlace,
    PartnerRung,
)
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.settings import (
    Announce,
    Balanced,
    FirstOrder,
    Fixed,
    Jittered,
    LeadIn,
    Order,
    ReadySignal,
    Rotating,
    Rounds,
    SetOrder,
    Unguessable,
    Waiting,
)
from hastatus.core.drill.solo import Drill, Rung

_MARK = Mark(shape="circle", colour="blue")

NEW_STIMULI: Final[tuple[Stimulus, ...]] = (
    Sound(sound="tone"),
    Call(words="go"),
    Recording.model_construct(kind="recording", asset="", words="my call"),
    Light(place="middle"),
    Arrow(direction="lead"),
    Picture(picture="head_target"),
)
"""What a cue of each kind begins with; a recording has none of its own yet."""
NEW_ORDERS: Final[tuple[Order, ...]] = (SetOrder(), Rotating(), Balanced(), FirstOrder())
NEW_FEED_ORDERS: Final[tuple[FeedOrder, ...]] = (
    SetOrder(), Rotating(), RANDOM_FEEDS, Free(), Both(),
)  # fmt: skip
NEW_WAITS: Final[tuple[Waiting, ...]] = (Fixed(), Jittered(), Unguessable())
NEW_LEAD_INS: Final[tuple[LeadIn, ...]] = (ReadySignal(), Announce())
NEW_GUIDES: Final[tuple[Guide, ...]] = (
    Count(after="check your feet"),
    Hold(let_go=("let go of the shoulders", "let go of the jaw", "let go of the hands")),
)


def fresh_drill() -> Drill:
    """A solo drill: one sound, one answer, one slow rung."""
    cue = Cue(
        key="cue_1",
        stimulus=Sound(sound="low_knock"),
        mark=_MARK,
        asks=(Chain(steps=(Step(technique="high_block"),)),),
    )
    rung = Rung(
        name="slow",
        window_s=1.4,
        goal_window_s=0.9,
        waiting=Unguessable(least_s=0.8, mean_s=0.7, most_s=5),
        rounds=Rounds(calls=("time",)),
    )
    return Drill(title="New drill", cues=(cue,), rungs=(rung,))


def fresh_partner_drill() -> PartnerDrill:
    """A partner drill: one exchange that the feeder starts, one slow rung at touch."""
    attack = PartnerStep(lane="feeder", beat=1, technique="straight", side="lead")
    rung = PartnerRung(name="slow", tempo_bpm=50, goal_bpm=70, tell="big", contact="touch")
    return PartnerDrill(
        title="New partner drill",
        place=PartnerPlace(gear=("gloves", "mouthguard")),
        passages=(Passage(key="passage_1", name="exchange 1", mark=_MARK, steps=(attack,)),),
        rungs=(rung,),
    )
