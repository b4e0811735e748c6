"""What every address has in common: sign-in, problems, lookups, the document, the screens."""
