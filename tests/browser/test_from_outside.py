"""What exporters and scripts bring in while a window is open: it is shown by itself, with what became better and worse."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from pathlib import Path

import pytest

from eddyfield.demo import mill_race, oda_crossing
from eddyfield.formats.stand_in import StandIn, write

from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser
ROOT = Path(__file__).resolve().parents[2]


def command(var: Path, *words: str) -> subprocess.Popen[str]:
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "EDDYFIELD_VAR": str(var), "PYTHONUNBUFFERED": "1"}
    return subprocess.Popen(
        [sys.executable, "-m", "eddyfield", *words], env=environment, text=True,
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
    )  # fmt: skip


def said(var: Path, *words: str) -> tuple[int, str]:
    done = command(var, *words)
    return done.wait(60), done.stdout.read() if done.stdout else ""


def test_files_are_brought_in_and_what_cannot_be_is_said_in_one_line(app: App, var: Path, tmp_path: Path) -> None:
    crate = tmp_path / "crate.standin"
    crate.write_bytes(write(StandIn("box", 3.0, 3.0, 3.0)))
    before, start = app.picture(), app.revision
    status, told = said(var, "bring", str(crate), "--scene", "Crossing", "--as", "set", "--name", "Shed")
    assert (status, told) == (0, "Shed is in “Crossing”, a set piece: 0 joints, 12 triangles\n")
    app.wait(lambda: app.revision == start + 1, "the window following")
    app.wait(lambda: differs(app.picture(), before) > 0.01, "the shed in the picture")
    app.wait(lambda: "Shed" in app.text("[aria-label='What is in the scene']"), "the shed on the Card")
    crate.write_bytes(write(StandIn("ball")))
    status, told = said(var, "bring", str(crate), "--scene", "Crossing", "--next", "--name", "shed")
    assert (status, told.split("\n")[0]) == (0, "Shed is what crate.standin holds: 2 gone")
    assert "gone  body hidden  Oda" in told, "a ball hides less of her than a shed of three metres"
    for words, why in (
        (("--scene", "Crosing"), "There is no scene “Crosing”. Scenes are “"),
        (("--scene", "Crossing", "--next", "--name", "Bo"), "Nothing in “Crossing” is called “Bo”."),
        (("--scene", "Crossing", "--as", "character"), "no joints"),
    ):
        status, told = said(var, "bring", str(crate), *words)
        assert status == 2, told
        assert why in told
        assert told.count("\n") == 1
    status, told = said(tmp_path, "bring", str(crate), "--scene", "Crossing")
    assert (status, "does not run here" in told) == (2, True)


def test_the_shots_of_a_scene_are_listed(app: App, var: Path) -> None:
    start = app.revision
    app.go_to(1049)
    app.keys("2", "c")
    app.saved(start + 1)
    status, told = said(var, "cut", "Crossing")
    assert status == 0
    assert [line.split() for line in told.splitlines()][1:] == [
        ["010", "Bank", "rail", "35", "1001", "1048", "48", "2.00", "cut", "open"],
        ["020", "Face", "Oda", "85", "1049", "1096", "48", "2.00", "cut", "open"],
    ]
    (_, face) = json.loads(said(var, "cut", "Crossing", "--json")[1])
    assert {name: face[name] for name in ("name", "camera", "first", "last", "seconds", "transition")} == {
        "name": "020", "camera": "Face Oda 85", "first": 1049, "last": 1096, "seconds": 2.0, "transition": "cut",
    }  # fmt: skip
    assert "There is no scene “Elsewhere”" in said(var, "cut", "Elsewhere")[1]


def test_an_exporters_next_version_is_shown_by_itself_with_what_it_changes(
    app: App, var: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    app.choose_joint("lantern")
    app.wait(lambda: "off the arc" in app.text(".readings"), "the kink")
    watching = command(var, "watch", str(tmp_path), "--scene", "Crossing")
    try:
        assert watching.stdout is not None
        assert "waiting for" in watching.stdout.readline()
        time.sleep(0.5)  # until the folder is watched
        monkeypatch.setattr(oda_crossing, "KINK_M", 0.0)
        data = mill_race.oda_glb.__wrapped__()
        with (tmp_path / "oda.glb").open("wb") as file:
            file.write(data[: len(data) // 2])
            file.flush()
            time.sleep(0.1)  # an exporter that takes its time
            file.write(data[len(data) // 2 :])
        assert watching.stdout.readline() == "Oda is what oda.glb holds: 1 gone\n"
        app.wait(lambda: "off the arc" not in app.text(".readings"), "the kink gone")
        app.wait(lambda: "watch: next version of a performance. Oda: 1 gone" in app.text(".header"), "what it changed")
        (tmp_path / "oda.glb").write_bytes(b"glTF but not really")
        assert watching.stdout.readline().startswith("  gone  off the arc  thumb_2_r")
        assert watching.stdout.readline().startswith("oda.glb: “oda.glb” cannot be brought in.")
    finally:
        watching.terminate()
        watching.wait(10)
