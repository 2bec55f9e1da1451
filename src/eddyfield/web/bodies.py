"""Bodies of requests and answers: JSON in, by a model, and JSON out."""

from __future__ import annotations

from typing import TypeVar

import orjson
from flask import Response, request
from pydantic import BaseModel
from werkzeug.exceptions import BadRequest, RequestEntityTooLarge

MOST_JSON_BYTES = 16 * 2**20
"""Read as objects, JSON takes thirty times its size."""


class BodyTooLarge(RequestEntityTooLarge):
    """JSON of a size that nothing here asks for."""


Body = TypeVar("Body", bound=BaseModel)


def read_body(model: type[Body]) -> Body:
    """The request's body. Raises ``ValidationError``, ``BadRequest`` or ``BodyTooLarge``."""
    if (request.content_length or 0) > MOST_JSON_BYTES:
        raise BodyTooLarge
    try:
        return model.model_validate(orjson.loads(request.get_data()))
    except orjson.JSONDecodeError:
        raise BadRequest("The request is not JSON.") from None


def json_answer(answer: BaseModel) -> Response:
    return Response(orjson.dumps(answer.model_dump()), content_type="application/json")
