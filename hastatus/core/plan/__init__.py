"""Plans: which cue comes when, what sounds beside it, and what the feeder gives."""
