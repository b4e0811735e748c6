"""Short ways to write the starter drills down."""

from __future__ import annotations

from hastatus.core.drill.cue import (
    Arrow,
    Attack,
    Call,
    Chain,
    Cue,
    Direction,
    Light,
    Mark,
    Part,
    Picture,
    PictureName,
    Place,
    Sound,
    SoundName,
    Step,
    Within,
)
from hastatus.core.trade.technique import Side


def mark(words: str) -> Mark:
    """A mark from "shape colour"."""
    shape, colour = words.split()
    return Mark.model_validate({"shape": shape, "colour": colour})


def step(words: str, part: Part = "answer", **rest: object) -> Step:
    """A step from "side technique" or "technique"; `within` in beats, `footwork`, `hold_s`."""
    *side, technique = words.split()
    beats = rest.pop("beats", None)
    within = Within(value=float(beats), unit="beat") if isinstance(beats, int | float) else None
    return Step.model_validate(
        {
            "technique": technique,
            "side": side[0] if side else "lead",
            "part": part,
            "within": within,
            **rest,
        }
    )


def counter(words: str, **rest: object) -> Step:
    """A counter."""
    return step(words, "counter", **rest)


def leave(words: str, **rest: object) -> Step:
    """An exit."""
    return step(words, "exit", **rest)


def chain(*steps: Step) -> Chain:
    """A chain of steps."""
    return Chain(steps=steps)


def heard(key: str, sound: SoundName, signs: str, *asks: Chain, **rest: object) -> Cue:
    """A cue that is a sound."""
    return _cue(key, Sound(sound=sound), signs, asks, rest)


def called(key: str, words: str, signs: str, *asks: Chain, **rest: object) -> Cue:
    """A cue that is a spoken call."""
    return _cue(key, Call(words=words), signs, asks, rest)


def flashed(key: str, place: Place, signs: str, *asks: Chain, **rest: object) -> Cue:
    """A cue that is a flash in a place."""
    return _cue(key, Light(place=place), signs, asks, rest)


def pointed(key: str, direction: Direction, signs: str, *asks: Chain, **rest: object) -> Cue:
    """A cue that is an arrow."""
    return _cue(key, Arrow(direction=direction), signs, asks, rest)


def pictured(key: str, picture: PictureName, signs: str, *asks: Chain, **rest: object) -> Cue:
    """A cue that is a picture."""
    return _cue(key, Picture(picture=picture), signs, asks, rest)


def against(technique: str, side: Side = "lead") -> Attack:
    """The attack a cue stands for."""
    return Attack(technique=technique, side=side)


def _cue(
    key: str, stimulus: object, signs: str, asks: tuple[Chain, ...], rest: dict[str, object]
) -> Cue:
    return Cue.model_validate(
        {"key": key, "stimulus": stimulus, "mark": mark(signs), "asks": asks, **rest}
    )
