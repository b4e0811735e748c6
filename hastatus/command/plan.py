"""`plan`: plan a run of a drill, without a database."""

from __future__ import annotations

from pathlib import Path
from typing import get_args

import click

from hastatus.command.files import FILE, OUT, SEED, Finite, read, write
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import PlanDocument, plan_run
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.core.trade.technique import Stance


@click.command()
@click.option("--drill", type=FILE, help="A drill document; the starter drill when not given.")
@SEED
@click.option("--rung", type=int, default=1, show_default=True, help="Rung, from 1.")
@click.option("--window", type=Finite(0.2, 10), help="Answer window at the start, s.")
@click.option("--stance", type=click.Choice(get_args(Stance)), default="left_lead")
@click.option("--sound-only", is_flag=True, help="Leave the lights out.")
@OUT
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
