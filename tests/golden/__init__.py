"""Golden hashes: what the program makes of fixed input, so that moving code cannot change it."""
