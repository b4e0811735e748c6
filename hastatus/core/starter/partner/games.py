"""Partner games of distance: tag, and keeping away."""

from __future__ import annotations

from typing import Any

from hastatus.core.drill.partner import (
    RANDOM_FEEDS,
    Both,
    PartnerDrill,
    PartnerPlace,
    PartnerRounds,
    PartnerRung,
    Stream,
    Turns,
)
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.settings import Rotating, SetOrder
from hastatus.core.starter.partner.build import done, drill, fed, gives, keep, ladder, passage
from hastatus.core.starter.school_lines import follows


def tag() -> PartnerDrill:
    """Shoulder or foot: both hunt, both avoid; paddles reach further; a forfeit for each tag."""
    both: dict[str, Any] = {
        "tempo_bpm": None, "contact": "touch", "tell": "plain", "order": Both(),
        "turns": Turns(switch="never"), "rounds": PartnerRounds(count=3, duration_s=60),
    }  # fmt: skip
    return drill(
        "Shoulder or foot",
        passage("shoulder", "shoulder", 3, fed("1 lead tag +advance !touch", spot="shoulder"),
                done("1 step_back"), done("2 lead tag +slide_step !touch", spot="shoulder")),
        passage("foot", "foot", 3, fed("1 lead tag @leg +advance !touch", spot="foot"),
                done("1 lead withdraw_leg"), done("2 lead tag +advance !touch", spot="shoulder")),
        notes="Both hunt and both avoid, guard up and with proper steps throughout. The point is "
              "distance, before any kick is aimed.",
        guard="Up all the time, for both.",
        forfeit="a push-up",
        reason="Distance is learned by play before any kick is aimed.",
        schools=follows("contact some", "hands off"),
        watch=("stands still", "leg left where it is", "leans in / hunches (structure drills)"),
        focus=("distance", "play"),
        place=PartnerPlace(floor_m=4),
        rungs=(
            PartnerRung(name="shoulder", passages=("shoulder",), **both),
            PartnerRung(name="shoulder or foot", **both),
            PartnerRung(name="longer reach: paddles", gear=("paddles",), **both),
        ),
    )  # fmt: skip


def base_by_count() -> PartnerDrill:
    """Pivots, steps, strikes, step and strike: ten of each, counted aloud, the feet checked after
    every ten. One shows it, the other, or a whole group, follows along; nothing is timed."""
    in_air = keep("reach", "in the air: nobody stands there")

    def along(key: str, name: str, *lines: str) -> Passage:
        """What one shows, and the other does with them."""
        steps = [step for line in lines for step in (fed(line), done(line))]
        return passage(key, name, 2, *(step.model_copy(update={"kept": in_air}) for step in steps))

    pivots = ("pivot_lead", "pivot_rear", "pivot_both")
    ways = ("forward", "back", "lead_side", "rear_side")
    strikes = ("lead_hand", "rear_hand", "pair")
    stepping = ("step_lead", "step_pair")

    def tens(keys: tuple[str, ...]) -> dict[str, Any]:
        return {
            "passages": keys,
            "order": SetOrder(sequence=tuple(key for key in keys for _ in range(10))),
            "rounds": PartnerRounds(count=1, ends="count", exchanges=10 * len(keys),
                                    calls=("time", "count", "check_feet")),
        }  # fmt: skip

    return drill(
        "Base, by the count",
        along("pivot_lead", "pivot, lead foot", "1 lead turn_out"),
        along("pivot_rear", "pivot, rear foot", "1 rear turn_out"),
        along("pivot_both", "pivot, both", "1 lead turn_out", "2 rear turn_out"),
        along("forward", "step forward", "1 advance"),
        along("back", "step back", "1 retreat"),
        along("lead_side", "step, lead side", "1 lead step_off"),
        along("rear_side", "step, rear side", "1 rear step_off"),
        along("lead_hand", "lead straight, home", "1 lead straight"),
        along("rear_hand", "rear straight, home", "1 rear straight"),
        along("pair", "lead, rear", "1 lead straight", "2 rear straight"),
        along("step_lead", "step and lead", "1 lead straight +advance"),
        along("step_pair", "step, lead, rear", "1 lead straight +advance", "2 rear straight"),
        notes="Feet shoulder-wide, a line from heel to toe. The other hand stays at the face. The "
              "near foot goes first, or the far foot pushes: schools differ; keep to one. Slow, "
              "then fast. Both stances.",
        warm_up="Joints from the neck down, then steps in place or a ladder.",
        look="At your own feet, between sets only.",
        guard="Hands come to the face when going in.",
        reason="Everything later stands on these steps.",
        schools=follows("foot near", "end count"),
        watch=("extra step up", "hand not home", "drops the other hand"),
        focus=("base", "feet"),
        place=PartnerPlace(floor_m=4),
        start="outside",
        grading="answer",
        early=True,
        rungs=ladder(
            PartnerRung(name="pivots", tempo_bpm=44, goal_bpm=60, tell="big", contact="none",
                        branches=False, pause=Stream(), turns=Turns(switch="never"),
                        announced=True, **tens(pivots)),
            ("steps in four directions", tens(ways)),
            ("strikes", tens(strikes)),
            ("step and strike", tens(stepping)),
            ("all of it, faster", {"tempo_bpm": 54,
                                   **tens((*pivots, *ways, *strikes, *stepping))}),
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
        reason="Distance is time, and time is what gets somebody home.",
        schools=follows("early react", "contact none"),
        watch=("stands still", "anticipates"),
        focus=("distance", "getting away"),
        place=PartnerPlace(floor_m=6),
        start="outside",
        grading="answer",
        rungs=ladder(
            PartnerRung(name="in and out, in order", tempo_bpm=None, tell="big",
                        passages=("steps_in", "withdraws"), order=Rotating(), branches=False,
                        contact="none", rounds=PartnerRounds(count=3, duration_s=60)),
            ("at random", {"order": RANDOM_FEEDS}),
            ("signs of trouble", {"passages": ()}),
            ("and comes on", {"branches": True, "tell": "plain"}),
        ),
    )  # fmt: skip
