"""The command line against an evaluation of its own: SciPy for rotations, OpenCV for the projection."""

from __future__ import annotations

import csv
import io
import json
import subprocess
import sys
from pathlib import Path

import cv2
import numpy as np
import pytest

from eddyfield.cli.main import main
from tests.formats.builders import BVH, Gltf

CAMERA = ["--at", "-4,1.5,1", "--look", "0,1,2", "--focal", "50"]
ROOT = Path(__file__).resolve().parents[2]


def rows_of(words: list[str], capsys: pytest.CaptureFixture[str]) -> list[dict[str, str]]:
    assert main(["tracks", *words]) == 0
    return list(csv.DictReader(io.StringIO(capsys.readouterr().out)))


def reading_of(words: list[str], capsys: pytest.CaptureFixture[str]) -> dict[str, object]:
    assert main(["strobe", *words, "--json"]) == 0
    return json.loads(capsys.readouterr().out)


def test_tracks_of_the_files_own_camera(shot: str, capsys: pytest.CaptureFixture[str]) -> None:
    rows = rows_of([shot, "--camera", "Shot", "--fps", "12", "--start", "101", "--size", "640x480"], capsys)
    assert [r["frame"] for r in rows] == [str(f) for f in range(101, 114) for _ in range(2)]
    assert [r["joint"] for r in rows[:2]] == ["hips", "foot"]
    assert {r["x_px"] for r in rows} == {"320.000000"}, "the camera goes along"
    per_slope = 240 / np.tan(0.35)
    assert float(rows[1]["y_px"]) == pytest.approx(240 + per_slope / 5)
    assert rows[1]["depth_m"] == "5.000000000"
    assert rows_of([shot, "--camera", "Lens"], capsys)[0]["x_px"] == "960.000000", "by the camera's own name as well"


def test_tracks_of_a_camera_by_numbers_agree_with_opencv(oda: str, capsys: pytest.CaptureFixture[str]) -> None:
    words = [oda, *CAMERA, "--up", "0.1,1,0", "--back", "24x18", "--gate", "reach", "--first", "20", "--last", "23"]
    rows = rows_of([*words, "--joints", "hand_r,foot_l", "--size", "1998x1080"], capsys)
    assert len(rows) == 8
    world = np.array([[float(r[f"world_{a}_m"]) for a in "xyz"] for r in rows])
    at, look = np.array([-4, 1.5, 1.0]), np.array([0, 1, 2.0])
    back = (at - look) / np.linalg.norm(at - look)
    right = np.cross([0.1, 1, 0], back)
    right /= np.linalg.norm(right)
    to_cv = np.stack([right, -np.cross(back, right), -back])
    width = 18 * 1998 / 1080
    f = 50 / width * 1998
    matrix = np.array([[f, 0, 999], [0, f, 540], [0, 0, 1]])
    seen, _ = cv2.projectPoints(world, cv2.Rodrigues(to_cv)[0], -to_cv @ at, matrix, None)
    assert np.allclose([[float(r["x_px"]), float(r["y_px"])] for r in rows], seen[:, 0], atol=1e-4)
    assert np.allclose([float(r["depth_m"]) for r in rows], (world - at) @ -back, atol=1e-6)


def test_commas_in_names_twins_and_standard_output(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    g = Gltf()
    for name in ("hand, left", "hand", "hand"):
        g.node(name)
    g.animate(*((n, "translation", [0, 1], [[n, 0, 0]] * 2, "LINEAR") for n in range(3)))
    file = tmp_path / "names.gltf"
    file.write_bytes(g.text())
    rows = rows_of([str(file), "--at", "0,0,9", "--look", "0,0,0", "--focal", "35", "--joints", r"hand#2,hand\, left",
                    "--last", "1"], capsys)  # fmt: skip
    assert [(r["joint"], float(r["world_x_m"])) for r in rows] == [("hand#2", 2), ("hand, left", 0)]


def test_bvh_scale_and_notes(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "walk.bvh"
    file.write_text(BVH.replace("OFFSET 0 0 0\n  CHANNELS 6", "OFFSET 0 90 0\n  CHANNELS 6"))
    assert main(["tracks", str(file), *CAMERA, "--last", "1"]) == 0
    said = capsys.readouterr()
    assert "replace the OFFSET" in said.err
    row = next(csv.DictReader(io.StringIO(said.out)))
    assert float(row["world_y_m"]) == pytest.approx(0.9)
    rows = rows_of([str(file), *CAMERA, "--scale", "1", "--offsets", "add", "--last", "1"], capsys)
    assert float(rows[0]["world_y_m"]) == pytest.approx(180)


def test_strobe_follows_the_definitions(oda: str, capsys: pytest.CaptureFixture[str]) -> None:
    words = [
        oda,
        *CAMERA,
        "--start",
        "1001",
        "--step",
        "3",
        "--offset",
        "1",
        "--joints",
        "head,hand_r",
        "--last",
        "1024",
    ]
    still = reading_of(words, capsys)
    assert still["frames"] == list(range(1001, 1025))
    assert still["exposure_start"] == [max(1001, 1002 + 3 * ((f - 1002) // 3)) for f in range(1001, 1025)]
    assert still["slip_px"] == [0.0] * 24, "under a still camera a held pose stands still"
    assert (still["slip_rms_px"], still["slip_max_px"], still["reversals"]) == (0.0, 0.0, [])
    assert "contact_slide_m" not in still


def test_riding_the_files_camera(shot: str, capsys: pytest.CaptureFixture[str]) -> None:
    words = [shot, "--camera", "Shot", "--step", "2", "--contacts", "foot"]
    off = reading_of(words, capsys)
    per_frame = 540 / np.tan(0.35) / 5 / 24
    assert off["slip_px"] == pytest.approx([0, per_frame] * 12 + [0])
    assert off["slip_permille"] == pytest.approx([0, per_frame / 1.08] * 12 + [0])
    assert off["slip_rms_px"] == pytest.approx(per_frame)
    assert off["slip_max_frame"] is not None
    assert off["reversals"] == list(range(3, 26, 2))
    for way in ("rigid", "position", "picture"):
        ridden = reading_of([*words, "--ride", way], capsys)
        assert ridden["slip_rms_px"] == pytest.approx(0, abs=1e-9)
        assert ridden["reversals"] == []
    slide = ridden["contact_slide_m"]
    assert isinstance(slide, dict)
    assert slide["before"] == pytest.approx(1.0, abs=0.05), "this walker's foot is down, and slides, all the way"
    ones = reading_of([shot, "--camera", "Shot", "--step", "1"], capsys)
    assert (ones["slip_rms_px"], ones["slip_max_px"], ones["slip_max_frame"]) == (0.0, 0.0, None)


def test_what_cannot_be_seen_is_null(shot: str, capsys: pytest.CaptureFixture[str]) -> None:
    away = reading_of([shot, "--at", "0,1,5", "--look", "0,1,9", "--focal", "35", "--step", "2"], capsys)
    assert away["slip_px"] == [0.0, None] * 12 + [0.0]
    assert (away["slip_rms_px"], away["slip_max_frame"]) == (None, None)


def test_a_table_for_people(shot: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["strobe", shot, "--camera", "Shot", "--step", "2", "--contacts", "foot"]) == 0
    said = capsys.readouterr().out
    assert "slip rms" in said
    assert "feet slide" in said


@pytest.mark.parametrize(
    "words",
    [
        [],
        ["FILE"],
        ["FILE", "--camera", "Nobody"],
        ["FILE", "--camera", "Shot", "--focal", "35"],
        ["FILE", "--camera", "Shot", "--back", "36x24"],
        ["FILE", "--camera", "Shot", "--gate", "crop"],
        ["FILE", "--at", "0,0", "--look", "0,0,0", "--focal", "35"],
        ["FILE", "--at", "0,0,0", "--look", "0,0,0", "--focal", "35"],
        ["FILE", "--at", "0,0,0", "--look", "0,2,0", "--up", "0,1,0", "--focal", "35"],
        ["FILE", *CAMERA, "--focal", "-5"],
        ["FILE", *CAMERA, "--focal", "nan"],
        ["FILE", *CAMERA, "--size", "0x0"],
        ["FILE", *CAMERA, "--size", "1920"],
        ["FILE", *CAMERA, "--fps", "0"],
        ["FILE", *CAMERA, "--fps", "24/0"],
        ["FILE", *CAMERA, "--first", "9", "--last", "3"],
        ["FILE", *CAMERA, "--last", "999999999"],
        ["FILE", *CAMERA, "--joints", "hips,,foot"],
        ["FILE", *CAMERA, "--joints", "nobody"],
        ["FILE", *CAMERA, "--animation", "nothing"],
        ["FILE", *CAMERA, "--scale", "0"],
        ["FILE", *CAMERA, "--out", "/nowhere/at/all.csv"],
        ["FILE", *CAMERA, "--unknown"],
        ["FOLDER", *CAMERA],
        ["missing.glb", *CAMERA],
        ["model.xyz", *CAMERA],
        ["bad\0name.glb", *CAMERA],
    ],
)
def test_bad_usage_is_one_line_and_exit_2(
    words: list[str], shot: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    words = [{"FILE": shot, "FOLDER": str(tmp_path)}.get(w, w) for w in words]
    assert main(["tracks", *words]) == 2
    said = capsys.readouterr()
    assert said.out in ("",) or words[-2] == "--out"
    assert len(said.err.splitlines()) == 1
    assert said.err.startswith("eddyfield tracks: ")


@pytest.mark.parametrize(
    "words", [["--step", "0"], ["--step", "2.5"], [], ["--step", "2", "--anchor", "x", "--ride", "rigid"]]
)
def test_bad_stepping_is_refused(words: list[str], shot: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["strobe", shot, *CAMERA, *words]) == 2
    assert len(capsys.readouterr().err.splitlines()) == 1
    assert main(["juggle"]) == 2


def test_the_launcher_runs_a_command(shot: str) -> None:
    done = subprocess.run(
        [sys.executable, str(ROOT / "eddyfield"), "strobe", shot, "--at", "-3,1,5", "--look", "0,1,0", "--focal", "35",
         "--step", "2", "--json"], capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert len(json.loads(done.stdout)["frames"]) == 25
    helped = subprocess.run(
        [sys.executable, str(ROOT / "eddyfield"), "--help"], capture_output=True, text=True, check=True
    )
    assert "demo" in helped.stdout


def test_an_exposure_list_is_shown_as_it_is_written(oda: str, capsys: pytest.CaptureFixture[str]) -> None:
    found = reading_of([oda, *CAMERA, "--exposures", "1,3,4,8"], capsys)
    assert found["exposure_start"][:9] == [1, 1, 3, 4, 4, 4, 4, 8, 8]  # type: ignore[index]
    for words, why in (
        (["--exposures", "3,2"], "out of order"), (["--exposures", "1,x"], "no whole number"),
        (["--exposures", "1", "--step", "2"], "not allowed"),
        (["--step", "2", "--ride", "rigid", "--plant"], "No feet are named"),
    ):  # fmt: skip
        assert main(["strobe", oda, *CAMERA, *words]) == 2
        assert why in capsys.readouterr().err.replace("\n", " ")


def test_planted_feet_do_not_slide_and_legs_hardly_grow(oda: str, capsys: pytest.CaptureFixture[str]) -> None:
    words = [oda, "--at", "-4,1.5,1", "--look", "0,1,2", "--focal", "50", "--step", "2", "--contacts", "foot_l,foot_r"]
    still = reading_of([*words, "--ride", "rigid", "--plant"], capsys)
    assert still["slip_max_px"] == 0, "a camera that stands still carries nothing"
    assert still["legs"] == pytest.approx({"stretch": 0.0, "missed_m": 0.0}, abs=1e-9)
