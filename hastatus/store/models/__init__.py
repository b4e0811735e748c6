"""Tables. A club owns everything, so every key starts with `club_id`.

Documents (drills, plans, batches) are JSONB with their schema version. Times are UTC.
"""

from hastatus.store.models.base import Base, Derivation
from hastatus.store.models.club import (
    Attempt,
    AuditEntry,
    Club,
    Coach,
    Device,
    Invitation,
    SignIn,
    Student,
)
from hastatus.store.models.drill import (
    Asset,
    ClubTechnique,
    ClubWords,
    Drill,
    DrillOutline,
    DrillVersion,
    SpokenClip,
    TechniqueNote,
)
from hastatus.store.models.film import CameraPlace, Film
from hastatus.store.models.hall import (
    Attendance,
    BlockGroups,
    ClassAct,
    Evening,
    EveningTemplate,
    Incident,
    PairMark,
)
from hastatus.store.models.home import (
    HomeLink,
    HomeRun,
    PlannedRun,
    Practice,
    PracticeStudent,
)
from hastatus.store.models.partner import (
    HeadKnock,
    MarkBatch,
    MarkFold,
    PartnerResult,
    PartnerRun,
    PartnerRunStudent,
)
from hastatus.store.models.run import (
    IS_ANSWERED,
    IS_NO_TEST,
    IS_TEST,
    EventBatch,
    LadderChoice,
    LadderState,
    Response,
    Run,
    RunFold,
    StudentStanding,
)

__all__ = [
    "IS_ANSWERED",
    "IS_NO_TEST",
    "IS_TEST",
    "Asset",
    "Attempt",
    "Attendance",
    "AuditEntry",
    "Base",
    "BlockGroups",
    "CameraPlace",
    "ClassAct",
    "Club",
    "ClubTechnique",
    "ClubWords",
    "Coach",
    "Derivation",
    "Device",
    "Drill",
    "DrillOutline",
    "DrillVersion",
    "Evening",
    "EveningTemplate",
    "EventBatch",
    "Film",
    "HeadKnock",
    "HomeLink",
    "HomeRun",
    "Incident",
    "Invitation",
    "LadderChoice",
    "LadderState",
    "MarkBatch",
    "MarkFold",
    "PairMark",
    "PartnerResult",
    "PartnerRun",
    "PartnerRunStudent",
    "PlannedRun",
    "Practice",
    "PracticeStudent",
    "Response",
    "Run",
    "RunFold",
    "SignIn",
    "SpokenClip",
    "Student",
    "StudentStanding",
    "TechniqueNote",
]
