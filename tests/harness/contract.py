"""The API document as a promise: cases drawn from it, sent, and the answers held against it."""

from __future__ import annotations

import time
import warnings
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any

import schemathesis
from flask_openapi3 import OpenAPI
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from schemathesis import Case, GenerationMode
from schemathesis.checks import CHECKS
from schemathesis.core.failures import FailureGroup
from schemathesis.core.result import Ok
from sqlalchemy import Engine, select

from hastatus.api.http.session import COOKIE, CSRF_HEADER, csrf_token
from hastatus.store import accounts
from hastatus.store.database import transaction
from hastatus.store.models import Coach as CoachRow
from tests.harness.addresses import bodies, ids
from tests.harness.api_pair import pair
from tests.harness.coach import Coach

AnyCase = Case[Any]

SLOWEST_S = 2.0
DOCUMENT = "/api/schemas/api.json"

BESIDES = {
    "POST /api/students/{student_id}/ladders/{drill_id}/choices": "rung and window fit the drill",
    "POST /api/drills": "a drill's parts fit one another",
    "POST /api/drills/{drill_id}/versions": "a drill's parts fit one another",
    "POST /api/drills/{drill_id}/file": "a drill's parts fit one another",
    "POST /api/plans": "a kept drill or a document, and the drill has the rung",
    "POST /api/partner-bench": "a kept drill or a document, and the drill has the rung",
    "GET /api/drills/{drill_id}/versions/{number}/alone": "only a partner drill has a feeder",
    "GET /api/drills/{drill_id}/versions/{number}/track.{ending}": "the drill has the rung",
    "PUT /api/catalogue/words": "the club has the techniques",
    "PUT /api/catalogue/faults": "no fault is in the list twice",
    "POST /api/evenings": "the plan's parts fit one another",
    "PUT /api/evenings/{evening_id}": "the plan's parts fit one another",
    "PUT /api/evenings/{evening_id}/blocks/{block}/groups": "nobody is in two groups",
    "GET /api/evenings/{evening_id}/blocks/{block}/calls": "the block's drill has feeds to call",
    "GET /api/evenings/{evening_id}/blocks/{block}/sheets": "the block's feeders have sheets",
    "POST /api/students/table": "the file is a table of people",
    "POST /api/incidents": "what is amended is an entry of its own",
    "POST /api/evening-templates": "the plan's parts fit one another",
    "POST /api/evenings/{evening_id}/acts": "the evening has the block that begins",
    "POST /api/evenings/{evening_id}/marks": "the club has those who are marked",
    "PATCH /api/coaches/{coach_id}": "a club keeps an owner",
    "POST /api/coaches/{coach_id}/resets": "a coach who has left sets no password",
    "POST /api/practices": "the drills are done alone, and the days are in order",
    "PUT /api/practices/{practice_id}": "the drills are done alone, and the days are in order",
    "POST /api/students/{student_id}/home-links": "a minor has a guardian's consent, given before",
    "PUT /api/session/second-factor": "the code is that of the phone",
    "POST /api/home/{token}/runs/{run_id}/batches": "the run's plan has the cues",
    "PUT /api/session/password": "the password is not too easy to guess",
    "GET /api/spoken.wav": "the words can be spoken",
    "POST /api/assets": "the bytes are a sound, a picture or a clip",
    "PUT /api/devices/{device_id}": "each place has one pad",
    "POST /api/devices/{device_id}/loopback": "the chirps can be heard in the recording",
    "POST /api/devices/{device_id}/strikes": "strikes and sounds can be paired",
    "POST /api/devices/{device_id}/flashes": "the camera saw the flashes",
    "POST /api/runs": "the drill is a solo drill, and a camera has its place",
    "PUT /api/camera-places/{place_id}": "the zones lie in the picture, one for each part",
    "POST /api/films/{film_id}/corrections": "it says what of the cue or exchange is corrected",
    "PUT /api/films/{film_id}/place": "left_place is said of a film of two alone",
    "PUT /api/films/{film_id}/bytes": "the piece lies inside the film",
    "POST /api/runs/{run_id}/batches": "the run's plan has the cues",
    "POST /api/partner-runs/start": "the drill is a partner drill with the rung, for this many",
    "POST /api/partner-runs": "the drill is a partner drill with the rung, for this many",
    "POST /api/partner-runs/{partner_run_id}/batches": "the run has the partners",
    "POST /api/partner-runs/{partner_run_id}/head-knocks": "the run has the partner",
}
"""Rules that JSON Schema cannot say: what these addresses refuse though it fits its schema."""


@dataclass
class Ours:
    """What a club has, to be put into a drawn case so that it gets past "no such thing"."""

    ids: dict[str, str]
    bodies: dict[tuple[str, str], Any]

    def put(self, case: AnyCase) -> None:
        """Let a case be about what the club has."""
        for name in case.path_parameters or {}:
            if name in self.ids:
                case.path_parameters[name] = self.ids[name]
        sample = self.bodies.get((case.method, case.operation.path))
        if isinstance(case.body, dict) and isinstance(sample, dict):
            for name in case.body.keys() & sample.keys() & _NAMES:
                case.body[name] = sample[name]


_NAMES = {"student_id", "drill_id", "recorder", "partners", "old"}


@dataclass
class Tally:
    """What was answered. broken: what goes against the document, with one example each."""

    sent: int = 0
    slowest_s: float = 0.0
    statuses: dict[int, int] = field(default_factory=dict)
    broken: dict[str, str] = field(default_factory=dict)


def ours(engine: Engine, coach: Coach) -> Ours:
    """Of a club with a student, a drill, a run, a partner run and a sign-in that may end."""
    token(engine, coach)
    signed_in = coach.get("/api/sign-ins").get_json()["sign_ins"]
    spare = next(each["id"] for each in signed_in if not each["current"])
    made = pair(coach)
    assert made.begin().status_code == 201
    sent = bodies(coach)
    for (_, path), body in sent.items():
        if "{partner_run_id}" in path:
            body["recorder"] = made.recorder
    return Ours({**ids(coach), "partner_run_id": made.id, "sign_in_id": spare}, sent)


def operations(app: OpenAPI) -> Iterator[Any]:
    """Every operation of the document, as the server gives it out."""
    schema = schemathesis.openapi.from_wsgi(DOCUMENT, app)
    # Sign-in and its token are sent by hand; U+0000 is refused in all texts, as the docs say.
    schema.config.generation.update(with_security_parameters=False, allow_x00=False)
    for found in schema.get_all_operations():
        assert isinstance(found, Ok), found
        yield found.ok()


def token(engine: Engine, coach: Coach) -> str:
    """A sign-in of its own: some of the cases end it."""
    with transaction(engine) as db:
        row = db.scalars(select(CoachRow).where(CoachRow.login == coach.login)).one()
        return accounts.sign_in(db, row, "contract")


def hold(operation: Any, sign_in: str, own: Ours, *, cases: int, repeatable: bool) -> Tally:
    """Send drawn cases, of what fits the document and what does not, and hold every answer to it.

    repeatable: the same cases each time.
    """
    tally = Tally()

    def one(case: AnyCase, about_ours: bool) -> None:
        if about_ours and case.meta and case.meta.generation.mode.is_positive:
            own.put(case)
        _send(case, sign_in, tally)

    drawn = st.one_of(
        *(
            operation.as_strategy(generation_mode=mode)
            for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)
        )
    )
    run: Callable[[], None] = settings(
        max_examples=cases,
        deadline=None,
        database=None,
        derandomize=repeatable,
        suppress_health_check=list(HealthCheck),
        phases=[Phase.generate],
    )(given(case=drawn, about_ours=st.booleans())(one))
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        run()
    return tally


def _send(case: AnyCase, sign_in: str, tally: Tally) -> None:
    label = case.operation.label
    case.body = _as_written(case.body)
    answer, took_s = _timed(case, sign_in)
    if took_s > SLOWEST_S:  # the machine has other work: what is slow is slow again
        took_s = min(took_s, _timed(case, sign_in)[1])
    tally.sent += 1
    tally.slowest_s = max(tally.slowest_s, took_s)
    tally.statuses[answer.status_code] = tally.statuses.get(answer.status_code, 0) + 1
    if took_s > SLOWEST_S:
        tally.broken.setdefault("slow", f"{label}: {took_s:.1f} s, {str(case.body)[:300]}")
    try:
        case.validate_response(answer, excluded_checks=_excluded(label))
    except FailureGroup as group:
        for failure in group.exceptions:
            what = f"{label}: {answer.status_code} {failure} {answer.content[:500]!r}"
            tally.broken.setdefault(type(failure).__name__, what)


def _timed(case: AnyCase, sign_in: str) -> tuple[Any, float]:
    """The answer to a case, and how long it took, in s."""
    since = time.perf_counter()
    answer = case.call(
        headers={CSRF_HEADER: csrf_token(sign_in)}, cookies={COOKIE: sign_in}, base_url=_BASE
    )
    return answer, time.perf_counter() - since


def _as_written(part: Any) -> Any:
    """With whole numbers as a browser writes them: 2, never 2.0."""
    if isinstance(part, dict):
        return {name: _as_written(value) for name, value in part.items()}
    if isinstance(part, list):
        return [_as_written(each) for each in part]
    return int(part) if isinstance(part, float) and part.is_integer() else part


def _excluded(label: str) -> list[Any]:
    """The sign-in is always sent; and some addresses have rules of another kind."""
    names = ["ignored_auth"] + (["positive_data_acceptance"] if label in BESIDES else [])
    if label == "POST /api/assets":
        names.append("negative_data_rejection")  # no bytes go against "bytes"
    return [CHECKS.get_one(name) for name in names]


_BASE = "http://localhost"
