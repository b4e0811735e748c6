"""A coach reads usual words: none of the product's old private ones is in a text that is shown."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
NO_LONGER = """
Keep this drill · Keep as version · Leave it · Put away · Take out · put away · Bring in a file
Take away · Take it · Go on with · then go on · not kept yet · kept meanwhile · Take theirs
Mine as another drill · without gear' · No drill fits · Ask for less · planned for · As it will run
Listen from · Name and place · stands here · What changes after · Asked for: · random, balanced
rotating, each pass · cannot be guessed · follows the measured times · opens the next rung
Hold back · of cues ask for nothing · asks for nothing · catch cue · Ahead of the cue
rehearse first · stances in turn · bits of choice · guessed from the last cue · of moments guessed
longest repeat · wait, 8 in 10 · flashes, worst second · of free floor · said for it · done within
part of the chain · lands on nothing · in the words of · called here · Usual fault:
Offer it no longer · said to the feeder · the partner gives · the exchange is over · safe gap
the roles have changed after it · Start to arrival · to keep out · Keep, with a reason
Do it alone · big draw-back · the score switches · no harder than · Who brings what
the word that stops everybody · Agreed: to the mat · Say it in one ear · Times, if you want them
it turned up · Written down: · Pressed by mistake · Who is on the floor · Set by hand
To the floor · Sound only' · To a run · no rule asks for a change · the pace holds
as it stands, the next run · home is held · pad kit, simulated · The round stands still
the round stands still · Every answer is in · stray, answering nothing · left out, not trusted
never came · too few to say · middle half · what choice costs, a bit · right of asked
what was to be left alone · To look at · no telling which way · Filled where the interval
comes back in the · Evening by evening · Who ran' · What you decided · Count the pictures
Play the chirps · What is felt is set against · What is left of · turn out · withdraw the leg
slap down · body round kick · head round kick · low round kick
"""
PHRASES = [each.strip() for each in re.split(r"[·\n]", NO_LONGER) if each.strip()]


def screens() -> Iterator[tuple[str, str]]:
    """The scripts that a browser gets, in which texts stand as they are shown."""
    for file in sorted((ROOT / "ui" / "dist" / "assets").glob("*.js")):
        yield file.name, re.sub(r"\s+", " ", file.read_text())


def core() -> Iterator[tuple[str, str]]:
    """Every text of the program but what only its authors read: docstrings."""
    for file in sorted((ROOT / "hastatus").rglob("*.py")):
        tree = ast.parse(file.read_text())
        notes = {
            id(node.value)
            for node in ast.walk(tree)
            if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
        }
        texts = [
            node.value
            for node in ast.walk(tree)
            if isinstance(node, ast.Constant)
            and isinstance(node.value, str)
            and id(node) not in notes
        ]
        yield str(file.relative_to(ROOT)), "\n".join(texts)


def papers() -> Iterator[tuple[str, str]]:
    """What a coach may read beside the screens."""
    yield "README.md", (ROOT / "README.md").read_text()


def test_there_are_texts_to_look_through() -> None:
    assert sum("Start, sound only" in text for _, text in screens()) == 1
    assert sum("random, even mix" in text for _, text in core()) == 1
    assert len(PHRASES) > 80


@cache
def texts() -> tuple[tuple[str, str], ...]:
    return tuple(text for source in (screens, core, papers) for text in source())


@pytest.mark.parametrize("phrase", PHRASES)
def test_an_old_word_is_nowhere(phrase: str) -> None:
    assert [name for name, text in texts() if phrase in text] == []
