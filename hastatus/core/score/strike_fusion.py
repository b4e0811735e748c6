"""Each strike once, where it was both heard by the microphone and felt by a pad."""

from __future__ import annotations

from collections.abc import Sequence

from hastatus.core.run.partner_events import Mark, Strike

SAME_MS = 60.0
"""A sound this near to a pad's hit is its sound: from 3 m away it takes 9 ms, two devices differ by
some more, and the halves of a beat at 140 BPM lie 214 ms apart. Common practice, no source."""


def strikes_of(marks: Sequence[Mark]) -> list[Strike]:
    """The strikes in order of time, without the sounds of those that a pad felt as well.

    Each hit of a pad takes one sound within `SAME_MS` of it, in order of time, so that as many as
    can be are told: a sound that is left over is somebody else's strike.
    """
    strikes = sorted(
        (mark for mark in marks if isinstance(mark, Strike)), key=lambda mark: mark.at_ms
    )
    heard = [index for index, strike in enumerate(strikes) if strike.source == "microphone"]
    same, following = set[int](), 0
    for hit in strikes if heard else ():
        if hit.source == "microphone":
            continue
        while following < len(heard) and strikes[heard[following]].at_ms < hit.at_ms - SAME_MS:
            following += 1
        if following < len(heard) and strikes[heard[following]].at_ms <= hit.at_ms + SAME_MS:
            same.add(heard[following])
            following += 1
    return [strike for index, strike in enumerate(strikes) if index not in same]
