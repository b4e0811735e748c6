"""A run as it happens: events and what they came through, and what is agreed before."""
