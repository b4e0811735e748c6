"""The `hastatus` command."""
