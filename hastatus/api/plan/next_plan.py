"""The plan of a student's next run of a drill, from where they stand."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

from sqlalchemy.orm import Session

from hastatus.api.adapt import models as adapt_models
from hastatus.api.adapt.ladders import ladder_view
from hastatus.api.plan.solo_bench import factors_of, make_plan
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.prior import Prior
from hastatus.core.plan.run_plan import RunPlan
from hastatus.store import ladders
from hastatus.store.models import Student


@dataclass(frozen=True, slots=True)
class NextPlan:
    """What the next run of a drill is planned from: where the student stands, what is believed of
    the window, and how much more often each cue is to come."""

    drill: Drill
    standing: adapt_models.LadderView
    prior: Prior | None
    factors: dict[str, float]
    stance: str

    def plan(
        self,
        seed: int,
        *,
        sound_only: bool,
        window_s: float | None = None,
        rounds: int | None = None,
    ) -> RunPlan:
        """A plan; a 422 where there is none. window_s: None: where the student stands."""
        return make_plan(
            self.drill,
            seed=seed,
            rung=self.standing.rung,
            window_s=window_s or self.standing.window_s,
            prior=self.prior,
            stance=self.stance,
            sound_only=sound_only,
            factors=self.factors,
            rounds=rounds,
        )


def next_plan(db: Session, student: Student, drill_id: uuid.UUID, drill: Drill) -> NextPlan:
    """What the next run of one of the club's drills is planned from."""
    standing = ladder_view(db, student.club_id, student.id, drill_id)
    # Where the coach chose, only what was chosen is believed.
    prior = (
        ladders.prior(db, student.club_id, student.id, drill_id, drill, standing.rung)
        if standing.by in ("settled", "start")
        else None
    )
    factors = factors_of(db, student.club_id, student.id, drill_id, drill, standing.rung)
    return NextPlan(drill, standing, prior, factors, student.stance)
