"""Where coaches disagree: each question, the schools, and why each holds (common practice, no
source)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

Question = Literal[
    "answer", "order", "announce", "counter", "end", "swing", "early", "sense", "look", "guard",
    "hands", "foot", "aim", "contact", "fear", "pace", "gloves", "upper_body", "shins",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class OneSchool:
    """One answer to a question. name: as a coach says it. why: its reason, in one sentence.
    note: what a drill's own note says where it follows it; empty: nothing."""

    key: str
    name: str
    why: str
    note: str = ""


QUESTIONS: Mapping[Question, str] = MappingProxyType(
    {
        "answer": "Stop it, pass it or evade it",
        "order": "Known order, or random from the start",
        "announce": "Say it and show it, or only show it",
        "counter": "Counter every attack, or some",
        "end": "By the clock, or by the count",
        "swing": "Step in or step back on the swing",
        "early": "React, or read the intent",
        "sense": "Seen, or felt",
        "look": "Where to look",
        "guard": "Closed guard, or a slit to see through",
        "hands": "Hands at kicking range",
        "foot": "Which foot starts",
        "aim": "Where a feed is aimed",
        "contact": "Getting used to contact",
        "fear": "Somebody is afraid",
        "pace": "Who sets the pace",
        "gloves": "Gloves or bare hands",
        "upper_body": "The upper body",
        "shins": "Shin guards or bare shins",
    }
)
"""What coaches disagree about, in the words of one who asks."""

SCHOOLS: Mapping[Question, tuple[OneSchool, ...]] = MappingProxyType(
    {
        "answer": (
            OneSchool("stop", "a hard block", "A block on its line is the surest when it is late."),
            OneSchool("pass", "receive it and pass it", "What is passed leaves its owner open."),
            OneSchool("evade", "slip, duck or step off", "Both hands stay free to hit."),
        ),
        "order": (
            OneSchool("known", "known order first", "The pattern is learned before it is read."),
            OneSchool("random", "random at once", "Who knows the order anticipates."),
        ),
        "announce": (
            OneSchool("said", "say it and show it", "Calls help beginners."),
            OneSchool("shown", "only show it", "Calls do the work for them."),
        ),
        "counter": (
            OneSchool("every", "counter every attack", "A block without a hit invites the next."),
            OneSchool("some", "let some pass", "First find the position, then hit."),
        ),
        "end": (
            OneSchool("clock", "by the clock", "A timer frees the mind."),
            OneSchool("count", "by the count", "A count makes sure of the work."),
        ),
        "swing": (
            OneSchool("in", "step in: jam it", "Inside its arc a swing has no speed yet."),
            OneSchool("back", "step back: give ground", "Ground buys time to see the next one."),
        ),
        "early": (
            OneSchool("react", "never anticipate", "Who guesses is caught by a feint."),
            OneSchool("intent", "stop it before it starts", "Who waits is half a second behind."),
        ),
        "sense": (
            OneSchool("seen", "watch it", "What is far has to be seen."),
            OneSchool("felt", "feel it, eyes closed", "At touch the arm knows before the eye."),
        ),
        "look": (
            OneSchool("chest", "at the chest", "Every strike begins in the shoulders.",
                      "At the chest."),
            OneSchool("feet", "at the feet", "Feet tell the distance before the hands do.",
                      "At the feet."),
            OneSchool("touch", "nowhere: trust the touch", "Up close the eye is too slow.",
                      "Nowhere: trust the touch."),
        ),
        "guard": (
            OneSchool("closed", "closed", "Nothing comes through the middle.",
                      "Closed: a gap of less than a fist, chin down."),
            OneSchool("slit", "a slit to see through", "What is not seen is not met.",
                      "A slit to see through, about 5 cm; none against hooks."),
        ),
        "hands": (
            OneSchool("off", "off the face at kicking range", "Hands away from the face see and "
                      "frame."),
            OneSchool("on", "always on the face", "A hand that is home cannot be late."),
        ),
        "foot": (
            OneSchool("near", "the near foot first", "The stance never narrows."),
            OneSchool("far", "push from the far foot", "The push makes the step quick."),
        ),
        "aim": (
            OneSchool("true", "true, however slowly", "A feed aimed to miss teaches nothing."),
            OneSchool("beside", "beside the head", "Nobody is hit by a mistake."),
            OneSchool("short", "stopped short", "Without gear nothing has to land."),
        ),
        "contact": (
            OneSchool("some", "some contact on purpose", "Who has never been touched freezes."),
            OneSchool("none", "none without gear", "Nobody learns while hurt."),
        ),
        "fear": (
            OneSchool("through", "go through it", "Fear that is met gets smaller."),
            OneSchool("slower", "slow down, one step back", "Nobody learns in a fright."),
        ),
        "pace": (
            OneSchool("eye", "the coach by eye", "A coach sees what no clock does."),
            OneSchool("measured", "the measured times", "The eye is slow and kind."),
        ),
        "gloves": (
            OneSchool("gloves", "gloves", "Gloves allow speed."),
            OneSchool("bare", "bare hands", "Bare hands teach precision."),
        ),
        "upper_body": (
            OneSchool("rounded", "rounded shoulders", "Behind the hands there is less to hit."),
            OneSchool("upright", "upright structure", "Weight that leans can be pulled."),
        ),
        "shins": (
            OneSchool("guards", "guards for everybody", "Nobody kicks well with sore shins."),
            OneSchool("bare", "bare for the experienced", "Who has to place the shin learns to."),
        ),
    }
)  # fmt: skip
"""The schools of each question, in the order in which they are offered."""


def school(question: Question, key: str) -> OneSchool | None:
    """The school of a question with this key; None where there is none."""
    return next((one for one in SCHOOLS[question] if one.key == key), None)
