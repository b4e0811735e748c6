"""Whether a microphone could be trusted in a run.

Other strikes, shouts and squeaks are now and then heard as strikes. Where that is rare it costs an
answer or two; where it is frequent, some of them have passed for answers, and the times say little.
"""

from __future__ import annotations

MOST_EXTRA = 6.0
"""Strikes a minute that answer nothing; with more, a microphone is not trusted (our own rule)."""


def microphone_doubt(extra: int, minutes: float) -> str | None:
    """Why the microphone cannot be trusted here, or None.

    extra: strikes it heard that answered nothing. minutes: that it listened in rounds.
    """
    if minutes <= 0 or extra / minutes <= MOST_EXTRA:
        return None
    return (
        f"The microphone heard {extra / minutes:.0f} strikes a minute that answer nothing, so its "
        "times cannot be trusted here: something else strikes, shouts or squeaks nearby, or the "
        "sound card changes its gain. Go nearer, turn automatic gain off, or use keys or pads."
    )
