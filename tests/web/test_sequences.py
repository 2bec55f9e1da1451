"""Sequences through the application: what is answered, and how a conflict is told."""

from __future__ import annotations

import uuid

from .conftest import Api


def _edit(api: Api, sequence_id: str, revision: int, **edit: object) -> tuple[int, dict[str, object]]:
    body = {"revision": revision, "request_id": str(uuid.uuid4()), "edit": edit}
    answer = api.post(f"/api/sequences/{sequence_id}/edits", body)
    return answer.status_code, answer.get_json()


def test_a_conflict_tells_what_was_done_since_in_the_words_of_the_buttons(api: Api, demo: str) -> None:
    made = api.post("/api/sequences", {"name": "Mill"}).get_json()
    status, longer = _edit(api, made["id"], made["revision"], edit="add scene", scene_id=demo)
    assert (status, longer["undo"]) == (200, "add a scene")
    status, refused = _edit(api, made["id"], made["revision"], edit="rename sequence", name="Mill race")
    assert status == 409
    assert "(add a scene)" in str(refused), refused
