"""Cue sounds as samples, and where a sound begins."""
