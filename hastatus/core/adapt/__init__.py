"""What follows from outcomes: the next window, tempo, rung and cues."""
