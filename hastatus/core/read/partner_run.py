"""Reading a partner run: what got through, where, at which tempo, and what to do next."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.solo_wording import percent
from hastatus.core.read.proportion import TOO_FEW, Interval, wilson_in_order
from hastatus.core.run.partner_events import Grade
from hastatus.core.score.exchanges import Exchange, PartnerRecord
from hastatus.core.score.expected_grades import fitting_grades
from hastatus.core.trade.faults import Owner


@dataclass(frozen=True, slots=True)
class Share:
    """How many exchanges of a kind were clean. interval: 95 % (Wilson); None: none was graded."""

    name: str
    clean: int
    graded: int
    interval: Interval | None

    @property
    def share(self) -> float | None:
        """Share clean; None where none was graded."""
        return self.clean / self.graded if self.graded else None


@dataclass(frozen=True, slots=True)
class FaultCount:
    """How often a fault was tagged. partners: how often each did it, by number; owner: whose kind
    of fault it is; None: the drill does not say, and it is counted as the defender's."""

    fault: str
    count: int
    owner: Owner | None = None
    partners: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class Watched:
    """What was marked by exception.

    exchanges: that the coach watched, of `fed` on the sheet that were done. not_clean: of them,
    tapped as struck, wrong or late. left_on_s: how long watching was left on after a round; that
    does not count.
    """

    exchanges: int
    fed: int
    not_clean: int
    left_on_s: float = 0.0


@dataclass(frozen=True, slots=True)
class NextStep:
    """What to do next, and why in one line. rung: from 1."""

    kind: Literal["hold", "faster", "slower", "next", "back"]
    rung: int
    tempo_bpm: float | None
    reason: str


@dataclass(frozen=True, slots=True)
class PartnerReading:
    """A partner run, read.

    attacks, ways, tempos, sides, roles: clean share by the passage an exchange starts with, by the
    way it went (none where every exchange is one passage), by tempo, by the side of the first
    attack, and by who defended. grades: how often each was given. blocks: the longest row of
    exchanges without a counter; None: no counter is asked, or not each exchange was tapped. faults:
    most frequent first. watched: what was marked by exception; None: nothing was. marked: clean
    share by how it was marked; empty where all was marked in one way. own: what comes next for
    each partner as defender, by number; empty where they share one tempo. touches: where both
    hunt, how often each touched, by number; empty where nobody did.
    """

    overall: Share
    attacks: tuple[Share, ...]
    ways: tuple[Share, ...]
    tempos: tuple[Share, ...]
    sides: tuple[Share, ...]
    roles: tuple[Share, ...]
    grades: dict[Grade, int]
    blocks: int | None
    faults: tuple[FaultCount, ...]
    next: NextStep
    watched: Watched | None = None
    marked: tuple[Share, ...] = ()
    own: tuple[NextStep, ...] = ()
    touches: tuple[int, ...] = ()


def named(reading: PartnerReading, names: Sequence[str]) -> PartnerReading:
    """The reading with the partners' names, which are given in the order of the feed sheet."""
    roles = tuple(replace(role, name=names[int(role.name)]) for role in reading.roles)
    return replace(reading, roles=roles)


def read(drill: PartnerDrill, rung: int, record: PartnerRecord) -> PartnerReading:
    """Read what the marks of a run on a rung (from 1) tell. In it partners are numbers, from 0."""
    passages = {
        key: drill.passage(key).name for exchange in record.exchanges for key in exchange.path
    }
    exchanges = record.exchanges
    graded = [exchange for exchange in exchanges if exchange.clean is not None]
    marked = _by(graded, lambda exchange: "by exception" if exchange.watched else "by tap")
    fed = [exchange for exchange in graded if exchange.path]
    overall = _share("all", graded)
    return PartnerReading(
        overall=overall,
        attacks=_by(fed, lambda exchange: drill.written(exchange.path[0]).name),
        ways=_by(fed, lambda exchange: " → ".join(passages[key] for key in exchange.path[:4]))
        if any(len(exchange.path) > 1 or "+" in exchange.path[0] for exchange in fed)
        else (),
        tempos=_by(
            [exchange for exchange in graded if exchange.tempo_bpm is not None],
            lambda exchange: f"{exchange.tempo_bpm:g}",
            order=lambda share: float(share.name),
        ),
        sides=_by(fed, lambda exchange: _side(drill, exchange)),
        roles=_by(graded, lambda exchange: str(exchange.defender)),
        grades=dict(Counter(exchange.grade for exchange in graded if exchange.grade)),
        blocks=_blocks(graded) if _each_countered(drill, rung, record) else None,
        faults=_faults(drill, exchanges),
        next=what_next(drill, rung, graded, overall),
        watched=_watched(record),
        marked=marked if len(marked) > 1 else (),
        own=_own(drill, rung, record, graded),
        touches=_touches(drill, record),
    )


def _touches(drill: PartnerDrill, record: PartnerRecord) -> tuple[int, ...]:
    counts = Counter(touch.partner for touch in record.touches)
    return tuple(counts[person] for person in range(drill.place.people)) if counts else ()


def _each_countered(drill: PartnerDrill, rung: int, record: PartnerRecord) -> bool:
    """Whether counters are asked on a rung, and each exchange was tapped."""
    return not record.watches and "countered" in fitting_grades(drill, drill.rungs[rung - 1])


def _own(
    drill: PartnerDrill, rung: int, record: PartnerRecord, graded: Sequence[Exchange]
) -> tuple[NextStep, ...]:
    """What comes next for each, where somebody's own tempo was set."""
    if all(tempo.partner is None for tempo in record.tempos):
        return ()
    steps = []
    for person in range(drill.place.people):
        defended = [exchange for exchange in graded if exchange.defender == person]
        steps.append(what_next(drill, rung, defended, _share(str(person), defended)))
    return tuple(steps)


def _watched(record: PartnerRecord) -> Watched | None:
    watched = [exchange for exchange in record.exchanges if exchange.watched]
    if not record.watches:
        return None
    return Watched(
        exchanges=len(watched),
        fed=record.fed,
        not_clean=sum(not exchange.clean for exchange in watched),
        left_on_s=round(sum(watch.left_on_ms for watch in record.watches) / 1000, 1),
    )


def _faults(drill: PartnerDrill, exchanges: Sequence[Exchange]) -> tuple[FaultCount, ...]:
    counts = Counter(fault for exchange in exchanges for fault in exchange.faults)
    tagged = faults_of(drill, exchanges)
    people = range(drill.place.people)
    return tuple(
        FaultCount(
            fault, count, drill.owner_of(fault), tuple(tagged[fault, person] for person in people)
        )
        for fault, count in counts.most_common()
    )


def faults_of(drill: PartnerDrill, exchanges: Sequence[Exchange]) -> Counter[tuple[str, int]]:
    """How often each fault was tagged to each partner: its owner's role in the exchange, and the
    defender where nobody says whose it is."""
    return Counter(
        (fault, exchange.feeder if drill.owner_of(fault) == "feeder" else exchange.defender)
        for exchange in exchanges
        for fault in exchange.faults
    )


def _share(name: str, of: Sequence[Exchange]) -> Share:
    clean = [bool(exchange.clean) for exchange in of]
    return Share(name, sum(clean), len(of), wilson_in_order(clean) if of else None)


def _by(
    of: Sequence[Exchange],
    name: Callable[[Exchange], str],
    order: Callable[[Share], float] | None = None,
) -> tuple[Share, ...]:
    groups: dict[str, list[Exchange]] = {}
    for exchange in of:
        groups.setdefault(name(exchange), []).append(exchange)
    shares = [_share(key, group) for key, group in groups.items()]
    return tuple(sorted(shares, key=order)) if order else tuple(shares)


def _side(drill: PartnerDrill, exchange: Exchange) -> str:
    """The side of the first attack of the passage it started with; "none" where there is none."""
    attacks = [
        step
        for step in drill.passage(exchange.path[0]).steps
        if step.lane == "feeder"
        and (technique := drill.technique(step.technique)) is not None
        and technique.use == "attack"
    ]
    return min(attacks, key=lambda step: step.beat).side if attacks else "none"


def _blocks(graded: Iterable[Exchange]) -> int:
    """The longest row of one defender's exchanges without a counter."""
    rows: Counter[int] = Counter()
    longest = 0
    for exchange in graded:
        rows[exchange.defender] = (
            0 if exchange.grade == "countered" else rows[exchange.defender] + 1
        )
        longest = max(longest, rows[exchange.defender])
    return longest


VAGUE = 0.3
"""A share whose interval is wider than this tells neither easy from right nor right from hard."""


def what_next(
    drill: PartnerDrill, rung: int, graded: Sequence[Exchange], overall: Share
) -> NextStep:
    """The next rung when this one has done its work, a gentler step when it falls apart.

    Common practice put into numbers, no source: up when most of it was clean, first in tempo, then
    in rung; down when too much got through.
    """
    here = drill.rungs[rung - 1]
    tempos = [exchange.tempo_bpm for exchange in graded if exchange.tempo_bpm is not None]
    tempo = tempos[-1] if tempos else here.tempo_bpm
    if overall.interval is None or overall.graded < TOO_FEW:
        return NextStep("hold", rung, tempo, f"{_exchanges(overall.graded)} too few to tell")
    sentence = f"{overall.clean} of {overall.graded} were clean"
    if overall.interval.low >= drill.target - 0.1 and (overall.share or 0) >= drill.target:
        return _up(drill, rung, here, tempo, sentence)
    wanted = f"{sentence}, {percent(drill.target)} wanted"
    if overall.interval.high < drill.target:
        slower = tempo is not None and here.tempo_bpm is not None and tempo > here.tempo_bpm
        if slower:
            return NextStep("slower", rung, here.tempo_bpm, f"{wanted}: back to where it held")
        if rung > 1:
            before = drill.rungs[rung - 2]
            return NextStep("back", rung - 1, before.goal_bpm or before.tempo_bpm, wanted)
        return NextStep("slower", rung, None if tempo is None else max(20.0, tempo - 4), wanted)
    return NextStep("hold", rung, tempo, f"{wanted}: {_as_hard(overall, overall.interval)}")


def _exchanges(count: int) -> str:
    return "1 exchange is" if count == 1 else f"{count} exchanges are"


def _as_hard(overall: Share, interval: Interval) -> str:
    """Whether it is as hard as it should be, as far as so many exchanges tell."""
    if overall.clean == overall.graded:
        return "nothing got through so far, a few more will tell"
    if interval.high - interval.low > VAGUE:
        return f"{overall.graded} exchanges are too few to tell whether it is too easy or too hard"
    return "about as hard as it should be"


def _up(
    drill: PartnerDrill, rung: int, here: PartnerRung, tempo: float | None, sentence: str
) -> NextStep:
    if tempo is not None and here.goal_bpm is not None and tempo < here.goal_bpm:
        faster = min(here.goal_bpm, tempo + here.climb.step_bpm)
        return NextStep("faster", rung, faster, f"{sentence} at {tempo:g}")
    if rung == len(drill.rungs):
        return NextStep("hold", rung, tempo, f"{sentence}: the last rung has done its work")
    return NextStep("next", rung + 1, drill.rungs[rung].tempo_bpm, f"{sentence} at the goal")
