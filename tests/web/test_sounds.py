"""Sounds over HTTP: sent, put beside the frames, heard, and searched for lines."""

from __future__ import annotations

import io
import uuid

from werkzeug.test import TestResponse

from eddyfield.demo import mill_sounds

from .conftest import ORIGIN, Api

SPOKEN = mill_sounds.voices()


def send(api: Api, data: bytes, name: str = "line.flac", count: int = 1) -> TestResponse:
    files = [(io.BytesIO(data), name) for _ in range(count)]
    return api.client.post("/api/sounds", data={"files": files}, headers=ORIGIN)


def brought(api: Api, demo: str) -> tuple[str, int]:
    """The id of a sound in the scene, and the scene's revision."""
    found = send(api, SPOKEN).json
    assert (found["file_name"], found["seconds"]) == ("line.flac", 4.0)
    sound_id = str(uuid.uuid4())
    revision = api.view(demo)["scene"]["revision"]
    edit = {"edit": "bring sound", "sound_id": sound_id, "name": "Line", "digest": found["digest"], "start": 1001}
    return sound_id, api.unpacked(api.edit(demo, revision, **edit))["scene"]["revision"]


def test_a_sound_stands_beside_the_frames_and_is_handed_out_as_it_came(api: Api, demo: str) -> None:
    brought(api, demo)
    whole = api.view(demo)
    (view,) = whole["scene"]["sounds"]
    assert (view["sound"]["name"], view["sound"]["start"], view["seconds"]) == ("Line", 1001, 4.0)
    peaks = whole["parts"][view["waveform"]]["peaks"]
    assert len(peaks) == 400
    assert peaks[:120].max() == 0, "silence before the call"
    assert peaks[135:150].max() > 20
    assert peaks.max() in (127, 128), "half of full scale"
    again = api.view(demo, known_parts=[view["waveform"]])
    assert view["waveform"] not in again["parts"]
    data = api.client.get(f"/api/sounds/{view['sound']['digest']}")
    assert (data.data, data.content_type) == (SPOKEN, "audio/flac")


def test_lines_are_found_with_a_threshold_and_a_least_silence(api: Api, demo: str) -> None:
    sound_id, _ = brought(api, demo)
    path = f"/api/scenes/{demo}/sounds/{sound_id}/lines"
    usual = api.client.get(path).json["marks"]
    assert [(m["frame"], m["kind"]) for m in usual] == [
        (1032, "line begins"), (1037, "line ends"), (1051, "line begins"), (1076, "line ends"),
    ]  # fmt: skip
    closer = api.client.get(f"{path}?silence_s=0.03").json["marks"]
    assert len(closer) == 8, "every syllable by itself"
    assert api.client.get(f"{path}?threshold_db=-1").json["marks"] == []
    refused = api.client.get(f"{path}?threshold_db=12")
    assert refused.status_code == 422
    assert "no threshold" in refused.json["message"]
    assert api.client.get(f"/api/scenes/{demo}/sounds/{uuid.uuid4()}/lines").status_code == 422


def test_what_is_no_sound_changes_nothing(api: Api, demo: str) -> None:
    assert "no sound" in send(api, b"nothing").json["message"]
    assert "One sound" in send(api, SPOKEN, count=2).json["message"]
    before = api.view(demo)["scene"]
    edit = {"edit": "bring sound", "sound_id": str(uuid.uuid4()), "name": "Gone", "start": 1001}
    for digest in ("0" * 64, "../../etc/passwd", ""):
        refused = api.edit(demo, before["revision"], digest=digest, **edit)
        assert refused.status_code == 422
        assert "not there any more" in refused.json["message"]
        assert api.client.get(f"/api/sounds/{digest or 'x'}").status_code in (404, 422)
    rig = before["characters"][0]["source"]["digest"]
    assert api.edit(demo, before["revision"], digest=rig, **edit).status_code == 422, "a rig is no sound"
    assert api.client.get(f"/api/sounds/{rig}").status_code == 422
    assert api.view(demo)["scene"]["revision"] == before["revision"]
    assert api.client.post("/api/sounds", data={}, headers={"Origin": "http://elsewhere"}).status_code == 403
