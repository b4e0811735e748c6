"""What a camera sees move, in a film or live: how far each zone moves, and when it begins."""
