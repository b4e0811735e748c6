"""The share of exchanges that a drill is to keep clean."""

from __future__ import annotations

TARGET = 0.84
"""Share to keep out, where nothing else is said (Wilson et al. 2019: a default, not a law)."""
