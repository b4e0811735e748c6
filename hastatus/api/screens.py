"""The built screens: static files, and one page for every other address."""

from __future__ import annotations

from pathlib import Path

from flask import Blueprint, Response, send_from_directory
from werkzeug.exceptions import NotFound

from hastatus.api.problems import Problem

DIST = Path(__file__).resolve().parents[2] / "ui" / "dist"
_FOR_EVER = 365 * 24 * 3600

bp = Blueprint("screens", __name__)


@bp.get("/assets/<path:name>")
def asset(name: str) -> Response:
    """A built file; its name changes with its contents."""
    return send_from_directory(DIST / "assets", name, max_age=_FOR_EVER)


@bp.get("/")
@bp.get("/<path:name>")
def page(name: str = "") -> Response:
    """The one page; its script finds the view that belongs to the address."""
    if name.startswith("api/"):
        raise Problem(404, "Not found", "There is no such address in the API.")
    try:
        response = send_from_directory(DIST, "index.html")
    except NotFound:
        raise Problem(503, "Not built", "The screens are not built; run 'make setup'.") from None
    response.headers["Cache-Control"] = "no-cache"
    return response
