"""What is read of runs, in lists and for a student."""
