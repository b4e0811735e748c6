"""What a browser calls itself, in words: which browser, on which system."""

from __future__ import annotations

from ua_parser import parse

UNKNOWN = "a browser that is not known"


def browser_name(user_agent: str) -> str:
    """The name of a browser and its system, as in "Firefox on Android"."""
    agent = parse(user_agent)
    browser = agent.user_agent.family if agent.user_agent else None
    system = agent.os.family if agent.os else None
    if browser is None:
        return UNKNOWN
    return f"{browser} on {system}" if system else browser
