"""Drills: the library, versions, files to take away and bring in."""
