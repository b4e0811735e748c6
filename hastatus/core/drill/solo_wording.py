"""A rung in a coach's words, and how it differs from the rung before."""

from __future__ import annotations

from dataclasses import dataclass

from hastatus.core.drill import foreperiod
from hastatus.core.drill.choices import AGAINST, DEPTH
from hastatus.core.drill.guide import Count, Hold
from hastatus.core.drill.settings import Balanced, Fixed, Jittered, Rotating, Rounds, SetOrder
from hastatus.core.drill.solo import Drill, Rung


@dataclass(frozen=True, slots=True)
class Fact:
    """One setting in words. key: which setting it is; name: what a coach calls it."""

    key: str
    name: str
    value: str


def facts(drill: Drill, rung: Rung) -> list[Fact]:
    """Every setting of a rung in words, in the order a coach would think of them."""
    if rung.guide:
        return [
            Fact("guide", "Led by", guide_words(rung.guide)),
            Fact("rounds", "Rounds", _rounds(rung.rounds.model_copy(update={"rehearse": False}))),
        ]
    return [
        Fact("guide", "Led by", "cues"),
        Fact("cues", "Cues", _cues(drill, rung)),
        Fact("chain", "Expected", _chain(rung)),
        Fact("order", "Order", _order(rung)),
        Fact("waiting", "Waiting", _waiting(rung)),
        Fact("window", "Answer window", _window(drill, rung)),
        Fact("goal", "Goal", f"next rung at {rung.goal_window_s:.2f} s"),
        Fact("catch", "Don't-react cues", _catch(rung)),
        Fact("overlap", "Overlap", _overlap(rung)),
        Fact("bursts", "Bursts", _bursts(rung)),
        Fact("lead_in", "Warning", _lead_in(rung)),
        Fact("flash", "Flash", f"{rung.flash_s:g} s long"),
        Fact("rounds", "Rounds", _rounds(rung.rounds)),
    ]


def differences(drill: Drill, before: Rung, after: Rung) -> list[str]:
    """What `after` changes of `before`, each as a short phrase."""
    old = {fact.key: fact.value for fact in facts(drill, before)}
    return [
        f"{new.name.lower()}: {new.value}"
        for new in facts(drill, after)
        if old.get(new.key) != new.value
    ]


def guide_words(guide: Count | Hold) -> str:
    """What leads a guided rung, for example "a count to 10, one every 2 s, against the ball"."""
    against = "" if guide.against == "air" else f", against {AGAINST[guide.against]}"
    if guide.kind == "count":
        of = f" of {len(guide.of)} things in turn" if guide.of else ""
        after = f", then “{guide.after}”" if guide.after else ""
        return f"a count to {guide.to}{of}, one every {guide.every_s:g} s{after}{against}"
    change = f", sides changed every {guide.change_s:g} s" if guide.change_s else ""
    return f"a hold, with a word every {guide.every_s:g} s{change}{against}"


def clock(seconds: float) -> str:
    """Seconds as minutes and seconds, for example "1:30"."""
    whole = round(seconds)
    return f"{whole // 60}:{whole % 60:02d}"


def percent(share: float) -> str:
    """A share as a whole percentage."""
    return f"{share:.0%}".replace("%", " %")


def _cues(drill: Drill, rung: Rung) -> str:
    kinds = sum(not cue.is_catch for cue in drill.cues_on(rung))
    words = f"{kinds} that ask, of {len(drill.cues)} in all" if rung.cues else "all of them"
    if rung.weights:
        words += ", weights of their own"
    return words


def _chain(rung: Rung) -> str:
    words = DEPTH[rung.chain]
    if rung.stacking:
        words = f"adds a step after every {rung.stacking.each}"
        words += ", counted aloud" if rung.stacking.counted else ""
    if rung.counters:
        words += (
            f", the counter {percent(rung.counters.share)} of the time, "
            f"at most {rung.counters.cap} running without"
        )
    return words


def _order(rung: Rung) -> str:
    order = rung.order
    if isinstance(order, SetOrder):
        return "set, always the same"
    if isinstance(order, Rotating):
        return "in turn, starting one later each time"
    if isinstance(order, Balanced):
        return f"random, even mix, at most {order.repeat_cap} alike in a row"
    return "random, each cue follows each equally often"


def _waiting(rung: Rung) -> str:
    wait = rung.waiting
    if isinstance(wait, Fixed):
        return f"always {wait.wait_s:g} s"
    if isinstance(wait, Jittered):
        return f"{wait.least_s:g} to {wait.most_s:g} s, evenly"
    return f"from {wait.least_s:g} s, {foreperiod.mean(wait):.1f} s on average, unpredictable"


def _window(drill: Drill, rung: Rung) -> str:
    pace, share = drill.pace, percent(drill.pace.target)
    rule = {
        "measured": f"adjusts so that {share} are clean",
        "weighted": f"steps so that {share} are clean",
        "n_down": f"shorter after {pace.n} clean in a row",
        "rounds": f"steps between rounds to {share} clean",
        "hold": "stays as set",
    }
    return f"{rung.window_s:.2f} s, {rule[pace.rule]}"


def _catch(rung: Rung) -> str:
    if not rung.catch_share:
        return "none"
    return percent(rung.catch_share)


def _overlap(rung: Rung) -> str:
    if rung.overlap is None:
        return "none"
    return (
        f"{percent(rung.overlap.share)} of cues follow {rung.overlap.least_gap_s:g} to "
        f"{rung.overlap.most_gap_s:g} s after another"
    )


def _bursts(rung: Rung) -> str:
    if rung.bursts is None:
        return "none"
    many = f"{rung.bursts.least} to {rung.bursts.most}"
    if rung.bursts.least == rung.bursts.most:
        many = f"{rung.bursts.least}"
    words = f"{many}, {rung.bursts.inner_s:g} s apart"
    if rung.bursts.share < 1:
        words += f", {percent(rung.bursts.share)} of the time"
    if rung.bursts.extra_share:
        words += f", one more {percent(rung.bursts.extra_share)} of the time"
    return words


def _lead_in(rung: Rung) -> str:
    if rung.lead_in is None:
        return "nothing"
    if rung.lead_in.kind == "announce":
        return f"the answer is said {rung.lead_in.lead_s:g} s ahead"
    return f"a warning {rung.lead_in.least_s:g} to {rung.lead_in.most_s:g} s ahead"


def _rounds(rounds: Rounds) -> str:
    ends = {
        "time": f"of {clock(rounds.duration_s)}",
        "count": f"of {rounds.cues} cues",
        "first": f"of {clock(rounds.duration_s)} or {rounds.cues} cues",
    }[rounds.ends]
    words = f"{rounds.count} {ends}"
    if rounds.count > 1:
        words += f", rest {clock(rounds.rest_s)}"
    if rounds.stances == "in_turn":
        words += ", switch stance each round"
    if rounds.turns:
        words += ", cues in turn"
    if rounds.rehearse:
        words += ", walk-through first"
    return words
