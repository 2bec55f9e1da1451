"""What leaves a scene over the wire: tables, the shot, and its cut."""

from __future__ import annotations

import csv
import io
import json

import numpy as np
import pytest

from eddyfield.core.rig import transforms
from eddyfield.demo import mill_race
from eddyfield.formats import gltf
from eddyfield.store.blobs import Blobs
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes
from eddyfield.web.rigs import PartMemory, Rigs
from eddyfield.web.scene_views import SceneViews
from eddyfield.web.sounds import Sounds

from .conftest import Api


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
