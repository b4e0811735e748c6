"""The web server and the database that it brings with it."""
