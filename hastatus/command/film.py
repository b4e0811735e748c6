"""`film`: read a film of a run, without a database."""

from __future__ import annotations

from pathlib import Path

import click

from hastatus.command.files import FILE, OUT, read, write
from hastatus.core.film.heard_signals import rises_of
from hastatus.core.film.reading import read_film
from hastatus.core.motion.zone import CameraPlace
from hastatus.core.plan.round_signal import sounds_of_solo
from hastatus.core.run.events import RunRecord
from hastatus.core.sound.tones import Samples
from hastatus.film_io.film_file import BadFilm, read_film_file
from hastatus.sound_io.clip import samples_of
from hastatus.sound_io.speech import NoSpeech

FILM = click.Path(path_type=Path, dir_okay=False, exists=True)


@click.command()
@click.argument("run_file", type=FILE)
@click.argument("place_file", type=FILE)
@click.argument("film_file", type=FILM)
@OUT
def film(run_file: Path, place_file: Path, film_file: Path, out: Path) -> None:
    """Read a film of a run: when each zone moved, what struck; write its reading."""
    record, place = read(run_file, RunRecord), read(place_file, CameraPlace)
    try:
        filmed, facts = read_film_file(film_file, place.zones)
    except BadFilm as error:
        raise click.ClickException(f"{film_file}: {error}") from error
    if facts.missing_s:
        click.echo(f"{film_file}: its last {facts.missing_s:.0f} s cannot be read", err=True)
    rises = {name: rises_of(name, one) for name, one in samples_of_run(record).items()}
    reading = read_film(record.drill, record.plan, record.batches, place, filmed, rises)
    if reading.refusal:
        raise click.ClickException(f"{film_file}: {reading.refused}")
    write(out, reading.model_dump_json(indent=1))


def samples_of_run(record: RunRecord) -> dict[str, Samples]:
    """Every sound of a run that can be made here: a recording is not at hand."""
    made = {}
    for clip in sounds_of_solo(record.drill, record.plan):
        try:
            samples = samples_of(clip, record.drill.voice)
        except NoSpeech:
            continue
        if samples is not None:
            made[clip.name] = samples
    return made
