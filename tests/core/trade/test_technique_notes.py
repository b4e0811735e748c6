"""Every technique of a starter is told in words: the right way, and the usual fault."""

from __future__ import annotations

from hastatus.core.starter import STARTERS
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.technique_notes import TECHNIQUE_NOTES


def used() -> set[str]:
    together = {
        key
        for make in PARTNER_STARTERS.values()
        for passage in make().passages
        for step in passage.steps
        for key in (step.technique, *step.also)
    }
    alone = {
        step.technique
        for make in STARTERS.values()
        for cue in make().cues
        for chain in cue.asks
        for step in chain.steps
    }
    return together | alone


def test_every_technique_of_a_starter_has_its_right_way_and_its_fault() -> None:
    assert used() <= set(TECHNIQUE_NOTES) <= set(TECHNIQUES)
    for note in TECHNIQUE_NOTES.values():
        for words in (note.right_way, note.usual_fault):
            assert words[0].isupper()
            assert words.endswith(".")
            assert 10 < len(words) < 120
    assert len({note.right_way for note in TECHNIQUE_NOTES.values()}) == len(TECHNIQUE_NOTES)
