"""Practice at home: what is assigned, how much of it, and what is planned ahead for a phone."""
