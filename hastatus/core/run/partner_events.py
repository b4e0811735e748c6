"""What is written down while a partner drill runs: the coach's taps, strikes, tempo and stops.

Every mark has a time on the run's clock, in milliseconds. A mark is never changed: a wrong tap is
taken back by one more.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from hastatus.core.fields import Document, Key, Line, Milliseconds, Seconds, Tempo

Grade = Literal[
    "struck", "covered", "deflected", "evaded", "off_line", "countered", "right", "late", "wrong"
]
"""What became of an attack: it landed, or what kept it from landing. Where a choice or a pad is
asked: the right answer, the right one late, or another one."""
NOT_CLEAN: frozenset[Grade] = frozenset(("struck", "late", "wrong"))
GRADE_NAMES: dict[Grade, str] = {
    "struck": "got through",
    "covered": "covered",
    "deflected": "deflected",
    "evaded": "evaded",
    "off_line": "off the line",
    "countered": "countered",
    "right": "right",
    "late": "late",
    "wrong": "wrong",
}
MARK_VERSION = 1

_Round = Annotated[int, Field(ge=1, le=40)]
_Number = Annotated[int, Field(ge=1, le=5000)]
_Partner = Annotated[int, Field(ge=0, le=2)]


class RoundBegun(Document):
    """The clock of a round starts."""

    kind: Literal["round_begun"] = "round_begun"
    at_ms: Milliseconds
    round: _Round


class RoundOver(Document):
    """A round is over, or stopped."""

    kind: Literal["round_over"] = "round_over"
    at_ms: Milliseconds
    round: _Round


class Paused(Document):
    """The round stands still."""

    kind: Literal["paused"] = "paused"
    at_ms: Milliseconds


class Resumed(Document):
    """The round goes on."""

    kind: Literal["resumed"] = "resumed"
    at_ms: Milliseconds


class Graded(Document):
    """The coach's tap for an exchange. number: on the feed sheet, or counted where it is free."""

    kind: Literal["graded"] = "graded"
    at_ms: Milliseconds
    round: _Round
    number: _Number
    grade: Grade


class Tagged(Document):
    """A fault that the coach saw in an exchange."""

    kind: Literal["tagged"] = "tagged"
    at_ms: Milliseconds
    round: _Round
    number: _Number
    fault: Line


class Touched(Document):
    """Where both hunt: somebody touched the other. partner: who touched."""

    kind: Literal["touched"] = "touched"
    at_ms: Milliseconds
    round: _Round
    partner: _Partner


class TapUndone(Document):
    """The last tap that still stands is taken back: a grade, a fault, a touch or a carry-over."""

    kind: Literal["undone"] = "undone"
    at_ms: Milliseconds


class TurnBegun(Document):
    """A turn begins. sheet_s: where the sheet goes on, past the spare exchanges of the turn before.
    defender: who defends in it."""

    kind: Literal["turn_begun"] = "turn_begun"
    at_ms: Milliseconds
    round: _Round
    sheet_s: Seconds
    defender: _Partner


class TempoSet(Document):
    """From now on this tempo: by the coach's key, by the rule, or as the turn's defender has it.

    partner: whose pace it is, as defender; None: both have the same.
    """

    kind: Literal["tempo_set"] = "tempo_set"
    at_ms: Milliseconds
    bpm: Tempo
    by: Literal["coach", "rule", "turn"]
    partner: _Partner | None = None


class WatchBegun(Document):
    """The coach watches from now on: what is not tapped is clean."""

    kind: Literal["watch_begun"] = "watch_begun"
    at_ms: Milliseconds
    round: _Round


class WatchOver(Document):
    """The coach no longer watches: by a tap, after the set time, or with the round."""

    kind: Literal["watch_over"] = "watch_over"
    at_ms: Milliseconds
    round: _Round
    by: Literal["tap", "time", "round"] = "tap"


class FreeBegun(Document):
    """A free round begins: nothing is fed. lasts_s: how long it is to be."""

    kind: Literal["free_begun"] = "free_begun"
    at_ms: Milliseconds
    lasts_s: Annotated[Seconds, Field(ge=10, le=1800)]


class FreeOver(Document):
    """The free round is over: its time is up, or by a tap."""

    kind: Literal["free_over"] = "free_over"
    at_ms: Milliseconds
    by: Literal["tap", "time"] = "time"


class CarriedOver(Document):
    """In a free round: a drilled answer turned up. partner: whose. answer: which; None: any."""

    kind: Literal["carried_over"] = "carried_over"
    at_ms: Milliseconds
    round: _Round
    partner: _Partner
    answer: Key | None = None


class ChanceMissed(Document):
    """In a free round: a chance for a drilled answer, which did not turn up. partner: whose.
    answer: which; None: any."""

    kind: Literal["chance_missed"] = "chance_missed"
    at_ms: Milliseconds
    round: _Round
    partner: _Partner
    answer: Key | None = None


class HeadKnock(Document):
    """Somebody was knocked on the head: everything stops."""

    kind: Literal["head_knock"] = "head_knock"
    at_ms: Milliseconds
    partner: _Partner


class KnockTakenBack(Document):
    """The head knock was a slip of the finger, and is taken back at once."""

    kind: Literal["knock_taken_back"] = "knock_taken_back"
    at_ms: Milliseconds
    partner: _Partner


class Strike(Document):
    """A strike that was heard or felt. partner: None where nobody can tell whose it was.

    source: simulated: of the stand-in for pads; nobody's own times come from it.
    """

    kind: Literal["strike"] = "strike"
    at_ms: Milliseconds
    source: Literal["microphone", "pad", "simulated"]
    partner: _Partner | None = None


class HandLeftHome(Document):
    """A hand has left its home pad: an attack is on its way. partner: whose hand."""

    kind: Literal["set_off"] = "set_off"
    at_ms: Milliseconds
    source: Literal["pad", "simulated"]
    partner: _Partner


Mark = Annotated[
    RoundBegun | RoundOver | Paused | Resumed | Graded | Tagged | TapUndone | TempoSet
    | TurnBegun | WatchBegun | WatchOver | Touched | FreeBegun | FreeOver | CarriedOver
    | ChanceMissed | HeadKnock | KnockTakenBack | Strike | HandLeftHome,
    Field(discriminator="kind"),
]  # fmt: skip


MOST_MARKS = 50_000
"""Of one run: strikes that never pause for three hours."""


class MarkBatch(Document):
    """Marks as they are posted: numbered from 0 without gaps.

    last: there will be no more. emptied: its marks were refused and are kept on the mat's device,
    from where they may still come.
    """

    mark_version: Literal[1] = 1
    number: Annotated[int, Field(ge=0, le=1_000_000)]
    marks: Annotated[tuple[Mark, ...], Field(max_length=500)] = ()
    last: bool = False
    emptied: bool = False

    @model_validator(mode="after")
    def _is_empty(self) -> MarkBatch:
        if self.emptied and self.marks:
            raise ValueError("an emptied batch holds no marks")
        return self
