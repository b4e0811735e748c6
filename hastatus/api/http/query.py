"""What stands after the question mark of an address."""

from __future__ import annotations

from functools import cache
from typing import Any

from pydantic import BaseModel


class Query(BaseModel):
    """The base of every model of a query.

    The library looks into its JSON schema with each request, to see what is a list; it is made
    once.
    """

    @classmethod
    def model_json_schema(cls, *said: Any, **options: Any) -> dict[str, Any]:
        """The schema; as the API document wants it, where it is asked for with options."""
        if said or options:
            return super().model_json_schema(*said, **options)
        return _schema(cls)


@cache
def _schema(query: type[Query]) -> dict[str, Any]:
    return super(Query, query).model_json_schema()
