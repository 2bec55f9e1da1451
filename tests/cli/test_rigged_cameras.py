"""Cameras of the command line that are aimed, hold a framing, and are read."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import numpy as np
import pytest

from eddyfield.cli.main import main
from eddyfield.demo import mill_race
from tests.formats.builders import walker

CAMERA = ["--at", "-4,1.5,1", "--look", "0,1,2", "--focal", "50"]


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("files")
    (folder / "oda.glb").write_bytes(mill_race.oda_glb())
    (folder / "mill.glb").write_bytes(mill_race.set_glb())
    (folder / "walker.glb").write_bytes(walker().glb())
    return folder


def places(words: list[str], capsys: pytest.CaptureFixture[str]) -> np.ndarray:
    """x and y of the one joint that was asked for, (frames, 2) px."""
    assert main(["tracks", *words]) == 0
    rows = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
    return np.array([[float(r["x_px"]), float(r["y_px"])] for r in rows])


def readings(words: list[str], capsys: pytest.CaptureFixture[str]) -> list[dict[str, object]]:
    assert main(["framing", *words, "--json"]) == 0
    found: list[dict[str, object]] = json.loads(capsys.readouterr().out)
    return found


def test_a_joint_is_aimed_at_and_held(files: Path, capsys: pytest.CaptureFixture[str]) -> None:
    oda = str(files / "oda.glb")
    aimed = places([oda, *CAMERA, "--aim", "chest", "--joints", "chest"], capsys)
    assert np.allclose(aimed, [960, 540], atol=1e-3)
    held = places([oda, *CAMERA, "--hold", "head", "--place", "0.4,0.3", "--joints", "head", "--first", "20"], capsys)
    assert np.allclose(held, [768, 324], atol=1e-3)
    own = places([str(files / "walker.glb"), "--camera", "Shot", "--hold", "foot", "--joints", "foot"], capsys)
    assert np.allclose(own, [960, 540], atol=1e-3), "a camera of the file as well"


def test_lens_options(files: Path, capsys: pytest.CaptureFixture[str]) -> None:
    oda = [str(files / "oda.glb"), *CAMERA, "--joints", "head", "--last", "5"]
    plain = places(oda, capsys)
    shifted = places([*oda, "--shift", "0.1,-0.2"], capsys)
    assert np.allclose(shifted - plain, [192, 216], atol=1e-5)
    squeezed = places([*oda, "--squeeze", "2", "--gate", "width"], capsys)
    wide = places([*oda, "--gate", "width"], capsys)
    assert np.allclose(squeezed - [960, 540], (wide - [960, 540]) / 2, atol=1e-5), "72 mm of back instead of 36"
    narrow = places([*oda, "--pixel-aspect", "2", "--gate", "width"], capsys)
    assert np.allclose(narrow - [960, 540], (wide - [960, 540]) * [1, 2], atol=1e-5)


def test_framing_readings(files: Path, capsys: pytest.CaptureFixture[str]) -> None:
    words = [str(files / "oda.glb"), *CAMERA, "--start", "1001", "--feet", "foot_l,foot_r"]
    found = readings(words, capsys)
    comes = next(r for r in found if r["kind"] == "entrance")
    assert (comes["subject"], comes["unit"]) == ("oda", "frames")
    assert 1001 <= int(str(comes["first"])) < 1012
    head = places([*words[:-2], "--joints", "head"], capsys)
    assert (head[:10, 0] > 1920).all() or (head[:10, 0] < 0).all(), "she comes in from the side"
    assert not [
        r for r in readings([*words, "--hold", "head", "--place", "0.5,0.3"], capsys) if "head" in str(r["kind"])
    ]
    crowded = readings([*words, "--hold", "head", "--place", "0.5,0.3", "--headroom", "0.4,0.9"], capsys)
    assert "little_headroom" in {r["kind"] for r in crowded}
    assert main(["framing", *words]) == 0
    assert "entrance: oda" in capsys.readouterr().out
    lost = readings([*words, "--hold", "hips", "--place", "0.5,0.2"], capsys)
    assert "head_out_of_frame" in {r["kind"] for r in lost}


def test_a_size_is_held_or_said_to_be_out_of_reach_and_a_set_hides(
    files: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    oda = str(files / "oda.glb")
    assert "size_cannot_be_held" not in {r["kind"] for r in readings([oda, *CAMERA, "--hold-body", "0.8"], capsys)}
    tiny = readings([oda, *CAMERA, "--hold-body", "0.01", "--by", "zoom"], capsys)
    assert "size_cannot_be_held" in {r["kind"] for r in tiny}
    behind = [oda, "--at", "9.5,1.6,6", "--look", "0,1,2", "--focal", "35", "--aim", "hips"]
    assert not [r for r in readings(behind, capsys) if "hidden" in str(r["kind"])]
    hidden = readings([*behind, "--set", str(files / "mill.glb")], capsys)
    assert {"head_hidden", "body_hidden"} <= {r["kind"] for r in hidden}


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (["--hold", "nobody"], "There is no joint “nobody”"),
        (["--aim", "nobody"], "There is no joint “nobody”"),
        (["--feet", "nobody"], "There is no joint “nobody”"),
        (["--hold", "head", "--hold-body", "0.5"], "do not go together"),
        (["--place", "0.4,0.4"], "Give --hold"),
        (["--place", "0.4"], "two numbers"),
        (["--shift", "9,0"], "shift"),
        (["--near", "-1"], "above 0"),
        (["--headroom", "0.5,0.2"], "headroom"),
        (["--set", "walk.bvh"], "no surfaces"),
        (["--camera", "Shot", "--shift", "0,0"], "does not go with --camera"),
    ],
)
def test_what_does_not_fit_is_told_in_one_line(
    files: Path, capsys: pytest.CaptureFixture[str], words: list[str], says: str
) -> None:
    own = [] if "--camera" in words else CAMERA
    assert main(["framing", str(files / "oda.glb"), *own, *words]) == 2
    told = capsys.readouterr()
    assert says in told.err
    assert told.err.count("\n") == 1
    assert not told.out
