"""Starter drills about the guard: small movements, cover, tracing the zones."""

from __future__ import annotations

from hastatus.core.drill.guide import Count
from hastatus.core.drill.settings import Balanced, Bursts, Counters, Rounds, Unguessable
from hastatus.core.drill.solo import Drill, Pace, Place, Rung
from hastatus.core.starter.build import against, called, chain, counter, flashed, heard, leave, step
from hastatus.core.starter.school_lines import follows


def small_guard() -> Drill:
    """Defend only, then attack only, in short turns, with small movements."""
    turns = (("jab_in", "cross_in", "hook_in"), ("hit_lead", "hit_rear"))
    rounds = Rounds(count=6, duration_s=20, rest_s=5, turns=turns, calls=("switch", "time"))
    return Drill(
        title="Small guard, in turns",
        notes="One turn only defends, the next only hits. Keep every movement small.",
        look="At the chest, not at the hands.",
        guard="Closed: a gap of less than a fist, chin down.",
        warm_up="Shoulders and neck, then ten slow parries a side without cues.",
        reason="Small movements are in time where large ones are not.",
        schools=follows("look chest", "guard closed"),
        watch=("reaches too far from the body", "hand not home", "stands still"),
        focus=("guard", "switching"),
        place=Place(floor_m=2),
        cues=(
            heard("jab_in", "high_knock", "circle blue", chain(step("rear parry")),
                  attack=against("straight")),
            heard("cross_in", "low_knock", "square green", chain(step("lead parry")),
                  attack=against("straight", "rear")),
            heard("hook_in", "bang", "diamond purple", chain(step("rear forearm_block")),
                  attack=against("hook")),
            flashed("hit_lead", "lead", "triangle vermillion", chain(step("lead straight"))),
            flashed("hit_rear", "rear", "bar orange", chain(step("rear straight"))),
        ),
        rungs=(
            Rung(name="slow", window_s=1.3, goal_window_s=0.9, rounds=rounds,
                 waiting=Unguessable(least_s=0.7, mean_s=0.6, most_s=4)),
            Rung(name="quicker", window_s=0.95, goal_window_s=0.7, rounds=rounds,
                 waiting=Unguessable(least_s=0.4, mean_s=0.4, most_s=3)),
            Rung(name="in pairs", window_s=0.95, goal_window_s=0.7, rounds=rounds,
                 bursts=Bursts(share=0.5, least=2, most=2, inner_s=0.7),
                 waiting=Unguessable(least_s=0.5, mean_s=0.5, most_s=3.5)),
        ),
    )  # fmt: skip


def cover_and_drive() -> Drill:
    """Hands up early, cover, step in or back, drive until there is room, leave."""
    drive = counter("round_elbow", beats=2)
    out = leave("leave", beats=2)
    return Drill(
        title="Cover, drive, leave",
        notes=(
            "Hands are up early and in the middle, so a swing has to come round. Cover, take one "
            "step, drive the elbow until there is room, and go."
        ),
        guard="Chin down, both forearms tight to the head.",
        warm_up="Neck and shoulders; ten covers without cues.",
        reason="A covered head can go forward, and forward there is room to leave.",
        schools=follows("answer stop", "guard closed"),
        watch=("eyes shut / flinches", "hands spread", "stands still"),
        focus=("cover", "getting away"),
        place=Place(floor_m=3),
        cues=(
            heard("swing_lead", "low_knock", "circle blue",
                  chain(step("head_cover", footwork="advance"), drive, out),
                  chain(step("head_cover", footwork="retreat"), drive, out),
                  attack=against("wide_swing")),
            heard("swing_rear", "bang", "square orange",
                  chain(step("head_cover", footwork="advance"),
                        counter("rear round_elbow", beats=2), out),
                  attack=against("wide_swing", "rear")),
            called("calm", "easy", "ring sky"),
        ),
        rungs=(
            Rung(name="cover only", window_s=1.4, goal_window_s=1.0, chain="answer",
                 rounds=Rounds(count=2, duration_s=60)),
            Rung(name="cover and drive", window_s=1.3, goal_window_s=0.9, chain="counter",
                 catch_share=0.1, rounds=Rounds(count=3, duration_s=60)),
            Rung(name="and leave", window_s=1.2, goal_window_s=0.8, catch_share=0.2,
                 rounds=Rounds(count=3, duration_s=60, stances="in_turn", calls=("switch",))),
        ),
    )  # fmt: skip


def trace_and_meet() -> Drill:
    """One hand traces the zones; big random cues are met from there."""
    return Drill(
        title="Trace the zones, then meet",
        notes=(
            "One hand goes from crown to hip, side to side and on the diagonals, then a wide "
            "sweep. Later a big cue comes at random and is met from wherever the hand is."
        ),
        look="Straight ahead; the hand is seen at the edge.",
        warm_up="Ten slow traces with each hand.",
        reason="A hand that is under way meets a big attack sooner than one at rest.",
        schools=follows("counter some", "order random"),
        watch=("drops the other hand", "reaches too far from the body", "guard hand floats off "
               "the head"),
        focus=("guard", "reading"),
        place=Place(floor_m=2),
        pace=Pace(most_s=3),
        cues=(
            called("trace_high", "crown", "bar sky", chain(step("zone_trace"))),
            called("trace_low", "hip", "ring sky", chain(step("zone_trace"))),
            called("trace_across", "across", "diamond sky", chain(step("zone_trace"))),
            flashed("high_in", "high", "triangle vermillion",
                    chain(step("lead high_block"), counter("rear straight", beats=1)),
                    attack=against("overhand")),
            flashed("low_in", "low", "square orange",
                    chain(step("lead low_block"), counter("rear straight", beats=1)),
                    attack=against("front_kick")),
        ),
        rungs=(
            Rung(name="trace", window_s=2.4, goal_window_s=2.0,
                 guide=Count(of=("from crown to hip", "side to side", "on the diagonals",
                                 "wide sweeps"), to=10, every_s=2, after="the other hand"),
                 rounds=Rounds(count=2, duration_s=110, calls=("time",))),
            Rung(name="trace and meet", window_s=1.4, goal_window_s=1.0, chain="answer",
                 order=Balanced(repeat_cap=2, bag=12), rounds=Rounds(count=3, duration_s=60)),
            Rung(name="meet and hit", window_s=1.2, goal_window_s=0.9,
                 cues=("high_in", "low_in"), counters=Counters(share=0.6),
                 rounds=Rounds(count=3, duration_s=60)),
        ),
    )  # fmt: skip
