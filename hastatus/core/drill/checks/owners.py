"""Whether each fault that a drill watches for has an owner."""

from __future__ import annotations

from collections.abc import Iterator

from hastatus.core.drill.checks.fault import Change, Mend
from hastatus.core.drill.header import Sheet
from hastatus.core.trade.faults import OwnedFault


def without_owner(drill: Sheet) -> Iterator[tuple[str, str, Mend]]:
    """Where a fault stands that nobody owns, what is wrong, and the mend.

    Until somebody says whose it is, it is counted as the defender's.
    """
    for place, name in enumerate(drill.watch):
        if drill.owner_of(name) is None:
            others = tuple(own for own in drill.faults if own.name != name)
            owned = (*others, OwnedFault(name=name, owner="defender"))
            value = [own.model_dump(mode="json") for own in owned]
            yield (
                f"watch.{place}",
                f"nobody says whose fault “{name}” is, the defender's or the feeder's",
                Mend(
                    label="it is the defender's",
                    changes=(Change(path="faults", value=value),),
                ),
            )
