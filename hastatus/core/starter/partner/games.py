"""Partner games of distance: tag, and keeping away."""

from __future__ import annotations

from hastatus.core.drill.partner import (
    RANDOM_FEEDS,
    Free,
    PartnerDrill,
    PartnerPlace,
    PartnerRounds,
    PartnerRung,
    Turns,
)
from hastatus.core.drill.settings import Rotating
from hastatus.core.starter.partner.build import done, drill, fed, gives, ladder, passage


def tag() -> PartnerDrill:
    """Tag the shoulder or the foot; paddles reach further; a forfeit for each tag."""
    return drill(
        "Shoulder or foot",
        passage("shoulder", "shoulder", 3, fed("1 lead tag +advance !touch", spot="shoulder"),
                done("1 step_back"), done("2 lead tag +slide_step !touch", spot="shoulder")),
        passage("foot", "foot", 3, fed("1 lead tag @leg +advance !touch", spot="foot"),
                done("1 lead withdraw_leg"), done("2 lead tag +advance !touch", spot="shoulder")),
        passage("bluff", "only begun", 2, fed("1 advance"), done("1 step_back"), weight=0.5),
        notes="A forfeit for each tag: three knee bends, or what the two agree on.",
        watch=("stands still", "leg left where it is", "leans in / hunches (structure drills)"),
        focus=("distance", "play"),
        place=PartnerPlace(floor_m=4),
        rungs=(
            PartnerRung(name="shoulder", tempo_bpm=None, passages=("shoulder",), contact="touch",
                        tell="plain", turns=Turns(switch="time", every_s=30)),
            PartnerRung(name="shoulder or foot", tempo_bpm=None, passages=("shoulder", "foot"),
                        contact="touch", turns=Turns(switch="time", every_s=30)),
            PartnerRung(name="with bluffs", tempo_bpm=None, contact="touch", tell="trimmed",
                        turns=Turns(switch="time", every_s=30)),
            PartnerRung(name="paddles, as you like", tempo_bpm=None, contact="touch",
                        gear=("paddles",), order=Free(),
                        turns=Turns(switch="time", every_s=30)),
        ),
    )  # fmt: skip


def keep_away_together() -> PartnerDrill:
    """The partner steps in: step out; withdraws: leave; signs of trouble are recognised."""
    more = (gives("comes_on", 1, "after"), gives("retreats", 2))
    return drill(
        "Out of reach",
        passage("steps_in", "step in", 3, fed("1 advance"), done("1 step_back"), then=more),
        passage("after", "come on", 3, fed("1 slide_step"), done("1 step_back"),
                done("2 leave"), weight=0),
        passage("withdraws", "withdraw", 3, fed("1 retreat"), done("2 leave")),
        passage("fists", "make fists", 3, fed("1 make_fists"), done("1 hands_up"),
                done("2 leave")),
        passage("hands", "raise the hands", 3, fed("1 hands_up"), done("1 hands_up"),
                done("2 step_back")),
        passage("stance", "step into a stance", 3, fed("1 into_stance"), done("1 hands_up"),
                done("2 leave")),
        passage("calm", "do nothing", 2, fed("1 stay"), weight=0.5),
        notes="Distance buys time; use it to leave. Nobody touches anybody.",
        look="At hands and feet, from the edge of the eye.",
        watch=("stands still", "anticipates"),
        focus=("distance", "getting away"),
        place=PartnerPlace(floor_m=6),
        start="outside",
        rungs=ladder(
            PartnerRung(name="in and out, in order", tempo_bpm=None, tell="big",
                        passages=("steps_in", "withdraws"), order=Rotating(), branches=False,
                        contact="none", rounds=PartnerRounds(count=3, duration_s=60)),
            ("at random", {"order": RANDOM_FEEDS}),
            ("signs of trouble", {"passages": ()}),
            ("and comes on", {"branches": True, "tell": "plain"}),
        ),
    )  # fmt: skip
