"""What the trade knows, with what the club adds to it."""
