"""A drill in a coach's words: its rungs, what one changes of the one before, and its exchanges."""

from __future__ import annotations

from hastatus.core.drill.choices import DEFENDER_PART, FEED_ORDER, RUNG_CONTACT, TELL
from hastatus.core.drill.foreperiod import least, most
from hastatus.core.drill.pair_facts import PAIR_FACT_NAMES
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.passage import GIVES_NAMES, Branch, Passage
from hastatus.core.drill.solo_wording import Fact, percent
from hastatus.core.trade.gear import GEAR_NAMES


def partner_facts(drill: PartnerDrill, rung: PartnerRung, predictable: float | None) -> list[Fact]:
    """What a rung sets, in words. predictable: see `plan.guess.predictable`."""
    return [
        Fact("passages", "Exchanges", ", ".join(passage.name for passage in drill.starts_on(rung))),
        Fact("order", "Order", _order(rung, predictable)),
        Fact("tempo_bpm", "Beat", _beat(rung)),
        Fact("pause", "Pause", _pause(rung)),
        Fact("branches", "Partner's choices", "on" if rung.branches else "off"),
        Fact("answers", "Defender", _defender(rung)),
        Fact("tell", "Wind-up", TELL[rung.tell]),
        Fact("contact", "Contact", _contact(rung)),
        Fact("gear", "Gear", _gear(drill, rung)),
        Fact("rounds", "Rounds", _rounds(rung)),
        Fact("turns", "Roles", _roles(drill, rung)),
    ]


def partner_differences(before: list[Fact], facts: list[Fact]) -> list[str]:
    """What the facts of a rung change of those of the one before, in words."""
    pairs = zip(before, facts, strict=True)
    return [f"{new.name.lower()}: {new.value}" for old, new in pairs if old.value != new.value]


def branch_words(drill: PartnerDrill, passage: Passage, branch: Branch) -> str:
    """A branch in words, for example "a follow-up comes, 33 %: overhand"."""
    total = sum(branch.share for branch in passage.then)
    share = percent(branch.share / total) if total else "never"
    known = {passage.key: passage.name for passage in drill.passages}
    to = known.get(branch.to or "", "it ends")
    when = f"where {PAIR_FACT_NAMES[branch.fact]}: " if branch.fact else ""
    return f"{when}{GIVES_NAMES[branch.gives]}, {share}: {to}"


def _order(rung: PartnerRung, predictable: float | None) -> str:
    words = FEED_ORDER[rung.order.kind]
    if rung.announced:
        return f"{words}, said ahead"
    if predictable is None or predictable == 1:  # a known order says it by its name
        return words
    return f"{words}; {percent(predictable)} predictable by counting"


def _pause(rung: PartnerRung) -> str:
    if rung.pause.kind == "stream":
        return "none: a stream"
    return f"{least(rung.pause):g} to {most(rung.pause):g} s"


def _contact(rung: PartnerRung) -> str:
    return RUNG_CONTACT[rung.contact] + (", eyes closed" if rung.eyes_closed else "")


def _beat(rung: PartnerRung) -> str:
    if rung.tempo_bpm is None:
        return "the feeder's own time"
    goal = f", up to {rung.goal_bpm:g}" if rung.goal_bpm else ""
    silent = "" if rung.metronome else ", no metronome"
    by_rule = ", by rule" if rung.climb.rule == "by_rule" else ""
    return f"{rung.tempo_bpm:g} bpm{goal}{by_rule}{silent}"


def _defender(rung: PartnerRung) -> str:
    some = "" if rung.counter_share == 1 else f", counter to {percent(rung.counter_share)}"
    return DEFENDER_PART[rung.answers] + some


def _gear(drill: PartnerDrill, rung: PartnerRung) -> str:
    worn = drill.gear_on(rung)
    return ", ".join(GEAR_NAMES[item] for item in worn) or "none"


def _rounds(rung: PartnerRung) -> str:
    shape = rung.rounds
    ends = {
        "time": f"{shape.duration_s:g} s",
        "count": f"{shape.exchanges} exchanges",
        "first": f"{shape.exchanges} exchanges or {shape.duration_s:g} s",
    }[shape.ends]
    both = ", both stances" if shape.stances == "in_turn" else ""
    return f"{shape.count} of {ends}, {shape.rest_s:g} s rest{both}"


def _roles(drill: PartnerDrill, rung: PartnerRung) -> str:
    turns = rung.turns
    if rung.order.kind == "both":
        return "none: both hunt and both avoid"
    ring = "a ring of three, " if drill.place.people == 3 else ""
    return (
        ring
        + {
            "time": f"switch on the call every {turns.every_s:g} s",
            "count": "in turn, attack by attack"
            if rung.alternates
            else f"switch after {turns.every} exchanges",
            "rounds": "switch from round to round",
            "score": "set by the drill",
            "never": "stay",
        }[turns.switch]
    )
