"""Partner drills by touch: loops of the arms, pressure, grips."""

from __future__ import annotations

from hastatus.core.drill.partner import (
    RANDOM_FEEDS,
    PartnerDrill,
    PartnerPlace,
    PartnerRounds,
    PartnerRung,
    Stream,
    Turns,
)
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.settings import Rotating, SetOrder
from hastatus.core.starter.partner.build import (
    done,
    drill,
    fed,
    gives,
    keep,
    ladder,
    may,
    pad,
    passage,
)  # fmt: skip
from hastatus.core.starter.school_lines import follows

_BARE = PartnerPlace(floor_m=2)
_SLOW = PartnerRung(name="slow, in order", tempo_bpm=40, goal_bpm=50, order=Rotating(), tell="big",
                    announced=True, contact="touch", branches=False)  # fmt: skip


def contact_loop() -> PartnerDrill:
    """A loop of the arms with five ways in; the cue is felt, and a lost contact is one too."""
    ways = (
        gives("goes_on", 5, "loop"), gives("arm_light", 1, "over"), gives("arm_heavy", 1, "under"),
        gives("comes_on", 1, "inside"), gives("arm_neutral", 1, "outside"),
        gives("retreats", 1, "lost"),
    )  # fmt: skip
    press = "arm_press !touch ?felt"
    return drill(
        "Loop of the arms",
        passage("loop", "the loop", 2, fed(f"1 lead {press}"), fed(f"2 rear {press}"),
                done("1 rear redirect ?felt"), done("2 lead redirect ?felt"), then=ways),
        passage("over", "over the arm", 2, fed(f"1 lead {press}"),
                done("1 rear redirect ?felt"), done("2 lead palm_strike ?felt"), weight=0),
        passage("under", "under the arm", 2, fed(f"1 lead {press}"),
                done("1 rear slap_down ?felt"), done("2 lead body_straight ?felt"), weight=0),
        passage("inside", "inside", 2, fed(f"1 rear {press}"),
                done("1 lead slap_down ?felt"), done("2 rear palm_strike ?felt"), weight=0),
        passage("outside", "outside", 2, fed(f"1 rear {press}"),
                done("1 lead redirect ?felt"), done("2 rear palm_strike ?felt"), weight=0),
        passage("lost", "contact lost: hit", 2, fed("1 stay ?lost_contact"),
                done("1.5 lead palm_strike ?lost_contact"), weight=0),
        notes="One arm first, then both with different jobs. Bare hands: slow, and stop short.",
        look="Nowhere: trust the touch.",
        reason="At touch the arm tells sooner than the eye.",
        schools=follows("sense felt", "look touch"),
        watch=("elbow flares", "leans in / hunches (structure drills)", "pushes through"),
        focus=("felt cues",),
        place=_BARE,
        start="elbow",
        grading="answer",
        rungs=ladder(
            _SLOW.model_copy(update={"name": "the loop alone", "pause": Stream(),
                                     "rounds": PartnerRounds(count=3, duration_s=60)}),
            ("five ways in", {"branches": True}),
            ("eyes closed", {"eyes_closed": True, "announced": False}),
        ),
    )  # fmt: skip


def swing_out() -> PartnerDrill:
    """A loop is broken by a swing at a random moment; foot and hand arrive together."""
    press = "arm_press !touch ?felt"
    ways = (gives("goes_on", 3, "loop"), gives("real", 1, "swing"), gives("comes_on", 1, "push"))
    after = (
        gives("comes_on", 1, "smaller", "defender_taller"),
        gives("goes_on", 1, "taller", "feeder_taller"),
        gives("goes_on", 1, "even", "same_height"),
    )
    return drill(
        "The loop breaks",
        passage("loop", "the loop", 4, fed(f"1 lead {press}"), fed(f"3 rear {press}"),
                done("1 rear redirect ?felt"), done("3 lead redirect ?felt"), then=ways),
        passage("swing", "a swing", 3, fed("1 rear wide_swing"),
                done("1 lead forearm_block +advance"), done("1 rear palm_strike"),
                done("2 lead round_elbow"), done("2.5 rear straight_knee"),
                then=after, weight=0),
        passage("push", "a push, to test", 2, fed("1 shove !touch ?felt"),
                done("1 lead step_off ?felt"), weight=0),
        passage("smaller", "the partner is smaller", 3, fed("1 stay"),
                done("2 arm_frame"), weight=0),
        passage("taller", "the partner is taller", 3, fed("1 stay"),
                done("2 rear body_straight +step_off_lead"), weight=0),
        passage("even", "about as tall", 3, fed("1 stay"),
                done("2 rear round_elbow"), weight=0),
        notes="Foot and hand arrive together; elbow and knee are chained to it and stop short. "
              "Other size, other follow-up: short against tall goes to the body or off the line; "
              "tall against short expects a tackle.",
        reason="Loops end in a swing sooner or later; the change is what is drilled.",
        schools=follows("sense seen", "early intent"),
        watch=("extra step up", "waits for the partner"),
        level="settled",
        focus=("felt cues", "same beat"),
        place=_BARE,
        start="elbow",
        early=True,
        rungs=ladder(
            _SLOW.model_copy(update={"name": "the loop alone"}),
            ("swing at random", {"branches": True}),
            ("no call", {"announced": False, "tell": "plain"}),
        ),
    )  # fmt: skip


def three_pressures() -> PartnerDrill:
    """The arm is light, neutral or heavy: go through, tap it down, or pull; then the whole chain,
    into which the partner may hit back. In a ring of three, in which nobody idles."""

    def chain(key: str, name: str, *entry: PartnerStep) -> Passage:
        return passage(
            key, name, 7, *entry,
            done("2 lead hook !touch"), done("3 rear straight !touch"),
            done("4 lead round_elbow", pad=pad(0.2)),
            fed("5 rear straight !touch", when="back"), done("5 lead parry", when="back"),
            done("5.5 lead pull_past", when="back"),
            done("6 rear straight_knee !light", pad=pad(0.15), when="back"),
            choices=(may("back", "hits back", 0.4, "real"),), weight=0,
        )  # fmt: skip

    ways = (
        gives("arm_light", 1, "light"), gives("arm_neutral", 1, "neutral"),
        gives("arm_heavy", 1, "heavy"),
    )  # fmt: skip
    return drill(
        "Light, neutral, heavy",
        passage("press", "give an arm", 2, fed("1 lead arm_press !touch ?felt ~2"),
                done("1 rear forearm_brace ?felt ~1.5"), then=ways),
        chain("light", "light: go through", fed("1 stay"),
              done("1 lead straight !touch ?felt")),
        chain("neutral", "neutral: tap it down", fed("1 stay"), done("1 rear slap_down ?felt"),
              done("1 lead straight !touch")),
        chain("heavy", "heavy: pull", fed("1 advance"), done("1 rear pull_past ?felt"),
              done("1 lead straight !touch")),
        notes="Enter with the lead hand. An arm that is too soft goes in by itself; a neutral one "
              "is tapped down just enough; a heavy one is pulled. The partner gives way as a "
              "person would. Now and then they hit back at the jaw, aimed true however slowly: it "
              "is caught, and they are pulled onto the belly pad, the head out of the way. Arms "
              "first, shoulders and hips later. A smaller one steps in at an angle.",
        reason="How hard the arm pushes says which way in is open.",
        schools=follows("announce said", "aim true"),
        watch=("pushes through", "waits for the partner", "never gives way",
               "stops the blow instead of letting it pass"),
        level="settled",
        focus=("felt cues", "pressure"),
        place=PartnerPlace(people=3, gear=("gloves", "mouthguard", "belly_pad", "focus_pads"),
                           floor_m=3),
        start="elbow",
        third="holds the pad for the elbow",
        grading="answer",
        rungs=ladder(
            _SLOW.model_copy(update={"name": "which arm it is", "branches": True,
                                     "answers": "answer",
                                     "turns": Turns(switch="count", every=8)}),
            ("the whole chain", {"answers": "exit"}),
            ("not said", {"announced": False}),
            ("small wind-up", {"tell": "trimmed", "tempo_bpm": 48, "goal_bpm": 60}),
        ),
    )  # fmt: skip


def elbow_loop() -> PartnerDrill:
    """Meet, carry over, pin, and the own elbow goes in: four steps, and the roles have changed."""
    return drill(
        "Elbows, round and round",
        passage("loop", "elbow, stopped", 3, fed("1 lead round_elbow"),
                done("1 rear meet", spot="palm, its last few centimetres"),
                done("2 lead carry_over", spot="under the upper arm"),
                done("3 rear pin", spot="past the centre"),
                then=(gives("goes_on", 1, "loop"),), swap=True),
        passage("through", "elbow, let through", 3, fed("1 lead round_elbow"),
                done("1 rear meet +step_off_rear", spot="cushioned, let through"),
                done("2 lead carry_over", spot="under the upper arm"),
                done("3 rear pin", spot="past the centre"),
                then=(gives("goes_on", 1, "through"),), swap=True),
        notes="The palm of the same side meets the last few centimetres; the other hand comes "
              "under and carries the arm across; the first hand pins it past the centre; then "
              "your own elbow goes in, and the roles have changed. Stopped at first; later "
              "cushioned and let through, the body moves outside. The elbow is bent all the way, "
              "the hand loose. Beside, or stopped short. Both sides.",
        reason="Four steps that come round again make the hands quiet.",
        schools=follows("contact none", "gloves bare"),
        watch=("elbow flares", "ahead of the rhythm", "pushes through"),
        focus=("rhythm", "close range"),
        place=_BARE,
        start="elbow",
        rungs=ladder(
            _SLOW.model_copy(
                update={"name": "step by step", "branches": True, "order": SetOrder(),
                        "contact": "none", "turns": Turns(switch="score"),
                        "passages": ("loop",),
                        "rounds": PartnerRounds(count=4, duration_s=60, stances="in_turn",
                                                calls=("switch", "time"))}
            ),
            ("flowing", {"tempo_bpm": 50, "goal_bpm": 72, "announced": False}),
            ("cushioned, let through", {"passages": ("through",), "tempo_bpm": 44}),
        ),
    )  # fmt: skip


def touch_then_cover() -> PartnerDrill:
    """A touch on the forearm starts the cover; the head leaves the line."""
    press = "arm_press +advance !touch ?felt"
    return drill(
        "Touched: cover and move",
        passage("touch", "touch, then the straight", 4, fed(f"1 lead {press}"),
                fed("2 rear straight"), done("2 lead ear_cover ?felt"), done("2 lead slip ?felt"),
                done("3 rear straight")),
        passage("far", "low kick first, from outside", 5, fed("1 lead low_kick +advance"),
                fed("2 rear straight +advance"), done("1 rear withdraw_leg"),
                done("2 lead ear_cover"), done("3 rear straight")),
        passage("returned", "against the return", 5, fed(f"1 lead {press}"),
                done("1.5 rear straight ?felt"), fed("1.5 lead ear_cover"),
                fed("2.5 rear straight"), done("2.5 lead redirect +step_off_lead"),
                done("3 rear hook", spot="head, from the other side")),
        notes="Pressure is already on, so the attacking hand goes straight, never cocked. From "
              "outside a low kick distracts first. Against the return: the partner covers and "
              "hits back; that arm is redirected, and the next hit comes from the other side.",
        reason="A touch comes before the hit, so the cover can start with it.",
        schools=follows("sense seen", "shins guards"),
        watch=("hand not home", "eyes shut / flinches", "drops the other hand"),
        focus=("felt cues", "cover"),
        place=PartnerPlace(gear=("gloves", "mouthguard", "shin_guards"), floor_m=3),
        rungs=ladder(
            _SLOW.model_copy(update={"passages": ("touch",), "order": SetOrder()}),
            ("from outside", {"passages": ("touch", "far"), "order": RANDOM_FEEDS}),
            ("against the return", {"passages": (), "announced": False}),
        ),
    )  # fmt: skip


def held_and_rolling() -> PartnerDrill:
    """Side to side on a pivot; being held is the cue."""
    grab = "collar_grab +advance !touch ?felt"
    turned = keep("fit", "the whole trunk turns out of the hold on the pivot, not only the head")
    return drill(
        "Held: roll to the side",
        passage("lead_hold", "hold the lead side", 4, fed(f"1 lead {grab}"),
                done("1.5 lead side_roll +pivot ?felt", kept=turned)),
        passage("rear_hold", "hold the rear side", 4, fed(f"1 rear {grab}"),
                done("1.5 rear side_roll +pivot ?felt", kept=turned)),
        passage("both", "hold and press", 4, fed(f"1 lead {grab}"),
                fed("2 rear arm_press !touch ?felt"),
                done("1.5 lead side_roll +pivot ?felt", kept=turned),
                done("3 rear wall_pressure ?felt"), weight=0.5),
        notes="No leaning. Against a wall: hold the pressure, let go of the rest.",
        reason="Whoever is held knows it by touch, before anything can be seen.",
        schools=follows("sense felt", "upper_body upright"),
        watch=("leans in / hunches (structure drills)", "stands upright in the roll"),
        focus=("structure", "felt cues"),
        place=_BARE,
        rungs=ladder(
            _SLOW,
            ("either side", {"order": RANDOM_FEEDS, "announced": False}),
            ("eyes closed", {"eyes_closed": True}),
        ),
    )  # fmt: skip


def close_redirect() -> PartnerDrill:
    """Three leads, three rears, well below full speed, the counter at the same time; then big ones
    of any kind, a counter at the latest after four blocks."""

    def three(key: str, name: str, side: str, arm: str, other: str) -> Passage:
        """The defender chooses: across, or outward."""
        steps = [
            step
            for beat in (1, 2, 3)
            for step in (fed(f"{beat} {side} straight"),
                         done(f"{beat} {arm} redirect", also=("outward_parry",)),
                         done(f"{beat} {other} palm_strike"))
        ]  # fmt: skip
        return passage(key, name, 3, *steps)

    def big(key: str, name: str, attack: str, block: str, hand: str) -> Passage:
        return passage(key, name, 2, fed(f"1 {attack}"), done(f"1 {block}"),
                       done(f"2 {hand} palm_strike"))  # fmt: skip

    any_big = (
        big("big_rear", "big swing, rear", "rear wide_swing", "lead forearm_block", "rear"),
        big("big_lead", "big swing, lead", "lead wide_swing", "rear forearm_block", "lead"),
        big("big_over", "overhand", "rear overhand", "lead high_block", "rear"),
        big("big_hook", "hook", "lead hook", "rear forearm_block", "lead"),
        big("big_straight", "straight", "rear straight", "lead redirect", "rear"),
    )
    return drill(
        "Close: turn it and hit",
        three("leads", "three leads", "lead", "rear", "lead"),
        three("rears", "three rears", "rear", "lead", "rear"),
        *any_big,
        notes="The defender chooses. Outward leaves the other hand dangerous: bring the guard "
              "back. Across, the other hand has to come round: hit over the top. Then big ones of "
              "any kind, relaxed: a counter at the latest after three or four blocks.",
        reason="Up close there is time for one movement, so it turns and hits at once.",
        schools=follows("answer pass", "early intent"),
        watch=("only blocks, no counter", "elbow flares"),
        focus=("close range", "same beat"),
        place=_BARE,
        start="elbow",
        early=True,
        rungs=ladder(
            _SLOW.model_copy(update={"passages": ("leads", "rears"), "contact": "none",
                                     "pause": Stream()}),
            ("either three", {"order": RANDOM_FEEDS, "announced": False}),
            ("big ones, any", {"passages": tuple(one.key for one in any_big),
                               "counter_share": 0.35, "tempo_bpm": 52, "goal_bpm": 56}),
            ("faster", {"tempo_bpm": 58, "goal_bpm": 60, "tell": "plain"}),
        ),
    )  # fmt: skip
