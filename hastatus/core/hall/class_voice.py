"""The one voice of a class: what is heard in a block, and when, on the clock of the block."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from hastatus.core.drill.cue import Mark
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.hall.numbered_call import NumberedRound, numbered_round
from hastatus.core.hall.stretch import Piece, Stretch, piece_drill
from hastatus.core.plan import cue_track
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.plan.sounds import Clip, spoken
from hastatus.core.trade.label_packs import PLAIN, Labels

BELL = Clip("tone", "bell")
TEN_S = 10.0
LEAST_WITH_TEN_S = 30.0
"""Only a stretch as long as this has its last ten seconds called."""


@dataclass(frozen=True, slots=True)
class ClassSound:
    """One thing that is heard. at_s: from the start of the block. shows: what the wall shows with
    it; empty: nothing. mark: of the cue that it is."""

    at_s: float
    kind: Literal["bell", "call", "number", "cue"]
    clip: Clip
    shows: str = ""
    mark: Mark | None = None


@dataclass(frozen=True, slots=True)
class BlockCalls:
    """The numbered rounds of one piece; their numbers are counted over the block. rung: from 1."""

    piece: int
    rung: int
    drill: PartnerDrill
    rounds: tuple[NumberedRound, ...]


def block_calls(drill: PartnerDrill, done: Sequence[Piece], seed: int) -> list[BlockCalls]:
    """The numbered rounds of every piece that has feeds to call; where feeders choose freely there
    are none."""
    found, before = [], 0
    for number, piece in enumerate(done):
        timed = piece_drill(drill, piece)
        rung = timed.rungs[piece.rung - 1]
        if rung.order.kind not in ("free", "both") and timed.shares(rung):
            rounds = tuple(
                numbered_round(timed, rung, seed, before + one + 1) for one in range(piece.rounds)
            )
            found.append(BlockCalls(number, piece.rung, timed, rounds))
        before += piece.rounds
    return found


def class_sounds(
    drill: Drill | PartnerDrill | None,
    done: Sequence[Piece],
    row: Sequence[Stretch],
    *,
    seed: int,
    numbered: bool = False,
    labels: Labels = PLAIN,
) -> list[ClassSound]:
    """All that is heard in a block, in order. row: its stretches, as they were lengthened or cut
    short. numbered: numbers are called. A solo drill's cues are heard by all, who follow along."""
    heard = list(_signals(drill, done, row))
    if isinstance(drill, Drill):
        heard += _followed(drill, done, row, seed, labels)
    elif drill is not None and numbered:
        heard += _numbers(block_calls(drill, done, seed), row)
    return sorted(heard, key=lambda sound: sound.at_s)


def _signals(
    drill: Drill | PartnerDrill | None, done: Sequence[Piece], row: Sequence[Stretch]
) -> Iterator[ClassSound]:
    """The bell at both ends of a round, its last ten seconds, and what comes after a change."""
    for stretch in row:
        if stretch.kind == "work":
            yield ClassSound(stretch.starts_s, "bell", BELL)
            yield ClassSound(stretch.ends_s, "bell", BELL)
            if stretch.ends_s - stretch.starts_s >= LEAST_WITH_TEN_S:
                yield ClassSound(stretch.ends_s - TEN_S, "call", spoken("ten seconds"))
        elif stretch.kind == "rest" and isinstance(drill, PartnerDrill):
            yield ClassSound(stretch.starts_s + 1.5, "call", spoken("the other one feeds"))
        elif stretch.kind == "change" and drill is not None:
            words = _change(drill, done[stretch.piece - 1], done[stretch.piece])
            yield ClassSound(stretch.starts_s + 1.5, "call", spoken(words))


def _change(drill: Drill | PartnerDrill, was: Piece, comes: Piece) -> str:
    """What is called when a piece is over."""
    if comes.wave != was.wave:
        return "next group"
    if comes.rung != was.rung:
        return f"next: {drill.rungs[comes.rung - 1].name}"[:60]
    return "other stance" if comes.other_stance != was.other_stance else "once more"


def _rounds(row: Sequence[Stretch], piece: int) -> list[Stretch]:
    return [one for one in row if one.kind == "work" and one.piece == piece]


def _numbers(calls: Sequence[BlockCalls], row: Sequence[Stretch]) -> Iterator[ClassSound]:
    for one in calls:
        for stretch, round_ in zip(_rounds(row, one.piece), one.rounds, strict=True):
            for call in round_.calls:
                at_s, number = stretch.starts_s + call.at_s, str(call.number)
                if at_s < stretch.ends_s:
                    yield ClassSound(at_s, "number", spoken(number), number)


def _followed(
    drill: Drill, done: Sequence[Piece], row: Sequence[Stretch], seed: int, labels: Labels
) -> Iterator[ClassSound]:
    """The cues of a solo drill, and what is said around them: a plan of its own for each piece."""
    for number, piece in enumerate(done):
        rounds = drill.rungs[piece.rung - 1].rounds.model_copy(
            update={"ends": "time", "count": piece.rounds, "duration_s": piece.round_s}
        )
        plan = plan_run(drill.in_rounds(rounds), seed=seed + number, rung=piece.rung)
        track = cue_track.make_track(drill, plan, labels)
        begins = dict(zip(range(1, piece.rounds + 1), track.starts_s, strict=True))
        places = _rounds(row, number)
        for sounding in track.soundings:
            if sounding.clip is None:
                continue
            stretch = places[sounding.round - 1]
            at_s = stretch.starts_s + sounding.at_s - begins[sounding.round]
            if at_s <= stretch.ends_s:
                yield _followed_sound(drill, at_s, sounding, labels)


def _followed_sound(
    drill: Drill, at_s: float, sounding: cue_track.Sounding, labels: Labels
) -> ClassSound:
    assert sounding.clip is not None
    if sounding.kind == "cue" and sounding.cue is not None:
        cue = drill.cue(sounding.cue)
        shows = "" if cue.is_catch else cue.announcement(labels)
        return ClassSound(at_s, "cue", sounding.clip, shows, cue.mark)
    shows = sounding.clip.what if sounding.clip.source == "spoken" else ""
    return ClassSound(at_s, "call", sounding.clip, shows)
