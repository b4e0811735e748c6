"""Models of queries: their schema is made once, since the library looks at it with each request."""

from __future__ import annotations

from inspect import unwrap
from typing import get_type_hints

from flask_openapi3 import OpenAPI
from pydantic import BaseModel

from hastatus.api.http.query import Query


def queries(app: OpenAPI) -> set[type[BaseModel]]:
    """The models of all queries that an address takes."""
    hints = (get_type_hints(unwrap(view)) for view in app.view_functions.values())
    return {of_one["query"] for of_one in hints if "query" in of_one}


def test_the_schema_of_every_query_is_made_once_and_is_what_it_would_be(app: OpenAPI) -> None:
    models = queries(app)
    assert len(models) > 8
    for model in models:
        assert issubclass(model, Query), model
        assert model.model_json_schema() is model.model_json_schema()
        plain = BaseModel.model_json_schema.__func__(model)  # type: ignore[attr-defined]
        assert model.model_json_schema() == plain
