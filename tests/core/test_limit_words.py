"""Every limit of every model has a sentence without a word of the validator, a key or a path."""

from __future__ import annotations

import inspect
import json
import pkgutil
import re
from collections.abc import Iterator
from importlib import import_module
from typing import Annotated, Any

import annotated_types
import pytest
from pydantic import BaseModel, TypeAdapter, ValidationError

import hastatus
from hastatus.core.drill.solo import Drill
from hastatus.core.limit_words import limit_sentence
from hastatus.core.starter import block_on_sound_strike_on_light

VALIDATORS_WORDS = re.compile(
    r"\binput\b|should|valid|value error|string|integer|_|[a-z]\.\d|pydantic|literal|None|dict",
    re.IGNORECASE,
)


def models() -> Iterator[type[BaseModel]]:
    for module in pkgutil.walk_packages(hastatus.__path__, "hastatus."):
        if ".migrations" in module.name:
            continue
        for _, found in inspect.getmembers(import_module(module.name), inspect.isclass):
            if issubclass(found, BaseModel) and found.__module__ == module.name:
                yield found


def limits(annotation: Any) -> Iterator[Any]:
    """The limits in a type, also inside unions, lists and other annotations."""
    for one in getattr(annotation, "__metadata__", ()):
        yield from _limits_of(one)
    for inner in getattr(annotation, "__args__", ()):
        yield from limits(inner)
    if hasattr(annotation, "__origin__") and hasattr(annotation, "__metadata__"):
        yield from limits(annotation.__origin__)


def _limits_of(one: Any) -> Iterator[Any]:
    grouped = one if isinstance(one, annotated_types.GroupedMetadata) else ()
    for limit in (*grouped, *getattr(one, "metadata", ()), one):
        if isinstance(limit, annotated_types.BaseMetadata):
            yield limit


def broken(limit: Any) -> tuple[Any, Any] | None:
    """A type that has only this limit, and a value that breaks it."""
    match limit:
        case annotated_types.Ge(ge=bound):
            return Annotated[float, limit], float(bound) - 1
        case annotated_types.Gt(gt=bound):
            return Annotated[float, limit], float(bound)
        case annotated_types.Le(le=bound):
            return Annotated[float, limit], float(bound) + 1
        case annotated_types.Lt(lt=bound):
            return Annotated[float, limit], float(bound)
        case annotated_types.MinLen(min_length=least) if least:
            return Annotated[str, limit], "x" * (least - 1)
        case annotated_types.MaxLen(max_length=most):
            return Annotated[list[int], limit], [0] * (most + 1)
    return None


FIELDS = [
    (model.__name__, name, limit)
    for model in models()
    for name, field in model.model_fields.items()
    for limit in {
        str(each): each for each in [*field.metadata, *limits(field.annotation)]
    }.values()
]  # fmt: skip


def test_every_limit_of_every_model_is_told_in_words() -> None:
    told = 0
    for model, name, limit in FIELDS:
        made = broken(limit)
        if made is None:
            continue
        with pytest.raises(ValidationError) as caught:
            TypeAdapter(made[0]).validate_python(made[1])
        (error,) = caught.value.errors()
        sentence = limit_sentence({**error, "loc": (name,)})
        assert not VALIDATORS_WORDS.search(sentence), (model, name, sentence)
        assert "what belongs here" not in sentence, (model, name, sentence)
        assert re.search(r"\d|empty", sentence), (model, name, sentence)
        told += 1
    assert told > 300


@pytest.mark.parametrize(
    ("path", "value", "says"),
    [
        (("rungs", 0, "rounds", "rest_s"), -1.0, "Rest: at least 0 s."),
        (("rungs", 0, "catch_share"), 0.9, "Share of don't-react cues: at most 50 %."),
        (("rungs", 0, "rounds", "count"), "three", "Count: a whole number is needed."),
        (("title",), "", "Title: may not be empty."),
        (("rungs",), (), "Rungs: may not be empty."),
        (("level",), "wizard", "Level: there is no such choice."),
        (("cues", 0, "key"), "Low Knock", "Key: a small letter first"),
        (("sandwich",), 1, "Sandwich: there is no such field here."),
    ],
)
def test_a_drill_that_does_not_fit_is_told_in_the_units_of_its_fields(
    path: tuple[str | int, ...], value: Any, says: str
) -> None:
    document = block_on_sound_strike_on_light().model_dump(mode="json")
    inner = document
    for part in path[:-1]:
        inner = inner[part]  # type: ignore[index]
    inner[path[-1]] = value  # type: ignore[index]
    with pytest.raises(ValidationError) as caught:
        Drill.model_validate_json(json.dumps(document))
    sentences = [limit_sentence(error) for error in caught.value.errors()]
    assert any(sentence.startswith(says) for sentence in sentences), sentences
