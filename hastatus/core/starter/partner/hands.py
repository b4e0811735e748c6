"""Partner drills of the hands: one attack, one answer, and the counter at its time."""

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
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.settings import Rotating, SetOrder
from hastatus.core.starter.partner.build import done, drill, fed, gives, keep, ladder, may, passage
from hastatus.core.starter.school_lines import follows

_GLOVES = PartnerPlace(gear=("gloves", "mouthguard"), floor_m=3)
_SLOW = PartnerRung(name="slow, in order", tempo_bpm=50, goal_bpm=60, order=Rotating(), tell="big",
                    announced=True, contact="touch", answers="answer", branches=False)  # fmt: skip


def touch_and_away() -> PartnerDrill:
    """One only touches, shoulder and ribs, a step with each; the other stands, moves, opens."""
    shoulder, ribs = ("straight @body !touch", "shoulder"), ("body_straight !touch", "ribs")

    def touches(key: str, name: str, feed: PartnerStep, *spots: tuple[str, str]) -> Passage:
        by_hand = ("lead", "+advance"), ("rear", "+step_off_rear")
        steps = [
            done(f"{beat} {hand} {words} {step}", spot=spot)
            for beat, ((hand, step), (words, spot)) in enumerate(
                zip(by_hand, spots, strict=False), start=1
            )
        ]
        return passage(key, name, 4, feed, *steps, done("3 step_back"))

    return drill(
        "In, touch, out",
        touches("stand", "stand", fed("1 stay"), shoulder, ribs),
        touches("back", "give ground", fed("1 retreat"), shoulder, ribs),
        touches("side", "step to the side", fed("1 step_off"), ribs, shoulder),
        touches("open_low", "guard up, ribs open", fed("1 hands_up", spot="ribs open"), ribs),
        touches("open_high", "guard up, shoulder open", fed("1 hands_up", spot="shoulder open"),
                shoulder),
        notes="One touches, the other only stands, moves, or lifts a guard and leaves an opening "
              "on purpose. Nobody parries, nobody hits back. Each touch is pulled at the moment "
              "of impact, with a step and from a new angle.",
        reason="Whoever is touched lightly a hundred times stops being afraid of it.",
        schools=follows("contact some", "fear slower"),
        watch=("stands still", "hand not home", "pushes through", "feed aimed to miss"),
        focus=("distance", "touch"),
        place=PartnerPlace(floor_m=3),
        rungs=ladder(
            _SLOW.model_copy(update={"name": "the other stands", "passages": ("stand",),
                                     "answers": "exit", "order": SetOrder(), "tempo_bpm": 44,
                                     "announced": False}),
            ("the other moves", {"passages": ("back", "side"), "order": RANDOM_FEEDS}),
            ("a guard with openings", {"passages": ("open_low", "open_high")}),
            ("all of it, quicker", {"passages": (), "tempo_bpm": 52, "tell": "plain"}),
        ),
    )  # fmt: skip


def turn_about() -> PartnerDrill:
    """One attack each on a shared beat, several to choose from; the tempo is settled first, then
    changed together."""
    on = (
        gives("real", 4, "turn"),
        gives("real", 2, "lead_in"),
        gives("real", 2, "body"),
        gives("feint", 1, "feint"),
    )
    return drill(
        "Turn about",
        passage("turn", "rear straight", 2, fed("1 rear straight !touch"), done("1 lead parry"),
                then=on, swap=True),
        passage("lead_in", "lead straight", 2, fed("1 lead straight !touch"),
                done("1 rear parry"), then=on, swap=True),
        passage("body", "to the body", 2, fed("1 rear body_straight !touch"),
                done("1 lead low_block"), then=on, swap=True),
        passage("feint", "only begun", 2, fed("1 rear straight"), then=(gives("real", 1, "turn"),),
                swap=True, weight=0),
        notes="Settle a tempo together before anybody changes it.",
        reason="A shared beat is what keeps two people safe while both attack.",
        schools=follows("order random", "pace measured"),
        watch=("ahead of the rhythm", "pushes through", "anticipates"),
        focus=("rhythm", "blocking"),
        place=_GLOVES,
        rungs=ladder(
            PartnerRung(name="one tempo", tempo_bpm=104, goal_bpm=120, tell="big",
                        contact="touch",
                        passages=("turn", "lead_in", "body"), turns=Turns(switch="score"),
                        rounds=PartnerRounds(count=3, duration_s=60)),
            ("tempo goes up together", {"climb": TempoRule(rule="by_rule"), "goal_bpm": 140}),
            ("by feel, no metronome", {"metronome": False, "tell": "plain"}),
        ),
    )  # fmt: skip


def above_the_arm() -> PartnerDrill:
    """The counter passes over the attacking arm; a fast return of that arm is the other half."""
    return drill(
        "Back above the arm",
        passage("lead_in", "lead, fast back", 4, fed("1 lead straight +advance !touch"),
                fed("2 lead ear_cover"), done("1 rear slip"),
                done("1.5 rear straight !touch", spot="jaw, above the arm")),
        passage("rear_in", "rear, fast back", 4, fed("1 rear straight +advance !touch"),
                fed("2 rear ear_cover"), done("1 lead slip"),
                done("1.5 lead straight !touch", spot="jaw, above the arm")),
        passage("heavy", "lead, with the finish", 5, fed("1 lead straight +advance !touch"),
                done("1 rear slip"), done("1.5 rear straight !touch", spot="jaw, above the arm"),
                done("2.5 lead hook !touch", spot="jaw"), weight=0.7),
        notes="The arm that attacked comes back as fast as it went.",
        reason="The arm that attacks shows the way in, and leaves the head open.",
        schools=follows("order known", "announce said"),
        watch=("hand not home", "drops the other hand", "cocks the strike first"),
        focus=("counter over the arm",),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"passages": ("lead_in", "rear_in")}),
            ("with the return", {"answers": "exit"}),
            ("either arm", {"order": RANDOM_FEEDS, "announced": False}),
            ("heavy finish", {"passages": (), "tell": "plain"}),
        ),
    )  # fmt: skip


def stop_and_hit() -> PartnerDrill:
    """Stop the straight and strike on the same beat."""
    return drill(
        "Stop it, hit on the beat",
        passage("lead_in", "lead straight", 3, fed("1 lead straight +advance !touch"),
                done("1 rear glove_catch"), done("1 lead straight !touch")),
        passage("rear_in", "rear straight", 3, fed("1 rear straight +advance !touch"),
                done("1 lead glove_catch"), done("1 rear straight !touch")),
        notes="Both hands work on one beat: one stops, one hits.",
        reason="A hit on the same beat lands before the second attack can start.",
        schools=follows("answer stop", "early intent"),
        watch=("waits for the partner", "cocks the strike first", "reaches too far from the body"),
        focus=("same beat",),
        place=_GLOVES,
        early=True,
        rungs=ladder(
            _SLOW,
            ("stop and hit", {"answers": "exit"}),
            ("either arm", {"order": RANDOM_FEEDS, "announced": False}),
            ("small wind-up", {"tell": "trimmed", "tempo_bpm": 60, "goal_bpm": 80}),
        ),
    )  # fmt: skip


def same_arm() -> PartnerDrill:
    """One arm deflects and hits, from outside the line; no second hand."""
    one = keep("limb", "the same arm deflects and hits in one movement: that is the drill")
    return drill(
        "One arm, both jobs",
        passage("rear_in", "rear straight", 2, fed("1 rear straight +advance !touch"),
                done("1 lead outward_parry +step_off_lead"),
                done("1 lead straight !touch", kept=one)),
        passage("lead_in", "lead straight", 2, fed("1 lead straight +advance !touch"),
                done("1 rear outward_parry +step_off_rear"),
                done("1 rear straight !touch", kept=one)),
        notes="The feeder's weight shift must be seen, or there is nothing to read.",
        look="At the shoulder that comes forward.",
        reason="Deflected and hit in one movement, there is no second beat to answer.",
        schools=follows("answer pass", "early intent"),
        watch=("elbow flares", "waits for the partner", "no visible weight shift"),
        focus=("angle",),
        place=_GLOVES,
        early=True,
        rungs=ladder(
            _SLOW.model_copy(update={"tempo_bpm": 44, "answers": "exit"}),
            ("either arm", {"order": RANDOM_FEEDS, "announced": False}),
            ("smaller wind-up", {"tell": "plain", "tempo_bpm": 56, "goal_bpm": 72}),
            ("one after another", {"pause": Stream()}),
        ),
    )  # fmt: skip


def third_beat() -> PartnerDrill:
    """Three attacks come, the answer is on the third; now and then there is a fourth."""
    three = (fed("1 lead straight +advance !touch"), fed("2 rear straight !touch"),
             fed("3 lead straight !touch"), done("1 double_forearm"), done("2 double_forearm"),
             done("3 rear slip"), done("3.5 rear straight !touch"))  # fmt: skip
    return drill(
        "Answer on three",
        passage("three", "three straights", 5, *three,
                then=(gives("no_follow_up", 3), gives("follow_up", 1, "fourth"))),
        passage("fourth", "a fourth", 2, fed("1 rear straight !touch"),
                done("1 lead ear_cover"), weight=0),
        notes="Openings are left on purpose; the blows are pulled. Eyes stay open.",
        reason="Eyes that stay open through two blows see the third one leave a gap.",
        schools=follows("order known", "contact some"),
        watch=("eyes shut / flinches", "anticipates", "static guard"),
        focus=("eyes open", "patience"),
        place=_GLOVES,
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "exit"}),
            ("steady", {"tempo_bpm": 60, "goal_bpm": 80, "announced": False}),
            ("a surprise fourth", {"branches": True}),
        ),
    )  # fmt: skip


def two_beat_counter() -> PartnerDrill:
    """Lead and rear are parried; the body shot goes with the second parry, the hooks follow, and an
    overhand may come as the defender drops for it."""
    return drill(
        "Two beats, then in",
        passage("pair", "lead, rear", 5,
                fed("1 lead straight +advance !touch"), fed("2 rear straight !touch"),
                done("1 rear parry"), done("2 lead parry +step_off_lead"),
                done("2 rear body_straight !touch"), done("3 lead body_hook !touch"),
                done("3.5 lead hook !touch"),
                fed("3 lead overhand !touch", when="over"), done("3 rear ear_cover", when="over"),
                choices=(may("over", "overhand", 0.35),)),
        notes="The overhand comes as the defender drops for the body shot, or does not come: it is "
              "covered while the hooks go on, and not waited for. Without a cover it is a light "
              "tap. Footwork between exchanges.",
        reason="The counter is in on beat two, before the partner is home.",
        schools=follows("answer pass", "announce said"),
        watch=("skips the body shot", "waits for the partner", "too far for the hook (wrist at "
               "risk)"),
        level="settled",
        focus=("two-beat counter", "angle"),
        place=_GLOVES,
        rungs=ladder(
            _SLOW,
            ("in turn, attack by attack", {"answers": "exit", "tempo_bpm": 56, "goal_bpm": 70,
                                     "turns": Turns(switch="count", every=1),
                                     "rounds": PartnerRounds(ends="first", exchanges=25,
                                                             duration_s=210)}),
            ("quicker", {"tempo_bpm": 66, "goal_bpm": 84, "announced": False, "tell": "plain"}),
            ("overhand now and then", {"branches": True}),
        ),
    )  # fmt: skip


def one_more_together() -> PartnerDrill:
    """Slip; slip and parry; with a step; with a counter: five of each, counted aloud."""
    counted = PartnerRounds(count=2, ends="count", exchanges=20, count_to=5,
                            calls=("time", "count", "check_feet"))  # fmt: skip
    return drill(
        "Add one, together",
        passage("slip", "slip", 3, fed("1 lead straight +advance"), done("1 rear slip")),
        passage("parry", "slip and parry", 3, fed("1 lead straight +advance"),
                done("1 rear slip"), done("1 rear parry")),
        passage("stepping", "with a step", 3, fed("1 lead straight +advance"),
                done("1 rear slip"), done("1 rear parry +step_off_rear")),
        passage("counter", "with a counter", 3, fed("1 lead straight +advance"),
                done("1 rear slip"), done("1 rear parry +step_off_rear"),
                done("2 lead straight")),
        notes="After the base by the count. Five of each, counted aloud by both; the feet are "
              "looked at between sets. A group follows along.",
        reason="One thing more at a time: what was learned stays clean.",
        schools=follows("end count", "order known"),
        watch=("reaches too far from the body", "extra step up"),
        focus=("slipping",),
        place=_GLOVES,
        rungs=(
            PartnerRung(name="five of each", tempo_bpm=50, goal_bpm=60, tell="big",
                        announced=True,
                        order=SetOrder(sequence=("slip",) * 5 + ("parry",) * 5
                                       + ("stepping",) * 5 + ("counter",) * 5),
                        rounds=counted),
            PartnerRung(name="any of them", tempo_bpm=56, goal_bpm=76, announced=True,
                        rounds=counted),
        ),
    )  # fmt: skip


def bare_then_gloved() -> PartnerDrill:
    """The same defenses with bare hands, slow and without contact, and with gloves."""
    return drill(
        "Bare hands, then gloves",
        passage("lead_in", "lead straight", 4, fed("1 lead straight +advance !touch"),
                done("1 rear forearm_block"), done("2 lead straight !touch")),
        passage("rear_in", "rear straight", 4, fed("1 rear straight +advance !touch"),
                done("1 lead forearm_block"), done("2 rear straight !touch")),
        passage("hook_in", "lead hook", 4, fed("1 lead hook +advance !touch"),
                done("1 rear forearm_block"), done("2 rear straight !touch")),
        notes="The forearm is the shield, more than a right angle at the elbow.",
        guard="A slit to see through, none against hooks.",
        reason="Bare hands place the block exactly; gloves then allow the speed.",
        schools=follows("gloves gloves", "guard slit"),
        watch=("elbow flares", "hand not home"),
        focus=("forearm",),
        place=_GLOVES,
        rungs=ladder(
            PartnerRung(name="bare hands, in order", tempo_bpm=44, goal_bpm=56, order=Rotating(),
                        tell="big", contact="none", gear=()),
            ("bare hands, any", {"order": RANDOM_FEEDS}),
            ("gloves on", {"gear": None, "contact": "touch", "tempo_bpm": 60, "goal_bpm": 84}),
        ),
    )  # fmt: skip
