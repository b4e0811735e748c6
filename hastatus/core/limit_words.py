"""What is wrong with a value, in a sentence a coach can act on: the field's name, limit and unit.

A model's own check says it in its own words; all other limits of all models are told here.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

_UNITS = {
    "s": "s", "ms": "ms", "m": "m", "bpm": "bpm", "db": "dB", "deg": "°", "share": "%",
    "beats": "beats", "minutes": "min", "min": "min", "m2": "m²",
}  # fmt: skip
"""By the last word of a field's name. A share is told in per cent."""

_CENTIMETRES = ("height_m", "arm_m", "leg_m", "ahead_m")

_NAMES = {
    "bag": "even mix", "base": "answer window", "catch_share": "share of don't-react cues",
    "count_to": "count", "document": "drill", "extra_share": "share of a second cue",
    "floor_m": "clear floor", "jump_cut_s": "time under which an answer is jumped",
    "least_s": "shortest time", "most_s": "longest time", "mean_s": "usual time",
    "least_gap_s": "shortest gap", "most_gap_s": "longest gap", "n": "number",
    "repeat_cap": "number alike in a row", "stop_word": "stop word", "tempo_bpm": "tempo",
    "goal_bpm": "tempo to get to", "step_bpm": "step of the tempo", "usual_fault": "common mistake",
    "words_a_minute": "speed of the voice", "wait_s": "wait", "weak_cues": "factor on weak cues",
    "level_db": "loudness", "duration_s": "length", "lasts_s": "length",
    "floor_m2": "floor", "changeover_s": "time between blocks", "clear_up_min": "time to clear up",
    "window_s": "answer window", "goal_window_s": "answer window to get to",
}  # fmt: skip
"""Fields whose name says too little without its model."""

_KEY_PATTERN = "^[a-z][a-z0-9_]{0,39}$"


def limit_sentence(error: Mapping[str, Any]) -> str:
    """One sentence about one of pydantic's `errors()`: what the field may hold."""
    kind, context = error["type"], error.get("ctx", {})
    name, unit = _field(error["loc"])
    if kind == "value_error":
        return str(error["msg"]).removeprefix("Value error, ")
    sentence = (
        f"{name}: {_may_hold(kind, context, unit)}" if name else _may_hold(kind, context, unit)
    )
    return f"{sentence[:1].upper()}{sentence[1:]}."


def _may_hold(kind: str, context: Mapping[str, Any], unit: str) -> str:
    if kind in _BOUNDS:
        words, key = _BOUNDS[kind]
        return f"{words} {_amount(context[key], unit)}"
    if kind in _LENGTHS:
        words, key, what = _LENGTHS[kind]
        most = context[key]
        return "may not be empty" if words == "at least" and most == 1 else f"{words} {most} {what}"
    if kind == "string_pattern_mismatch" and context.get("pattern") == _KEY_PATTERN:
        return "a small letter first, then small letters, digits and _, 40 at most"
    return _KINDS.get(kind, "this is not what belongs here")


_BOUNDS = {
    "greater_than_equal": ("at least", "ge"),
    "greater_than": ("more than", "gt"),
    "less_than_equal": ("at most", "le"),
    "less_than": ("less than", "lt"),
    "multiple_of": ("in steps of", "multiple_of"),
}

_LENGTHS = {
    "string_too_short": ("at least", "min_length", "characters"),
    "string_too_long": ("at most", "max_length", "characters"),
    "too_short": ("at least", "min_length", "of them"),
    "too_long": ("at most", "max_length", "of them"),
    "bytes_too_long": ("at most", "max_length", "bytes"),
}

_KINDS = {
    "missing": "it is missing",
    "extra_forbidden": "there is no such field here",
    "finite_number": "a number is needed",
    "float_type": "a number is needed",
    "float_parsing": "a number is needed",
    "int_type": "a whole number is needed",
    "int_parsing": "a whole number is needed",
    "int_parsing_size": "this number is too large",
    "int_from_float": "a whole number is needed",
    "bool_type": "it is either on or off",
    "bool_parsing": "it is either on or off",
    "string_type": "a text is needed",
    "string_pattern_mismatch": "it has characters that cannot stand here",
    "literal_error": "there is no such choice",
    "enum": "there is no such choice",
    "union_tag_invalid": "there is no such choice",
    "union_tag_not_found": "nothing is chosen",
    "json_invalid": "this cannot be read as JSON",
    "json_type": "this cannot be read as JSON",
    "uuid_parsing": "this names nothing that is kept here",
    "uuid_type": "this names nothing that is kept here",
}


def _field(loc: tuple[int | str, ...]) -> tuple[str, str]:
    """A field's name in words, with its place in a list, and its unit."""
    words = [part for part in loc if isinstance(part, str)]
    if not words:
        return "", ""
    last = words[-1]
    number = f" {loc[-1] + 1}" if isinstance(loc[-1], int) else ""
    stem, _, ending = last.rpartition("_")
    unit = "cm" if last in _CENTIMETRES else _UNITS.get(ending, "")
    if ending == "minutes":
        stem = last
    name = _NAMES.get(last) or (stem if unit and stem and unit != "%" else last).replace("_", " ")
    return name + number, unit


def _amount(value: float, unit: str) -> str:
    """A limit in the unit of its field."""
    scale = 100 if unit in ("%", "cm") else 1
    return f"{float(value) * scale:.12g}{'' if unit == '°' else ' ' if unit else ''}{unit}"
