"""The API document (OpenAPI 3.1): what each address says, and what any may answer besides."""

from __future__ import annotations

from threading import Lock
from typing import Any

from flask_openapi3 import OpenAPI

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.body import UPLOADS
from hastatus.api.http.session import COOKIE, CSRF_HEADER
from hastatus.core.drill.json_schema import require_tags

Responses = dict[int | str, Any]

PUBLIC = frozenset(
    [
        ("/api/session", "post"),
        ("/api/schemas/drill.json", "get"),
        ("/api/schemas/api.json", "get"),
        ("/healthz", "get"),
        ("/readyz", "get"),
        ("/api/phones/{code}", "get"),
        ("/api/phones/{code}", "patch"),
        ("/api/phones/{code}/spoken.wav", "get"),
        ("/api/joins/{token}", "get"),
        ("/api/joins/{token}", "post"),
        ("/api/home/{token}", "get"),
        ("/api/home/{token}", "patch"),
        ("/api/home/{token}/sounds/{name}.wav", "get"),
        ("/api/home/{token}/spoken.wav", "get"),
        ("/api/home/{token}/assets/{asset_id}", "get"),
        ("/api/home/{token}/runs/{run_id}", "put"),
        ("/api/home/{token}/runs/{run_id}/batches", "post"),
    ]
)
"""Addresses that need nobody signed in."""

REFUSALS = {
    400: "The request cannot be read",
    401: "Nobody is signed in",
    403: "Refused: from another site, without the CSRF token, or not allowed",
    404: "The club has no such thing",
    409: "In conflict with what there is",
    413: "The body is too large",
    415: "The body has another content type",
    421: "The server does not answer to this host name",
    422: "Not valid",
    429: "Too many attempts; Retry-After says when to try again (s)",
    503: "The database does not answer, or not soon enough; try again",
    507: "The server's disk is full",
}
"""Answers that are problem documents (RFC 9457), by status."""

_ALWAYS = (400, 421, 503, 507)
_SIGNED_IN = (401,)
_WRITE = (403, 409)
_BODY = (413, 415, 422)
_SECURITY: dict[str, Any] = {
    "sign_in": {"type": "apiKey", "in": "cookie", "name": COOKIE},
    "csrf": {"type": "apiKey", "in": "header", "name": CSRF_HEADER},
}
_WRITES = Lock()
"""Held while the document is written: two that ask at once get it whole."""


def also(*statuses: int) -> Responses:
    """Problems of an address that cannot be told from its form, such as 404 for an id in a body."""
    return {status: {"description": REFUSALS[status]} for status in statuses}


def file(*media_types: str) -> Responses:
    """An answer that is a file of one of these types."""
    return {
        200: {
            "content": {media_type: {"schema": _contents(media_type)} for media_type in media_types}
        }
    }


def done() -> Responses:
    """An answer without a body."""
    return {204: None}


class Api(OpenAPI):
    """The application, with an API document that says all that happens."""

    def __init__(self, *args: Any, **options: Any) -> None:
        self._parts: list[ApiBlueprint] = []
        super().__init__(*args, **options)

    def take(self, part: ApiBlueprint) -> None:
        """Take a part of the API in."""
        self._parts.append(part)
        self.register_blueprint(part)

    @property
    def api_doc(self) -> dict[str, Any]:
        """The document, written when it is first asked for."""
        with _WRITES:
            document: dict[str, Any] = super().api_doc
        return document

    def generate_spec_json(self) -> None:
        """Write the document: the routes' own answers first, then what any address may answer."""
        own = dict(self.paths)
        self.paths.clear()
        for part in self._parts:
            part.document()
            self.tags += [tag for tag in part.tags if tag.name not in self.tag_names]
            self.tag_names += [tag.name for tag in part.tags if tag.name not in self.tag_names]
            self.paths.update(part.paths)
            self.components_schemas.update(part.components_schemas)
        self.paths.update(own)
        super().generate_spec_json()  # type: ignore[no-untyped-call]
        require_tags(self.spec_json)
        components = self.spec_json["components"]
        components["responses"] = {_name(status): _problem(status) for status in REFUSALS}
        components["securitySchemes"] = _SECURITY
        for path, methods in self.spec_json["paths"].items():
            for method, operation in methods.items():
                _complete(path, method, operation)


def _complete(path: str, method: str, operation: dict[str, Any]) -> None:
    """Add what this operation may answer besides, and what it needs."""
    write, signed_in = method != "get", (path, method) not in PUBLIC
    responses = operation["responses"]
    if path == UPLOADS and write:
        operation["requestBody"] = _upload()
    own = {int(status) for status in responses if int(status) in REFUSALS} - {422}
    besides = {*own, *_ALWAYS}
    if "requestBody" in operation:
        besides |= {*_BODY}
    if operation.get("parameters"):
        besides |= {422, 404} if "{" in path else {422}
    if write:
        besides |= {*_WRITE}
    if signed_in:
        besides |= {*_SIGNED_IN}
        operation["security"] = [{"sign_in": [], "csrf": []}] if write else [{"sign_in": []}]
    responses.pop("422", None)
    for status in sorted(besides):
        responses[str(status)] = {"$ref": f"#/components/responses/{_name(status)}"}


def _upload() -> dict[str, Any]:
    """A file as it is; which kinds can be used is told by their bytes."""
    kinds = ("audio/*", "image/*", "video/*")
    return {"required": True, "content": {kind: {"schema": _contents(kind)} for kind in kinds}}


def _contents(media_type: str) -> dict[str, Any]:
    return {} if media_type.endswith("json") else {"type": "string", "format": "binary"}


def _name(status: int) -> str:
    return f"Refused{status}"


def _problem(status: int) -> dict[str, Any]:
    schema = {"$ref": "#/components/schemas/ProblemDocument"}
    answer: dict[str, Any] = {
        "description": REFUSALS[status],
        "content": {"application/problem+json": {"schema": schema}},
    }
    if status in (429, 503, 507):
        answer["headers"] = {
            "Retry-After": {
                "description": "When to try again, s",
                "schema": {"type": "integer", "minimum": 0},
            }
        }
    return answer
