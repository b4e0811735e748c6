"""How hard contact may be, from none to firm."""

from __future__ import annotations

from typing import Literal

Contact = Literal["none", "touch", "light", "firm"]
"""How hard it lands; "none" stops short or goes beside."""

CONTACTS: tuple[Contact, ...] = ("none", "touch", "light", "firm")
"""Gentlest first."""
