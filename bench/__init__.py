"""The figures that Hastatus promises, measured and printed one a line: `python -m bench`."""
