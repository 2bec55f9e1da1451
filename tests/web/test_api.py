"""The gate, edits and their answers, conflicts, uploads and exports, as the browser meets them."""

from __future__ import annotations

import csv
import io
import json
import uuid
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient

from eddyfield.core.cameras.placement import body_points
from eddyfield.core.optics.lens import inside_frame
from eddyfield.core.rig import transforms
from eddyfield.core.time.frames import seconds_at
from eddyfield.demo import mill_race, oda_crossing
from eddyfield.formats import gltf
from eddyfield.store.blobs import Blobs
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes
from eddyfield.web.rigs import PartMemory, Rigs
from eddyfield.web.scene_views import SceneViews
from eddyfield.web.sounds import Sounds
from tests.formats.builders import BVH, walker
from tests.formats.test_looks_and_shapes import png, quad

from .conftest import ORIGIN, Api


def test_everything_but_the_page_is_behind_the_gate(make_client: Callable[..., FlaskClient]) -> None:
    client = make_client()
    rules = [r for r in client.application.url_map.iter_rules() if r.endpoint not in ("static", "page", "sign_in")]
    assert len(rules) >= 12
    for rule in rules:
        path = rule.rule.replace("<uuid:scene_id>", str(uuid.uuid4())).replace(
            "<any('arc.csv', 'slip.csv', 'corrections.csv', 'shot.glb'):what>", "arc.csv"
        )
        for method in (rule.methods or set()) - {"HEAD", "OPTIONS"}:
            answer = client.open(path, method=method, headers=ORIGIN)
            assert answer.status_code == 401, (method, path)
            assert "not signed in" in answer.json["message"]
    assert client.get("/").status_code == 200
    assert client.get("/sign-in?token=wrong").status_code == 403


def test_the_session_cookie_is_shut_to_scripts_and_other_sites(make_client: Callable[..., FlaskClient]) -> None:
    answer = make_client().get("/sign-in?token=open")
    assert answer.status_code == 302
    cookie = answer.headers["Set-Cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=Lax" in cookie
    assert "token" not in answer.headers["Location"]


@pytest.mark.parametrize("origin", [None, "http://evil.example", "null", "http://localhost:99"])
def test_changes_from_another_page_are_refused(api: Api, demo: str, origin: str | None) -> None:
    headers = {"Origin": origin} if origin else {}
    assert api.client.delete(f"/api/scenes/{demo}", headers=headers).status_code == 403
    assert api.client.post("/api/scenes", json={}, headers=headers).status_code == 403


def test_other_host_names_are_refused(make_client: Callable[..., FlaskClient]) -> None:
    client = make_client(hosts=frozenset({"127.0.0.1:8640"}))
    assert client.get("/", headers={"Host": "rebound.example"}).status_code == 400
    assert client.get("/", headers={"Host": "127.0.0.1:8640"}).status_code == 200


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


def test_undo_and_redo_over_the_wire(api: Api, demo: str) -> None:
    scene = api.view(demo)["scene"]
    assert api.post(f"/api/scenes/{demo}/undo", {"revision": scene["revision"]}).status_code == 422
    scene = api.unpacked(api.edit(demo, scene["revision"], edit="rename scene", name="New"))["scene"]
    undone = api.unpacked(api.post(f"/api/scenes/{demo}/undo", {"revision": scene["revision"]}))["scene"]
    assert (undone["name"], undone["redo"]) == ("Crossing", "rename scene")
    redone = api.unpacked(api.post(f"/api/scenes/{demo}/redo", {"revision": undone["revision"]}))["scene"]
    assert (redone["name"], redone["redo"]) == ("New", None)


def bring_in(api: Api, *files: tuple[bytes, str]) -> Any:
    return api.client.post(
        "/api/uploads", data={"files": [(io.BytesIO(data), name) for data, name in files]}, headers=ORIGIN
    )


@pytest.mark.parametrize(
    ("files", "scale", "height"),
    [
        ([(mill_race.oda_glb(), "oda.glb")], 1.0, 1.75),
        ([(BVH.encode(), "walk.bvh")], 0.01, 0.9),
        (
            [(BVH.replace("10 -5", "0.10 -0.05").replace("-85", "-1.85").replace(" 90", " 1.9").encode(), "m.bvh")],
            1.0,
            1.9,
        ),
    ],
    ids=["glb", "bvh in centimetres", "bvh in metres"],
)
def test_a_rig_becomes_a_scene_whose_camera_fits(
    api: Api, database: Database, files: list[tuple[bytes, str]], scale: float, height: float
) -> None:
    found = bring_in(api, *files).json
    assert found["proposed_scale"] == scale
    assert found["height_units"] * scale == pytest.approx(height, abs=0.35)
    request = {"digest": found["digest"], "format": found["format"], "name": "Test rig", "scale": scale, "start": 11}
    made = api.post("/api/scenes", request)
    assert made.status_code == 200, made.data
    scene = Scenes(database).get(made.json["id"]).scene
    assert scene.frames.first == 11
    memory = PartMemory(2**26)
    baker = SceneViews(Rigs(Blobs(database), memory), Sounds(Blobs(database), memory), memory).baker(scene)
    rig = baker.rig(scene.characters[0])
    seconds = seconds_at(scene.frames.frames(), 11, scene.rate)
    seen = baker.camera_path(scene.cameras[0]).project(body_points(rig, seconds))
    assert inside_frame(seen, scene.delivery).all()
    share = np.abs(seen.pixels / [1920, 1080] * 2 - 1)
    assert share.max() == pytest.approx(0.93, abs=1e-4), "inside action safe, and filling it"
    shown = api.view(scene.id)["scene"]
    assert shown["characters"][0]["name"] == "Test rig"


def test_a_gltf_comes_with_its_buffer(api: Api) -> None:
    g = walker()
    assert "did not come with it" in bring_in(api, (g.text("walk.bin"), "walk.gltf")).json["message"]
    found = bring_in(api, (g.text("walk.bin"), "walk.gltf"), (bytes(g.data), "walk.bin")).json
    assert found["joints"] == 2
    assert (
        api.post("/api/scenes", {"digest": found["digest"], "format": "gltf", "name": "W", "scale": 1}).status_code
        == 200
    )


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("a.txt", b"x", "no kind"),
        ("a.glb", b"glTF", "cut off"),
        ("a.bvh", b"nothing", "no BVH"),
        ("", b"", "one file"),
    ],
)
def test_bad_uploads_are_refused_and_nothing_is_kept(
    api: Api, database: Database, name: str, data: bytes, says: str
) -> None:
    def count() -> int:
        with database.transaction() as cursor:
            cursor.execute("SELECT COUNT(*) AS n FROM blob_file")
            return int(cursor.fetchone()["n"])

    before = count()
    answer = bring_in(api, *([(data, name)] if name else []))
    assert answer.status_code == 422
    assert says in answer.json["message"]
    assert count() == before


def test_uploads_have_a_limit(make_client: Callable[..., FlaskClient]) -> None:
    api = Api(make_client(upload_limit_mb=1))
    answer = bring_in(api, (b"x" * 2_000_000, "big.glb"))
    assert answer.status_code == 413
    assert "1 MB" in answer.json["message"]


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


def test_csv_out(api: Api, demo: str) -> None:
    scene = api.view(demo)["scene"]
    character = scene["characters"][0]["id"]
    slip = list(csv.DictReader(io.StringIO(
        api.client.get(f"/api/scenes/{demo}/exports/slip.csv?thing={character}").text)))  # fmt: skip
    assert len(slip) == 96
    assert slip[0]["slip_px"] == "0.000000"
    assert float(slip[41]["slip_px"]) > 5
    path = f"/api/scenes/{demo}/exports/arc.csv?thing={mill_race.POLE}&joint=lantern"
    arc = list(csv.DictReader(io.StringIO(api.client.get(path).text)))
    assert arc[0]["spacing_px"] == ""
    step = np.hypot(*(float(arc[9][k]) - float(arc[8][k]) for k in ("x_px", "y_px")))
    assert float(arc[9]["spacing_px"]) == pytest.approx(step, abs=1e-4)
    assert float(arc[9]["subject_share_px"]) + float(arc[9]["camera_share_px"]) == pytest.approx(step, abs=1e-4)
    assert api.client.get(f"/api/scenes/{demo}/exports/arc.csv?thing={character}&joint=nobody").status_code == 422


def test_the_shot_as_glb_holds_its_holds_and_rides(api: Api, database: Database, demo: str) -> None:
    scene = api.view(demo)["scene"]
    character = scene["characters"][0]
    assert (
        api.edit(demo, scene["revision"], edit="ride", character_id=character["id"], ride={"way": "rigid"}).status_code
        == 200
    )
    notes = api.client.get(f"/api/scenes/{demo}/exports/notes").json["notes"]
    assert any("film back" in n for n in notes)
    assert any("rides" in n for n in notes)
    answer = api.client.get(f"/api/scenes/{demo}/exports/shot.glb")
    assert "Crossing-shot.glb" in answer.headers["Content-Disposition"]
    rig = gltf.read(answer.data, with_mesh=True)
    memory = PartMemory(2**27)
    stored = Scenes(database).get(demo).scene
    baker = SceneViews(Rigs(Blobs(database), memory), Sounds(Blobs(database), memory), memory).baker(stored)
    own, performer = baker.rig(stored.characters[0]), stored.characters[0]
    seconds = np.arange(96) / 24
    for joint in ("hand_r", "foot_l", "head"):
        shown = baker.shown_points(performer, baker.world(performer)[..., :3, 3][:, [own.find(joint)]])[:, 0]
        node = np.array([rig.find(joint)])
        assert np.allclose(rig.world_positions(seconds, node)[:, 0], shown, atol=1e-5)
        held = rig.world_positions(seconds[1:-1:2] - 0.02, node)[:, 0]
        assert np.allclose(held, shown[0:-2:2], atol=1e-5), "between frames a hold stays a hold"
    camera = rig.world_matrices(seconds, np.array([rig.cameras[0].node]))[:, 0]
    assert np.allclose(transforms.orthonormal(camera), baker.cut_path().world_from_camera, atol=1e-5)
    assert rig.mesh is not None
    assert own.mesh is not None
    other = baker.rig(stored.characters[1]).mesh
    assert other is not None
    pole = stored.piece(mill_race.POLE)
    held = baker.rig(pole).mesh
    assert held is not None
    assert len(rig.mesh.triangles) == len(own.mesh.triangles) + len(other.triangles) + len(held.triangles)
    shown, lantern = baker.shown_piece(pole), baker.rig(pole).find("lantern")
    in_file = baker.rig(pole).world_positions(seconds, np.array([lantern]))[shown.rows, 0]
    seen = rig.world_positions(seconds, np.array([rig.find("lantern")]))[:, 0]
    assert np.allclose(seen, transforms.apply(shown.carried, in_file), atol=1e-5), "what she holds is in it"
    _, fov = baker.cut_path().lens.field_of_view_deg(stored.delivery)
    assert rig.cameras[0].vertical_fov_deg == pytest.approx(float(fov[0]), abs=1e-4)
    assert all(c.interpolation in ("step", "linear") for c in rig.motion.curves)


# --- the next version of a performance ---


def worse_oda(monkeypatch: pytest.MonkeyPatch) -> bytes:
    monkeypatch.setattr(oda_crossing, "KINK_M", 0.06)
    return mill_race.oda_glb.__wrapped__()


def test_a_next_version_is_judged_before_it_is_brought_in(api: Api, demo: str, monkeypatch: pytest.MonkeyPatch) -> None:
    found = bring_in(api, (worse_oda(monkeypatch), "oda_v2.glb")).json
    asked = {"digest": found["digest"], "format": found["format"]}
    before = api.view(demo)["scene"]
    told = api.post(f"/api/scenes/{demo}/next-version", asked).json
    assert told["thing_id"] == before["characters"][0]["id"]
    kinks = [c for c in told["changes"] if c["reading"]["subject"] == "thumb_2_r" and c["reading"]["kind"] == "off_arc"]
    assert [(c["status"], c["was"]["size"] < c["reading"]["size"]) for c in kinks] == [("worse", True)]
    assert api.view(demo)["scene"]["revision"] == before["revision"], "nothing is stored by judging"
    brought = api.unpacked(api.edit(demo, before["revision"], **told["edit"]))["scene"]
    assert brought["undo"] == "next version of a performance"
    assert brought["characters"][0]["motion"] != before["characters"][0]["motion"]
    earlier = {"character_id": told["thing_id"], "source": before["characters"][0]["source"]}
    since = api.post(f"/api/scenes/{demo}/since", {"version": earlier}).json["changes"]
    assert [(c["status"], c["reading"]["kind"]) for c in since] == [("worse", "off_arc")], "since the version before"
    unknown = {**earlier, "source": {**earlier["source"], "digest": "0" * 64}}
    assert api.post(f"/api/scenes/{demo}/since", {"version": unknown}).status_code == 422
    back = api.unpacked(api.post(f"/api/scenes/{demo}/undo", {"revision": brought["revision"]}))["scene"]
    assert back["characters"][0]["motion"] == before["characters"][0]["motion"]


def test_a_gltf_comes_in_with_its_buffer_and_images_beside_it(api: Api) -> None:
    g = quad()
    picture = png(4, 4)
    g.json["images"] = [{"uri": "cloth.png"}]
    files = [(io.BytesIO(g.text("square.bin")), "square.gltf"), (io.BytesIO(bytes(g.data)), "square.bin"),
             (io.BytesIO(picture), "cloth.png")]  # fmt: skip
    answer = api.client.post("/api/uploads", data={"files": files}, headers=ORIGIN)
    assert answer.status_code == 200, answer.text
    assert answer.json is not None
    assert (answer.json["likely"], answer.json["triangles"]) == ("prop", 2)
    without = [(io.BytesIO(g.text("square.bin")), "square.gltf"), (io.BytesIO(bytes(g.data)), "square.bin")]
    refused = api.client.post("/api/uploads", data={"files": without}, headers=ORIGIN)
    assert "cloth.png" in refused.text


def test_what_is_no_next_version_is_said(api: Api, demo: str) -> None:
    oda = api.view(demo)["scene"]["characters"][0]["id"]
    walk = bring_in(api, (BVH.encode(), "walk.bvh")).json
    asked = {"digest": walk["digest"], "format": walk["format"]}
    assert api.post(f"/api/scenes/{demo}/next-version", asked).json == {
        "thing_id": None, "changes": [], "edit": None,
        "joints_added": [], "joints_lost": [], "last_before": 0, "last_after": 0,
        "renamed": [], "goes_by_lost": [], "stands_in": "",
    }  # fmt: skip
    forced = api.post(f"/api/scenes/{demo}/next-version", asked | {"thing_id": oda})
    assert {"Face Oda 85", "Crane up 28"} <= {who for who, _ in forced.json["goes_by_lost"]}
    assert forced.json["stands_in"] == "Hips"
    same = bring_in(api, (mill_race.oda_glb(), "oda.glb")).json
    again = api.post(f"/api/scenes/{demo}/next-version", {"digest": same["digest"], "format": "gltf"})
    assert (again.status_code, "is already" in again.json["message"]) == (422, True)
    gone = api.post(f"/api/scenes/{demo}/next-version", {"digest": "f" * 64, "format": "gltf"})
    assert (gone.status_code, "not there any more" in gone.json["message"]) == (422, True)
    source = {"digest": "f" * 64, "format": "gltf"}
    refused = api.edit(
        demo, api.view(demo)["scene"]["revision"], edit="bring next version", character_id=oda, source=source
    )
    assert refused.status_code == 422


def test_the_next_version_of_a_set_piece_is_judged_too(api: Api, demo: str) -> None:
    mill = api.view(demo)["scene"]["pieces"][0]
    file = {"files": (io.BytesIO(mill_race.quill_glb() + b"  "), "mill_v2.glb")}
    found = api.client.post("/api/uploads", data=file, headers=ORIGIN).json
    assert found is not None
    asked = {"digest": found["digest"], "format": "gltf", "file_name": "mill_v2.glb", "thing_id": mill["id"]}
    told = api.post(f"/api/scenes/{demo}/next-version", asked).json
    assert told is not None
    assert (told["thing_id"], told["edit"]["edit"]) == (mill["id"], "replace file")
    assert told["edit"]["source"]["scale"] == mill["source"]["scale"], "read as the one before"
    assert "head" in told["joints_added"]


def test_a_version_beside_is_sent_with_its_own_arc_through_the_same_camera(api: Api, demo: str) -> None:
    second = bring_in(api, (mill_race.oda_glb(second=True), "oda-crossing-2.glb")).json
    source = {"digest": second["digest"], "format": "gltf"}
    view = api.view(demo)
    oda = next(c for c in view["scene"]["characters"] if c["id"] == mill_race.ODA)
    api.unpacked(
        api.edit(
            demo,
            view["scene"]["revision"],
            edit="bring next version",
            character_id=mill_race.ODA,
            source=source,
            name="2",
        )
    )
    beside = {"character_id": mill_race.ODA, "source": oda["source"]}
    shown = api.view(demo, thing_id=mill_race.ODA, joint="hand_r", beside=beside)
    was, now = shown["scene"]["beside"], shown["scene"]["arc"]
    apart = np.hypot(*(shown["parts"][was["arc"]]["pixels"] - shown["parts"][now]["pixels"]).reshape(-1, 2).T)
    first = api.view(demo, thing_id=mill_race.ODA, joint="hand_r")
    changed = next(c for c in first["scene"]["characters"] if c["id"] == mill_race.ODA)["changed"]
    px = first["parts"][changed]["px"]
    assert apart[42] > 5, "the kink of the first"
    assert apart[42] <= px[42] + 1e-3, "no joint is further off than the one that is furthest"
    assert shown["parts"][was["rig"]]["kind"] == "rig"
    unknown = {"character_id": mill_race.ODA, "source": {"digest": "0" * 64, "format": "gltf"}}
    told = api.view(demo, beside=unknown)["scene"]
    assert told["beside"] is None
    assert "not known any more" in told["fallbacks"][0]


def test_points_on_the_mesh_and_props_are_looked_at_like_joints(api: Api, demo: str) -> None:
    for thing, followed in ((mill_race.ODA, "point 5000"), (mill_race.MILL, "Mill race"), (mill_race.MILL, "point 7")):
        shown = api.view(demo, thing_id=thing, joint=followed)
        assert shown["parts"][shown["scene"]["arc"]]["joint"] == followed
        assert shown["scene"]["arc_judgement"] in shown["parts"]
        assert shown["scene"]["fallbacks"] == []
        table = api.client.get(f"/api/scenes/{demo}/exports/arc.csv?thing={thing}&joint={followed}").text
        assert len(table.splitlines()) == 97
    assert api.view(demo, thing_id=mill_race.ODA, joint="point 99999999")["scene"]["arc"] is None


def test_other_uses_of_a_performance_are_told(api: Api, database: Database, demo: str) -> None:
    uses = api.client.get(f"/api/scenes/{demo}/things/{mill_race.QUILL}/uses").json["uses"]
    assert [(use["scene_name"], use["thing_name"]) for use in uses] == [
        ("Crossing, cut", "Quill"),
        ("Landing", "Quill"),
    ]
    landing = mill_race.demo_id("landing")
    assert uses[1]["scene_id"] == landing
    Scenes(database).set_deleted(landing, True)
    uses = api.client.get(f"/api/scenes/{demo}/things/{mill_race.QUILL}/uses").json["uses"]
    assert [use["scene_name"] for use in uses] == ["Crossing, cut"]
    Scenes(database).set_deleted(landing, False)
    unknown = api.client.get(f"/api/scenes/{demo}/things/{landing}/uses")
    assert (unknown.status_code, "not in the scene" in unknown.json["message"]) == (422, True)


def test_transitions_and_handles_are_handed_over(api: Api, demo: str) -> None:
    cut = mill_race.demo_id(f"{demo} cut")
    rig = gltf.read(api.client.get(f"/api/scenes/{cut}/exports/shot.glb").data)
    assert len(rig.cameras) == 5
    data = api.client.get(f"/api/scenes/{cut}/exports/shot.glb").data
    length = int.from_bytes(data[12:16], "little")
    shots = json.loads(data[20 : 20 + length])["scenes"][0]["extras"]["cut"]
    assert [shot.get("transition", {}).get("kind") for shot in shots] == [None, "dissolve", None, None, "blend"]
    assert shots[1]["transition"] == {"kind": "dissolve", "frames": 8, "before": 4, "ease": "even", "colour": "#000000"}
    notes = api.client.get(f"/api/scenes/{cut}/exports/notes").json["notes"]
    assert any(note.startswith("Transitions") for note in notes)
    listed = api.client.get(f"/api/scenes/{cut}/cut").json["shots"]
    assert {(shot["handle_before"], shot["handle_after"]) for shot in listed} == {(0, 0)}


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
