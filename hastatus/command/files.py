"""`plan`, `simulate` and `score`: documents in, documents out, no database."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any, TypeVar, get_args

import click
from pydantic import BaseModel, ValidationError

from hastatus.core.catalogue import Stance
from hastatus.core.drill import Drill
from hastatus.core.events import BadBatch, RunRecord
from hastatus.core.follow import Setup
from hastatus.core.plan import PlanDocument, plan_run
from hastatus.core.results import RESULTS, read_record
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.demo.student import Habits
from hastatus.demo.student import simulate as let_student_play

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


_FILE = click.Path(path_type=Path, dir_okay=False, allow_dash=True)
_OUT = click.option("-o", "--out", type=_FILE, default="-", help="File to write; - is stdout.")
_SEED = click.option("--seed", type=click.IntRange(0, 2**53 - 1), default=1, show_default=True)


@click.command()
@click.option("--drill", type=_FILE, help="A drill document; the starter drill when not given.")
@_SEED
@click.option("--rung", type=int, default=1, show_default=True, help="Rung, from 1.")
@click.option("--window", type=Finite(0.2, 10), help="Answer window at the start, s.")
@click.option("--stance", type=click.Choice(get_args(Stance)), default="left_lead")
@click.option("--sound-only", is_flag=True, help="Leave the lights out.")
@_OUT
def plan(
    drill: Path | None,
    seed: int,
    rung: int,
    window: float | None,
    stance: Stance,
    sound_only: bool,
    out: Path,
) -> None:
    """Plan a run of a drill; the same seed gives the same plan."""
    document = read(drill, Drill) if drill else block_on_sound_strike_on_light()
    try:
        made = plan_run(
            document, seed=seed, rung=rung, window_s=window, stance=stance, sound_only=sound_only
        )
    except (IndexError, ValueError) as error:
        raise click.ClickException(f"this cannot be planned: {error}") from error
    write(out, PlanDocument(drill=document, plan=made).model_dump_json(indent=1))


@click.command()
@click.argument("plan_file", type=_FILE)
@_SEED
@click.option("--mu", "mu_ms", type=Finite(100, 5000), default=520.0, show_default=True)
@click.option("--sigma", "sigma_ms", type=Finite(0, 1000), default=50.0)
@click.option("--tau", "tau_ms", type=Finite(0, 2000), default=120.0)
@click.option("--lapses", type=Finite(0, 1), default=0.02, help="Share never answered.")
@click.option("--wrong", type=Finite(0, 1), default=0.04, help="Share answered wrong.")
@_OUT
def simulate(
    plan_file: Path,
    seed: int,
    mu_ms: float,
    sigma_ms: float,
    tau_ms: float,
    lapses: float,
    wrong: float,
    out: Path,
) -> None:
    """Let a simulated student do a planned run (ex-Gaussian times in ms); write its record."""
    document = read(plan_file, PlanDocument)
    setup = Setup(document.drill, document.plan, RunRecord.model_fields["device"].default)
    habits = Habits(mu_ms=mu_ms, sigma_ms=sigma_ms, tau_ms=tau_ms, lapses=lapses, wrong=wrong)
    batches, _ = let_student_play(setup, habits, seed)
    record = RunRecord(drill=document.drill, plan=document.plan, batches=tuple(batches))
    write(out, record.model_dump_json(indent=1))


@click.command()
@click.argument("run_file", type=_FILE)
@_OUT
def score(run_file: Path, out: Path) -> None:
    """Score a run record; write its results."""
    try:
        results = read_record(read(run_file, RunRecord))
    except BadBatch as error:
        raise click.ClickException(f"{run_file}: {error.where}: {error}") from error
    write(out, RESULTS.dump_json(results, indent=1).decode())


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
        raise click.ClickException(
            f"{path}: {where + ': ' if where else ''}{first['msg']}"
        ) from error


def write(path: Path, text: str) -> None:
    """Write a document to a file, whole or not at all (- is stdout)."""
    if str(path) == "-":
        click.echo(text)
        return
    partial = path.with_name(path.name + ".part")
    partial.write_text(text + "\n", encoding="utf-8")
    partial.replace(path)
