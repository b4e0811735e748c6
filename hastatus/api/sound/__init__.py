"""Cue sounds, spoken calls and recordings."""
