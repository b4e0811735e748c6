"""Finds what is wrong with a solo drill."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Any

from hastatus.core.drill import foreperiod
from hastatus.core.drill.checks.fault import Change, Fault, Mend, Unplannable
from hastatus.core.drill.checks.owners import without_owner
from hastatus.core.drill.checks.schools import school_faults
from hastatus.core.drill.cue import Cue
from hastatus.core.drill.repeats import cap_needed, share_allowed
from hastatus.core.drill.requirement import ask, has_counter
from hastatus.core.drill.settings import Balanced, Fixed, Unguessable, rounds_that_fit, too_long
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.drill.solo_wording import percent
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.matchups import fit
from hastatus.core.trade.technique import Technique

CEILING = 4
"""Blocks in a row without a counter (common practice, no source)."""


def check(drill: Drill) -> None:
    """Raise `Unplannable` with every fault that stops."""
    stops = [fault for fault in find(drill, hints=False) if fault.level == "stop"]
    if stops:
        raise Unplannable(stops)


def find(drill: Drill, *, hints: bool = True) -> list[Fault]:
    """Every fault of a drill, those that stop first."""
    findings = list(_keys(drill))
    known = not findings
    for number, rung in enumerate(drill.rungs):
        where = f"rungs.{number}"
        findings += _rung_keys(drill, rung, where)
        if known:
            findings += _rung(drill, rung, where)
    if hints and known:
        findings += _cue_hints(drill)
        findings += (
            Fault(where=where, what=what, level="hint", mend=better)
            for where, what, better in without_owner(drill)
        )
        findings += school_faults(drill)
        for number, rung in enumerate(drill.rungs):
            findings += _rung_hints(drill, rung, f"rungs.{number}")
    return sorted(findings, key=lambda fault: fault.level != "stop")


def _mend(label: str, path: str, value: Any) -> Mend:
    return Mend(label=label, changes=(Change(path=path, value=value),))


def _keys(drill: Drill) -> Iterator[Fault]:
    """Keys that are not there or there twice."""
    seen: set[str] = set()
    for number, cue in enumerate(drill.cues):
        if cue.key in seen:
            yield Fault(where=f"cues.{number}.key", what=f"another cue has the key '{cue.key}'")
        seen.add(cue.key)
        for chain_number, chain in enumerate(cue.asks):
            for step_number, step in enumerate(chain.steps):
                where = f"cues.{number}.asks.{chain_number}.steps.{step_number}"
                for name, key in (("technique", step.technique), ("footwork", step.footwork)):
                    if key and drill.technique(key) is None:
                        yield Fault(where=f"{where}.{name}", what=f"unknown technique '{key}'")
        if cue.attack and drill.technique(cue.attack.technique) is None:
            what = f"unknown technique '{cue.attack.technique}'"
            yield Fault(where=f"cues.{number}.attack.technique", what=what)
    for number, technique in enumerate(drill.techniques):
        if technique.key in TECHNIQUES:
            what = f"'{technique.key}' comes with the app; give the club's own another key"
            yield Fault(where=f"techniques.{number}.key", what=what)


def _rung_keys(drill: Drill, rung: Rung, where: str) -> Iterator[Fault]:
    known = {cue.key for cue in drill.cues}
    lists = [("cues", rung.cues), ("weights", tuple(rung.weights))]
    lists += [(f"rounds.turns.{n}", turn) for n, turn in enumerate(rung.rounds.turns)]
    if rung.order.kind == "set":
        lists.append(("order.sequence", rung.order.sequence))
    for name, keys in lists:
        unknown = [key for key in keys if key not in known]
        if unknown:
            left: object = [key for key in keys if key in known]
            if name == "weights":
                left = {key: rung.weights[key] for key in keys if key in known}
            yield Fault(
                where=f"{where}.{name}",
                what=f"no cue has the key '{unknown[0]}'",
                mend=_mend("take it out", f"{where}.{name}", left),
            )


def _rung(drill: Drill, rung: Rung, where: str) -> Iterator[Fault]:
    """What stops a rung from being planned."""
    if rung.guide:
        yield from _guided(rung, where)
        return
    turns = range(max(1, len(rung.rounds.turns)))
    for turn in turns:
        here = drill.cues_on(rung, turn)
        if all(cue.is_catch for cue in here):
            field = f"{where}.rounds.turns.{turn}" if len(turns) > 1 else f"{where}.cues"
            yield Fault(where=field, what="no cue here asks for an answer; add one that does")
            return
        yield from _turn(drill, rung, where, turn)
    # Some turns may ask for an answer every time, as long as one of them holds back.
    if rung.catch_share and not any(
        cue.is_catch for turn in turns for cue in drill.cues_on(rung, turn)
    ):
        yield Fault(
            where=f"{where}.catch_share",
            what="the rung has don't-react cues, but no cue on it is one; add one",
            mend=_mend("hold nothing back", f"{where}.catch_share", 0.0),
        )
    yield from _length(rung, where)
    yield from _room(drill, rung, where)
    yield from _counters(drill, rung, where)


def _guided(rung: Rung, where: str) -> Iterator[Fault]:
    """What has no cues ends by time."""
    if rung.rounds.ends != "time":
        yield Fault(
            where=f"{where}.rounds.ends",
            what="a guided round has no cues to count, so it ends by time",
            mend=_mend("end by time", f"{where}.rounds.ends", "time"),
        )
    yield from _length(rung, where)


def _turn(drill: Drill, rung: Rung, where: str, turn: int) -> Iterator[Fault]:
    here = drill.cues_on(rung, turn)
    asking = [cue for cue in here if not cue.is_catch]
    sequence = rung.order.sequence if rung.order.kind == "set" else ()
    if sequence and not {cue.key for cue in asking} & set(sequence):
        yield Fault(
            where=f"{where}.order.sequence",
            what="no cue of the sequence asks for an answer",
            mend=_mend("take the cues as listed", f"{where}.order.sequence", []),
        )
        return
    if rung.overlap and {cue.channel for cue in asking} != {"hear", "see"}:
        channel = "heard" if asking[0].channel == "hear" else "seen"
        yield Fault(
            where=f"{where}.overlap",
            what=f"only a sound and a light can overlap, and all cues here are {channel}",
            mend=_mend("no overlap", f"{where}.overlap", None),
        )
    if isinstance(rung.order, Balanced):
        yield from _repeats(drill, rung, rung.order, where, turn)


def _repeats(drill: Drill, rung: Rung, order: Balanced, where: str, turn: int) -> Iterator[Fault]:
    shares = drill.shares(rung, turn)
    key, largest = max(shares.items(), key=lambda item: item[1])
    allowed = share_allowed(order.repeat_cap)
    if largest <= allowed + 1e-9 or len(shares) == 1:
        return
    needed = cap_needed(largest)
    path = f"{where}.order.repeat_cap"
    yield Fault(
        where=path,
        what=f"“{drill.cue(key).name}” has a share of {percent(largest)}, but with at most "
        f"{order.repeat_cap} alike in a row it can have {percent(allowed)}; raise the cap or even "
        "out the weights",
        mend=_mend(f"allow {needed} alike", path, needed)
        if needed
        else _even(drill, rung, where, turn, 1 - allowed),
    )


def _even(drill: Drill, rung: Rung, where: str, turn: int, rest: float) -> Mend:
    """Every cue as often as every other; of a single asking cue, the catch cues as often."""
    if sum(not cue.is_catch for cue in drill.cues_on(rung, turn)) == 1:
        share = ceil(rest * 100) / 100
        return _mend(f"hold back {percent(share)}", f"{where}.catch_share", share)
    evened = [Change(path=f"cues.{number}.weight", value=1.0) for number in range(len(drill.cues))]
    return Mend(
        label="even out the weights", changes=(*evened, Change(path=f"{where}.weights", value={}))
    )


def _length(rung: Rung, where: str) -> Iterator[Fault]:
    rounds = rung.rounds
    fit = rounds_that_fit(rounds.count, rounds.ends, rounds.duration_s)
    if fit is not None:
        here, what = f"{where}.rounds.count", too_long(rounds.count, rounds.duration_s)
        yield Fault(where=here, what=what, mend=_mend(f"{fit} rounds", here, fit))


def _room(drill: Drill, rung: Rung, where: str) -> Iterator[Fault]:
    """Windows, waits and chains against the pace's bounds and the round."""
    pace = drill.pace
    if not pace.least_s <= rung.window_s <= pace.most_s:
        bound = "least_s" if rung.window_s < pace.least_s else "most_s"
        yield Fault(
            where=f"{where}.window_s",
            what=f"the window of {rung.window_s:g} s is outside the pace's bounds of "
            f"{pace.least_s:g} to {pace.most_s:g} s",
            mend=_mend("widen the bounds", f"pace.{bound}", rung.window_s),
        )
    lead = 0.0
    if rung.lead_in:
        lead = rung.lead_in.lead_s if rung.lead_in.kind == "announce" else rung.lead_in.most_s
    asked = [ask(drill, rung, cue) for cue in drill.cues_on(rung)]
    longest = max((cue.window_s or rung.window_s) + cue.after_s for cue in asked)
    needed = longest + foreperiod.most(rung.waiting) + lead
    if needed > rung.rounds.most_s:
        yield Fault(
            where=f"{where}.rounds.duration_s",
            what=f"one wait, window and chain take up to {needed:.1f} s, longer than the round of "
            f"{rung.rounds.most_s:g} s",
            mend=_mend("lengthen the round", f"{where}.rounds.duration_s", float(int(needed) + 10)),
        )


def _counters(drill: Drill, rung: Rung, where: str) -> Iterator[Fault]:
    asking = [cue for cue in drill.cues_on(rung) if not cue.is_catch]
    if rung.counters and rung.stacking:
        yield Fault(
            where=f"{where}.counters",
            what="chains that grow and chains that drop their counter do not go together",
            mend=_mend("always ask what is stacked", f"{where}.counters", None),
        )
    if rung.counters:
        for cue in asking:
            if not all(has_counter(rung, chain) for chain in cue.asks):
                yield Fault(
                    where=f"{where}.counters",
                    what=f"“{cue.name}” has no counter that could be asked or left out",
                    mend=_mend("ask what is there", f"{where}.counters", None),
                )
                return
    if rung.stacking and all(rung.steps_of(chain) < 2 for cue in asking for chain in cue.asks):
        yield Fault(
            where=f"{where}.stacking",
            what="no chain on this rung has a second step to add",
            mend=_mend("no stacking", f"{where}.stacking", None),
        )


def _cue_hints(drill: Drill) -> Iterator[Fault]:
    stimuli: dict[tuple[object, ...], str] = {}
    for number, cue in enumerate(drill.cues):
        mark = cue.mark if cue.stimulus.kind in ("light", "arrow") else None
        same = stimuli.setdefault((cue.stimulus, mark), cue.key)
        if same != cue.key:
            yield Fault(
                where=f"cues.{number}.stimulus",
                what=f"“{cue.name}” is there twice; nobody can tell the two apart",
                level="hint",
            )
        if drill.place.eyes_closed and cue.channel == "see":
            yield Fault(
                where=f"cues.{number}.stimulus",
                what=f"the drill is done with eyes closed, but “{cue.name}” is seen",
                level="hint",
                mend=_mend("eyes open", "place.eyes_closed", False),
            )
        yield from _fits(drill, cue, number)


def _fits(drill: Drill, cue: Cue, number: int) -> Iterator[Fault]:
    """Answers against the attack a cue stands for."""
    attack = drill.technique(cue.attack.technique) if cue.attack else None
    if attack is None:
        return
    for chain_number, chain in enumerate(cue.asks):
        answer = drill.technique(chain.steps[0].technique)
        if answer is None or answer.use != "defense":
            continue
        judged = fit(attack, answer)
        if judged.verdict == "poor":
            where = f"cues.{number}.asks.{chain_number}.steps.0.technique"
            better = better_answer(attack, answer)
            yield Fault(
                where=where,
                what=f"{answer.name} against {attack.name}: {judged.reason}",
                level="hint",
                mend=_mend(f"ask for {better.name}", where, better.key) if better else None,
            )


def better_answer(attack: Technique, answer: Technique) -> Technique | None:
    """A usual answer to `attack`, as like `answer` as there is one."""
    usual = [
        technique
        for technique in TECHNIQUES.values()
        if technique.use == "defense" and fit(attack, technique).verdict == "usual"
    ]
    usual.sort(
        key=lambda technique: (technique.limb != answer.limb, technique.lands != answer.lands)
    )
    return usual[0] if usual else None


def _rung_hints(drill: Drill, rung: Rung, where: str) -> Iterator[Fault]:
    if rung.guide:
        return
    if isinstance(rung.waiting, Fixed) and rung.order.kind not in ("set", "rotating"):
        wait = rung.waiting.wait_s
        least = max(0.3, round(wait / 2, 2))
        mean = max(0.05, round(wait - least, 2))
        open_wait = Unguessable(least_s=least, mean_s=mean, most_s=round(least + 6 * mean, 2))
        yield Fault(
            where=f"{where}.waiting",
            what="the wait is always the same: the moment can be learned, and times say less",
            level="hint",
            mend=_mend("make it unguessable", f"{where}.waiting", open_wait.model_dump()),
        )
    asking = [cue for cue in drill.cues_on(rung) if not cue.is_catch]
    alone = len(asking) == len(drill.cues_on(rung)) == 1 and drill.purpose == "practice"
    if alone and not rung.stacking and not asking[0].asks[0].steps[0].hold_s:
        yield Fault(
            where=f"{where}.cues",
            what="only one cue comes here: there is no other cue to tell it from",
            level="hint",
        )
    silent = [cue for cue in asking if ask(drill, rung, cue).timed_by == "not_sensed"]
    if silent and len(silent) < len(asking):
        yield Fault(
            where=f"{where}.chain",
            what=f"the answer to “{silent[0].name}” cannot be timed by a hit: it is shown, not "
            "timed, and the window follows the other cues only",
            level="hint",
        )
    deepest = [cue for cue in asking if any(has_counter(rung, chain) for chain in cue.asks)]
    defends = [cue for cue in asking if _defends(drill, cue)]
    last = where == f"rungs.{len(drill.rungs) - 1}"
    if last and not deepest and len(defends) == len(asking) > 1:
        yield Fault(
            where=f"{where}.chain",
            what=f"the last rung never asks for a counter; {CEILING} blocks in a row without one "
            "is the ceiling",
            level="hint",
        )


def _defends(drill: Drill, cue: Cue) -> bool:
    step = cue.answer
    technique = drill.technique(step.technique) if step else None
    return technique is not None and technique.use == "defense"
