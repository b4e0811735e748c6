"""How hard contact may be, from none to firm."""

from __future__ import annotations

from typing import Literal

Contact = Literal["none", "touch", "light", "firm"]
"""How hard it lands; "none" stops short or goes beside."""

CONTACTS: tuple[Contact, ...] = ("none", "touch", "light", "firm")
"""Gentlest first."""


def gentlest(*contacts: Contact) -> Contact:
    """The gentlest of some."""
    return min(contacts, key=CONTACTS.index)


def hardest(*contacts: Contact) -> Contact:
    """The hardest of some; none of none."""
    return max(contacts, key=CONTACTS.index, default="none")


def is_harder(contact: Contact, than: Contact) -> bool:
    """Whether it lands harder than `than`."""
    return CONTACTS.index(contact) > CONTACTS.index(than)
