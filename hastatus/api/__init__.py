"""The HTTP side: one blueprint per resource, models for every request and answer."""
