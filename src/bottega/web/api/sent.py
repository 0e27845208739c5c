"""JSON that is sent to the API: read and validated by a thread of its own, so that no body, however
large or wrong, keeps the loop."""

from collections.abc import Callable
from typing import Annotated, Any, TypeVar

from fastapi import Depends, Request
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel, ValidationError

from bottega.app.bounds import json_of

MOST_ITEMS = 5_000
"""Items of a body; chosen, ten times the largest event."""
MOST_ERRORS = 20
"""Errors of one body that are gone into; chosen, nobody reads on."""
Sent = TypeVar("Sent", bound=BaseModel)


async def raw_body(request: Request) -> bytes:
    """Read a body as it is."""
    return await request.body()


def read(model: type[Sent]) -> Callable[[bytes], Sent]:
    """Return a dependency that gives the body as ``model``. It raises BadValue for what is no JSON
    or has too many items, and RequestValidationError for what does not fit the model."""

    def body(raw: Annotated[bytes, Depends(raw_body)]) -> Sent:
        plain = json_of(raw, MOST_ITEMS, "body", f"one {model.__name__}")
        try:
            return model.model_validate(plain)
        except ValidationError as error:
            first = error.errors(include_url=False)[:MOST_ERRORS]
            raise RequestValidationError(
                [{**one, "loc": ("body", *one["loc"])} for one in first]
            ) from error

    return body


def takes(model: type[BaseModel]) -> dict[str, Any]:
    """Return how the API's description tells of a body that is read by ``read``."""
    content = {"application/json": {"schema": plain_schema(model.model_json_schema())}}
    return {"requestBody": {"required": True, "content": content}}


def plain_schema(schema: dict[str, Any]) -> Any:
    """Return a JSON schema without references: its parts stand where they are referred to, since
    the description has one place for parts, which is not ours."""
    return _inlined({k: v for k, v in schema.items() if k != "$defs"}, schema.get("$defs", {}))


def _inlined(schema: Any, parts: dict[str, Any]) -> Any:
    if isinstance(schema, list):
        return [_inlined(one, parts) for one in schema]
    if not isinstance(schema, dict):
        return schema
    kept = {key: one for key, one in schema.items() if key not in ("$ref", "discriminator")}
    plain = {key: _inlined(one, parts) for key, one in kept.items()}
    if "$ref" in schema:
        return {**_inlined(parts[schema["$ref"].rsplit("/", 1)[1]], parts), **plain}
    return plain
