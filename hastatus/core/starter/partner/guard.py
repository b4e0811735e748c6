"""Partner drills of the guard: cover, hold, and leave."""

from __future__ import annotations

from hastatus.core.drill.partner import (
    RANDOM_FEEDS,
    PartnerDrill,
    PartnerPlace,
    PartnerRounds,
    PartnerRung,
    Stream,
    TempoRule,
    Turns,
)
from hastatus.core.drill.settings import Rotating, SetOrder, Unguessable
from hastatus.core.starter.partner.build import done, drill, fed, gives, keep, ladder, passage
from hastatus.core.starter.school_lines import follows

_GLOVES = PartnerPlace(gear=("gloves", "mouthguard"), floor_m=3)
_SLOW = PartnerRung(name="slow, in order", tempo_bpm=50, goal_bpm=60, order=Rotating(), tell="big",
                    announced=True, contact="touch", branches=False)  # fmt: skip


def small_guard_together() -> PartnerDrill:
    """One only attacks, the other only defends with small movements; switch on the call."""
    fast = PartnerRounds(count=4, duration_s=90, rest_s=30, calls=("switch", "time"))
    return drill(
        "One hits, one guards",
        passage("lead_in", "lead", 1, fed("1 lead straight +advance !touch"), done("1 rear parry")),
        passage("rear_in", "rear", 1, fed("1 rear straight +advance !touch"), done("1 lead parry")),
        passage("hook_in", "hook", 1, fed("1 lead hook +advance !touch"),
                done("1 rear forearm_block")),
        passage("two_in", "lead, rear", 2, fed("1 lead straight +advance !touch"),
                fed("2 rear straight !touch"), done("1 rear parry"), done("2 lead parry"),
                weight=0.7),
        notes="One strike after another, without a pause. Small movements only. The pace climbs "
              "while it is clean.",
        guard="Closed: a gap of less than a fist, chin down.",
        reason="Small movements are in time where large ones are not.",
        schools=follows("guard closed", "pace measured"),
        watch=("reaches too far from the body", "hand not home", "static guard"),
        focus=("guard", "switching"),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(
                update={"turns": Turns(switch="time", every_s=30), "rounds": fast,
                        "pause": Stream(), "tempo_bpm": 36, "goal_bpm": 44}
            ),
            ("any", {"order": RANDOM_FEEDS, "announced": False,
                     "turns": Turns(switch="time", every_s=20)}),
            ("pace climbs", {"climb": TempoRule(rule="by_rule"), "tempo_bpm": 44, "goal_bpm": 60,
                             "tell": "plain"}),
        ),
    )  # fmt: skip


def at_the_wall() -> PartnerDrill:
    """A stream caught with the back to a wall; tie up in time; leave on the signal."""
    after = (gives("comes_on", 2), gives("follow_up", 1, "body"), gives("real", 1, "legs"))
    tie = "tie_up +advance"
    room = keep("counter_beat", "drop and shove come first: they make the room to hit in")
    caught = "double_forearm"
    lead, rear = fed("1 lead straight !touch"), fed("1 rear straight !touch")
    return drill(
        "Back to the wall",
        passage("lead_in", "lead", 1, lead, done("1 rear sweeping_guard")),
        passage("rear_in", "rear", 1, rear, done("1 lead sweeping_guard", also=("slip",))),
        passage("lead_hook", "lead hook", 1, fed("1 lead hook !touch"), done(f"1 {caught}")),
        passage("rear_hook", "rear hook", 1, fed("1 rear hook !touch"), done(f"1 {caught}")),
        passage("feint", "only a step in", 1, fed("1 advance"), fed("1.5 retreat"), weight=0.3),
        passage("near", "too near", 2, fed("1 lead arm_press +advance ?felt"),
                done("1 shove_off"), fed("2 retreat"),
                weight=0.4),
        passage("one", "tie up after one", 2, lead, done("1 rear sweeping_guard"),
                done(f"2 {tie}"), then=after, weight=0.4),
        passage("two", "tie up after two", 3, lead, fed("2 rear straight !touch"),
                done("1 rear sweeping_guard"), done("2 lead sweeping_guard"), done(f"3 {tie}"),
                then=after, weight=0.3),
        passage("three", "tie up after three", 4, lead, fed("2 rear straight !touch"),
                fed("3 lead hook !touch"), done("1 rear sweeping_guard"),
                done("2 lead sweeping_guard"), done(f"3 {caught}"), done(f"4 {tie}"), then=after,
                weight=0.2),
        passage("body", "goes for the body", 2, fed("1 tackle"), done("1 hips_back"),
                done("2 arm_frame"), weight=0),
        passage("legs", "goes for the legs", 2, fed("1 tackle @leg"), done("1 hips_back"),
                done("2 shove_off", kept=room), weight=0),
        passage("leave_rear", "rear from far: leave", 4,
                fed("1 rear straight +advance !touch"), done("1 duck"), done("2 shove_off"),
                done("2.5 rear straight +advance !touch", kept=room), done("4 leave")),
        passage("leave_hook", "hook from far: leave", 4, fed("1 lead hook +advance !touch"),
                done("1 duck"), done("2 lead hook !touch"), done("3 shove_off"),
                done("4 leave")),
        notes="The feeder lands on what is there and scores nothing: one strike after another, a "
              "steady rhythm, later feints and steps in and out. Eyes open wider when hit. Tie up "
              "at the first, second or third, at the latest the fifth. Stepping in with the rear "
              "or the hook is the signal to leave the wall.",
        guard="Far: straight arms and a frame. Middle: the shoulder rounded forward and the "
              "sweeping guard. Near: two forearms, tight.",
        reason="At a wall there is no step back: cover, tie up, or leave.",
        schools=follows("guard closed", "order known"),
        watch=("static guard", "stands still", "eyes shut / flinches", "stands upright in the roll",
               "pushes through"),
        focus=("cover", "getting away"),
        place=_GLOVES,
        start_m=0.85,
        rungs=ladder(
            _SLOW.model_copy(update={
                "name": "sweep them off", "passages": ("lead_in", "rear_in"), "pause": Stream(),
                "tempo_bpm": 36, "goal_bpm": 44, "turns": Turns(switch="time", every_s=30),
                "rounds": PartnerRounds(count=4, duration_s=90, calls=("switch", "time"))}),
            ("two forearms", {"passages": ("lead_hook", "rear_hook")}),
            ("told apart, any", {"passages": ("lead_in", "rear_in", "lead_hook", "rear_hook"),
                                 "order": RANDOM_FEEDS, "announced": False}),
            ("feints, in and out", {"passages": ("lead_in", "rear_in", "lead_hook", "rear_hook",
                                                 "feint", "near")}),
            ("tie up in time", {"passages": ("lead_in", "rear_in", "lead_hook", "rear_hook",
                                             "one", "two", "three"),
                                "announced": True, "tempo_bpm": 48, "goal_bpm": 56}),
            ("and leave", {"passages": (), "branches": True, "tell": "plain",
                           "pause": Unguessable(least_s=1.5, mean_s=1.5, most_s=8)}),
        ),
    )  # fmt: skip


def frame_together() -> PartnerDrill:
    """Hold the frame against a push, letting go of tension; then step; then step and hit."""
    return drill(
        "Frame against a push",
        passage("hold", "push and hold", 32, fed("1 shove +advance !touch", perceived="felt"),
                done("1 arm_frame ~31")),
        passage("step", "push, step to the mark", 5,
                fed("1 shove +advance !touch", perceived="felt"), done("1 arm_frame ~2"),
                done("3 lead step_to_mark")),
        passage("hit", "push, step and hit together", 5,
                fed("1 shove +advance !touch", perceived="felt"), done("1 arm_frame"),
                done("2 rear straight +advance !touch")),
        notes="Let go of what is not needed to hold. Foot and hand arrive together.",
        reason="A frame that carries without effort is there when it is needed.",
        schools=follows("upper_body upright", "contact some"),
        watch=("leans in / hunches (structure drills)", "extra step up"),
        focus=("structure",),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"passages": ("hold",), "order": SetOrder(),
                                     "rounds": PartnerRounds(count=2, duration_s=300)}),
            ("then step", {"passages": ("hold", "step"), "order": RANDOM_FEEDS,
                           "rounds": PartnerRounds(count=3, duration_s=120)}),
            ("step and hit", {"passages": ()}),
        ),
    )  # fmt: skip


def cover_together() -> PartnerDrill:
    """Hands up early in the middle, cover the swing, drive until there is room, leave."""
    up, swing = done("1 hands_up", spot="early, in the middle"), "wide_swing +advance !touch"
    drive = (done("3 rear round_elbow"), done("4 lead round_elbow"), done("5 leave"))
    return drill(
        "Cover, drive, go, with a partner",
        passage("stepping_in", "swing, step in", 6, up, fed(f"2 rear {swing}"),
                done("2 head_cover +advance"), *drive),
        passage("stepping_back", "swing, step back", 6, up, fed(f"2 rear {swing}"),
                done("2 head_cover +retreat"), done("3 rear round_elbow +slide_step"),
                done("4 lead round_elbow"), done("5 leave")),
        passage("other", "the other arm", 6, up, fed(f"2 lead {swing}"),
                done("2 head_cover +advance"), done("3 lead round_elbow"),
                done("4 rear round_elbow"), done("5 leave")),
        notes="Hands are up early, so that the swing must come round. Elbows stop short.",
        guard="Chin down, both forearms tight to the head.",
        reason="A covered head can go forward, and forward there is room to leave.",
        schools=follows("answer stop", "swing in"),
        watch=("eyes shut / flinches", "hands spread", "stands still"),
        focus=("cover", "getting away"),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "answer"}),
            ("cover and drive", {"answers": "counter"}),
            ("and go", {"answers": "exit", "order": RANDOM_FEEDS}),
            ("smaller wind-up", {"tell": "plain", "tempo_bpm": 60, "goal_bpm": 72}),
        ),
    )  # fmt: skip


def trace_together() -> PartnerDrill:
    """One hand traces the zones; big attacks come at random and are met from there."""
    return drill(
        "Trace, and meet a partner",
        passage("over", "from above", 5, fed("2 rear overhand +advance !touch"),
                done("1 lead zone_trace"), done("2 lead high_block"),
                done("3 rear straight !touch")),
        passage("round", "from the side", 5, fed("2 rear wide_swing +advance !touch"),
                done("1 lead zone_trace"), done("2 lead forearm_block"),
                done("3 rear straight !touch")),
        passage("low", "to the body", 5, fed("2 rear body_straight +advance !touch"),
                done("1 lead zone_trace"), done("2 lead low_block"),
                done("3 rear straight !touch")),
        passage("nothing", "only a sweep", 4, fed("2 stay"), done("1 lead zone_trace"), weight=0.5),
        notes="From crown to hip, side to side and on diagonals, then a wide sweep.",
        reason="A hand that is under way meets a big attack sooner than one at rest.",
        schools=follows("answer stop", "order known"),
        watch=("drops the other hand", "reaches too far from the body", "anticipates"),
        focus=("guard", "reading"),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "answer"}),
            ("meet and hit", {"answers": "exit", "order": RANDOM_FEEDS}),
            ("not announced", {"announced": False, "tempo_bpm": 60, "goal_bpm": 80}),
        ),
    )  # fmt: skip
