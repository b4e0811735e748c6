"""Hastatus: plan, run, score, read and adapt drills for defensive reactions."""

__version__ = "0.1.0"
