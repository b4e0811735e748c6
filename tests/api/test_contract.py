"""Every address holds to the API document, whatever it is sent (cases by schemathesis)."""

from __future__ import annotations

import json
import re
from typing import Any

import jsonschema_rs
import pytest
from flask_openapi3 import OpenAPI
from pydantic_core import SchemaValidator, core_schema
from sqlalchemy import Engine

from hastatus.api.app import create_app
from hastatus.store.database import make_engine
from tests.harness.addresses import addresses
from tests.harness.coach import Coach
from tests.harness.contract import BESIDES, DOCUMENT, Ours, hold, operations, ours, token

CASES = 8
"""Of each address; `make bench` sends many more."""
LARGE = {
    "POST /api/drills",
    "POST /api/drills/{drill_id}/versions",
    "POST /api/drills/{drill_id}/file",
}
"""Addresses that take whole drills, which take long to draw."""

_LABELS = [
    operation.label
    for operation in operations(create_app(make_engine("postgresql://nobody@127.0.0.1/none")))
]


@pytest.fixture(scope="module")
def own(engine: Engine, two_coaches: tuple[Coach, Coach]) -> Ours:
    return ours(engine, two_coaches[0])


@pytest.fixture(scope="module")
def by_label(app: OpenAPI) -> dict[str, Any]:
    return {operation.label: operation for operation in operations(app)}


@pytest.mark.parametrize("label", _LABELS)
def test_an_address_holds_to_the_document(
    label: str,
    by_label: dict[str, Any],
    engine: Engine,
    two_coaches: tuple[Coach, Coach],
    own: Ours,
) -> None:
    sign_in = token(engine, two_coaches[0])
    cases = CASES // 2 if label in LARGE else CASES
    tally = hold(by_label[label], sign_in, own, cases=cases, repeatable=True)
    assert not tally.broken, json.dumps(tally.broken, indent=1)
    assert tally.sent


def test_the_document_names_every_address(app: OpenAPI) -> None:
    document = app.test_client().get(DOCUMENT).get_json()
    served = {
        (rule.rule, method.lower())
        for rule in app.url_map.iter_rules()
        for method in (rule.methods or set()) - {"HEAD", "OPTIONS"}
        if rule.rule.startswith("/api/")
    }
    named = sum(len(item) for path, item in document["paths"].items() if path.startswith("/api/"))
    assert named == len(served)
    assert BESIDES.keys() <= set(_LABELS)


def test_a_pattern_lets_the_same_through_for_whoever_reads_the_document(app: OpenAPI) -> None:
    """What is white space is one thing to JSON Schema (ECMA-262) and another to the server."""
    document = app.test_client().get(DOCUMENT).get_data(as_text=True)
    found = re.findall(r'"pattern":\s*("(?:[^"\\]|\\.)*")', document)
    patterns: set[str] = {json.loads(each) for each in found}
    assert len(patterns) > 5
    texts = [begun + chr(code) for begun in ("a", "http://a") for code in range(0x3100)]
    for pattern in patterns:
        server = SchemaValidator(core_schema.str_schema(pattern=pattern))
        reader = jsonschema_rs.validator_for({"type": "string", "pattern": pattern})
        assert [text for text in texts if server.isinstance_python(text) != reader.is_valid(text)] \
            == [], pattern  # fmt: skip


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [
        ("POST", "/api/students/not-an-id/clearance", 404),
        ("PUT", "/api/students/7", 404),
        ("PATCH", "/api/drills/none", 404),
        ("POST", "/api/runs/x/batches", 404),
        ("DELETE", "/api/sign-ins/1", 404),
        ("GET", "/api/drills/none", 404),
        ("DELETE", "/api/students", 405),
        ("PATCH", "/api/session", 405),
        ("POST", "/healthz", 405),
    ],
)
def test_an_id_of_the_wrong_form_is_not_found_and_another_method_is_told(
    two_coaches: tuple[Coach, Coach], method: str, path: str, status: int
) -> None:
    answer = two_coaches[0].send(method, path)
    assert answer.status_code == status
    if status == 405:
        allowed = set(answer.headers["Allow"].split(", "))
        assert method not in allowed
        assert allowed & {"GET", "POST"}


@pytest.mark.parametrize(
    "path", ["/robots.txt", "/favicon.png", "/people/x.php", "/.env", "/assets/none.js", "/api"]
)
def test_what_looks_like_a_file_and_is_none_is_not_found(app: OpenAPI, path: str) -> None:
    answer = app.test_client().get(path)
    assert answer.status_code == 404
    assert answer.content_type == "application/problem+json"


def test_every_address_that_is_answered_is_in_the_document(app: OpenAPI) -> None:
    """A path that two blueprints share would be there with the methods of one of them only."""
    answered = {
        (method, re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", rule.rule))
        for rule in app.url_map.iter_rules()
        for method in (rule.methods or set()) - {"HEAD", "OPTIONS"}
        if rule.rule.startswith("/api/")
    }
    assert set(addresses()) == answered
