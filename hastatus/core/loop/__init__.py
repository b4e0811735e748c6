"""A run followed while it goes on, and read again afterwards."""
