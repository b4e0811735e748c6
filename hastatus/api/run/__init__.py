"""Runs: begun, played, posted and closed, solo and partner; the devices they go through."""
