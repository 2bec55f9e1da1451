"""Scenes inside scenes through the application: brought in, shown with what surrounds them, and not broken from inside."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from typing import Any

import pytest

from eddyfield.core.nesting import nested_id
from eddyfield.demo.mill_landing import ODA as ODA_LANDING
from eddyfield.demo.mill_race import demo_id

from .conftest import Api

LANDING = demo_id("landing")
BLOCK = str(uuid.uuid4())
ODA = nested_id(BLOCK, ODA_LANDING)


@pytest.fixture
def outer(api: Api, demo: str) -> Iterator[str]:
    """The crossing with the landing inside it, and a camera that goes by who comes with that."""
    revision = api.view(demo, judged=False)["scene"]["revision"]
    api.unpacked(api.edit(demo, revision, edit="bring in scene", block_id=BLOCK, scene_id=LANDING, start=1010))
    camera = str(uuid.uuid4())
    made = {"edit": "make face camera", "camera_id": camera, "character_id": ODA, "frame": 1020}
    api.unpacked(api.edit(demo, revision + 1, **made))
    yield demo
    for scene_id in (LANDING, demo):
        scene = api.view(scene_id, judged=False)["scene"]
        while scene["undo"]:
            body = {"revision": scene["revision"], "view": {"judged": False}}
            scene = api.unpacked(api.post(f"/api/scenes/{scene_id}/undo", body))["scene"]


def edit(api: Api, scene_id: str, **what: Any) -> Any:
    return api.edit(scene_id, api.view(scene_id, judged=False)["scene"]["revision"], **what)


def test_a_block_is_shown_with_what_comes_with_it_and_who_goes_by_that(api: Api, outer: str) -> None:
    scene = api.view(outer)["scene"]
    (block,) = scene["blocks"]
    inner = api.view(LANDING)["scene"]
    length = inner["last"] - inner["first"]
    assert (block["scene_id"], block["first"], block["last"]) == (LANDING, 1010, 1010 + length)
    assert [len(block["gone_by"]), scene["characters"][-1]["block_id"]] == [1, BLOCK]
    assert "“" in edit(api, outer, edit="take out block", block_id=BLOCK, frame=1020).get_json()["message"]
    told = api.unpacked(edit(api, outer, edit="take out block", block_id=BLOCK, frame=1020, lets_go=True))
    assert told["scene"]["blocks"] == []


def test_what_would_break_a_scene_outside_is_refused_inside_and_says_where(api: Api, outer: str) -> None:
    answer = edit(api, LANDING, edit="take out", thing_id=ODA_LANDING, frame=1200, lets_go=True)
    assert answer.status_code == 422
    assert api.view(outer)["scene"]["name"] in answer.get_json()["message"]
    api.unpacked(edit(api, LANDING, edit="rename thing", thing_id=ODA_LANDING, name="Ferry keeper"))
    assert "Ferry keeper" in [c["name"] for c in api.view(outer)["scene"]["characters"]]


def test_a_scene_is_worked_on_with_what_surrounds_it(api: Api, outer: str) -> None:
    alone = api.view(LANDING)["scene"]
    around = api.view(LANDING, within={"scene_id": outer, "block_id": BLOCK})["scene"]
    came = [c for c in around["characters"] if c["block_id"]]
    assert len(came) == len(api.view(outer)["scene"]["characters"]) - len(alone["characters"])
    assert around["blocks"] == alone["blocks"] == []
    body = {
        "revision": around["revision"], "request_id": str(uuid.uuid4()),
        "edit": {"edit": "rename thing", "thing_id": came[0]["id"], "name": "x"},
        "view": {"within": {"scene_id": outer, "block_id": BLOCK}},
    }  # fmt: skip
    assert api.post(f"/api/scenes/{LANDING}/edits", body).status_code == 422
    body["edit"] = {"edit": "rename thing", "thing_id": ODA_LANDING, "name": "Ferry keeper"}
    told = api.unpacked(api.post(f"/api/scenes/{LANDING}/edits", body))["scene"]
    assert len(told["characters"]) == len(around["characters"])
