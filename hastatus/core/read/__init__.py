"""What outcomes amount to, with how sure that is."""
