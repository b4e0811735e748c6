"""What a browser calls itself, in words: which browser, on which system."""

from __future__ import annotations

from ua_parser import parse

UNKNOWN = "a browser that is not known"


def browser_name(user_agent: str) -> str:
    """The name of a browser and its system, as in "Firefox on Android"."""
    found = parse(user_agent)
    browser = found.user_agent.family if found.user_agent else None
    system = found.os.family if found.os else None
    if browser is None:
        return UNKNOWN
    return f"{browser} on {system}" if system else browser
