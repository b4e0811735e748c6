"""`backup` and `restore`: the whole club in one file, and back."""

from __future__ import annotations

from pathlib import Path

import click

from hastatus.server import backup as backups
from hastatus.server import launch
from hastatus.server import restore as restores
from hastatus.store.database import make_engine, migrate

_FILE = click.argument("file", type=click.Path(dir_okay=False, path_type=Path))
_COUNTED = {"students": "students", "drills": "drills", "runs": "runs", "partner_runs": "pair runs"}


def say(line: str) -> None:
    """One line of progress."""
    click.echo(line)


@click.command()
@_FILE
def backup(file: Path) -> None:
    """Write the whole club to FILE.

    Hastatus may be running meanwhile.
    """
    with launch.database("club", say) as engine:
        url = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
        manifest = backups.write(url, file, say)
    say(f"{file}: {_what(manifest)}, {file.stat().st_size / 1e6:.1f} MB")


@click.command()
@_FILE
@click.option("--yes", is_flag=True, help="Do not ask before the club that is here is replaced.")
def restore(file: Path, yes: bool) -> None:
    """Put the club of FILE in the place of this one.

    Stop Hastatus first. What is here is backed up before; whatever goes wrong, it stays as it is.
    """
    manifest = backups.read(file)
    say(f"{file}: {_what(manifest)}, written on {manifest.made_at:%Y-%m-%d at %H:%M} UTC")
    with launch.stopped_database("club", say) as url:
        restores.put_back(url)
        if restores.has_club(url):
            if not yes:
                click.confirm("Replace the club that is here?", abort=True)
            before = launch.new_backup("before-restore")
            backups.write(url, before, say)
            say(f"what was here is in {before}")
        restores.restore(url, file, manifest, say)
        engine = make_engine(url)
        migrate(engine)
        engine.dispose()
    say("restored")


def _what(manifest: backups.Manifest) -> str:
    """What is in a backup, in words."""
    return ", ".join(f"{manifest.tables.get(name, 0)} {words}" for name, words in _COUNTED.items())
