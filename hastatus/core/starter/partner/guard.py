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
from hastatus.core.drill.settings import Rotating, SetOrder
from hastatus.core.starter.partner.build import done, drill, fed, gives, ladder, passage

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
    """Guard with the back to a wall, tie up in time, leave on the signal."""
    one = (fed("1 lead straight !touch"), done("1 double_forearm"))
    two = (*one, fed("2 rear straight !touch"), done("2 double_forearm"))
    three = (*two, fed("3 lead hook +advance !touch"), done("3 double_forearm"))
    out = (gives("comes_on", 3), gives("follow_up", 1, "tackle"))
    return drill(
        "Back to the wall",
        passage("sweep", "sweep them off", 4, fed("1 lead straight !touch"),
                fed("2 rear straight !touch"), done("1 rear sweeping_guard"),
                done("2 lead sweeping_guard"), done("3 tie_up +advance")),
        passage("slips", "slip them", 4, fed("1 lead straight !touch"),
                fed("2 rear straight !touch"), done("1 rear slip"), done("2 lead slip"),
                done("3 tie_up +advance"), weight=0.6),
        passage("one", "one, tie up", 4, *one, done("2 tie_up +advance"), then=out),
        passage("two", "two, tie up", 5, *two, done("3 tie_up +advance"), then=out),
        passage("three", "three, tie up", 6, *three, done("4 tie_up +advance"), then=out),
        passage("signal", "rear hand: leave", 5, fed("1 rear straight +advance !touch"),
                done("1 duck"), done("2 shove_off"), done("3 rear straight +advance !touch"),
                done("4 leave")),
        passage("tackle", "tackle", 3, fed("1 tackle"), done("1 hips_back"),
                done("2 arm_frame"), weight=0),
        notes="Guard far, middle and near. The feeder steps in and out and scores nothing. Tie up "
              "by the fifth unanswered punch; a rear straight or hook is the signal to leave.",
        watch=("static guard", "stands still", "eyes shut / flinches"),
        focus=("cover", "getting away"),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"passages": ("sweep",), "order": SetOrder()}),
            ("after one", {"passages": ("one", "sweep")}),
            ("after two", {"passages": ("one", "two", "sweep", "slips"), "order": RANDOM_FEEDS}),
            ("after three", {"passages": ("one", "two", "three", "sweep", "slips")}),
            ("and leave", {"passages": (), "branches": True, "tell": "plain"}),
        ),
    )  # fmt: skip


def frame_together() -> PartnerDrill:
    """Hold the frame against a push, letting go of tension; then step; then step and hit."""
    return drill(
        "Frame against a push",
        passage("hold", "push and hold", 8, fed("1 shove +advance !touch", perceived="felt"),
                done("1 arm_frame ~7")),
        passage("step", "push, step to the mark", 5,
                fed("1 shove +advance !touch", perceived="felt"), done("1 arm_frame ~2"),
                done("3 lead step_to_mark")),
        passage("hit", "push, step and hit together", 5,
                fed("1 shove +advance !touch", perceived="felt"), done("1 arm_frame"),
                done("2 rear straight +advance !touch")),
        notes="Let go of what is not needed to hold. Foot and hand arrive together.",
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
    drive = (done("2 rear round_elbow"), done("3 lead round_elbow"), done("4 leave"))
    return drill(
        "Cover, drive, go, with a partner",
        passage("stepping_in", "swing, step in", 5, fed("1 rear wide_swing +advance !touch"),
                done("1 head_cover +advance"), *drive),
        passage("stepping_back", "swing, step back", 5, fed("1 rear wide_swing +advance !touch"),
                done("1 head_cover +retreat"), done("2 rear round_elbow +slide_step"),
                done("3 lead round_elbow"), done("4 leave")),
        passage("other", "the other arm", 5, fed("1 lead wide_swing +advance !touch"),
                done("1 head_cover +advance"), done("2 lead round_elbow"),
                done("3 rear round_elbow"), done("4 leave")),
        notes="Hands are up early, so that the swing must come round. Elbows stop short.",
        guard="Chin down, both forearms tight to the head.",
        watch=("eyes shut / flinches", "hands spread", "stands still"),
        focus=("cover", "getting away"),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "answer"}),
            ("cover and drive", {"answers": "counter"}),
            ("and go", {"answers": "exit", "order": RANDOM_FEEDS}),
            ("smaller tell", {"tell": "plain", "tempo_bpm": 60, "goal_bpm": 72}),
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
        watch=("drops the other hand", "reaches too far from the body", "anticipates"),
        focus=("guard", "reading"),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "answer"}),
            ("meet and hit", {"answers": "exit", "order": RANDOM_FEEDS}),
            ("not announced", {"announced": False, "tempo_bpm": 60, "goal_bpm": 80}),
        ),
    )  # fmt: skip
