"""A class in one hall: who is here, the blocks of an evening, who works with whom, the calls."""
