"""The built screens: static files, and one page for every other address."""

from __future__ import annotations

import json
from pathlib import Path
from urllib.parse import quote

from flask import Blueprint, Response, current_app, send_from_directory
from flask.blueprints import BlueprintSetupState
from werkzeug.exceptions import NotFound
from werkzeug.routing import BaseConverter

from hastatus.api.http.problems import Problem

DIST = Path(__file__).resolve().parents[3] / "ui" / "dist"
_FOR_EVER = 365 * 24 * 3600

bp = Blueprint("screens", __name__)


class ViewPath(BaseConverter):
    """The address of a view: not the API's, and nothing that looks like a file."""

    regex = r"(?!(?:api|assets)(?:/|$))(?:[^/]+/)*[^/.]+/?"
    part_isolating = False


@bp.record_once
def _add_converter(state: BlueprintSetupState) -> None:
    state.app.url_map.converters["view"] = ViewPath


@bp.get("/assets/<path:name>")
def asset(name: str) -> Response:
    """A built file; its name changes with its contents."""
    return send_from_directory(DIST / "assets", name, max_age=_FOR_EVER)


@bp.get("/authority.pem")
def authority() -> Response:
    """The certificate of the club's own authority, for its tablets; there is no secret in it."""
    file = current_app.config["AUTHORITY"]
    if file is None:
        raise Problem(404, "Not found", "This server has no certificate of its own.")
    return Response(Path(file).read_bytes(), mimetype="application/x-x509-ca-cert")


@bp.get("/home/worker.js")
def worker() -> Response:
    """What keeps practice at home going without a connection; a browser looks for a newer one."""
    return _built("worker.js", "text/javascript")


@bp.get("/home/app.html")
@bp.get("/home/<view:name>")
def home(name: str = "") -> Response:
    """The page of practice at home; nobody is to find it by searching."""
    response = _built("home.html", "text/html")
    response.headers["X-Robots-Tag"] = "noindex, nofollow"
    return response


@bp.get("/home/<token>/app.webmanifest")
def manifest(token: str) -> Response:
    """How a phone installs it (W3C Web Application Manifest); nothing in it says whose it is."""
    start = f"/home/{quote(token)}"
    document = {
        "id": start,
        "name": "Hastatus at home",
        "short_name": "Hastatus",
        "start_url": start,
        "scope": "/home/",
        "display": "standalone",
        "background_color": "#ffffff",
        "theme_color": "#15181c",
        "icons": [
            {"src": f"/assets/app-{size}.png", "sizes": f"{size}x{size}", "type": "image/png"}
            for size in (192, 512)
        ],
    }
    response = Response(json.dumps(document), mimetype="application/manifest+json")
    response.headers["X-Robots-Tag"] = "noindex, nofollow"
    return response


@bp.get("/")
@bp.get("/<view:name>")
def page(name: str = "") -> Response:
    """The one page; its script finds the view that belongs to the address."""
    return _built("index.html", "text/html")


def _built(name: str, media_type: str) -> Response:
    """A built file whose name stays, so that a browser asks whether it is still the same."""
    try:
        response = send_from_directory(DIST, name, mimetype=media_type)
    except NotFound:
        raise Problem(503, "Not built", "The screens are not built; run 'make setup'.") from None
    response.headers["Cache-Control"] = "no-cache"
    return response
