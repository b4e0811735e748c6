"""Structured logs: one JSON object a line, with ids and routes but never names or bodies."""

from __future__ import annotations

import json
import logging
from datetime import UTC, datetime
from logging.handlers import WatchedFileHandler
from pathlib import Path

from flask import g, has_request_context

LARGEST_BYTES = 20 * 2**20
KEPT = 5
_STANDARD = set(vars(logging.makeLogRecord({}))) | {"message", "asctime", "taskName"}


class JsonLines(logging.Formatter):
    """Formats a record with its extra fields as one JSON line; within a request with its id."""

    def format(self, record: logging.LogRecord) -> str:
        line: dict[str, object] = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "logger": record.name,
            "event": record.getMessage(),
        }
        line.update({k: v for k, v in vars(record).items() if k not in _STANDARD})
        if has_request_context():
            line.setdefault("request_id", g.get("request_id"))
        if record.exc_info:
            line["traceback"] = self.formatException(record.exc_info)
        return json.dumps(line, default=str, ensure_ascii=False)


def to_file(file: Path, level: int = logging.INFO) -> None:
    """Write every log of this process to a file as JSON lines; `rotate` may move it away."""
    handler = WatchedFileHandler(file)
    handler.setFormatter(JsonLines())
    logging.basicConfig(level=level, handlers=[handler], force=True)
    logging.getLogger("alembic").setLevel(logging.WARNING)


def rotate(file: Path, largest: int = LARGEST_BYTES) -> None:
    """Move a log that has grown too large to `file`.1, that one to .2, and so on; five are kept."""
    try:
        if file.stat().st_size < largest:
            return
    except FileNotFoundError:
        return
    for number in reversed(range(1, KEPT)):
        older = file.with_name(f"{file.name}.{number}")
        if older.exists():
            older.rename(file.with_name(f"{file.name}.{number + 1}"))
    file.rename(file.with_name(f"{file.name}.1"))
