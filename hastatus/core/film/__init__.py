"""A film of a round: what it shows of the answers, and when."""
