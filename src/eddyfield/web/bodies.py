"""Bodies of requests and answers: JSON in, by a model, and JSON out."""

from __future__ import annotations

from typing import TypeVar

import orjson
from flask import Response, request
from pydantic import BaseModel
from werkzeug.exceptions import BadRequest

Body = TypeVar("Body", bound=BaseModel)


def read_body(model: type[Body]) -> Body:
    """The request's body. Raises ``ValidationError`` or ``BadRequest``."""
    try:
        return model.model_validate(orjson.loads(request.get_data()))
    except orjson.JSONDecodeError:
        raise BadRequest("The request is not JSON.") from None


def json_answer(answer: BaseModel) -> Response:
    return Response(orjson.dumps(answer.model_dump()), content_type="application/json")
