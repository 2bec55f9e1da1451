"""The next version of what is in a scene, another one beside it, and where else it is used."""

from __future__ import annotations

import io

import numpy as np
import pytest

from eddyfield.demo import mill_race, oda_crossing
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes
from tests.formats.builders import BVH

from .conftest import ORIGIN, Api


def worse_oda(monkeypatch: pytest.MonkeyPatch) -> bytes:
    monkeypatch.setattr(oda_crossing, "KINK_M", 0.06)
    return mill_race.oda_glb.__wrapped__()


def test_a_next_version_is_judged_before_it_is_brought_in(api: Api, demo: str, monkeypatch: pytest.MonkeyPatch) -> None:
    found = api.bring_in((worse_oda(monkeypatch), "oda_v2.glb")).json
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


def test_what_is_no_next_version_is_said(api: Api, demo: str) -> None:
    oda = api.view(demo)["scene"]["characters"][0]["id"]
    walk = api.bring_in((BVH.encode(), "walk.bvh")).json
    asked = {"digest": walk["digest"], "format": walk["format"]}
    assert api.post(f"/api/scenes/{demo}/next-version", asked).json == {
        "thing_id": None, "changes": [], "edit": None,
        "joints_added": [], "joints_lost": [], "last_before": 0, "last_after": 0,
        "renamed": [], "goes_by_lost": [], "stands_in": "",
    }  # fmt: skip
    forced = api.post(f"/api/scenes/{demo}/next-version", asked | {"thing_id": oda})
    assert {"Face Oda 85", "Crane up 28"} <= {who for who, _ in forced.json["goes_by_lost"]}
    assert forced.json["stands_in"] == "Hips"
    same = api.bring_in((mill_race.oda_glb(), "oda.glb")).json
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
    second = api.bring_in((mill_race.oda_glb(second=True), "oda-crossing-2.glb")).json
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
