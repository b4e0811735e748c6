"""What a film tells of one exchange of two partners, and of a partner as defender."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

import numpy as np
from pydantic import Field

from hastatus.core.fields import Document, PassageKey
from hastatus.core.motion.movement import Reason
from hastatus.core.motion.zone import BodyPart
from hastatus.core.read.proportion import TOO_FEW
from hastatus.core.read.summary import quantile, quantile_interval

_Ms = Annotated[float, Field(allow_inf_nan=False)]
_SpreadMs = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Partner = Annotated[int, Field(ge=0, le=1)]


class Began(Document):
    """When a zone began to move. part: which; None: none is drawn. at_ms: after the exchange's time
    on the sheet, with the half-width of its 95 % interval. reason: why there is no time.
    corrected: by a coach, who looked."""

    part: BodyPart | None = None
    at_ms: _Ms | None = None
    spread_ms: _SpreadMs = 0.0
    reason: Reason | None = None
    corrected: bool = False


class ExchangeSeen(Document):
    """One exchange. film_s: its time on the sheet, in the film. fed, answered: when who feeds and
    who defends began. counter: when the defender's countering limb did; None: none is asked.
    landed_ms: when the counter landed, as it was heard. strikes_ms: all that was heard. Every time
    is after the exchange's time on the sheet. reacts: the answer is to the attack, and does not
    come before it. reaction_ms: from the feeder's beginning to the defender's, with its spread;
    below 0: the defender was first. ran_ahead: whether that is sure."""

    round: int
    number: int
    passage: PassageKey
    film_s: float
    feeder: Partner
    defender: Partner
    fed: Began
    answered: Began
    counter: Began | None = None
    landed_ms: _Ms | None = None
    strikes_ms: tuple[float, ...] = ()
    reacts: bool = True
    reaction_ms: _Ms | None = None
    reaction_spread_ms: _SpreadMs = 0.0
    ran_ahead: bool = False

    def reckoned(self) -> ExchangeSeen:
        """The same with reaction and who moved first, by when the two began."""
        fed, answered = self.fed, self.answered
        if not self.reacts or fed.at_ms is None or answered.at_ms is None:
            gone = {"reaction_ms": None, "reaction_spread_ms": 0.0, "ran_ahead": False}
            return self.model_copy(update=gone)
        reaction_ms = answered.at_ms - fed.at_ms
        spread_ms = float(np.hypot(fed.spread_ms, answered.spread_ms))
        told = {
            "reaction_ms": reaction_ms,
            "reaction_spread_ms": spread_ms,
            "ran_ahead": reaction_ms < -spread_ms,
        }
        return self.model_copy(update=told)


class PartnerSeen(Document):
    """What a film tells of one partner as defender. reaction_ms: median from the feeder's beginning
    to the defender's, of those who did not run ahead, with its 95 % interval; None: too few.
    ahead: how often they surely moved first, of `of`."""

    partner: Partner
    reaction_ms: _Ms | None = None
    low_ms: _Ms | None = None
    high_ms: _Ms | None = None
    ahead: int = 0
    of: int = 0


def defended(exchanges: Sequence[ExchangeSeen], partner: int) -> PartnerSeen:
    """What exchanges tell of a partner as defender."""
    own = [one for one in exchanges if one.defender == partner and one.reaction_ms is not None]
    times = [one.reaction_ms for one in own if not one.ran_ahead and one.reaction_ms is not None]
    ahead = sum(bool(one.ran_ahead) for one in own)
    if len(times) < TOO_FEW:
        return PartnerSeen(partner=partner, ahead=ahead, of=len(own))
    low, high = quantile_interval(times, [], 0.5)
    return PartnerSeen(
        partner=partner,
        reaction_ms=quantile(times, [], 0.5),
        low_ms=low,
        high_ms=high,
        ahead=ahead,
        of=len(own),
    )
