"""The bench: drills planned and checked while they are built, solo and partner."""
