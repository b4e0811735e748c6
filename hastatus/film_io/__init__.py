"""Films: reading what a phone has recorded."""
