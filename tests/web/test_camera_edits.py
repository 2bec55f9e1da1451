"""Every edit of cameras that the browser may ask for, over HTTP on the demo scene; previews store nothing."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import numpy as np
import pytest
from scipy.interpolate import PchipInterpolator

from eddyfield.core.cameras.camera_channels import camera_channels
from eddyfield.core.edits import BY_KIND, title_of
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.keys import KEY_SHAPES, Handle, Key
from eddyfield.web.camera_views import channels_part

from ..every_edit import AFTER, BANK, CRANE, EDITS, POSE, TWO, ZOOM, new
from .conftest import Api


@pytest.fixture
def unlocked(api: Api, demo: str) -> int:
    """The revision of the demo scene with its rail camera unlocked."""
    revision = api.view(demo, judged=False)["scene"]["revision"]
    told = api.unpacked(api.edit(demo, revision, view={"judged": False}, edit="lock camera", camera_id=BANK, locks=[]))
    return int(told["scene"]["revision"])


def test_no_edit_is_left_out() -> None:
    tried = {e["edit"] for e in EDITS} | {e["edit"] for later in AFTER.values() for e in later}
    assert tried == set(BY_KIND)


@pytest.mark.parametrize("edit", EDITS, ids=[e["edit"] for e in EDITS])
def test_an_edit_is_previewed_done_and_undone(api: Api, demo: str, unlocked: int, edit: dict[str, Any]) -> None:
    before = api.view(demo, camera_id=TWO, judged=False)
    view = {"camera_id": TWO, "judged": False, "known_parts": list(before["parts"])}
    shown = api.unpacked(api.post(f"/api/scenes/{demo}/preview", {"edit": edit, "view": view}))
    assert shown["scene"]["revision"] == unlocked
    assert api.view(demo, **view)["scene"] == before["scene"], "a preview stores nothing"
    done = api.unpacked(api.edit(demo, unlocked, view=view, **edit))
    assert (done["scene"]["revision"], done["scene"]["undo"]) == (unlocked + 1, title_of(edit["edit"]))
    assert done["scene"]["cameras"] == shown["scene"]["cameras"], "as it was shown in the hand"
    undone = api.unpacked(api.post(f"/api/scenes/{demo}/undo", {"revision": unlocked + 1, "view": view}))
    same = {key for key in before["scene"] if key not in ("revision", "undo", "redo")}
    assert {k: undone["scene"][k] for k in same} == {k: before["scene"][k] for k in same}


def test_shots_are_moved_swapped_and_joined(api: Api, demo: str, unlocked: int) -> None:
    live = next(e for e in EDITS if e["edit"] == "cut live")
    revision = api.unpacked(api.edit(demo, unlocked, **live))["scene"]["revision"]
    firsts, cut = [], []
    for edit in AFTER["cut live"]:
        answer = api.unpacked(api.edit(demo, revision, **edit))
        told, cut = answer["scene"], answer["parts"].get(answer["scene"]["shots"], {}).get("shots") or cut
        revision = told["revision"]
        firsts.append([shot["first"] for shot in cut])
    assert firsts == [
        [1001, 1010, 1034, 1051], *3 * [[1001, 1010, 1031, 1048]], [1001, 1010, 1048], [1001, 1010, 1048],
    ]  # fmt: skip
    assert [shot["camera_id"] for shot in cut] == [BANK, ZOOM, BANK]
    assert [shot["title"] for shot in cut] == ["010", "020", "030"]
    mix = cut[1]["mix"]
    assert (mix["first"], mix["last"], mix["shares"]) == (1008, 1013, [k / 7 for k in range(1, 7)])
    blend = api.view(demo)["parts"][told["blend"]]
    assert blend["frames"].tolist() == [1008, 1009, 1010, 1011, 1012, 1013]
    assert blend["pose"].reshape(-1, 7).shape == (6, 7)


def test_saved_views_are_sent_with_where_they_look_from(api: Api, demo: str, unlocked: int) -> None:
    view = new()
    save = {"edit": "save view", "camera_id": TWO, "view_id": view, "name": "From the bank", "time": "1020"}
    revision = api.unpacked(api.edit(demo, unlocked, **save))["scene"]["revision"]
    moved = {"edit": "set camera values", "camera_id": TWO, "values": {"x": -9.0}}
    revision = api.unpacked(api.edit(demo, revision, **moved))["scene"]["revision"]
    whole = api.view(demo, camera_id=TWO)
    two = next(p for p in whole["parts"].values() if p.get("id") == TWO)
    (saved,) = two["views"]
    assert saved["name"] == "From the bank"
    here, there = (whole["parts"][path]["pose"].reshape(-1, 7)[19] for path in (two["path"], saved["path"]))
    assert not np.allclose(here, there)
    for edit in (
        {"edit": "rename view", "view_id": view, "name": "From the left"},
        {"edit": "recall view", "view_id": view},
        {"edit": "delete view", "view_id": view},
    ):
        told = api.unpacked(api.edit(demo, revision, camera_id=TWO, **edit))
        revision = told["scene"]["revision"]
        two = next(p for p in api.view(demo, camera_id=TWO)["parts"].values() if p.get("id") == TWO)
        if edit["edit"] == "recall view":
            again = api.view(demo, camera_id=TWO)["parts"][two["path"]]["pose"].reshape(-1, 7)[19]
            assert np.allclose(again, there, atol=1e-5)
    assert two["views"] == []


def test_a_moved_camera_is_put_back(api: Api, demo: str, unlocked: int) -> None:
    start = api.view(demo)
    path = next(p for p in start["parts"].values() if p.get("id") == ZOOM)["path"]
    place = {"edit": "place camera", "camera_id": ZOOM, "pose": POSE, "frame": 1020}
    told = api.unpacked(api.edit(demo, unlocked, **place))
    assert next(p for p in told["parts"].values() if p.get("id") == ZOOM)["unkeyed"]
    back = api.unpacked(api.edit(demo, unlocked + 1, edit="put camera back", camera_id=ZOOM))
    zoom = next(p for p in back["parts"].values() if p.get("id") == ZOOM)
    assert (zoom["unkeyed"], zoom["path"]) == ([], path)
    refused = api.edit(demo, unlocked + 2, edit="put camera back", camera_id=ZOOM)
    assert refused.status_code == 422
    assert "Nothing to put back" in refused.json["remedy"]  # type: ignore[index]


def test_the_figures_of_the_subjects_come_with_the_camera_that_is_worked_on(api: Api, demo: str) -> None:
    whole = api.view(demo, camera_id=CRANE)
    figures = whole["parts"][whole["scene"]["subjects"]]
    assert [c["name"] for c in figures["characters"]] == ["Oda", "Quill"]
    assert figures["circle_px"] == pytest.approx(np.hypot(36, 20.25) / 1500 / 36 * 1920)
    oda = figures["characters"][0]
    pose = next(p for p in whole["parts"].values() if p.get("id") == CRANE)
    eye = whole["parts"][pose["path"]]["pose"].reshape(-1, 7)[:, :3]
    assert (np.diff(eye[65:, 1]) > -1e-6).all(), "the crane goes up"
    assert (np.diff(oda["above_m"][80:]) > 0).all()
    assert oda["blur_px"].min() >= 0
    assert api.view(demo)["scene"]["subjects"] is None, "through the cut there is no camera of one's own"


def test_keys_come_with_values_shapes_and_handles(api: Api, demo: str, unlocked: int) -> None:
    whole = api.view(demo)
    camera = api.camera(demo)
    for edit in (
        {"edit": "key camera values", "camera_id": camera["id"], "time": "2005/2", "values": {"focus_m": 3.5}},
        {"edit": "key camera values", "camera_id": camera["id"], "time": "1020", "values": {"focus_m": 4.25}},
        {"edit": "shape camera keys", "keys": {"camera_id": camera["id"], "times": ["1020"]}, "shape": "hold"},
    ):
        whole = api.unpacked(api.edit(demo, whole["scene"]["revision"], **edit))
    camera = api.camera(demo)
    focus = api.view(demo)["parts"][camera["channels"]]["keyed"]["focus_m"]
    assert focus["times"] == ["2005/2", "1020"]
    assert focus["frames"].tolist() == [1002.5, 1020.0]
    assert focus["values"].tolist() == [3.5, 4.25]
    assert [KEY_SHAPES[shape] for shape in focus["shapes"]] == ["ease", "hold"]
    gap = 17.5 / 3
    wanted = [np.nan, np.nan, gap, 0, gap, 0, np.nan, np.nan]
    assert np.allclose(focus["handles"], wanted, equal_nan=True), "as it runs"


def test_handles_of_curves_are_sent() -> None:
    curve = Key(Fraction(5, 2), 1.5, "curve", Handle(1.0, 0.5), Handle(2.0, -0.25))
    part = channels_part(camera_channels(x=Channel(0.0, (curve, Key(Fraction(9), 2.0)))))
    keys = part.keyed["x"]
    assert keys.handles[0, 2:].tolist() == [2.0, -0.25]
    # The other key is smooth: it arrives as SciPy's curve does, over a third of the gap.
    slope = PchipInterpolator([2.5, 9.0], [1.5, 2.0]).derivative()(9.0)
    assert np.allclose(keys.handles[1, :2], [6.5 / 3, -slope * 6.5 / 3])
    assert np.isnan(keys.handles[[0, 1], [0, 2]]).all(), "before the first and after the last there is no curve"
    assert list(part.keyed) == ["x"]


def test_an_answer_that_is_not_judged_is_the_scene_as_it_is_stored(api: Api, demo: str, unlocked: int) -> None:
    body = {
        "revision": unlocked, "request_id": new(), "edit": {"edit": "cut to", "frame": 1030, "camera_id": TWO},
        "view": {"judged": False, "camera_id": TWO},
    }  # fmt: skip
    told = api.unpacked(api.post(f"/api/scenes/{demo}/edits", body))["scene"]
    assert told == api.view(demo, judged=False, camera_id=TWO)["scene"]
    assert (told["revision"], told["undo"]) == (unlocked + 1, title_of("cut to"))
    again = api.unpacked(api.post(f"/api/scenes/{demo}/edits", body))["scene"]
    assert again == told, "sent twice, done once"
