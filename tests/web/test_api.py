"""Edits and their answers, judgement, conflicts and refusals, as the browser meets them."""

from __future__ import annotations

import uuid
from typing import Any

import numpy as np
import pytest

from eddyfield.demo import mill_race

from ..every_edit import ODA, TWO
from .conftest import ORIGIN, Api


def test_the_view_brings_each_part_once(api: Api, demo: str) -> None:
    whole = api.view(demo)
    scene, parts = whole["scene"], whole["parts"]
    character = scene["characters"][0]
    assert {parts[n]["kind"] for n in parts} == {
        "rig", "motion", "placing", "carried", "shown", "strobing", "camera", "camera view", "channels", "shots",
        "piece motion", "time",
    }  # fmt: skip
    frames, joints = scene["last"] - scene["first"] + 1, len(parts[character["rig"]]["joints"])
    assert parts[character["motion"]]["joints"].size == frames * joints * 3
    assert parts[character["motion"]]["skin"].size == frames * parts[character["rig"]]["slot_count"] * 16
    again = api.view(demo, known_parts=list(parts), thing_id=mill_race.POLE, joint="lantern")
    assert [p["kind"] for p in again["parts"].values()] == ["arc", "arc judgement"]
    judgement = again["parts"][again["scene"]["arc_judgement"]]
    frozen = api.view(demo, known_parts=list(parts), thing_id=mill_race.POLE, joint="lantern", frozen_frame=1030)
    arc, still = (next(iter(a["parts"].values())) for a in (again, frozen))
    assert np.allclose(arc["pixels"][58:60], still["pixels"][58:60])
    assert not np.allclose(arc["pixels"], still["pixels"])
    assert "off_arc" in {r["kind"] for r in again["scene"]["readings"]} | {f["kind"] for f in judgement["faults"]}


def test_an_edit_answers_with_what_it_changed_and_nothing_else(api: Api, demo: str) -> None:
    whole = api.view(demo)
    scene, held = whole["scene"], list(whole["parts"])
    character = scene["characters"][0]
    body = {
        "revision": scene["revision"], "request_id": str(uuid.uuid4()), "view": {"known_parts": held},
        "edit": {"edit": "ride", "character_id": character["id"], "ride": {"way": "rigid"}},
    }  # fmt: skip
    answer = api.unpacked(api.post(f"/api/scenes/{demo}/edits", body))
    assert {p["kind"] for p in answer["parts"].values()} == {"shown", "strobing", "carried"}, (
        "what she holds rides with her"
    )
    assert answer["scene"]["undo"] == "ride"
    strobing = answer["parts"][answer["scene"]["characters"][0]["strobing"]]
    assert (strobing["shown"]["strobes"], strobing["still"]["strobes"]) == (False, True)
    assert strobing["shown"]["rms_px"] < 1e-6 < 1 < strobing["still"]["rms_px"]
    assert strobing["shown"]["feet_slide_m"] > strobing["still"]["feet_slide_m"]
    repeated = api.unpacked(api.post(f"/api/scenes/{demo}/edits", body))
    assert repeated["scene"]["revision"] == answer["scene"]["revision"], "sent twice, done once"


def test_what_an_edit_would_do_and_what_was_done_since_a_look(api: Api, demo: str) -> None:
    whole = api.view(demo)["scene"]
    strobes = next(r for r in whole["readings"] if r["kind"] == "strobes")
    (fix,) = strobes["fixes"]
    told = api.post(f"/api/scenes/{demo}/effect", {"edit": fix["edit"]}).json
    assert [(c["status"], c["reading"]["kind"]) for c in told["changes"]] == [("gone", "strobes")]
    assert api.view(demo)["scene"]["revision"] == whole["revision"], "nothing is stored"
    named = (
        "kind",
        "subject",
        "first",
        "last",
        "size",
        "unit",
        "threshold",
        "character_id",
        "camera_id",
        "joint",
        "remark",
    )
    seen = [{name: r[name] for name in named} for r in whole["readings"]]
    assert api.post(f"/api/scenes/{demo}/since", {"seen": seen}).json == {"changes": []}
    api.unpacked(api.edit(demo, whole["revision"], **fix["edit"]))
    since = api.post(f"/api/scenes/{demo}/since", {"seen": seen}).json
    assert [(c["status"], c["reading"]["kind"]) for c in since["changes"]] == [("gone", "strobes")]
    harder = [{**one, "size": one["size"] / 2} for one in seen if one["kind"] == "off_arc"]
    since = api.post(f"/api/scenes/{demo}/since", {"seen": harder}).json["changes"]
    assert [c["reading"]["kind"] for c in since if c["status"] == "worse"] == ["off_arc"]
    kind = {
        "told": {
            "kind": "off_arc",
            "first": 1043,
            "last": 1043,
            "frame": 1043,
            "character_id": "nobody",
            "joint": "hand_r",
        }
    }
    assert api.post(f"/api/scenes/{demo}/why", kind).status_code == 422


def test_spacing_is_charted_and_what_cannot_be_is_said(api: Api, demo: str) -> None:
    oda = api.view(demo, judged=False)["scene"]["characters"][0]
    asked = {"thing_id": oda["id"], "joint": "hand_r", "camera_id": None, "first": 1013, "last": 1025, "intent": None}
    chart = api.post(f"/api/scenes/{demo}/spacing", asked).json
    assert (chart["first"], chart["last"], len(chart["share"])) == (1013, 1025, 13)
    assert (chart["share"][0], chart["share"][-1]) == (0, pytest.approx(1))
    assert len(chart["fits_px"]) == 4
    other = api.post(f"/api/scenes/{demo}/spacing", {**asked, "intent": "slow out"}).json
    assert other["intent"] == "slow out"
    assert np.allclose(other["intended"], np.linspace(0, 1, 13) ** 2)
    assert np.allclose(other["error_px"], (np.array(other["share"]) - other["intended"]) * other["length_px"])
    through = api.post(f"/api/scenes/{demo}/spacing", {**asked, "camera_id": mill_race.TWO}).json
    assert through["length_px"] != pytest.approx(chart["length_px"]), "as that camera sees it"
    for wrong in (
        {"last": 1014},
        {"joint": "third hand"},
        {"thing_id": str(uuid.uuid4())},
        {"camera_id": str(uuid.uuid4())},
    ):
        refused = api.post(f"/api/scenes/{demo}/spacing", {**asked, **wrong})
        assert refused.status_code == 422, wrong
        assert refused.json["message"]
    assert api.post(f"/api/scenes/{demo}/spacing", {**asked, "intent": "jerky"}).status_code == 400


def test_what_asks_for_attention_is_what_the_scene_tells_through_its_cut(api: Api, demo: str) -> None:
    told = api.view(demo)["scene"]
    asks = api.client.get(f"/api/scenes/{demo}/attention").json
    faults = [r["kind"] for r in told["readings"] if not r["remark"]]
    assert asks["told"] == len(faults)
    assert asks["kinds"] == list(dict.fromkeys(faults))
    oda = told["characters"][0]
    ones = {"edit": "step poses", "character_id": oda["id"], "stepping": {"step": 1}}
    api.unpacked(api.edit(demo, told["revision"], **ones))
    assert "strobes" not in api.client.get(f"/api/scenes/{demo}/attention").json["kinds"]
    assert api.client.get(f"/api/scenes/{uuid.uuid4()}/attention").status_code == 404


def test_further_arcs_come_along_and_what_is_gone_is_left_out(api: Api, demo: str) -> None:
    oda = api.view(demo, judged=False)["scene"]["characters"][0]["id"]
    also = [
        {"thing_id": oda, "joint": "hand_r"}, {"thing_id": mill_race.POLE, "joint": "lantern"},
        {"thing_id": oda, "joint": "third hand"}, {"thing_id": str(uuid.uuid4()), "joint": "hand_r"},
    ]  # fmt: skip
    whole = api.view(demo, judged=False, also=also)
    named = [(arc["thing_id"], arc["joint"]) for arc in whole["scene"]["also"]]
    assert named == [(oda, "hand_r"), (mill_race.POLE, "lantern")]
    chosen = api.view(demo, judged=False, thing_id=oda, joint="hand_r")["scene"]["arc"]
    assert whole["scene"]["also"][0]["arc"] == chosen, "the same part as where it is the chosen one"
    assert whole["parts"][chosen]["pixels"].size == 96 * 2


def test_what_would_be_best_is_shown_and_nothing_is_stored(api: Api, demo: str) -> None:
    before = api.view(demo)
    oda = before["scene"]["characters"][0]
    view = {"known_parts": list(before["parts"]), "cameras_of_revision": before["scene"]["revision"]}
    found = api.unpacked(api.post(f"/api/scenes/{demo}/candidates", {"character_id": oda["id"], "view": view}))
    ways = found["candidates"]
    assert 3 <= len(ways) <= found["tried"] + 1
    assert [way["cost_px"] for way in ways] == sorted(way["cost_px"] for way in ways)
    assert [way["edit"] for way in ways].count(None) == 1
    rides = next(way for way in ways if way["kind"] == "ride whole")
    shown = rides["answer"]["scene"]["characters"][0]["shown"]
    assert rides["answer"]["parts"][shown]["bent"].size == 96 * 6 * 16
    assert api.view(demo)["scene"]["revision"] == before["scene"]["revision"]
    done = api.unpacked(api.edit(demo, before["scene"]["revision"], **rides["edit"]))
    assert done["scene"]["characters"][0]["shown"] == shown, "as it was shown"
    nobody = api.post(f"/api/scenes/{demo}/candidates", {"character_id": str(uuid.uuid4()), "view": {}})
    assert nobody.status_code == 422


def test_judging_follows_an_edit_of_the_cut(api: Api, demo: str) -> None:
    first = api.view(demo)
    scene, camera = first["scene"], first["parts"][first["scene"]["cameras"][0]]
    looked = {"thing_id": mill_race.POLE, "joint": "lantern"}
    before = api.view(demo, **looked)
    body = {
        "revision": scene["revision"], "request_id": str(uuid.uuid4()),
        "view": {"known_parts": list(before["parts"]), "judged": False, **looked},
        "edit": {"edit": "set camera values", "camera_id": camera["id"], "values": {"rail": 0.31}},
    }  # fmt: skip
    unlocked = api.edit(demo, scene["revision"], edit="lock camera", camera_id=camera["id"], locks=[])
    body["revision"] = api.unpacked(unlocked)["scene"]["revision"]
    answer = api.unpacked(api.post(f"/api/scenes/{demo}/edits", body))
    kinds = {p["kind"] for p in answer["parts"].values()}
    assert {"camera", "arc"} <= kinds, "what the Picture shows is there at once"
    assert not kinds & {"strobing", "arc judgement"}
    assert answer["scene"]["readings"] is None
    judged = api.view(demo, known_parts=[*before["parts"], *answer["parts"]], **looked)
    assert {p["kind"] for p in judged["parts"].values()} == {"strobing", "arc judgement"}
    assert judged["scene"]["arc_judgement"] == answer["scene"]["arc_judgement"] != before["scene"]["arc_judgement"]


def test_the_parts_of_cameras_need_not_be_named_by_who_was_answered(api: Api, demo: str) -> None:
    scene = api.view(demo)["scene"]
    oda = scene["characters"][0]["id"]
    parts = api.view(demo)["parts"]
    cameras = [parts[name] for name in scene["cameras"]]
    crane = next(c["id"] for c in cameras if c["mount"]["kind"] == "crane")
    others = list(parts.keys() - set(scene["cameras"]) - {c["path"] for c in cameras})
    view = {"known_parts": others, "cameras_of_revision": scene["revision"]}
    edit = {"edit": "set camera values", "camera_id": crane, "values": {"arm_length": 4.5}}
    shown = api.unpacked(api.post(f"/api/scenes/{demo}/preview", {"edit": edit, "view": view}))["parts"]
    assert sorted(p["kind"] for p in shown.values()) == ["camera", "camera view"]
    body = {"revision": scene["revision"], "request_id": str(uuid.uuid4()), "edit": edit, "view": view}
    saved = api.unpacked(api.post(f"/api/scenes/{demo}/edits", body))
    assert saved["parts"].keys() == shown.keys(), "what was only shown does not count as held by all"
    undone = api.unpacked(api.post(f"/api/scenes/{demo}/undo", {"revision": saved["scene"]["revision"],
        "view": {"known_parts": others, "cameras_of_revision": saved["scene"]["revision"]}}))  # fmt: skip
    assert len(undone["parts"]) == 2
    unknown = api.view(demo, known_parts=others, cameras_of_revision=9_999, thing_id=oda)
    assert sum(p["kind"] == "camera" for p in unknown["parts"].values()) == len(scene["cameras"])


def test_refusals_name_the_thing_and_the_remedy(api: Api, demo: str) -> None:
    scene = api.view(demo)["scene"]
    camera = api.camera(demo)["id"]
    locked = api.edit(demo, scene["revision"], edit="set camera key", camera_id=camera, time="1001")
    assert locked.status_code == 422
    assert locked.json == {
        "message": "“Bank rail 35” is locked and cannot be keyed.", "remedy": "Unlock it first (L).",
        "revision": None, "edits_since": [], "asks": False,
    }  # fmt: skip
    for wrong in (
        {"edit": "explode"},
        {"edit": "set camera key", "camera_id": camera, "time": "1e999999999"},
        {"edit": "delete camera keys", "keys": {"camera_id": camera, "times": ["1001", "1e999999999"]}},
        {"edit": "retime camera keys", "keys": {"camera_id": camera}, "stretch": "1e999999999"},
        {
            "edit": "paste camera keys",
            "camera_id": camera,
            "at": "1001",
            "keys": {"x": [{"time": "1e999999999", "value": 1}]},
        },
        {"edit": "set camera key", "camera_id": camera, "time": 1001},
        {"edit": ["set camera key"]},
        {"edit": "rename scene"},
    ):
        assert api.edit(demo, scene["revision"], **wrong).status_code == 400
    assert api.client.post(f"/api/scenes/{demo}/edits", data=b"{", headers=ORIGIN).status_code == 400
    assert api.view(demo)["scene"]["revision"] == scene["revision"]
    missing = api.post(f"/api/scenes/{uuid.uuid4()}/view", {"view": {}})
    assert missing.status_code == 404
    assert missing.json["remedy"]


def test_a_conflict_is_409_with_what_changed(api: Api, demo: str) -> None:
    scene = api.view(demo)["scene"]
    assert api.edit(demo, scene["revision"], edit="rename scene", name="Other").status_code == 200
    told = api.edit(demo, scene["revision"], edit="rename scene", name="Mine")
    assert told.status_code == 409
    assert told.json["edits_since"] == ["rename scene"]
    assert api.view(demo)["scene"]["name"] == "Other"


def test_edits_of_different_things_are_no_conflict(api: Api, demo: str) -> None:
    whole = api.view(demo, judged=False)
    start, cameras = whole["scene"]["revision"], [whole["parts"][name]["id"] for name in whole["scene"]["cameras"]]
    for done, camera_id in enumerate(cameras[1:5], 1):
        answer = api.edit(demo, start, edit="set camera values", camera_id=camera_id, values={"aperture": 5.6})
        assert api.unpacked(answer)["scene"]["revision"] == start + done, "each on what the others have made"
    named = api.unpacked(api.edit(demo, start, edit="rename scene", name="Dusk"))["scene"]
    assert (named["revision"], named["name"]) == (start + 5, "Dusk")
    for late in (
        {"edit": "rename camera", "camera_id": cameras[2], "name": "Mine"},
        {"edit": "rename scene", "name": "Mine"},
        {"edit": "set rate", "rate": "25"},
    ):
        assert api.edit(demo, start, **late).status_code == 409, late
    values = [api.camera(demo, at)["channels"] for at in (1, 2, 3, 4)]
    assert len({str(v) for v in values}) == 4
    # Who else was changed by one that lets go of what is taken out is not known any more.
    out = api.edit(demo, start + 5, edit="take out", thing_id=ODA, frame=1020, lets_go=True)
    late = {"edit": "set camera values", "camera_id": TWO, "values": {"focus_m": 3.0}}
    assert (out.status_code, api.edit(demo, start + 5, **late).status_code) == (200, 409)
    api.unpacked(api.post(f"/api/scenes/{demo}/undo", {"revision": start + 6}))
    start += 2
    # What was taken back meanwhile is no longer there to be looked through.
    api.unpacked(api.post(f"/api/scenes/{demo}/undo", {"revision": start + 5}))
    lock = {"edit": "lock camera", "camera_id": cameras[5], "locks": ["lens"]}
    assert api.edit(demo, start, **lock).status_code == 409
    assert api.edit(demo, start + 6, **lock).status_code == 200


def test_undo_and_redo_over_the_wire(api: Api, demo: str) -> None:
    scene = api.view(demo)["scene"]
    assert api.post(f"/api/scenes/{demo}/undo", {"revision": scene["revision"]}).status_code == 422
    scene = api.unpacked(api.edit(demo, scene["revision"], edit="rename scene", name="New"))["scene"]
    undone = api.unpacked(api.post(f"/api/scenes/{demo}/undo", {"revision": scene["revision"]}))["scene"]
    assert (undone["name"], undone["redo"]) == ("Crossing", "rename scene")
    redone = api.unpacked(api.post(f"/api/scenes/{demo}/redo", {"revision": undone["revision"]}))["scene"]
    assert (redone["name"], redone["redo"]) == ("New", None)


def test_scenes_on_the_desk(api: Api, demo: str) -> None:
    def listed() -> dict[str, Any]:
        return {s["id"]: s for s in api.client.get("/api/scenes").json["scenes"]}

    entry = listed()[demo]
    assert (entry["characters"], entry["cameras"], entry["first"], entry["last"]) == (["Oda", "Quill"], 11, 1001, 1096)
    assert api.client.delete(f"/api/scenes/{demo}", headers=ORIGIN).status_code == 204
    assert demo not in listed()
    assert api.post(f"/api/scenes/{demo}/restore", {}).status_code == 204
    assert demo in listed()
    assert entry["has_picture"], "the demo comes with one"
    png = b"\x89PNG\r\n\x1a\n" + b"0" * 100
    assert api.client.put(f"/api/scenes/{demo}/thumbnail", data=b"GIF", headers=ORIGIN).status_code == 400
    assert api.client.put(f"/api/scenes/{demo}/thumbnail", data=png, headers=ORIGIN).status_code == 204
    assert api.client.get(f"/api/scenes/{demo}/thumbnail").data == png


def test_points_on_the_mesh_and_props_are_looked_at_like_joints(api: Api, demo: str) -> None:
    for thing, followed in ((mill_race.ODA, "point 5000"), (mill_race.MILL, "Mill race"), (mill_race.MILL, "point 7")):
        shown = api.view(demo, thing_id=thing, joint=followed)
        assert shown["parts"][shown["scene"]["arc"]]["joint"] == followed
        assert shown["scene"]["arc_judgement"] in shown["parts"]
        assert shown["scene"]["fallbacks"] == []
        table = api.client.get(f"/api/scenes/{demo}/exports/arc.csv?thing={thing}&joint={followed}").text
        assert len(table.splitlines()) == 97
    assert api.view(demo, thing_id=mill_race.ODA, joint="point 99999999")["scene"]["arc"] is None


def test_a_part_with_exposures_of_its_own_is_sent_as_it_is_shown(api: Api, demo: str) -> None:
    revision = api.view(demo)["scene"]["revision"]
    stepping = {"step": 1, "offset": 0, "keep_key_poses": False, "starts": None, "in_file_time": False}
    edit = {"edit": "step part", "character_id": mill_race.ODA, "joint": "scarf_1", "stepping": stepping}
    revision = api.unpacked(api.edit(demo, revision, **edit))["scene"]["revision"]
    told = api.view(demo)
    oda = told["scene"]["characters"][0]
    assert oda["parts"] == [{"joint": "scarf_1", "stepping": stepping}]
    shown, rig = told["parts"][oda["shown"]], told["parts"][oda["rig"]]
    groups = shown["group_of_joint"]
    assert [rig["joints"][at] for at in np.flatnonzero(groups >= 0)] == ["scarf_1", "scarf_2"]
    assert shown["bent"].size == 96 * 2 * 16
    assert told["parts"][oda["strobing"]]["shown"]["legs_stretch"] is None, "no leg is planted by that"


def test_a_camera_that_is_laid_over_is_compared_with_what_is_looked_at(api: Api, demo: str) -> None:
    whole = api.view(demo)
    held = list(whole["parts"])
    laid = api.view(demo, known_parts=held, laid_over=mill_race.TWO)
    part = laid["parts"][laid["scene"]["two_cameras"]]
    assert [subject["name"] for subject in part["subjects"]] == ["Oda", "Quill"]
    frames = laid["scene"]["last"] - laid["scene"]["first"] + 1
    assert part["subjects"][0]["one_px"].shape == (2 * frames,)
    over_itself = api.view(demo, known_parts=held, laid_over=mill_race.TWO, camera_id=mill_race.TWO)
    own = over_itself["parts"][over_itself["scene"]["two_cameras"]]
    assert np.nanmax(own["subjects"][0]["apart_px"]) == 0
    gone = api.view(demo, known_parts=held, laid_over=str(uuid.uuid4()))
    assert gone["scene"]["two_cameras"] is None
