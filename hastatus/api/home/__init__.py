"""Practice at home: what coaches assign, and what a link opens on a phone."""
