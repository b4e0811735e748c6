"""What every drill says of itself, solo or partner: title, notes, level, voice, own techniques."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from hastatus.core.drill.upgrade import SCHEMA_VERSION, upgraded
from hastatus.core.fields import Document, Key, Line, Note
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.faults import FAULT_OWNERS, OwnedFault, Owner
from hastatus.core.trade.label_packs import Labels
from hastatus.core.trade.schools import Question
from hastatus.core.trade.technique import Technique

Language = Literal["en-gb", "en-us", "en-gb-scotland", "de", "fr", "es", "it", "nl"]
Level = Literal["new", "settled", "advanced"]


class Voice(Document):
    """How calls are spoken."""

    language: Language = "en-gb"
    words_a_minute: Annotated[int, Field(ge=80, le=320)] = 170


class Followed(Document):
    """The school that a drill follows where coaches disagree. why: in one sentence."""

    question: Question
    follows: Key
    why: Line


class Sheet(Document):
    """The part of a drill that does not depend on how many do it.

    reason: why it is done, in one sentence. schools: which are followed where coaches disagree.
    look, guard, warm_up: notes on where to look, which guard, and what to warm up with.
    watch: usual faults to watch for. faults: of these, the club's own, each with its owner.
    techniques: the club's own techniques that it uses.
    """

    schema_version: Literal[3] = SCHEMA_VERSION
    title: Line
    notes: Note = ""
    reason: Annotated[Note, Field(max_length=200)] = ""
    schools: Annotated[tuple[Followed, ...], Field(max_length=20)] = ()
    look: Note = ""
    guard: Note = ""
    warm_up: Note = ""
    watch: Annotated[tuple[Line, ...], Field(max_length=10)] = ()
    faults: Annotated[tuple[OwnedFault, ...], Field(max_length=40)] = ()
    level: Level = "new"
    focus: Annotated[tuple[Line, ...], Field(max_length=10)] = ()
    voice: Voice = Voice()
    techniques: Annotated[tuple[Technique, ...], Field(max_length=40)] = ()

    @model_validator(mode="before")
    @classmethod
    def _from_older(cls, document: Any) -> Any:
        return upgraded(document)

    def technique(self, key: str) -> Technique | None:
        """A technique that comes with the app or with this drill."""
        usual = TECHNIQUES.get(key)
        return usual or next(
            (technique for technique in self.techniques if technique.key == key), None
        )

    def owner_of(self, fault: str) -> Owner | None:
        """Whose fault it is; None: neither the trade's list nor the drill says."""
        known = {own.name: own.owner for own in self.faults}
        return FAULT_OWNERS.get(fault) or known.get(fault)

    def labels(self, club: Labels | None = None) -> Labels:
        """The club's words, this drill's own techniques included."""
        club = club or Labels()
        own = {**{technique.key: technique for technique in self.techniques}, **club.own}
        return Labels(club.pack, club.renames, own)
