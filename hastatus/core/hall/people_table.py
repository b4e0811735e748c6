"""People from a spreadsheet: each row as a student, or what is wrong with it, in words.

Any separator and the usual encodings are read; heads may be in any order and any case. A row with
a fault is never half taken.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Final, TypeVar, get_args

from hastatus.core.drill.header import Level
from hastatus.core.fields import LONGEST_LINE
from hastatus.core.hall.attendee import CONSENT_NAMES, Consent
from hastatus.core.trade.contact import CONTACTS, Contact
from hastatus.core.trade.gear import GEAR_NAMES, Gear
from hastatus.core.trade.technique import Stance

MOST_ROWS = 500
Value = TypeVar("Value")
ENCODINGS = ("utf-8-sig", "cp1252")
_STANCES: Mapping[str, Stance] = {
    "": "left_lead", "left": "left_lead", "left lead": "left_lead", "left leads": "left_lead",
    "orthodox": "left_lead", "right": "right_lead", "right lead": "right_lead",
    "right leads": "right_lead", "southpaw": "right_lead",
}  # fmt: skip
_LEVELS: Mapping[str, Level] = {
    "": "new", "beginner": "new", "intermediate": "settled", **{one: one for one in get_args(Level)}
}  # fmt: skip
_HEADS: Mapping[str, str] = {
    "student": "name", "person": "name", "full name": "name", "hardest contact": "contact",
    "height": "height m", "height cm": "height m", "arm": "arm m", "arm cm": "arm m",
    "leg": "leg m", "leg cm": "leg m", "injury": "spares", "to spare": "spares",
    "sight and hearing": "senses", "guardian consent": "consent", "note": "notes",
}  # fmt: skip
KNOWN: Final = (
    "name", "stance", "level", "contact", "gear", "height m", "arm m", "leg m", "spares", "senses",
    "consent", "notes",
)  # fmt: skip
_LENGTHS: Mapping[str, tuple[float, float]] = {
    "height m": (0.8, 2.4), "arm m": (0.25, 1.2), "leg m": (0.35, 1.5),
}  # fmt: skip
"""The shortest and longest that is believed, m."""


class Unreadable(ValueError):
    """The file cannot be read as a table; the message says why and what to do."""


@dataclass(slots=True)
class PeopleRow:
    """A row. line: of the file, from 1. faults: why it is not taken; empty: it can be. twin: of
    whom there is one already, by name, in the club or further up; empty: nobody."""

    line: int
    name: str = ""
    stance: Stance = "left_lead"
    level: Level = "new"
    contact: Contact = "touch"
    gear: tuple[Gear, ...] = ()
    height_m: float | None = None
    arm_m: float | None = None
    leg_m: float | None = None
    spares: str = ""
    senses: str = ""
    consent: Consent = "not_needed"
    notes: str = ""
    faults: list[str] = field(default_factory=list)
    twin: str = ""


@dataclass(frozen=True, slots=True)
class PeopleTable:
    """rows: those with something in them. unknown: heads that say nothing to us, as written."""

    rows: tuple[PeopleRow, ...]
    unknown: tuple[str, ...]


def people_table(data: bytes, known_names: Sequence[str]) -> PeopleTable:
    """Read a table. known_names: of whom the club has already. Raises `Unreadable`."""
    text = _text(data)
    lines = list(csv.reader(io.StringIO(text, newline=""), delimiter=_separator(text)))
    if not lines:
        raise Unreadable("The file is empty: its first line has the heads, such as name, stance.")
    heads = [_head(head) for head in lines[0]]
    if "name" not in heads:
        raise Unreadable("No column is called name: give the one with the names that head.")
    if len(lines) - 1 > MOST_ROWS:
        raise Unreadable(f"More than {MOST_ROWS} rows: bring them in in parts.")
    twins = {_plain(name): name for name in known_names}
    rows = list(_rows(heads, lines[1:], twins))
    unknown = tuple(
        written for written, head in zip(lines[0], heads, strict=True) if head not in KNOWN
    )
    return PeopleTable(tuple(rows), unknown)


def _text(data: bytes) -> str:
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return data.decode("utf-16", errors="replace")
    for encoding in ENCODINGS:
        try:
            text = data.decode(encoding)
        except UnicodeDecodeError:
            continue
        if "\x00" in text:
            break
        return text
    raise Unreadable("This is no table of text: save it as CSV, with UTF-8 if you are asked.")


def _separator(text: str) -> str:
    first = text.split("\n", 1)[0]
    return max(",;\t", key=first.count)


def _head(written: str) -> str:
    head = " ".join(written.strip().lower().replace("_", " ").split())
    return _HEADS.get(head, head)


def _plain(name: str) -> str:
    return " ".join(name.casefold().split())


def _rows(
    heads: Sequence[str], lines: Sequence[Sequence[str]], twins: dict[str, str]
) -> Iterator[PeopleRow]:
    for number, cells in enumerate(lines, start=2):
        said = {
            head: _unmarked(cell) for head, cell in zip(heads, cells, strict=False) if head in KNOWN
        }
        if not any(said.values()):
            continue
        row = _row(number, said)
        row.twin = twins.get(_plain(row.name), "")
        if row.name:
            twins.setdefault(_plain(row.name), row.name)
        yield row


def _unmarked(cell: str) -> str:
    """A cell without the mark that keeps a spreadsheet from reckoning it."""
    cell = cell.strip()
    return cell[1:] if cell[:2] in ("'=", "'+", "'-", "'@") else cell


def _row(number: int, said: Mapping[str, str]) -> PeopleRow:
    row = PeopleRow(number)
    row.name = said.get("name", "")
    if not row.name:
        row.faults.append("the name is missing")
    for key, most in (("name", LONGEST_LINE), ("spares", 200), ("senses", 200), ("notes", 2000)):
        text = said.get(key, "")
        if len(text) > most:
            row.faults.append(f"{key}: longer than {most} characters")
        if any(ord(letter) < 32 and letter not in "\n\t" for letter in text):
            row.faults.append(f"{key}: has signs that are no text")
        setattr(row, key, text)
    row.stance = _one_of(row, "stance", said, _STANCES, "left or right")
    row.level = _one_of(row, "level", said, _LEVELS, "beginner, intermediate or advanced")
    contacts: dict[str, Contact] = {"": "touch", **{one: one for one in CONTACTS}}
    row.contact = _one_of(row, "contact", said, contacts, ", ".join(CONTACTS))
    consents: dict[str, Consent] = {"": "not_needed"}
    for key, words in CONSENT_NAMES.items():
        consents |= {words: key, key.replace("_", " "): key}
    row.consent = _one_of(row, "consent", said, consents, ", ".join(CONSENT_NAMES.values()))
    row.height_m = _length(row, "height m", said)
    row.arm_m = _length(row, "arm m", said)
    row.leg_m = _length(row, "leg m", said)
    row.gear = tuple(_gear(row, said.get("gear", "")))
    return row


def _one_of(
    row: PeopleRow, key: str, said: Mapping[str, str], values: Mapping[str, Value], words: str
) -> Value:
    written = said.get(key, "")
    plain = " ".join(written.lower().replace("_", " ").split())
    if plain not in values:
        row.faults.append(f"{key}: “{written}” is none of {words}")
        return values[""]
    return values[plain]


def _length(row: PeopleRow, key: str, said: Mapping[str, str]) -> float | None:
    """A length in m; one above 3 is taken for cm."""
    written = said.get(key, "").replace(",", ".").removesuffix("cm").removesuffix("m").strip()
    if not written:
        return None
    low, high = _LENGTHS[key]
    try:
        value = float(written)
    except ValueError:
        value = -1.0
    value = value / 100 if value > 3 else value
    if not low <= value <= high:
        row.faults.append(f"{key.removesuffix(' m')}: “{said[key]}” is not {low:g} to {high:g} m")
        return None
    return round(value, 3)


def _gear(row: PeopleRow, written: str) -> Iterator[Gear]:
    names = {words.lower(): key for key, words in GEAR_NAMES.items()}
    names |= {key.replace("_", " "): key for key in GEAR_NAMES}
    for part in written.replace(";", ",").split(","):
        plain = " ".join(part.lower().replace("_", " ").split())
        if plain in names:
            yield names[plain]
        elif plain:
            row.faults.append(f"gear: “{part.strip()}” is not known")
