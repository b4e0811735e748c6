"""The figures that Hastatus promises, measured and printed one a line: `python -m benchmarks`."""

import os

# Several processes measure at once; threads within each would only be in one another's way.
os.environ.setdefault("OMP_NUM_THREADS", "1")
