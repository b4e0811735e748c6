"""Documents in, documents out: what `plan`, `simulate` and `score` share."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any, TypeVar

import click
from pydantic import BaseModel, ValidationError

from hastatus.core.limit_words import limit_sentence

LARGEST_FILE = 64 * 2**20

Model = TypeVar("Model", bound=BaseModel)


class Finite(click.FloatRange):
    """A number within bounds; unlike its base it does not let NaN through."""

    def convert(
        self, value: Any, param: click.Parameter | None, ctx: click.Context | None
    ) -> float:
        number = float(super().convert(value, param, ctx))
        if not math.isfinite(number):
            self.fail(f"{value} is no number to work with", param, ctx)
        return number


FILE = click.Path(path_type=Path, dir_okay=False, allow_dash=True)
OUT = click.option("-o", "--out", type=FILE, default="-", help="File to write; - is stdout.")
SEED = click.option("--seed", type=click.IntRange(0, 2**53 - 1), default=1, show_default=True)


def read(path: Path, model: type[Model]) -> Model:
    """A document from a file (- is stdin), or one sentence about what is wrong with it."""
    with click.open_file(str(path), "rb") as file:
        data = file.read(LARGEST_FILE + 1)
    if len(data) > LARGEST_FILE:
        raise click.ClickException(f"{path}: larger than {LARGEST_FILE // 2**20} MB")
    try:
        return model.model_validate_json(data)
    except ValidationError as error:
        first = error.errors(include_input=False, include_url=False)[0]
        where = ".".join(str(part) for part in first["loc"])
        at = f"{where}: " if where else ""
        raise click.ClickException(f"{path}: {at}{limit_sentence(first)}") from error


def write(path: Path, text: str) -> None:
    """Write a document to a file, whole or not at all (- is stdout)."""
    if str(path) == "-":
        click.echo(text)
        return
    partial = path.with_name(path.name + ".part")
    partial.write_text(text + "\n", encoding="utf-8")
    partial.replace(path)
