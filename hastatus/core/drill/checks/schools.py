"""Which school a drill follows where coaches disagree, and how to follow the other.

Where settings of the drill decide a question, what it says of itself has to agree with them; the
other school is one edit away.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from pydantic import BaseModel

from hastatus.core.drill.checks.contact import cap_findings
from hastatus.core.drill.checks.fault import Change, Fault, Mend
from hastatus.core.drill.header import Followed, Sheet
from hastatus.core.drill.partner import RANDOM_FEEDS, PartnerDrill
from hastatus.core.drill.requirement import has_counter
from hastatus.core.drill.settings import Announce, Balanced, Counters, Rotating
from hastatus.core.drill.solo import Drill
from hastatus.core.trade.gear import Gear
from hastatus.core.trade.schools import QUESTIONS, SCHOOLS, OneSchool, Question, school

SOME = 0.6
"""Share of attacks that get a counter where some are let pass."""


class SchoolLine(BaseModel):
    """A school that a drill follows, in words. others: the edits that follow another one."""

    question: Question
    asked: str
    follows: str
    why: str
    others: list[Mend]


def school_lines(drill: Drill | PartnerDrill) -> list[SchoolLine]:
    """What the drill says of itself, each with the way to the other school."""
    lines = []
    for place, followed in enumerate(drill.schools):
        here = school(followed.question, followed.follows)
        others = [one for one in SCHOOLS[followed.question] if one is not here]
        lines.append(
            SchoolLine(
                question=followed.question,
                asked=QUESTIONS[followed.question],
                follows=here.name if here else followed.follows,
                why=followed.why,
                others=[
                    Mend(
                        label=one.name,
                        changes=(*_said(place, one), *_edits(drill, followed.question, one)),
                    )
                    for one in others
                ],
            )
        )
    return lines


def more_schools(drill: Drill | PartnerDrill) -> list[Mend]:
    """The edits that say one thing more: for each question left, what its settings follow now."""
    said = {followed.question for followed in drill.schools}
    more = []
    for question, asked in QUESTIONS.items():
        if question in said:
            continue
        one = school(question, followed_by_settings(drill, question) or "") or SCHOOLS[question][0]
        added = (*drill.schools, Followed(question=question, follows=one.key, why=one.why))
        value = [line.model_dump(mode="json") for line in added]
        more.append(Mend(label=asked, changes=(Change(path="schools", value=value),)))
    return more


def school_faults(drill: Drill | PartnerDrill) -> Iterator[Fault]:
    """Schools that there are not, that are said twice, or that the settings do not follow."""
    seen: set[Question] = set()
    for place, followed in enumerate(drill.schools):
        question, where = followed.question, f"schools.{place}"
        asked = QUESTIONS[question].lower()
        if question in seen:
            yield Fault(
                where=f"{where}.question",
                what=f"“{asked}” is said twice",
                level="hint",
                mend=_without(drill, place),
            )
        seen.add(question)
        known = [one.key for one in SCHOOLS[question]]
        if followed.follows not in known:
            yield Fault(
                where=f"{where}.follows",
                what=f"there is no school '{followed.follows}' of “{asked}”; there is "
                + " and ".join(known),
                level="hint",
                mend=_without(drill, place),
            )
            continue
        set_to = followed_by_settings(drill, question)
        if set_to and set_to != followed.follows:
            here, there = school(question, followed.follows), school(question, set_to)
            assert here is not None
            assert there is not None
            yield Fault(
                where=f"{where}.follows",
                what=f"the drill says “{here.name}”, its settings are “{there.name}”",
                level="hint",
                mend=Mend(label=f"say “{there.name}”", changes=_said(place, there)),
            )


def followed_by_settings(drill: Drill | PartnerDrill, question: Question) -> str | None:
    """The school that the settings follow; None where none decides it."""
    if isinstance(drill, PartnerDrill):
        return _partner(drill, question)
    return _solo(drill, question)


def _partner(drill: PartnerDrill, question: Question) -> str | None:
    first, gear = drill.rungs[0], {item for rung in drill.rungs for item in drill.gear_on(rung)}
    match question:
        case "order":
            fed = first.order.kind not in ("free", "both")
            return _either(first.order.kind == "balanced", "random", "known") if fed else None
        case "announce":
            return _either(first.announced, "said", "shown")
        case "counter":
            return _either(any(rung.counter_share < 1 for rung in drill.rungs), "some", "every")
        case "end":
            return {"time": "clock", "count": "count"}.get(first.rounds.ends)
        case "early":
            return _either(drill.early, "intent", "react")
        case "sense":
            return _either(any(rung.eyes_closed for rung in drill.rungs), "felt", "seen")
        case "pace":
            by_rule = any(rung.climb.rule == "by_rule" for rung in drill.rungs)
            return _either(by_rule, "measured", "eye")
        case "contact":
            return _either(any(rung.contact != "none" for rung in drill.rungs), "some", "none")
        case "gloves":
            return _either("gloves" in gear, "gloves", "bare")
        case "shins":
            return _either("shin_guards" in gear, "guards", "bare")
        case _:
            return None


def _solo(drill: Drill, question: Question) -> str | None:
    cued = [rung for rung in drill.rungs if rung.guide is None]
    match question:
        case "order" if cued:
            return _either(cued[0].order.kind in ("balanced", "first_order"), "random", "known")
        case "announce" if cued:
            lead = cued[0].lead_in
            return _either(lead is not None and lead.kind == "announce", "said", "shown")
        case "counter" if _countered(drill):
            return _either(any(rung.counters for rung in cued), "some", "every")
        case "end" if cued:
            return {"time": "clock", "count": "count"}.get(cued[0].rounds.ends)
        case "early":
            return _either(drill.judging.early == "asked", "intent", "react")
        case "sense":
            return _either(drill.place.eyes_closed, "felt", "seen")
        case "pace":
            return _either(drill.pace.rule == "hold", "eye", "measured")
        case _:
            return None


def _countered(drill: Drill) -> list[int]:
    """The rungs on which every answer has a counter that may be let pass."""
    return [
        number
        for number, rung in enumerate(drill.rungs)
        if rung.guide is None
        and rung.stacking is None
        and all(has_counter(rung, chain) for cue in drill.cues_on(rung) for chain in cue.asks)
    ]


def _either(holds: bool, one: str, other: str) -> str:
    return one if holds else other


def _said(place: int, one: OneSchool) -> tuple[Change, ...]:
    where = f"schools.{place}"
    return (
        Change(path=f"{where}.follows", value=one.key),
        Change(path=f"{where}.why", value=one.why),
    )


def _without(drill: Sheet, place: int) -> Mend:
    left = [line for number, line in enumerate(drill.schools) if number != place]
    value = [line.model_dump(mode="json") for line in left]
    return Mend(label="take it out", changes=(Change(path="schools", value=value),))


def _edits(drill: Drill | PartnerDrill, question: Question, one: OneSchool) -> tuple[Change, ...]:
    """What of the drill has to change so that it follows another school."""
    if question in ("look", "guard"):
        return (Change(path=question, value=one.note),)
    if isinstance(drill, PartnerDrill):
        return tuple(_partner_edits(drill, question, one.key))
    return tuple(_solo_edits(drill, question, one.key))


def _on(rungs: Sequence[int], field: str, value: Any) -> list[Change]:
    return [Change(path=f"rungs.{rung}.{field}", value=value) for rung in rungs]


def _partner_edits(drill: PartnerDrill, question: Question, key: str) -> list[Change]:
    every, last = range(len(drill.rungs)), [len(drill.rungs) - 1]
    match question, key:
        case "order", _:
            order = RANDOM_FEEDS if key == "random" else Rotating()
            return _on([0], "order", order.model_dump(mode="json"))
        case "announce", _:
            return _on([0], "announced", key == "said")
        case "counter", _:
            return (
                _on(every, "counter_share", 1.0)
                if key == "every"
                else _on(last, "counter_share", SOME)
            )
        case "end", _:
            return _on(every, "rounds.ends", {"clock": "time", "count": "count"}[key])
        case "early", _:
            return [Change(path="early", value=key == "intent")]
        case "sense", _:
            return _on(last if key == "felt" else every, "eyes_closed", key == "felt")
        case "pace", _:
            by_rule = key == "measured"
            return _on(
                last if by_rule else every, "climb.rule", "by_rule" if by_rule else "by_hand"
            )
        case "contact", _:
            return _on(every, "contact", "none" if key == "none" else "touch")
        case (("gloves" | "shins"), _):
            item: Gear = "gloves" if question == "gloves" else "shin_guards"
            return _worn(drill, item, key != "bare")
        case _:
            return []


def _worn(drill: PartnerDrill, item: Gear, worn: bool) -> list[Change]:
    """Gear put on or taken off, on the rungs with gear of their own too; what it no longer allows
    is lowered with it."""

    def with_it(gear: Sequence[Gear]) -> tuple[Gear, ...]:
        left = tuple(other for other in gear if other != item)
        return (*left, item) if worn else left

    changes = [Change(path="place.gear", value=list(with_it(drill.place.gear)))]
    rungs = []
    for number, rung in enumerate(drill.rungs):
        own = None if rung.gear is None else with_it(rung.gear)
        rungs.append(rung.model_copy(update={"gear": own}))
        if own is not None:
            changes += _on([number], "gear", list(own))
    place = drill.place.model_copy(update={"gear": with_it(drill.place.gear)})
    changed = drill.model_copy(update={"place": place, "rungs": tuple(rungs)})
    for finding in cap_findings(changed):
        changes += finding.mend.changes if finding.mend else ()
    return changes


def _solo_edits(drill: Drill, question: Question, key: str) -> list[Change]:
    cued = [number for number, rung in enumerate(drill.rungs) if rung.guide is None]
    match question:
        case "order":
            order = Balanced() if key == "random" else Rotating()
            return _on(cued[:1], "order", order.model_dump(mode="json"))
        case "announce":
            lead = Announce().model_dump(mode="json") if key == "said" else None
            return _on(cued[:1], "lead_in", lead)
        case "counter":
            some = Counters(share=SOME).model_dump(mode="json")
            dropped = _countered(drill)[-1:]
            return _on(cued, "counters", None) if key == "every" else _on(dropped, "counters", some)
        case "end":
            return _on(cued, "rounds.ends", {"clock": "time", "count": "count"}[key])
        case "early":
            return [Change(path="judging.early", value="asked" if key == "intent" else "jumped")]
        case "sense":
            return [Change(path="place.eyes_closed", value=key == "felt")]
        case "pace":
            return [Change(path="pace.rule", value="hold" if key == "eye" else "measured")]
        case _:
            return []
