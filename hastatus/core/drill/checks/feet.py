"""Whether the feet can do what is asked: the foot that moves is free, and can change the lead.

Common practice of the trade, no source.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from hastatus.core.drill.checks.finding import Finding, at, mend, path_of
from hastatus.core.drill.checks.limbs import away_s
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walk, Walked, ends
from hastatus.core.trade.technique import OTHER_SIDE, Side

_LEGS = ("foot", "shin", "knee")
_BACK = ("retreat", "cross_back", "step_back", "step_round", "hips_back", "leave")
_AHEAD = ("advance", "slide_step", "cross_step", "drive_in", "step_to_mark", "into_stance")


def feet_findings(drill: PartnerDrill, walks: Sequence[Walk], beat_s: float) -> Iterator[Finding]:
    """Feet that cannot move as they are told to, and stances that nobody steps back into."""
    if not any(step.foot or step.front for passage in drill.passages for step in passage.steps):
        return
    for walk in walks:
        for number, step in enumerate(walk.steps):
            yield from _foot(drill, step)
            yield from _stood_on(drill, walk.steps[:number], step, beat_s)
    yield from _left_turned(drill, walks)
    yield from _either_stance(drill, walks)


def _foot(drill: PartnerDrill, walked: Walked) -> Iterator[Finding]:
    """A foot without a step, a change of lead that the foot cannot make."""
    step, path = walked.step, path_of(drill, walked)
    moves = step.footwork != "hold" or walked.technique.limb == "feet"
    if (step.foot or step.front) and not moves:
        yield at(
            drill, walked, "feet",
            f"{step.what()}: the feet hold, so no foot moves and the lead stays",
            field="foot",
            better=mend("leave the feet as they are", (f"{path}.foot", None),
                        (f"{path}.front", None)),
        )  # fmt: skip
        return
    wanted = _foot_wanted(walked)
    if walked.turned != walked.turned_before and wanted and step.foot != wanted:
        why = "no foot is named" if step.foot is None else f"the {step.foot} foot is there already"
        yield at(
            drill, walked, "feet",
            f"{step.name()}: the lead changes where the {wanted} foot passes the other, but {why}",
            field="foot",
            better=mend(f"with the {wanted} foot", (f"{path}.foot", wanted)),
        )  # fmt: skip
    if step.foot and walked.technique.limb in _LEGS and walked.first_foot == walked.first_side:
        yield at(
            drill, walked, "feet",
            f"{step.what()}: that foot kicks; the other one steps",
            field="foot",
            better=mend("step with the other foot", (f"{path}.foot", OTHER_SIDE[step.foot])),
        )  # fmt: skip


def _foot_wanted(walked: Walked) -> Side | None:
    """The foot that changes the lead: the front one going back, the rear one going ahead."""
    ways = (walked.step.footwork, walked.step.technique)
    if any(way in _BACK for way in ways):
        return "lead"
    return "rear" if any(way in _AHEAD for way in ways) else None


def _stood_on(
    drill: PartnerDrill, before: Sequence[Walked], walked: Walked, beat_s: float
) -> Iterator[Finding]:
    """A foot that steps while the other leg is still in the air."""
    if walked.first_foot is None:
        return
    for kick in before:
        in_air = kick.person == walked.person and kick.technique.limb in _LEGS
        down = kick.beat + away_s(kick) / beat_s
        if in_air and kick.first_side != walked.first_foot and down > walked.beat + 1e-9:
            yield at(
                drill, walked, "standing_leg",
                f"{walked.step.what()} moves the foot that {kick.step.what()} stands on",
                field="foot",
                better=mend("do not say which foot", (f"{path_of(drill, walked)}.foot", None)),
            )  # fmt: skip


def _left_turned(drill: PartnerDrill, walks: Sequence[Walk]) -> Iterator[Finding]:
    """Exchanges that end in the other stance where the next one follows at once."""
    for number, rung in enumerate(drill.rungs):
        if rung.pause.kind != "stream":
            continue
        here = {passage.key for passage in drill.starts_on(rung)}
        for walk in walks:
            started = walk.passages[0].key.split("+")[0] in here
            last = {step.person: step for step in walk.steps} if started else {}
            for step in last.values():
                if step.turned and ends(walk.passages[-1]):
                    yield at(
                        drill, step, "feet",
                        f"“{step.passage.name}” ends in the other stance, and on rung {number + 1} "
                        "the next attack comes at once: there is no time to step back",
                        field="front",
                        better=mend("a pause after each exchange",
                                    (f"rungs.{number}.pause", {"kind": "unguessable"})),
                    )  # fmt: skip


def _either_stance(drill: PartnerDrill, walks: Sequence[Walk]) -> Iterator[Finding]:
    """Steps that one way comes to in one stance and another way in the other."""
    first: dict[tuple[str, int], bool] = {}
    for walk in walks:
        for step in walk.steps:
            if first.setdefault((step.written, step.index), step.turned) != step.turned:
                yield at(
                    drill, step, "feet",
                    f"“{step.passage.name}” is come to in either stance: {step.step.what()} is "
                    "another hand each time; write a passage for each",
                )  # fmt: skip
