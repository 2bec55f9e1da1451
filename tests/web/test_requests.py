"""What checks requests: built before the first edit, once for all that hold one, and saying where something is wrong."""

from __future__ import annotations

import uuid

import pytest
from pydantic import ValidationError

from eddyfield.web.requests import REQUESTS, EditRequest, PreviewRequest, build_requests


def test_requests_are_whole_before_the_first_of_them_comes() -> None:
    build_requests()
    assert all(model.__pydantic_complete__ for model in REQUESTS)


@pytest.mark.parametrize(
    ("edit", "where", "what"),
    [
        ({"edit": "rename camera", "camera_id": "no id", "name": 3}, ("edit", "rename camera", "name"), "string"),
        ({"edit": "rename scene", "name": "x" * 3000}, ("edit", "rename scene", "name"), "2000"),
        ({"edit": "rename scene", "name": "A", "more": 1}, ("edit", "rename scene", "more"), "nexpected"),
        ({"edit": "nothing of the kind"}, ("edit",), "nothing of the kind"),
    ],
)
def test_what_is_wrong_with_an_edit_is_told_by_its_place(edit: object, where: tuple[str, ...], what: str) -> None:
    for model, others in (
        (EditRequest, {"revision": 1, "request_id": str(uuid.uuid4())}),
        (PreviewRequest, {}),
    ):
        with pytest.raises(ValidationError) as refused:
            model.model_validate({"edit": edit, **others})
        (error,) = refused.value.errors()
        assert error["loc"] == where
        assert what in error["msg"]
