"""Partner drills of the legs."""

from __future__ import annotations

from hastatus.core.drill.partner import (
    RANDOM_FEEDS,
    PartnerDrill,
    PartnerPlace,
    PartnerRounds,
    PartnerRung,
    Turns,
)
from hastatus.core.drill.settings import Rotating, SetOrder
from hastatus.core.starter.partner.build import done, drill, fed, gives, keep, ladder, pad, passage

_SHINS = PartnerPlace(gear=("gloves", "mouthguard", "shin_guards"), floor_m=4)
_VESTS = PartnerPlace(gear=("shin_guards", "chest_guard", "groin_guard"), floor_m=4)
_SHIELD = PartnerPlace(gear=("gloves", "kick_shield", "shin_guards"), floor_m=4)
_SLOW = PartnerRung(name="slow, in order", tempo_bpm=44, goal_bpm=56, order=Rotating(), tell="big",
                    announced=True, contact="touch", branches=False)  # fmt: skip


def kick_pairs() -> PartnerDrill:
    """Two kicks with each footwork; where the pads are follows from the feet."""
    return drill(
        "Two kicks, four ways to move",
        passage("stay", "stay", 4, fed("1 show_target"),
                done("1 lead body_kick !firm", pad=pad(0.3, 45)),
                done("2.5 rear body_kick !firm", pad=pad(0.3, 45, gives=True))),
        passage("advance", "going in", 4, fed("1 show_target"),
                done("1 lead body_kick !firm", pad=pad(0.3, 45)),
                fed("2 retreat"),
                done("2.5 rear body_kick +advance !firm", pad=pad(0.3, 45, gives=True))),
        passage("retreat", "giving ground", 4, fed("1 show_target"),
                done("1 rear front_kick !firm", pad=pad(0.25)),
                fed("2 advance"),
                done("2.5 lead front_kick +retreat !firm", pad=pad(0.25))),
        passage("slide", "slide-step, partner runs", 4, fed("1 show_target"),
                done("1 lead body_kick !firm", pad=pad(0.3, 45)),
                fed("2 retreat"), fed("2.5 retreat"),
                done("2.5 rear body_kick +cross_step !firm", pad=pad(0.3, 45, gives=True)),
                done("3.5 advance")),
        notes="Thrown back by your own kick: step in again. Withdraw to the same guard each time.",
        watch=("standing heel not turned", "extra step up", "leg left where it is"),
        focus=("kicking", "distance"),
        place=_SHIELD,
        start="kick",
        rungs=ladder(
            _SLOW.model_copy(update={"contact": "light"}),
            ("any footwork", {"order": RANDOM_FEEDS, "contact": "firm"}),
            ("only shown", {"announced": False, "tempo_bpm": 54, "goal_bpm": 66}),
        ),
    )  # fmt: skip


def low_kick_on_the_lead() -> PartnerDrill:
    """Three defenses against the lead straight, and the low kick before, during or after it."""
    rear = (gives("no_follow_up", 4), gives("follow_up", 1, "rear_hand"))
    kick = "rear low_kick !touch"
    return drill(
        "Lead straight, low kick",
        passage("parry", "parry, then kick", 5, fed("1 lead straight +slide_step !touch"),
                done("1 rear parry"), done(f"2 {kick}"), then=rear),
        passage("brace", "brace, kick with it", 5, fed("1 lead straight +slide_step !touch"),
                done("1 lead forearm_brace"), done(f"1 {kick}"), then=rear),
        passage("off", "step off, then kick", 5, fed("1 lead straight +slide_step !touch"),
                done("1 lead step_off"), done(f"2 {kick}"), then=rear),
        passage("rear_hand", "rear hand", 3, fed("1 rear straight !touch"),
                done("1 lead parry +step_off_lead"), weight=0),
        notes="A leg that a punch has loaded is open. The rear hand after it comes now and then: "
              "distance, angle or a waiting hand; not waited for.",
        watch=("drops the other hand", "waits for the partner", "standing heel not turned"),
        level="settled",
        focus=("low kick", "counter timing"),
        place=_SHINS,
        start="kick",
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "answer"}),
            ("with the kick", {"answers": "exit"}),
            ("some of them", {"order": RANDOM_FEEDS, "counter_share": 0.6}),
            ("rear hand now and then", {"branches": True, "tempo_bpm": 54, "goal_bpm": 66}),
        ),
    )  # fmt: skip


def three_back_together() -> PartnerDrill:
    """Three kicks come, the calf is met, and three go back. Sport only."""
    return drill(
        "Three kicks, three back",
        passage("in_place", "kick in place", 4, fed("1 rear body_kick !light"),
                done("1 lead calf_meet"), done("2 rear body_kick !light")),
        passage("stepping", "stepping kick", 4, fed("1 rear body_kick +advance !light"),
                done("1 lead calf_meet +retreat"), done("2 rear body_kick !light")),
        passage("spinning", "spinning kick", 4, fed("1 rear spinning_kick @body !light"),
                done("1 rear calf_meet"), done("2 lead body_kick +advance !light")),
        notes="The same arm meets the first two, the other the third. Sport only; never show the "
              "back outside it. No touch without gear.",
        watch=("shows the back", "leg left where it is", "drops the other hand"),
        level="settled",
        focus=("kicks", "sport"),
        place=_VESTS,
        start_m=1.1,
        rungs=ladder(
            _SLOW,
            ("any of the three", {"order": RANDOM_FEEDS, "announced": False}),
            ("light", {"contact": "light", "tempo_bpm": 50, "goal_bpm": 64, "tell": "plain"}),
        ),
    )  # fmt: skip


def together_on_ten() -> PartnerDrill:
    """Both kick the chest guard at once, on the count, ten times."""
    return drill(
        "Both at once, ten times",
        passage("both", "both kick on the count", 2, fed("1 rear body_kick !light"),
                done("1 rear body_kick !light")),
        notes="Counted aloud to ten by both. Guard stays up while you kick.",
        watch=("ahead of the rhythm", "drops the other hand"),
        focus=("rhythm", "used to contact"),
        place=_VESTS,
        start_m=1.1,
        early=True,
        rungs=ladder(
            _SLOW.model_copy(
                update={"name": "on the count", "contact": "touch", "turns": Turns(switch="never"),
                        "rounds": PartnerRounds(count=4, ends="count", exchanges=10)}
            ),
            ("light", {"contact": "light", "tempo_bpm": 50, "goal_bpm": 60}),
        ),
    )  # fmt: skip


def blocks_only() -> PartnerDrill:
    """Front leg, back leg in turn, met on the same side or across; no chest guard, no contact."""
    across = keep("side", "met across the body on purpose: both ways are practiced")
    return drill(
        "Kicks met, both ways",
        passage("front_same", "front leg, same side", 3, fed("1 lead body_kick"),
                done("1 rear low_block")),
        passage("back_same", "back leg, same side", 3, fed("1 rear body_kick"),
                done("1 lead low_block")),
        passage("front_across", "front leg, across", 3, fed("1 lead body_kick"),
                done("1 lead low_block", kept=across)),
        passage("back_across", "back leg, across", 3, fed("1 rear body_kick"),
                done("1 rear low_block", kept=across)),
        notes="No chest guard: every kick stops short.",
        watch=("drops the other hand", "leans in / hunches (structure drills)"),
        focus=("blocking kicks",),
        place=PartnerPlace(gear=("shin_guards",), floor_m=4),
        start_m=1.15,
        rungs=ladder(
            _SLOW.model_copy(
                update={"contact": "none", "passages": ("front_same", "back_same"),
                        "order": SetOrder(sequence=("front_same", "back_same"))}
            ),
            ("across too", {"passages": (), "order": Rotating()}),
            ("any of them", {"order": RANDOM_FEEDS}),
            ("quicker", {"tempo_bpm": 54, "goal_bpm": 70, "tell": "plain"}),
        ),
    )  # fmt: skip
