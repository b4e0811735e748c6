"""Partner drills of the legs."""

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

_SHINS = PartnerPlace(gear=("gloves", "mouthguard", "shin_guards"), floor_m=4)
_VESTS = PartnerPlace(gear=("shin_guards", "chest_guard", "groin_guard"), floor_m=4)
_SHIELD = PartnerPlace(gear=("gloves", "kick_shield", "shin_guards"), floor_m=4)
_SLOW = PartnerRung(name="slow, in order", tempo_bpm=44, goal_bpm=56, order=Rotating(), tell="big",
                    announced=True, contact="touch", branches=False)  # fmt: skip


def kick_pairs() -> PartnerDrill:
    """Three pairs of different kicks, each with two footworks: go in on the first and stay for the
    second; stay on the first and chase the second, because the partner runs."""
    pairs = (
        ("front_hook", "front, then hook", "lead front_kick", "rear hook_kick @body"),
        ("hook_side", "hook, then side", "lead hook_kick @body", "rear side_kick"),
        ("thrust", "thrust, then side or hook", "rear front_kick", "lead side_kick"),
    )
    passages = []
    for key, name, first, second in pairs:
        also = ("hook_kick",) if key == "thrust" else ()
        passages += [
            passage(f"{key}_in", f"{name}: go in, stay", 4,
                    fed("1 show_target +retreat", spot=f"pads for {name}"),
                    done(f"1 {first} +advance !firm", pad=pad(0.3)),
                    fed("1.5 stay", spot="the pad holds firm", when="thrown"),
                    done("1.5 retreat", spot="thrown back", when="thrown"),
                    done("2 lead step_off +advance", spot="side-step in again", when="thrown"),
                    done(f"2.5 {second} !firm", pad=pad(0.25), also=also),
                    choices=(may("thrown", "thrown back", 0.25, "goes_on"),)),
            passage(f"{key}_chase", f"{name}: stay, chase", 4,
                    fed("1 show_target", spot=f"pads for {name}"),
                    done(f"1 {first} !firm", pad=pad(0.3)), fed("2 retreat"),
                    done(f"2.5 {second} +advance !firm", pad=pad(0.3, gives=True), also=also)),
        ]  # fmt: skip
    going_in = tuple(one.key for one in passages if one.key.endswith("_in"))
    chasing = tuple(one.key for one in passages if one.key.endswith("_chase"))
    return drill(
        "Two kicks, two ways to move",
        *passages,
        notes="After going in and staying the second pad is near; after a partner who runs it is "
              "far. Thrown back by your own kick: side-step in again. The kicking foot springs "
              "straight up, no small step before it; the standing heel turns.",
        reason="The first kick moves the partner, so the second needs other feet.",
        schools=follows("announce said", "shins guards"),
        watch=("standing heel not turned", "extra step up", "leg left where it is",
               "side or toes of the foot land", "never gives way"),
        focus=("kicking", "distance"),
        place=_SHIELD,
        start="kick",
        grading="answer",
        rungs=ladder(
            _SLOW.model_copy(update={"name": "go in, stay", "contact": "light",
                                     "passages": going_in}),
            ("stay, chase", {"passages": chasing}),
            ("either, named", {"passages": (), "order": RANDOM_FEEDS}),
            ("only shown", {"announced": False, "tempo_bpm": 54, "goal_bpm": 66}),
            ("now and then thrown back", {"branches": True}),
        ),
    )  # fmt: skip


def low_kick_on_the_lead() -> PartnerDrill:
    """Three defenses against the lead straight, and the low kick with or after each; the kick
    before it; then the kick changes its height. The side that defends is not the one that kicks."""
    rear = (gives("no_follow_up", 4), gives("follow_up", 1, "rear_hand"))
    jab, kick = "1 lead straight +slide_step !touch", "rear low_kick !touch"
    alone = ("parry", "brace", "off")
    heights = ("elbow_out", "elbow_in", "low_or_long")
    return drill(
        "Lead straight, low kick",
        passage("parry", "parry, kick with it", 5, fed(jab), done("1 lead parry"),
                done(f"1 {kick}"), then=rear),
        passage("brace", "brace, kick just after", 5, fed(jab), done("1 lead forearm_brace ~2"),
                done(f"1.5 {kick}"), then=rear),
        passage("off", "step off, then kick", 5, fed(jab), done("1 lead step_off", foot="lead"),
                done(f"2 {kick}"), then=rear),
        passage("before", "lead first, kick the foot that lifts", 5, fed("1 stay"),
                done("1 lead straight +slide_step !touch"), fed("2 advance", foot="lead"),
                done(f"2 {kick}")),
        passage("elbow_out", "the elbow is out: body, rising", 5,
                fed(jab, spot="head, elbow out"), done("1 lead parry"),
                done("1.5 rear body_kick !touch", spot="ribs, rising at 45°")),
        passage("elbow_in", "the elbow is tucked: body, round", 5,
                fed(jab, spot="head, elbow tucked"), done("1 lead parry"),
                done("1.5 rear body_kick !touch", spot="ribs, round the elbow")),
        passage("low_or_long", "calf, or front kick", 5, fed(jab), done("1 lead forearm_brace ~2"),
                done(f"1.5 {kick}", spot="calf", also=("front_kick",))),
        passage("rear_hand", "rear hand", 3, fed("1 rear straight !touch"),
                done("1 lead parry +step_off_lead", also=("step_back", "step_off")), weight=0),
        notes="A leg that a punch has loaded is open. The side that defends is the side that does "
              "not kick. The brace stays loaded. Before: after your own lead straight, kick as "
              "the partner's front foot lifts or lands. The feeder does not check the kick. The "
              "rear hand after it comes now and then: met by length, by the angle, or by the hand "
              "that waits; never waited for. Bare shins only for the experienced: slow and placed, "
              "a shin on an elbow breaks the shin.",
        reason="The punch loads the front leg, and a loaded leg cannot get away.",
        schools=follows("counter some", "shins guards"),
        watch=("drops the other hand", "waits for the partner", "standing heel not turned",
               "only blocks, no counter"),
        level="settled",
        focus=("low kick", "counter timing"),
        place=_SHINS,
        start="kick",
        rungs=ladder(
            _SLOW.model_copy(update={"answers": "answer", "passages": alone}),
            ("with the kick", {"answers": "exit"}),
            ("some of them", {"order": RANDOM_FEEDS, "counter_share": 0.6}),
            ("the kick before it", {"passages": (*alone, "before")}),
            ("rear hand now and then", {"branches": True}),
            ("the kick changes its height", {"passages": (*alone, "before", *heights)}),
            ("quicker", {"tempo_bpm": 54, "goal_bpm": 66}),
        ),
    )  # fmt: skip


def three_back_together() -> PartnerDrill:
    """Three side kicks come, in place, stepping in, spinning; feet take the body out of the way and
    an arm meets the back of the calf. Nobody kicks back. Sport only."""
    return drill(
        "Three kicks, three ways back",
        passage("in_place", "kick in place", 3, fed("1 lead side_kick !touch"),
                done("1 lead calf_meet +retreat", foot="lead", front="rear")),
        passage("stepping", "stepping kick", 3, fed("1 cross_step", foot="rear"),
                fed("2 lead side_kick !touch"), done("1 hands_up +cross_back", foot="lead"),
                done("2 rear calf_meet +step_off_rear", foot="rear")),
        passage("spinning", "spinning kick", 3, fed("1 rear back_kick +pivot !touch"),
                done("1 rear calf_meet +step_round", foot="lead", front="rear")),
        notes="First: the foot on the kicked side steps back, so the stance changes, and "
              "the hand that is now in front drops to the back of the calf. Second: a "
              "cross-step back that mirrors the kicker, guard up, step out; the same arm. "
              "Third: the front foot steps round behind; the other arm. Nobody kicks back. "
              "Why the calf: met on the shin, the kicker stays turned towards you and comes "
              "on; met behind the leg, the kicker lands turned away. Sport only; no touch "
              "without gear.",
        look="At the kicker, all the time; the back is never shown.",
        reason="Met behind the leg, the kicker lands turned away.",
        schools=follows("answer evade", "shins guards"),
        watch=("shows the back", "leg left where it is", "drops the other hand"),
        level="settled",
        focus=("kicks", "sport"),
        place=_VESTS,
        start_m=1.1,
        rungs=ladder(
            _SLOW.model_copy(update={"contact": "none"}),
            ("any of the three", {"order": RANDOM_FEEDS, "announced": False}),
            ("touched, in gear", {"contact": "touch", "tell": "plain"}),
        ),
    )  # fmt: skip


def together_on_ten() -> PartnerDrill:
    """Both kick the chest guard at once, on each number of a steady count of ten; then the other
    leg."""
    return drill(
        "Both at once, ten times",
        passage("rear_leg", "rear leg", 2, fed("1 rear body_kick !light"),
                done("1 rear body_kick !light")),
        passage("lead_leg", "lead leg", 2, fed("1 lead body_kick !light"),
                done("1 lead body_kick !light")),
        notes="Close. Both kick at once on each number; after ten the other leg. The top of the "
              "foot lands, not toes or edge. It teaches to kick while being kicked.",
        guard="Up while you kick.",
        reason="Who can kick while being kicked is not stopped by a kick.",
        schools=follows("end count", "contact some"),
        watch=("ahead of the rhythm", "drops the other hand", "side or toes of the foot land"),
        focus=("rhythm", "used to contact"),
        place=_VESTS,
        start_m=1.1,
        early=True,
        rungs=ladder(
            _SLOW.model_copy(
                update={"name": "on the count", "contact": "touch", "turns": Turns(switch="never"),
                        "pause": Stream(), "tempo_bpm": 56, "goal_bpm": 62,
                        "order": SetOrder(sequence=("rear_leg",) * 10 + ("lead_leg",) * 10),
                        "rounds": PartnerRounds(count=3, ends="count", exchanges=20,
                                                calls=("time", "count"))}
            ),
            ("light", {"contact": "light", "goal_bpm": 70}),
        ),
    )  # fmt: skip


def blocks_only() -> PartnerDrill:
    """Standing still, back and forth: front leg each, back leg each; only blocks, same side, then
    across. No chest guard, no contact."""
    across = keep("side", "met across the body on purpose: both ways are practiced")
    same, other = ("front_same", "back_same"), ("front_across", "back_across")
    return drill(
        "Kicks met, both ways",
        passage("front_same", "front leg, same side", 1, fed("1 lead body_kick"),
                done("1 rear low_block")),
        passage("back_same", "back leg, same side", 1, fed("1 rear body_kick"),
                done("1 lead low_block")),
        passage("front_across", "front leg, across", 1, fed("1 lead body_kick"),
                done("1 lead low_block", kept=across)),
        passage("back_across", "back leg, across", 1, fed("1 rear body_kick"),
                done("1 rear low_block", kept=across)),
        notes="Both stand still and kick in turn: front leg, front leg, back leg, back leg. Every "
              "kick stops short. Done by the best as well.",
        reason="A block that needs no thought leaves the head free for the rest.",
        schools=follows("answer stop", "shins guards"),
        watch=("drops the other hand", "leans in / hunches (structure drills)", "pushes through"),
        focus=("blocking kicks",),
        place=PartnerPlace(gear=("shin_guards",), floor_m=4),
        start_m=1.15,
        rungs=ladder(
            _SLOW.model_copy(
                update={"contact": "none", "name": "same side", "passages": same,
                        "pause": Stream(), "turns": Turns(switch="count", every=1),
                        "tempo_bpm": 52, "goal_bpm": 60,
                        "order": SetOrder(sequence=tuple(key for key in same for _ in range(2))),
                        "rounds": PartnerRounds(count=3, duration_s=60)}
            ),
            ("across", {"passages": other,
                        "order": SetOrder(sequence=tuple(key for key in other
                                                         for _ in range(2)))}),
            ("any leg, same side", {"passages": same, "order": RANDOM_FEEDS,
                                    "announced": False}),
            ("quicker", {"tempo_bpm": 60, "goal_bpm": 76, "tell": "plain"}),
        ),
    )  # fmt: skip
