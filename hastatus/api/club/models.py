"""Accounts and students, as they are asked for and shown."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from hastatus.api.http.query import Query
from hastatus.core.adapt.notices import LastRun, Notice
from hastatus.core.drill.header import Level
from hastatus.core.fields import Document, Line, Note
from hastatus.core.hall.attendee import Consent
from hastatus.core.hall.readiness import Readiness
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.gear import Gear
from hastatus.core.trade.limbs import Body
from hastatus.core.trade.technique import Stance
from hastatus.store.away import Away

Password = Annotated[str, StringConstraints(min_length=1, max_length=200, pattern=r"^[^\x00]*$")]


class SignInRequest(Document):
    """code: of the second factor, where it is asked for."""

    login: Line
    password: Password
    code: Line | None = None


class SessionView(BaseModel):
    """Who is signed in, and the token that every write carries. second_factor: a code is asked for
    at sign-in."""

    club: str
    coach: str
    role: str
    csrf: str
    cautions: list[str]
    second_factor: bool


class SecondFactorRequest(Document):
    """password: one's own."""

    password: Password


class SecondFactorBegun(BaseModel):
    """What a phone's app for codes reads, told this once. secret: to be typed in; address: what its
    picture says; size, squares: of the picture, as an SVG path, one unit a square."""

    secret: str
    address: str
    size: int
    squares: str


class SecondFactorCode(Document):
    """code: of the moment, from the phone."""

    code: Line


class SpareCodes(BaseModel):
    """Codes for a lost phone, told this once; each opens once."""

    codes: list[str]


class PasswordRequest(Document):
    old: Password
    new: Password


class SignInView(BaseModel):
    id: uuid.UUID
    device: str
    created_at: datetime
    seen_at: datetime
    current: bool


class SignInList(BaseModel):
    sign_ins: list[SignInView]


class SignInChange(Document):
    ended: Literal[False]


class SignInPath(BaseModel):
    sign_in_id: uuid.UUID


ShortNote = Annotated[Note, Field(max_length=200)]


class StudentRequest(Document):
    """A student. level: of what they can; senses: what eyes or ears do not take in; spares: what is
    to be spared, an injury; consent: of a guardian; readiness: their step of the ladder."""

    name: Line
    stance: Stance = "left_lead"
    notes: Note = ""
    body: Body = Body()
    gear: Annotated[tuple[Gear, ...], Field(max_length=10)] = ()
    contact: Contact = "touch"
    level: Level = "new"
    senses: ShortNote = ""
    spares: ShortNote = ""
    consent: Consent = "not_needed"
    readiness: Readiness = "free"


class StudentPath(BaseModel):
    student_id: uuid.UUID


class StudentView(BaseModel):
    """A student, and where the student stands (see `core.adapt.notices.StudentStanding`).

    hold: after a head knock; None: free to take part. archived: in no list but that of the archive.
    gone_at: when one who was deleted is gone for good; null: not deleted. merged_into: the student
    whom this entry has become; null: nobody.
    """

    id: uuid.UUID
    name: str
    stance: Stance
    notes: str
    body: Body
    gear: list[Gear]
    contact: Contact
    level: Level
    senses: str
    spares: str
    consent: Consent
    readiness: Readiness
    runs: int
    last: LastRun | None
    course: list[float]
    notices: list[Notice]
    hold: MedicalHold | None
    archived: bool
    gone_at: datetime | None
    merged_into: uuid.UUID | None


class StudentsQuery(Query):
    """Which students: those who train, those who are archived, or those who were deleted and can
    still be brought back."""

    archived: bool = False
    deleted: bool = False


class AwayRequest(Document):
    """Archive or delete something; null: bring it back. What was deleted is there for a day."""

    away: Away | None


class MergeRequest(Document):
    """The entry of the same student that is made a part of this one."""

    other_id: uuid.UUID


class StudentList(BaseModel):
    students: list[StudentView]
