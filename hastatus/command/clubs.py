"""`serve`, `demo` and `coach`: a club on its database."""

from __future__ import annotations

import sys
from datetime import UTC, datetime

import click

from hastatus.server import launch
from hastatus.store import accounts, second_factor
from hastatus.store.database import transaction
from hastatus.store.films import Folder

_PORT = click.option(
    "--port", type=click.IntRange(1, 65535), default=8000, envvar="PORT", show_default=True,
    help="Port on 127.0.0.1; PORT in the environment is honoured.",
)  # fmt: skip


def say(line: str) -> None:
    """One line of progress."""
    click.echo(line)


@click.command()
@_PORT
def serve(port: int) -> None:
    """Serve a club's own database until Ctrl-C."""
    launch.check_port(port)
    backups = launch.kept_backups()
    with launch.database("club", say) as engine:
        with transaction(engine) as db:
            empty = accounts.first_club(db) is None
        if empty:
            say("No club yet. In another terminal: .venv/bin/hastatus coach add")
        code = launch.serve(
            engine,
            port,
            say,
            lambda address: say(f"Hastatus is up: {address}"),
            backups=backups,
        )
    sys.exit(code)


@click.command()
@_PORT
def demo(port: int) -> None:
    """Serve the made-up club, filling its database when it is empty."""
    from hastatus.demo import club  # it takes seconds, and no other command needs it

    launch.check_port(port)
    with launch.database("demo", say) as engine:
        if club.is_empty(engine):
            say(f"filling the made-up club with {club.WEEKS} weeks of runs (half a minute)")
            folder = Folder(launch.FILMS)
            club.fill(engine, today=datetime.now(UTC), say=say, film_folder=folder)
        with transaction(engine) as db:
            made_up = accounts.find_coach(db, club.LOGIN) is not None

        def ready(address: str) -> None:
            say(f"Hastatus is up: {address}")
            if made_up:
                say(f"  login     {club.LOGIN}")
                say(f"  password  {club.PASSWORD}")
            say("Ctrl-C stops it.")

        code = launch.serve(engine, port, say, ready)
    sys.exit(code)


@click.group()
def coach() -> None:
    """Coaches: add one, or set a new password."""


_PASSWORD = click.option(
    "--password", prompt=True, hide_input=True, confirmation_prompt=True,
    help=f"At least {accounts.SHORTEST_PASSWORD} characters; asked for when not given.",
)  # fmt: skip


@coach.command("add")
@click.option("--login", prompt=True, help="What the coach signs in with, such as an e-mail.")
@click.option("--name", prompt=True)
@click.option("--club", "club_name", help="Name of the club, when it is the first coach.")
@_PASSWORD
def add_coach(login: str, name: str, club_name: str | None, password: str) -> None:
    """Add a coach. The first one makes the club and owns it."""
    with launch.database("club", say) as engine, transaction(engine) as db:
        if accounts.is_taken(db, login):
            raise click.ClickException(f"there is a coach with the login {login} already")
        known = accounts.first_club(db)
        if known is None:
            known = accounts.add_club(db, club_name or click.prompt("Club"))
            role = "owner"
        else:
            role = "coach"
        accounts.add_coach(db, known.id, login=login, name=name, password=password, role=role)
        say(f"{name} can sign in to {known.name} as {login} ({role}).")


@coach.command("password")
@click.option("--login", prompt=True)
@_PASSWORD
def reset_password(login: str, password: str) -> None:
    """Set a coach's password; every open sign-in of the coach ends.

    A second factor is no longer asked for: this is how an owner who has lost the phone comes in.
    """
    with launch.database("club", say) as engine, transaction(engine) as db:
        known = accounts.find_coach(db, login)
        if known is None:
            raise click.ClickException(f"there is no coach with the login {login}")
        accounts.set_password(db, known, password)
        second_factor.remove(db, known)
        say(f"The password of {login} is changed.")
