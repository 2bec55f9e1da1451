"""What is asked for with values at the edges of what numbers and texts can be is answered or refused: never a 500."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest

from ..every_edit import EDITS, ODA, ZOOM
from .conftest import Api

EXTREMES = (1e308, -1e308, 1e-308, 1e9, -0.0)


def with_extremes(value: Any) -> Iterator[Any]:
    """The value with one of its numbers at an extreme at a time."""
    if isinstance(value, float) or (isinstance(value, int) and not isinstance(value, bool)):
        yield from EXTREMES
    elif isinstance(value, list):
        for at, item in enumerate(value):
            yield from (value[:at] + [other] + value[at + 1 :] for other in with_extremes(item))
    elif isinstance(value, dict):
        for name, item in value.items():
            yield from ({**value, name: other} for other in with_extremes(item))


@pytest.fixture
def scene_id(api: Api, demo: str) -> str:
    """With its rail camera unlocked."""
    for camera in (EDITS[0]["camera_id"],):
        api.edit(
            demo, api.view(demo, judged=False)["scene"]["revision"], edit="lock camera", camera_id=camera, locks=[]
        )
    return demo


@pytest.mark.parametrize("edit", EDITS, ids=[e["edit"] for e in EDITS])
def test_numbers_at_the_edge_are_answered_or_refused(api: Api, scene_id: str, edit: dict[str, Any]) -> None:
    for changed in with_extremes(edit):
        answer = api.post(f"/api/scenes/{scene_id}/preview", {"edit": changed, "view": {"judged": False}})
        assert answer.status_code in (200, 400, 404, 409, 422), (changed, answer.data[:300])


def test_the_effect_of_every_edit_is_told(api: Api, scene_id: str) -> None:
    for edit in EDITS:
        answer = api.post(f"/api/scenes/{scene_id}/effect", {"edit": edit})
        assert answer.status_code in (200, 422), (edit["edit"], answer.data[:300])


@pytest.mark.parametrize("kind", ["naïve", "\u2603", "off arc", "", "x" * 5000])
def test_a_kind_of_reading_that_there_is_not_is_refused(api: Api, demo: str, kind: str) -> None:
    told = {"kind": kind, "frame": 1043, "first": 1043, "last": 1043, "character_id": ODA, "joint": "hand_r"}
    for camera_id in (None, ZOOM):
        answer = api.post(f"/api/scenes/{demo}/why", {"told": {**told, "camera_id": camera_id}})
        assert answer.status_code in (400, 422), answer.data[:300]
