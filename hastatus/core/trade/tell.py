"""How much a feeder shows before the attack comes."""

from __future__ import annotations

from typing import Literal

Tell = Literal["big", "plain", "trimmed", "mixed"]
