"""Making a feed sheet: everything is drawn from the seed.

The order of passages in balance as in solo drills, the partner's choices in balance too, the pauses
unguessable (on a kept beat rounded up to whole beats, which leaves them memoryless), the tell, and
which exchanges ask for a counter.
"""

from __future__ import annotations

from collections.abc import Sequence

from hastatus.core.drill.checks.partner import check
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.paths import endless
from hastatus.core.plan.feed_draws import Draws, FactsOf
from hastatus.core.plan.feed_sheet import FeedRound, FeedSheet
from hastatus.core.plan.feed_turns import turns_of, with_spare
from hastatus.core.trade.technique import Stance, other

_ROOM, _ABOVE = 1.5, 1.25
"""A run may become half as fast again as its sheet, and a quarter faster than any pace foreseen."""


def feed_sheet(
    drill: PartnerDrill,
    *,
    seed: int,
    rung: int = 1,
    tempo_bpm: float | None = None,
    stance: Stance = "left_lead",
    room: float = 1.0,
    facts: FactsOf | None = None,
) -> FeedSheet:
    """The sheet of every round. The same arguments give the same sheet.

    rung counts from 1 (IndexError when there is none). tempo_bpm: where the pair stands, instead of
    the rung's own. room: how many times as fast it may be run; with more than 1 turns that the
    clock ends have spare exchanges. facts: of whoever feeds and defends, by their numbers; None:
    nothing is known of them. Raises `finding.Infeasible` for a drill that cannot be done.
    """
    if not 1 <= rung <= len(drill.rungs):
        raise IndexError(f"the drill has {len(drill.rungs)} rungs, there is no rung {rung}")
    check(drill)
    step = drill.rungs[rung - 1]
    if tempo_bpm is not None and step.tempo_bpm is not None:
        step = step.model_copy(update={"tempo_bpm": tempo_bpm})
    loops = endless(drill)
    rounds = tuple(
        _round(drill, step, (seed, number), stance, loops, room, facts)
        for number in range(1, step.rounds.count + 1)
    )
    return FeedSheet(
        seed=seed,
        rung=rung,
        tempo_bpm=step.tempo_bpm,
        beat_s=step.beat_s,
        free=step.order.kind in ("free", "both"),
        people=drill.place.people,
        rounds=rounds,
        rest_s=step.rounds.rest_s,
    )


def room_of(rung: PartnerRung, paces: Sequence[float]) -> float:
    """How many times as fast as its tempo a rung may well be run, for `feed_sheet`'s room.

    paces: the tempo that each begins with as defender, BPM. 1 on the feeder's own time.
    """
    if rung.tempo_bpm is None:
        return 1.0
    fastest_bpm = max(rung.fastest_bpm, *paces, rung.tempo_bpm)
    return max(_ROOM, _ABOVE * fastest_bpm / rung.tempo_bpm)


def _round(
    drill: PartnerDrill,
    rung: PartnerRung,
    seed: tuple[int, int],
    stance: Stance,
    loops: frozenset[str],
    room: float,
    facts: FactsOf | None,
) -> FeedRound:
    number = seed[1]
    shape = rung.rounds
    longest = 1800.0 if shape.ends == "count" else shape.duration_s
    wanted = None if shape.ends == "time" else shape.exchanges
    # The next round begins with the next one's turn, so that nobody always feeds first.
    first = 0 if rung.turns.switch == "never" else number - 1
    quicker = room > 1 and rung.tempo_bpm and shape.ends == "time"
    by_count = rung.turns.switch == "count"
    # Where exchanges end the turns, a quicker round has more turns; else the turns have more.
    until_s = longest * room if quicker and by_count else longest
    planned = list(turns_of(Draws(drill, rung, seed, loops, facts), until_s, wanted, first))
    turns = tuple(turn for turn, _ in planned)
    duration_s = longest if shape.ends == "time" else turns[-1].to_s
    if quicker and not by_count:
        turns = tuple(
            with_spare(planned, lambda turn: Draws(drill, rung, (*seed, turn), loops, facts), room)
        )
    in_turn = shape.stances == "in_turn" and number % 2 == 0
    return FeedRound(
        number=number,
        stance=other(stance) if in_turn else stance,
        duration_s=duration_s,
        turns=turns,
    )
