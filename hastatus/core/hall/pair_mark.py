"""What a coach who walks round marks of a pair. A mark is never changed; another takes it back."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.fields import Document, Instant, Key, Note, Seconds

PairMarkKind = Literal[
    "seen", "watched", "through", "fault", "note", "slower", "quicker", "forfeit", "knock", "word",
    "carried_over", "chance_missed", "back",
]  # fmt: skip


class PairMark(Document):
    """One mark. id: made on the device, so that it may be sent again.

    at: when, by the server's clock; at_s: on the clock of the block. members: of the pair, or one
    alone who says a word.
    kind: somebody looked at the pair; watched it for `seconds`, until now; an attack got through;
    a fault; a note; a slower or quicker feed from here on; a forfeit; a head knock; a word after
    the block; in a free round, a chance in which a drilled answer turned up, or did not; or a mark,
    `of`, is taken back. student: whose fault, forfeit, knock, word or chance it is.
    words: the fault, the note, or the word.
    """

    id: uuid.UUID
    at: Instant
    block: Key
    members: Annotated[tuple[uuid.UUID, ...], Field(min_length=1, max_length=3)]
    kind: PairMarkKind
    at_s: Seconds = 0.0
    seconds: Seconds = 0.0
    student: uuid.UUID | None = None
    words: Note = ""
    of: uuid.UUID | None = None

    @property
    def pair(self) -> str:
        """The pair that it is of, in whatever order its members are said."""
        return pair_key([str(one) for one in self.members])


def pair_key(members: Sequence[str]) -> str:
    """What a pair goes by: the same in whatever order its members are said."""
    return "+".join(sorted(members))


def standing(marks: Iterable[PairMark]) -> list[PairMark]:
    """The marks that nobody has taken back, in the order of their moments."""
    known = list(marks)
    back = {mark.of for mark in known if mark.kind == "back"}
    kept = [mark for mark in known if mark.id not in back and mark.kind != "back"]
    return sorted(kept, key=lambda mark: (mark.at, str(mark.id)))
