"""Partner drills against swings, and reading what comes."""

from __future__ import annotations

from hastatus.core.drill.partner import (
    RANDOM_FEEDS,
    PartnerDrill,
    PartnerPlace,
    PartnerRounds,
    PartnerRung,
)
from hastatus.core.drill.settings import Rotating
from hastatus.core.starter.partner.build import done, drill, fed, gives, ladder, pad, passage
from hastatus.core.starter.school_lines import follows

_GLOVES = PartnerPlace(gear=("gloves", "mouthguard"), floor_m=4)
_PADS = PartnerPlace(gear=("gloves", "mouthguard", "focus_pads"), floor_m=4)
_SLOW = PartnerRung(name="slow, in order", tempo_bpm=50, goal_bpm=60, order=Rotating(), tell="big",
                    announced=True, contact="touch", branches=False)  # fmt: skip


def wide_swing_together() -> PartnerDrill:
    """Four answers to a wide swing; a second swing follows, and the hit must beat it."""
    more = (gives("follow_up", 1, "second"), gives("no_follow_up", 2))
    swing = fed("1 rear wide_swing +advance !touch")
    return drill(
        "The wide swing, in twos",
        passage("block", "block and hit", 4, swing, done("1 lead forearm_block"),
                done("1.5 rear straight !touch"), then=more),
        passage("duck", "duck, angle off", 4, swing, done("1 duck"),
                done("2 lead angle_off"), done("2.5 rear body_straight +advance !touch"),
                then=more),
        passage("drive", "cover, drive in", 4, swing, done("1 double_cover"),
                done("2 drive_in !none"), then=more),
        passage("first", "straight hit first", 4, swing, done("1 lead straight !touch")),
        passage("second", "a second swing", 3, fed("1 lead wide_swing !touch"),
                done("1 rear forearm_block"), done("1.5 lead straight +advance !touch"), weight=0),
        notes="Go in early, in the middle or late. Both stances. Done as the smaller person.",
        reason="A straight line is shorter than a swing, and a second swing is coming.",
        schools=follows("swing in", "early intent"),
        watch=("leans in / hunches (structure drills)", "stands still", "waits for the partner"),
        focus=("swings",),
        place=_GLOVES,
        early=True,
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "answer"}),
            ("with the hit", {"answers": "exit", "passages": ("block", "duck", "drive")}),
            ("hit first, too", {"passages": (), "order": RANDOM_FEEDS}),
            ("a second swing", {"branches": True, "tell": "plain"}),
            ("both stances", {"rounds": PartnerRounds(stances="in_turn",
                                                      calls=("switch", "time"))}),
        ),
    )  # fmt: skip


def read_the_entry() -> PartnerDrill:
    """One entry, lead and rear; two answers learned apart: duck, or slip, each with its chain."""
    lead = fed("1 lead straight +advance !touch"), done("1 rear parry")
    return drill(
        "One entry, two ways out",
        passage("duck", "duck", 5, *lead, fed("2 rear straight +advance !touch"), done("2 duck"),
                done("3 rear straight !touch"), done("3.5 lead hook !touch"),
                done("4 rear uppercut +advance !touch")),
        passage("slip", "slip", 5, *lead, fed("2 rear straight !touch"), done("2 lead slip"),
                done("3 rear straight !touch"), done("3.5 lead straight !touch"),
                done("4 rear straight !touch")),
        notes="Each answer is learned by itself, whole. Then it is named just before; at last it "
              "is read: where the feeder comes on with the rear, duck; where the feet stay, slip.",
        look="At the chest.",
        reason="Two answers to one entry are kept apart, so neither is guessed.",
        schools=follows("order known", "look chest"),
        watch=("anticipates", "hand not home"),
        level="settled",
        focus=("reading", "counters"),
        grading="answer",
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"name": "the duck alone", "passages": ("duck",)}),
            ("the slip alone", {"passages": ("slip",)}),
            ("either, named before", {"passages": (), "order": RANDOM_FEEDS}),
            ("either, read", {"announced": False}),
            ("smaller wind-up", {"tell": "plain", "tempo_bpm": 56, "goal_bpm": 72}),
        ),
    )  # fmt: skip


def under_together() -> PartnerDrill:
    """Roll under a partner's swings to both sides: two, and stop; then faster."""
    return drill(
        "Roll under, two and stop",
        passage("two", "two swings", 4, fed("1 rear wide_swing +advance !none"),
                fed("2 lead wide_swing"), done("1 lead roll_under"), done("2 rear roll_under"),
                done("3 lead body_hook !touch")),
        passage("two_other", "two, other side first", 4, fed("1 lead wide_swing +advance !none"),
                fed("2 rear wide_swing"), done("1 rear roll_under"), done("2 lead roll_under"),
                done("3 rear body_straight !touch")),
        passage("one", "one only", 3, fed("1 rear wide_swing +advance !none"),
                done("1 lead roll_under"), done("2 lead body_hook !touch"), weight=0.5),
        notes="Swings pass above the head. Bend the knees, not the back.",
        reason="Knees bend faster than a head can be carried away from a hook.",
        schools=follows("answer evade", "upper_body rounded"),
        watch=("stands upright in the roll", "leans in / hunches (structure drills)",
               "drops the other hand"),
        focus=("rolling",),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "answer", "passages": ("two", "two_other")}),
            ("any", {"passages": (), "order": RANDOM_FEEDS, "announced": False}),
            ("with the counter", {"answers": "exit"}),
            ("faster", {"tempo_bpm": 60, "goal_bpm": 84, "tell": "plain"}),
        ),
    )  # fmt: skip


def high_low_together() -> PartnerDrill:
    """Two targets, two answers: on the spot, going in, and giving ground."""
    high, low = pad(0.3), pad(0.2)
    return drill(
        "High pad, low pad",
        passage("high", "high", 3, fed("1 show_target", spot="high"),
                done("1 lead straight !light", pad=high)),
        passage("low", "low", 3, fed("1 show_target", spot="low"),
                done("1 rear body_straight !light", pad=low)),
        passage("high_in", "high, go in", 3, fed("1 show_target +retreat", spot="high"),
                done("1 lead straight +advance !light", pad=high)),
        passage("low_in", "low, go in", 3, fed("1 show_target +retreat", spot="low"),
                done("1 rear body_straight +advance !light", pad=low)),
        passage("high_back", "high, give ground", 3, fed("1 show_target +advance", spot="high"),
                done("1 lead straight +retreat !light", pad=high)),
        passage("low_back", "low, give ground", 3, fed("1 show_target +advance", spot="low"),
                done("1 rear body_straight +retreat !light", pad=low)),
        notes="Called and shown first, later only shown. One delivery at a time; attack and "
              "counter are not mixed. The other hand guards. About 3 m of floor.",
        reason="Two heights and two hands: the answer is chosen while the feet move.",
        schools=follows("announce said", "order known"),
        watch=("drops the other hand", "hand not home"),
        grading="answer",
        focus=("targets", "footwork"),
        place=_PADS,
        rungs=ladder(
            _SLOW.model_copy(update={"passages": ("high", "low"), "contact": "light"}),
            ("at random", {"order": RANDOM_FEEDS}),
            ("going in", {"passages": ("high_in", "low_in")}),
            ("giving ground", {"passages": ("high_back", "low_back")}),
            ("only shown", {"announced": False, "tempo_bpm": 60, "goal_bpm": 84}),
        ),
    )  # fmt: skip


def sound_and_target() -> PartnerDrill:
    """Two sounds for the high blocks, two shown pads for the straights."""
    return drill(
        "Sound: block. Pad: hit.",
        passage("sound_lead", "sound on the lead side", 2,
                fed("1 tap_sound ?called", spot="lead side"), done("1 lead high_block")),
        passage("sound_rear", "sound on the rear side", 2,
                fed("1 tap_sound ?called", spot="rear side"), done("1 rear high_block")),
        passage("pad_lead", "pad for the lead", 2, fed("1 show_target", spot="lead side"),
                done("1 lead straight !light", pad=pad(0.3))),
        passage("pad_rear", "pad for the rear", 2, fed("1 show_target", spot="rear side"),
                done("1 rear straight !light", pad=pad(0.3))),
        passage("both", "sound and pad at once", 3,
                fed("1 tap_sound ?called", spot="lead side"),
                fed("1.5 show_target", spot="rear side"), done("1 lead high_block"),
                done("1.5 rear straight !light", pad=pad(0.3)), weight=0.7),
        notes="Hand from brow to crown, elbow up.",
        reason="Blocking and hitting are called by different senses, as they are in earnest.",
        schools=follows("order known", "announce shown"),
        watch=("hand not home", "elbow flares"),
        focus=("sound and sight",),
        grading="answer",
        place=_PADS,
        rungs=ladder(
            _SLOW.model_copy(update={"announced": False, "contact": "light",
                                     "passages": ("sound_lead", "sound_rear")}),
            ("and pads", {"passages": ("sound_lead", "sound_rear", "pad_lead", "pad_rear"),
                          "order": RANDOM_FEEDS}),
            ("at once", {"passages": ()}),
            ("faster", {"tempo_bpm": 60, "goal_bpm": 90}),
        ),
    )  # fmt: skip
