"""`unload` and `load`: the whole club as open files, and back."""

from __future__ import annotations

from pathlib import Path

import click

from hastatus.server import club_files, launch
from hastatus.store import accounts
from hastatus.store.database import transaction

_FILE = click.argument("file", type=click.Path(dir_okay=False, path_type=Path))


def say(line: str) -> None:
    """One line of progress."""
    click.echo(line)


@click.command()
@_FILE
def unload(file: Path) -> None:
    """Write the whole club to FILE as open files: JSON, CSV, drills, recordings.

    FILE is a zip; there is no password and no link in it. Hastatus may be running meanwhile.
    """
    with launch.database("club", say) as engine, transaction(engine) as db:
        db.connection(execution_options={"isolation_level": "REPEATABLE READ"})
        club = accounts.first_club(db)
        if club is None:
            raise click.ClickException("there is no club yet")
        counts = club_files.write(db, club, file, say)
    say(f"{file}: {club_words(counts)}, {file.stat().st_size / 1e6:.1f} MB")


@click.command()
@_FILE
def load(file: Path) -> None:
    """Bring a club in from its open files.

    Its coaches then set new passwords: `hastatus coach password`.
    """
    try:
        with launch.database("club", say) as engine, transaction(engine) as db:
            name, counts = club_files.read(db, file, say)
    except club_files.BadClubFile as error:
        raise click.ClickException(str(error)) from error
    say(f"{name} is here: {club_words(counts)}.")
    say("Its coaches set new passwords with: .venv/bin/hastatus coach password")


def club_words(counts: dict[str, int]) -> str:
    """What there is of a club, in words."""
    told = {"students": "students", "drills": "drills", "runs": "runs", "responses": "answers"}
    return ", ".join(f"{counts.get(name, 0):,} {words}" for name, words in told.items())
