"""What is derived from other rows and kept: made by one release, and made again by the next.

A rule that a newer release has changed would otherwise go on speaking from what was kept.
"""

from __future__ import annotations

from sqlalchemy import Connection, delete, insert, select

from hastatus import __version__
from hastatus.store.models import Derivation, DrillOutline, PartnerResult, StudentStanding

DERIVED = (DrillOutline, StudentStanding, PartnerResult)


def renew(connection: Connection) -> bool:
    """Forget what another release derived; whether there was anything to forget."""
    if connection.scalar(select(Derivation.release)) == __version__:
        return False
    for each in (*DERIVED, Derivation):
        connection.execute(delete(each))
    connection.execute(insert(Derivation).values(release=__version__))
    return True
