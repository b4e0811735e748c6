"""`score`: score a run record, without a database."""

from __future__ import annotations

from pathlib import Path

import click

from hastatus.command.files import FILE, OUT, read, write
from hastatus.core.loop.results import RESULTS, read_record
from hastatus.core.run.events import BadBatch, RunRecord


@click.command()
@click.argument("run_file", type=FILE)
@OUT
def score(run_file: Path, out: Path) -> None:
    """Score a run record; write its results."""
    try:
        results = read_record(read(run_file, RunRecord))
    except BadBatch as error:
        raise click.ClickException(f"{run_file}: {error.where}: {error}") from error
    write(out, RESULTS.dump_json(results, indent=1).decode())
