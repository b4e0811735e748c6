"""What a rung comes to tonight: as hard and as quick as agreement, limits and gear allow.

A rung is lowered, not refused: firm becomes touch where touch is agreed, a kick stops short where
shins are bare, bare hands are slow. Impossible is only what cannot be lowered: a cue that is felt
where nobody is to touch anybody, and a kick or a knee that is thrown at a pad that is not there.
A pad or an open palm is a target, not contact with a person (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hastatus.core.drill.chain_parts import is_asked, parts
from hastatus.core.drill.choices import CONTACT
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.paths import walks
from hastatus.core.trade.contact import Contact, gentlest, hardest, is_harder
from hastatus.core.trade.gear import (
    BARE_BPM,
    GEAR_NAMES,
    HELD,
    NO_STRIKE,
    PADS,
    Cap,
    Gear,
    bare,
    cap,
)
from hastatus.core.trade.technique import Limb, Technique

CONTACT_WORDS: dict[Contact, str] = {**CONTACT, "none": "no contact"}
_KICKING: tuple[Limb, ...] = ("foot", "shin", "knee")
_WORDS: dict[Limb, str] = {"elbow": "elbows", "knee": "knees", "foot": "kicks", "shin": "kicks"}
_PALM = Cap("touch", "an open palm is the target", ("focus_pads",))


@dataclass(frozen=True, slots=True)
class Tonight:
    """What may be done tonight.

    contact: the hardest that anybody may be hit; why: who or what says so. worn: what each of them
    wears, by name. held: pads and paddles that are here.
    """

    contact: Contact
    why: str
    worn: tuple[tuple[str, frozenset[Gear]], ...]
    held: frozenset[Gear]

    @property
    def gear(self) -> frozenset[Gear]:
        """What every one of them wears, and what is held."""
        worn = frozenset(GEAR_NAMES).intersection(*(gear for _, gear in self.worn))
        return worn - frozenset(HELD) | self.held

    @property
    def has_pads(self) -> bool:
        """Whether something is held to be hit."""
        return bool(self.held & frozenset(PADS))


@dataclass(frozen=True, slots=True)
class Allowance:
    """What a rung comes to.

    planned: the hardest that the drill has land on a person; contact: what that is tonight.
    on_pads: whether something is hit with a pad. fastest_bpm: the fastest beat; None: as the drill
    has it. lowered: what is gentler or slower than the drill has it, and why, in words.
    impossible: what cannot be lowered enough; empty: it can be done.
    """

    planned: Contact
    contact: Contact
    on_pads: bool
    fastest_bpm: float | None
    lowered: tuple[str, ...]
    impossible: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class _Strike:
    """A strike of the rung. planned: how hard the rung has it. level: by the agreement. limit: what
    the gear allows."""

    step: PartnerStep
    technique: Technique
    planned: Contact
    level: Contact
    limit: Cap

    @property
    def on_pad(self) -> bool:
        return self.step.pad is not None

    @property
    def contact(self) -> Contact:
        """How hard it lands tonight."""
        return gentlest(self.level, self.limit.contact)


def allowance(drill: PartnerDrill, rung: PartnerRung, tonight: Tonight) -> Allowance:
    """What `rung` comes to for those who may do, and have, what `tonight` says."""
    steps = list(_steps(drill, rung))
    strikes = [*_strikes(drill, rung, steps, tonight)]
    on_people = [strike for strike in strikes if not strike.on_pad]
    planned = hardest(*(strike.planned for strike in on_people))
    lowered = []
    if is_harder(planned, tonight.contact):
        gentler = CONTACT_WORDS[tonight.contact]
        lowered.append(f"{CONTACT_WORDS[planned]} becomes {gentler}: {tonight.why}")
    lowered += dict.fromkeys(
        _by_gear(strike, tonight)
        for strike in strikes
        if is_harder(strike.level, strike.limit.contact)
    )
    fastest = None
    landing = [strike for strike in on_people if strike.contact != "none"]
    if rung.fastest_bpm > BARE_BPM and any(
        bare(strike.technique, tonight.gear) for strike in landing
    ):
        fastest = BARE_BPM
        lowered.append(f"{fastest:g} bpm at most: bare hands are slow")
    return Allowance(
        planned=planned,
        contact=hardest(*(strike.contact for strike in on_people)),
        on_pads=len(on_people) < len(strikes),
        fastest_bpm=fastest,
        lowered=tuple(lowered),
        impossible=tuple(dict.fromkeys(_impossible(drill, rung, steps, strikes, tonight))),
    )


def _steps(drill: PartnerDrill, rung: PartnerRung) -> Iterator[PartnerStep]:
    """The steps that a rung asks for, of every passage that is come to on it."""
    passages = {passage.key: passage for walk in walks(drill, rung) for passage in walk.passages}
    for passage in passages.values():
        for step, part in zip(passage.steps, parts(drill, passage), strict=True):
            if is_asked(rung, part):
                yield step


def _strikes(
    drill: PartnerDrill, rung: PartnerRung, steps: list[PartnerStep], tonight: Tonight
) -> Iterator[_Strike]:
    for step in steps:
        technique = drill.technique(step.technique)
        if technique is None or not technique.strikes:
            continue
        planned = rung.capped(step.contact)
        if step.pad is None:
            limit = cap(technique, step.target or technique.line, tonight.gear)
            level = gentlest(planned, tonight.contact)
        else:
            by_hand = technique.limb not in _KICKING and not tonight.has_pads
            limit = _PALM if by_hand else cap(technique, "body", tonight.gear, on_pad=True)
            level = planned
        yield _Strike(step, technique, planned, level, limit)


def _by_gear(strike: _Strike, tonight: Tonight) -> str:
    """That gear lowers a strike, in words: what, from, to and why."""
    what = _WORDS.get(strike.technique.limb, "hits")
    if strike.on_pad:
        what += " on a pad"
    elif (strike.step.target or strike.technique.line) == "head":
        what += " to the head"
    harder, gentler = CONTACT_WORDS[strike.level], CONTACT_WORDS[strike.limit.contact]
    return f"{what}: {harder} becomes {gentler}: {_lack(strike.limit, tonight)}"


def _lack(limit: Cap, tonight: Tonight) -> str:
    """Who lacks what, or what is not here; else why it is no harder."""
    reasons = []
    for gear in limit.missing:
        without = [name for name, worn in tonight.worn if gear not in worn]
        if gear in HELD and gear not in tonight.held:
            reasons.append(f"there are no {GEAR_NAMES[gear]}")
        elif without:
            have = "has" if len(without) == 1 else "have"
            reasons.append(f"{' and '.join(without)} {have} no {GEAR_NAMES[gear]}")
    return ", ".join(reasons) or limit.why


def _impossible(
    drill: PartnerDrill,
    rung: PartnerRung,
    steps: list[PartnerStep],
    strikes: list[_Strike],
    tonight: Tonight,
) -> Iterator[str]:
    if tonight.contact == "none" and rung.contact != "none":
        for step in steps:
            felt = step.perceived in ("felt", "lost_contact") or step.technique in NO_STRIKE
            technique = drill.technique(step.technique)
            if felt and technique and step.contact != "none":
                yield f"{technique.name} is done by touch: {tonight.why}"
    for strike in strikes:
        if strike.on_pad and strike.technique.limb in _KICKING and not tonight.has_pads:
            yield f"{strike.technique.name} is thrown at a pad: there is none here"
