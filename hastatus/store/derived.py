"""What is derived from other rows and kept: made by one program, and made again by another.

A rule that has changed would otherwise go on speaking from what was kept.
"""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

from sqlalchemy import Connection, delete, insert, select

import hastatus.core
from hastatus.store.models import Derivation, DrillOutline, PartnerResult, StudentStanding

DERIVED = (DrillOutline, StudentStanding, PartnerResult)
_RULES = (Path(hastatus.core.__file__).parent, Path(__file__).parent)


@cache
def rules() -> str:
    """A digest (SHA-256) of the source of all that derives: core and store."""
    files = sorted(file for folder in _RULES for file in folder.rglob("*.py"))
    digest = hashlib.sha256()
    for file in files:
        digest.update(file.read_bytes())
    return digest.hexdigest()


def renew(connection: Connection) -> bool:
    """Forget what other rules derived; whether there were other rules."""
    if connection.scalar(select(Derivation.rules)) == rules():
        return False
    for table in (*DERIVED, Derivation):
        connection.execute(delete(table))
    connection.execute(insert(Derivation).values(rules=rules()))
    return True
