"""Who belongs to a club: accounts, students, head knocks."""
