"""``check``: all readings of all scenes of the store, with a report."""

from __future__ import annotations

import base64
import io
import json
import re
import uuid
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from eddyfield.cli.main import main
from eddyfield.core.acceptance import Acceptance
from eddyfield.core.edits.accepting import AcceptReading
from eddyfield.demo.load import load_demo
from eddyfield.formats.frame_pictures import draw_frame
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes
from eddyfield.store.server import DatabaseServer
from tests.core.scenery import SCENE, baker


@pytest.fixture
def scene_id(database: Database, database_server: DatabaseServer, monkeypatch: pytest.MonkeyPatch) -> str:
    monkeypatch.setenv("EDDYFIELD_DATABASE_URL", database_server.start().url)
    return load_demo(database)


def test_a_scene_is_read_with_a_page_of_pictures(
    scene_id: str, database: Database, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    page = tmp_path / "report.html"
    assert main(["check", scene_id, "--json", "--report", str(page)]) == 1, "something is told"
    told = capsys.readouterr()
    readings = json.loads(told.out)
    assert "1 of 1 scenes" in told.err
    kink = next(r for r in readings if r["kind"] == "off_arc")
    assert (kink["owner"], kink["frame"], kink["cause"]) == ("Oda", 1043, "subject")
    html = page.read_text()
    pictures = re.findall(r'<img src="data:image/png;base64,([^"]+)" alt="Frame (\d+)">', html)
    assert len(pictures) == len(readings)
    assert not re.search(r'(src|href)="(?!data:)', html), "it needs nothing beside itself"
    at = [frame for _, frame in pictures].index("1043")
    picture = np.asarray(Image.open(io.BytesIO(base64.b64decode(pictures[at][0]))).convert("RGB"))
    assert picture.shape == (270, 480, 3)
    assert len(np.unique(picture.reshape(-1, 3), axis=0)) > 100, "with the scene in it"


def test_what_may_stand_is_counted_and_told_no_more(
    scene_id: str, database: Database, capsys: pytest.CaptureFixture[str]
) -> None:
    scenes = Scenes(database)
    main(["check", scene_id, "--json"])
    kink = next(r for r in json.loads(capsys.readouterr().out) if r["kind"] == "off_arc")
    standing = scenes.get(scene_id)
    oda = next(c for c in standing.scene.characters if c.name == "Oda")
    accepted = Acceptance("off_arc", oda.id, "", kink["joint"], 1043, 1043, kink["size"], "she trips")
    stored = scenes.apply(
        scene_id, standing.revision, "accept reading", AcceptReading(accepted=accepted).apply, "test", str(uuid.uuid4())
    )
    assert main(["check", scene_id]) == 1
    said = capsys.readouterr().out
    assert "off the arc" not in said
    assert "1 may stand" in said
    scenes.undo(scene_id, stored.revision)


def test_an_unknown_scene_is_named(scene_id: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["check", "nowhere"]) == 2
    assert "There is no scene “nowhere”" in capsys.readouterr().err


def test_a_picture_shows_who_is_where_the_camera_sees_them() -> None:
    work = baker()
    with_her = np.asarray(Image.open(io.BytesIO(draw_frame(work, 1043, 240))).convert("RGB")).astype(int)
    later = np.asarray(Image.open(io.BytesIO(draw_frame(work, 1080, 240))).convert("RGB")).astype(int)
    x, y = work.cut_path().project(work.joint_positions(SCENE.characters[0])).pixels[42].mean(axis=0) / 8
    around = np.s_[int(y) - 8 : int(y) + 8, int(x) - 5 : int(x) + 5]
    assert np.abs(with_her[around] - later[around]).mean() > 10, "she is there, and has gone on"
