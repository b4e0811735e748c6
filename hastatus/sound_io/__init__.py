"""Sound that comes from outside the core: spoken calls and uploaded recordings."""
