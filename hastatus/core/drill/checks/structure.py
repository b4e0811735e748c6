"""Whether a drill hangs together: keys, beats, shares, loops, rungs."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

import networkx as nx

from hastatus.core.drill.checks.finding import Finding, mend
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.paths import endless, graph
from hastatus.core.drill.repeats import cap_needed, share_allowed
from hastatus.core.drill.settings import Balanced, rounds_that_fit, too_long
from hastatus.core.drill.solo_wording import percent
from hastatus.core.trade.catalogue import TECHNIQUES


def structure_findings(drill: PartnerDrill) -> list[Finding]:
    """Everything that keeps the drill from being followed at all."""
    findings = [*_keys(drill)]
    for index, passage in enumerate(drill.passages):
        findings += _passage(drill, passage, f"passages.{index}")
    for index, rung in enumerate(drill.rungs):
        findings += _rung(drill, rung, f"rungs.{index}")
    return findings or [*_loops(drill)]


def _keys(drill: PartnerDrill) -> Iterator[Finding]:
    seen: set[str] = set()
    for index, passage in enumerate(drill.passages):
        if passage.key in seen:
            yield Finding(
                where=f"passages.{index}.key",
                what=f"another passage has the key '{passage.key}'",
                passage=passage.key,
            )
        seen.add(passage.key)
    for index, technique in enumerate(drill.techniques):
        if technique.key in TECHNIQUES:
            what = f"'{technique.key}' comes with the app; give the club's own another key"
            yield Finding(where=f"techniques.{index}.key", what=what)
    if not any(passage.starts for passage in drill.passages):
        yield Finding(
            where="passages.0.weight",
            what="no exchange can start: every passage has weight 0",
            passage=drill.passages[0].key,
            mend=mend("start with the first", ("passages.0.weight", 1)),
        )


def _passage(drill: PartnerDrill, passage: Passage, where: str) -> Iterator[Finding]:
    if passage.starts and not any(step.lane == "feeder" for step in passage.steps):
        yield Finding(
            where=f"{where}.steps",
            what=f"“{passage.name}” has no step of the feeder's: nothing starts it",
            passage=passage.key,
        )
    known = {passage.key for passage in drill.passages}
    for index, branch in enumerate(passage.then):
        if branch.to is not None and branch.to not in known:
            yield Finding(
                where=f"{where}.then.{index}.to",
                what=f"no passage has the key '{branch.to}'",
                passage=passage.key,
                mend=mend("end the exchange there", (f"{where}.then.{index}.to", None)),
            )
    if passage.then and not any(branch.share > 0 for branch in passage.then):
        yield Finding(
            where=f"{where}.then",
            what=f"the shares of “{passage.name}”'s branches add up to zero: none is ever given",
            passage=passage.key,
            mend=mend(
                "give all the same share",
                *((f"{where}.then.{index}.share", 1) for index in range(len(passage.then))),
            ),
        )
    yield from _choices(passage, where)
    for index, step in enumerate(passage.steps):
        here = {"passage": passage.key, "step": index, "beat": step.beat}
        spot = f"{where}.steps.{index}"
        if drill.technique(step.technique) is None:
            what = f"unknown technique '{step.technique}'"
            yield Finding(where=f"{spot}.technique", what=what, **here)
        for key in step.also:
            if drill.technique(key) is None:
                left = [other for other in step.also if other != key]
                yield Finding(
                    where=f"{spot}.also",
                    what=f"unknown technique '{key}'",
                    mend=mend("take it out", (f"{spot}.also", left)),
                    **here,
                )
        last = max(step.beat, step.until or 0)
        if last >= passage.beats + 1:
            yield Finding(
                where=f"{spot}.beat",
                what=f"beat {last:g} is after the end of “{passage.name}”, which has "
                f"{passage.beats:g} beats",
                mend=mend("make it longer", (f"{where}.beats", float(ceil(last)))),
                **here,
            )
        if step.until is not None and step.until < step.beat:
            yield Finding(
                where=f"{spot}.until",
                what=f"it is held until beat {step.until:g}, before it begins",
                mend=mend("do not hold it", (f"{spot}.until", None)),
                **here,
            )


def _choices(passage: Passage, where: str) -> Iterator[Finding]:
    """Choices that are there twice or give nothing, and steps that come with one that is none."""
    keys = [choice.key for choice in passage.choices]
    for index, choice in enumerate(passage.choices):
        if choice.key in keys[:index]:
            yield Finding(
                where=f"{where}.choices.{index}.key",
                what=f"another choice of “{passage.name}” has the key '{choice.key}'",
                passage=passage.key,
            )
        if not any(step.when == choice.key and step.lane == "feeder" for step in passage.steps):
            kept = [other.model_dump(mode="json") for other in passage.choices if other != choice]
            yield Finding(
                where=f"{where}.choices.{index}",
                what=f"“{choice.name}” gives nothing: no step of the feeder's comes with it",
                passage=passage.key,
                mend=mend("take the choice out", (f"{where}.choices", kept)),
            )
    for index, step in enumerate(passage.steps):
        if step.when is not None and step.when not in keys:
            yield Finding(
                where=f"{where}.steps.{index}.when",
                what=f"no choice of “{passage.name}” has the key '{step.when}'",
                passage=passage.key,
                step=index,
                beat=step.beat,
                mend=mend("it always comes", (f"{where}.steps.{index}.when", None)),
            )


def _rung(drill: PartnerDrill, rung: PartnerRung, where: str) -> Iterator[Finding]:
    rounds = rung.rounds
    fit = rounds_that_fit(rounds.count, rounds.ends, rounds.duration_s)
    if fit is not None:
        yield Finding(
            where=f"{where}.rounds.count",
            what=too_long(rounds.count, rounds.duration_s),
            mend=mend(f"{fit} rounds", (f"{where}.rounds.count", fit)),
        )
    starting = {passage.key for passage in drill.passages if passage.starts}
    lists = [("passages", rung.passages)]
    if rung.order.kind == "set":
        lists.append(("order.sequence", rung.order.sequence))
    for name, keys in lists:
        wrong = [key for key in keys if key not in starting]
        if wrong:
            left = [key for key in keys if key in starting]
            yield Finding(
                where=f"{where}.{name}",
                what=f"no exchange starts with a passage '{wrong[0]}'",
                mend=mend("take it out", (f"{where}.{name}", left)),
            )
    if starting and not drill.starts_on(rung):
        yield Finding(where=f"{where}.passages", what="no exchange starts with any of these")
    if isinstance(rung.order, Balanced) and starting:
        yield from _repeats(drill, rung, rung.order, where)
    if rung.turns.switch == "score" and not any(passage.swap for passage in drill.passages):
        yield Finding(
            where=f"{where}.turns.switch",
            what="the drill is to switch the roles, but no passage does",
            mend=mend("switch from round to round", (f"{where}.turns.switch", "rounds")),
        )


def _repeats(
    drill: PartnerDrill, rung: PartnerRung, order: Balanced, where: str
) -> Iterator[Finding]:
    """A share that no order with this cap on repeats can give."""
    shares = drill.shares(rung)
    largest = max(shares.values(), default=0.0)
    if len(shares) < 2 or largest <= share_allowed(order.repeat_cap) + 1e-9:
        return
    key = max(shares, key=shares.__getitem__)
    needed = cap_needed(largest)
    path = f"{where}.order.repeat_cap"
    even = [
        (f"passages.{n}.weight", 1) for n, passage in enumerate(drill.passages) if passage.starts
    ]
    yield Finding(
        where=path,
        what=f"“{drill.passage(key).name}” has a share of {percent(largest)}, but with at most "
        f"{order.repeat_cap} alike in a row it can have "
        f"{percent(share_allowed(order.repeat_cap))}",
        mend=mend(f"allow {needed} alike", (path, needed))
        if needed
        else mend("all as often", *even),
    )


def _loops(drill: PartnerDrill) -> Iterator[Finding]:
    """Loops that nobody gets out of and that never switch the roles."""
    net = graph(drill)
    swapping = {passage.key for passage in drill.passages if passage.swap}
    stuck = net.subgraph(endless(drill) - swapping)
    for component in nx.strongly_connected_components(stuck):
        looped = len(component) > 1 or any(stuck.has_edge(key, key) for key in component)
        if not looped:
            continue
        index = min(n for n, passage in enumerate(drill.passages) if passage.key in component)
        yield Finding(
            where=f"passages.{index}.then",
            what=f"from “{drill.passages[index].name}” on it goes round for ever: the exchange "
            "never ends and the roles never switch",
            passage=drill.passages[index].key,
            mend=mend("switch the roles in it", (f"passages.{index}.swap", True)),
        )
