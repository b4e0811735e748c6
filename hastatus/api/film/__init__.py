"""Films of runs: what comes in, and what is read of them."""
