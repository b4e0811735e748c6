"""What the server counts of itself, in the Prometheus text format, for this machine alone.

The workers are processes of their own; their counts are put together from files
(`FOLDER` says where; `prometheus_client.multiprocess`).
"""

from __future__ import annotations

import ipaddress
import os

from flask import Blueprint, Response, current_app, request
from prometheus_client import (
    CONTENT_TYPE_LATEST,
    REGISTRY,
    CollectorRegistry,
    Counter,
    Histogram,
    generate_latest,
    multiprocess,
)
from sqlalchemy import text

from hastatus.api.http.problems import Problem
from hastatus.api.http.session import WRITES

FOLDER = "PROMETHEUS_MULTIPROC_DIR"
"""The setting is read when the library is loaded, so it is set before."""
_SECONDS = (0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 10.0)

REQUESTS = Counter(
    "hastatus_requests", "Requests that were answered.", ("method", "route", "status")
)
SECONDS = Histogram(
    "hastatus_request_seconds", "From a request to its answer, s.", ("route",), buckets=_SECONDS
)

bp = Blueprint("metrics", __name__)


def count(method: str, route: str, status: int, seconds: float) -> None:
    """Count a request that was answered. A method is a stranger's word: made-up ones are one."""
    known = method if method in ("GET", "HEAD", "OPTIONS", *WRITES) else "other"
    REQUESTS.labels(known, route, str(status)).inc()
    SECONDS.labels(route).observe(seconds)


@bp.get("/metrics")
def metrics() -> Response:
    """What all workers have counted, and how much the database holds."""
    if not _is_here(request.remote_addr):
        raise Problem(404, "Not found", "Ask on the machine itself.")
    registry = REGISTRY
    if FOLDER in os.environ:
        registry = CollectorRegistry()
        multiprocess.MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    body = generate_latest(registry) + _database()
    return Response(body, content_type=CONTENT_TYPE_LATEST)


def _is_here(address: str | None) -> bool:
    try:
        return ipaddress.ip_address(address or "").is_loopback
    except ValueError:
        return False


def _database() -> bytes:
    """Sizes that are cheap to ask for; estimates of PostgreSQL, as it keeps them for itself."""
    query = text(
        "SELECT pg_database_size(current_database()), "
        "(SELECT count(*) FROM pg_stat_activity WHERE datname = current_database())"
    )
    with current_app.config["ENGINE"].connect() as connection:
        size, connections = connection.execute(query).one()
    return (
        "# HELP hastatus_database_bytes Size of the database, bytes.\n"
        "# TYPE hastatus_database_bytes gauge\n"
        f"hastatus_database_bytes {size}\n"
        "# HELP hastatus_database_connections Connections to the database.\n"
        "# TYPE hastatus_database_connections gauge\n"
        f"hastatus_database_connections {connections}\n"
    ).encode()
