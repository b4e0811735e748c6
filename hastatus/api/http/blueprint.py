"""Routes whose part of the API document is written when somebody asks for the document.

Written as the routes are made it is a quarter of what a server's start takes.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from flask_openapi3 import APIBlueprint
from flask_openapi3.utils import parse_parameters


class ApiBlueprint(APIBlueprint):
    """The routes of a part of the API."""

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self._unwritten: list[tuple[str, Callable[..., Any], dict[str, Any]]] = []

    def document(self) -> None:
        """Write what is not written yet: paths, tags and schemas are there then."""
        while self._unwritten:
            rule, view, said = self._unwritten.pop(0)
            super()._collect_openapi_info(rule, view, **said)

    def _collect_openapi_info(self, rule: str, func: Callable[..., Any], **said: Any) -> Any:
        """What a route takes, which the library needs at once."""
        self._unwritten.append((rule, func, said))
        return parse_parameters(func, doc_ui=False)
