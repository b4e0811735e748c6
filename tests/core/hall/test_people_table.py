"""People from a spreadsheet: what is read, and what is said of each bad row."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.hall.people_table import PeopleRow, Unreadable, people_table


def rows(text: str, encoding: str = "utf-8", known: tuple[str, ...] = ()) -> tuple[PeopleRow, ...]:
    return people_table(text.encode(encoding), known).rows


@pytest.mark.parametrize("separator", [",", ";", "\t"])
@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "cp1252", "utf-16"])
def test_a_table_is_read_whatever_wrote_it(separator: str, encoding: str) -> None:
    lines = ["Name,Stance,Height,Gear", "Zoë Brandt,right,172,gloves", "Jörg Ås,left,1.80,"]
    one, other = rows("\r\n".join(lines).replace(",", separator), encoding)
    assert (one.name, one.stance, one.height_m, one.gear) == (
        "Zoë Brandt", "right_lead", 1.72, ("gloves",),
    )  # fmt: skip
    assert (other.name, other.stance, other.height_m, other.faults) == (
        "Jörg Ås", "left_lead", 1.8, [],
    )  # fmt: skip


def test_each_fault_is_named_on_its_row_and_others_are_not_touched() -> None:
    text = (
        "name,stance,height m,gear,contact,consent\n"
        ",left,1.7,,,\n"
        "Ada,sideways,17,a spear,mortal,perhaps\n"
        "\n"
        "Bo,left,\"1,65\",\"gloves, shin guards\",light,given\n"
    )  # fmt: skip
    nobody, ada, bo = rows(text)
    assert nobody.faults == ["the name is missing"]
    assert len(ada.faults) == 5
    assert "“sideways” is none of left or right" in ada.faults[0]
    assert (bo.line, bo.faults, bo.height_m, bo.contact, bo.consent) == (
        5, [], 1.65, "light", "given",
    )  # fmt: skip


def test_whoever_is_there_already_is_told_of() -> None:
    table = rows("name\nada  QUILL\nBo\nbo\n", known=("Ada Quill",))
    assert [row.twin for row in table] == ["Ada Quill", "", "Bo"]


def test_what_is_no_table_is_refused_in_words() -> None:
    for data, words in (
        (b"", "empty"),
        (b"first,last\nAda,Quill\n", "called name"),
        (b"name\n" + b"Ada\n" * 501, "500"),
        (b"PK\x03\x04\x00\x00\x81\x8d", "save it as CSV"),
    ):
        with pytest.raises(Unreadable, match=words):
            people_table(data, ())
    assert people_table(b"name,shoe size\nAda,38\n", ()).unknown == ("shoe size",)


@settings(max_examples=300)
@given(st.binary(max_size=400))
def test_no_file_does_worse_than_to_be_refused(data: bytes) -> None:
    try:
        table = people_table(data, ())
    except Unreadable:
        return
    assert all(row.name or row.faults for row in table.rows)
