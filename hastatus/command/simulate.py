"""`simulate`: let a simulated student do a planned run, without a database."""

from __future__ import annotations

from pathlib import Path

import click

from hastatus.command.files import FILE, OUT, SEED, Finite, read, write
from hastatus.core.loop.results import read_record
from hastatus.core.plan.run_plan import PlanDocument
from hastatus.core.run.events import RunRecord
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits
from hastatus.demo.student import simulate as let_student_play


@click.command()
@click.argument("plan_file", type=FILE)
@SEED
@click.option("--mu", "mu_ms", type=Finite(100, 5000), default=520.0, show_default=True)
@click.option("--sigma", "sigma_ms", type=Finite(0, 1000), default=50.0)
@click.option("--tau", "tau_ms", type=Finite(0, 2000), default=120.0)
@click.option("--lapses", type=Finite(0, 1), default=0.02, help="Share never answered.")
@click.option("--wrong", type=Finite(0, 1), default=0.04, help="Share answered wrong.")
@click.option("--film", "film_file", type=FILE, help="Film it, too (MP4, 320 × 180).")
@click.option("--place", "place_file", type=FILE, help="Where to write the film's zones.")
@OUT
def simulate(
    plan_file: Path,
    seed: int,
    mu_ms: float,
    sigma_ms: float,
    tau_ms: float,
    lapses: float,
    wrong: float,
    film_file: Path | None,
    place_file: Path | None,
    out: Path,
) -> None:
    """Let a simulated student do a planned run (ex-Gaussian times in ms); write its record."""
    document = read(plan_file, PlanDocument)
    setup = Setup(document.drill, document.plan, RunRecord.model_fields["device"].default)
    habits = Habits(mu_ms=mu_ms, sigma_ms=sigma_ms, tau_ms=tau_ms, lapses=lapses, wrong=wrong)
    batches, _ = let_student_play(setup, habits, seed)
    record = RunRecord(drill=document.drill, plan=document.plan, batches=tuple(batches))
    write(out, record.model_dump_json(indent=1))
    if film_file or place_file:
        _film(record, seed, film_file, place_file)


def _film(record: RunRecord, seed: int, film_file: Path | None, place_file: Path | None) -> None:
    """Film the first page of a run; what landed is shown when it did."""
    from hastatus.command.film import samples_of_run
    from hastatus.demo.film_picture import Look
    from hastatus.demo.filmed_run import FilmedRun, Filming

    responses = read_record(record).responses
    filmed = FilmedRun.of(
        record.drill,
        record.plan,
        record.batches,
        Filming(look=Look(width=320, height=180), length_s=min(record.plan.total_s + 10, 600.0)),
        seed,
        times_ms={(one.round, one.slot): one.time_ms for one in responses if one.time_ms},
    )
    if place_file:
        write(place_file, filmed.place.model_dump_json(indent=1))
    if film_file:
        filmed.write(film_file, samples_of_run(record))
