"""What follows of a student's runs: rungs, and what the coach chose."""
