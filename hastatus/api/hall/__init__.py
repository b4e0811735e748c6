"""Addresses of a class: evenings, who is here, who works with whom."""
