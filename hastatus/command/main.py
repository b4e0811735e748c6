"""`hastatus`: serve a club, or work on plan and run documents without a database."""

from __future__ import annotations

import atexit
import os
import shutil
import sys
import tempfile
from importlib import import_module

import click

COMMANDS = {
    "serve": ("hastatus.command.clubs", "Serve a club's own database until Ctrl-C."),
    "demo": ("hastatus.command.clubs", "Serve the made-up club."),
    "coach": ("hastatus.command.clubs", "Coaches: add one, or set a new password."),
    "backup": (
        "hastatus.command.backups",
        "Write the whole club to FILE.",
    ),
    "restore": (
        "hastatus.command.backups",
        "Put the club of FILE in the place of this one.",
    ),
    "unload": (
        "hastatus.command.open_files",
        "Write the whole club to FILE as open files: JSON, CSV, drills, recordings.",
    ),
    "load": ("hastatus.command.open_files", "Bring a club in from its open files."),
    "plan": ("hastatus.command.plan", "Plan a run of a drill."),
    "simulate": ("hastatus.command.simulate", "Let a simulated student do a planned run."),
    "score": ("hastatus.command.score", "Score a run record."),
    "film": (
        "hastatus.command.film",
        "Read a film of a run: when each zone moved, what struck.",
    ),
}
"""The module of each command, and what it does. Loaded when it is asked for: all of them together
take seconds, which nobody wants to wait for to read a list."""


class Commands(click.Group):
    """A group whose commands are loaded when they are needed."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in COMMANDS:
            return None
        if cmd_name in ("serve", "demo"):
            # Requests run side by side already; threads below them for small matrices only wait
            # for one another. It is read when numpy is loaded.
            os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
            _count_together()
        command = getattr(import_module(COMMANDS[cmd_name][0]), cmd_name)
        assert isinstance(command, click.Command)
        return command

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, does) for name, (_, does) in COMMANDS.items()])


def _count_together() -> None:
    """Have the workers put what they count into files of one folder, gone when the server ends."""
    folder, mine = tempfile.mkdtemp(prefix="hastatus-counts-"), os.getpid()
    os.environ["PROMETHEUS_MULTIPROC_DIR"] = folder

    def remove() -> None:
        if os.getpid() == mine:
            shutil.rmtree(folder, ignore_errors=True)

    atexit.register(remove)


@click.command(
    cls=Commands, help="Plans, runs, scores, reads and adapts drills for defensive reactions."
)
@click.version_option(package_name="hastatus")
def cli() -> None:
    pass


def main() -> None:
    """Run the command; what goes wrong is one line on stderr and exit code 2."""
    try:
        cli.main(standalone_mode=False)
    except click.Abort:
        sys.exit(130)
    except click.ClickException as error:
        line = error.format_message()
    except OSError as error:
        line = f"{error.filename or 'the machine'}: {error.strerror}"
    except Exception as error:
        known = _of_the_store(error)
        if known is None:
            raise
        line = known
    else:
        return
    click.echo(f"hastatus: {line}", err=True)
    sys.exit(2)


def _of_the_store(error: Exception) -> str | None:
    """What went wrong with a club or its database; None: something else, which is a defect."""
    from sqlalchemy.exc import SQLAlchemyError

    from hastatus.store.accounts import BadPassword
    from hastatus.store.database import StoreError

    if isinstance(error, StoreError | BadPassword):
        return str(error)
    if isinstance(error, SQLAlchemyError):
        reason = str(error.__cause__ or error).strip().splitlines()[0]
        return f"the database refused: {reason}"
    return None


if __name__ == "__main__":
    main()
