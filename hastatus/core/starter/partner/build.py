"""Short ways to write partner drills down.

A step is one line, "beat side technique" with signs behind it: "+" footwork, "!" contact, "@"
target, "~" the beat it is held until, "?" how it is perceived, "=" what of the hand strikes. So
"2 rear body_straight +step_off_lead !touch" is the rear body straight on beat two, stepping off to
the lead side, as a touch.
"""

from __future__ import annotations

from typing import Any

from hastatus.core.drill.cue import Mark
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import Lane, PadHold, PartnerStep, Waiver
from hastatus.core.drill.passage import Branch, Choice, Passage
from hastatus.core.trade.colours import Colour, Shape

_SIGNS = {
    "+": "footwork", "!": "contact", "@": "target", "~": "until", "?": "perceived", "=": "surface",
}  # fmt: skip
_SHAPES: tuple[Shape, ...] = ("circle", "triangle", "square", "diamond", "ring", "bar")
_COLOURS: tuple[Colour, ...] = ("blue", "vermillion", "orange", "purple", "green", "sky")


def fed(line: str, **rest: object) -> PartnerStep:
    """A step of the feeder's."""
    return _step("feeder", line, rest)


def done(line: str, **rest: object) -> PartnerStep:
    """A step of the defender's."""
    return _step("defender", line, rest)


def keep(check: str, reason: str) -> tuple[Waiver, ...]:
    """A check that is waved through, for `kept=`."""
    return (Waiver.model_validate({"check": check, "reason": reason}),)


def pad(ahead_m: float, angle_deg: int = 0, *, gives: bool = False) -> PadHold:
    """How a pad is held, for `pad=`."""
    return PadHold(ahead_m=ahead_m, angle_deg=angle_deg, gives=gives)


def passage(key: str, name: str, beats: float, *steps: PartnerStep, **rest: object) -> Passage:
    """A passage; its mark follows from its place in the drill."""
    mark = Mark(shape="circle", colour="blue")
    return Passage.model_validate(
        {"key": key, "name": name, "beats": beats, "steps": steps, "mark": mark, **rest}
    )


def gives(what: str, share: float, to: str | None = None, fact: str | None = None) -> Branch:
    """A branch; with a fact, only where it holds of the pair."""
    return Branch.model_validate({"gives": what, "share": share, "to": to, "fact": fact})


def may(key: str, name: str, share: float, gives: str = "follow_up") -> Choice:
    """What the partner may do in the middle, for `choices=`; steps come with it by `when=`."""
    return Choice.model_validate({"key": key, "name": name, "share": share, "gives": gives})


def drill(title: str, *passages: Passage, **rest: Any) -> PartnerDrill:
    """A partner drill whose passages are marked by their place."""
    marked = [
        passage.model_copy(
            update={
                "mark": Mark(shape=_SHAPES[index % 6], colour=_COLOURS[(index + index // 6) % 6])
            }
        )
        for index, passage in enumerate(passages)
    ]
    return PartnerDrill.model_validate({"title": title, "passages": marked, **rest})


def ladder(first: PartnerRung, *more: tuple[str, dict[str, Any]]) -> tuple[PartnerRung, ...]:
    """Rungs, each with a name and what it changes of the one before: one thing more at a time."""
    rungs = [first]
    for name, changes in more:
        before = {field: getattr(rungs[-1], field) for field in PartnerRung.model_fields}
        rungs.append(PartnerRung.model_validate({**before, "name": name, **changes}))
    return tuple(rungs)


def _step(lane: Lane, line: str, rest: dict[str, object]) -> PartnerStep:
    beat, *words = line.split()
    step: dict[str, object] = {"lane": lane, "beat": float(beat), **rest}
    for word in words:
        if word in ("lead", "rear"):
            step["side"] = word
        elif word[0] in _SIGNS:
            step[_SIGNS[word[0]]] = float(word[1:]) if word[0] == "~" else word[1:]
        else:
            step["technique"] = word
    return PartnerStep.model_validate(step)
