"""BVH in its many spellings, and CSV out."""

from __future__ import annotations

import csv
import io

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

from eddyfield.core.optics.lens import DeliveryFrame, Lens, project
from eddyfield.core.rig.rig import Rig
from eddyfield.core.time.frames import Rate, last_frame_of, seconds_at
from eddyfield.formats import bvh
from eddyfield.formats.csv_tables import TRACK_COLUMNS, table, track_rows
from eddyfield.formats.errors import FileError

from .builders import BVH


def place(rig: Rig, name: str, time: float) -> np.ndarray:
    return rig.world_positions(np.array([time]), np.array([rig.find(name)]))[0, 0]


def test_names_scale_order_of_rotations_and_samples_between() -> None:
    rig = bvh.read(BVH.encode())
    assert rig.joint_names == ("Hips", "Left Up Leg")
    assert np.allclose(place(rig, "Left Up Leg", 0), [0.1, 0.85, 0])
    second = 0.0416667
    assert np.allclose(place(rig, "Left Up Leg", second), [0, 0.85, 0.05 - 0.1], atol=1e-6)
    half = place(rig, "Hips", 1.5 * second)
    assert np.allclose(half, [0, 0.9, 0.075])
    between = rig.world_matrices(np.array([1.5 * second]), np.array([0]))[0, 0, :3, :3] / 0.01
    # From 90 to 370 degrees: a slerp takes the short way, over 50.
    assert np.allclose(between, Rotation.from_euler("y", 50, degrees=True).as_matrix(), atol=1e-5)
    assert bvh.read(BVH.encode(), scale=1.0).scale == 1.0


def test_euler_angles_apply_in_the_order_of_their_channels() -> None:
    text = BVH.replace("Zrotation Xrotation Yrotation\n  JOINT", "Yrotation Zrotation Xrotation\n  JOINT")
    text = text.replace("0 90 0 0 0 0 0 0 0", "0 90 0 30 40 50 0 0 0")
    turned = bvh.read(text.encode()).world_matrices(np.array([0.0]), np.array([0]))[0, 0, :3, :3] / 0.01
    assert np.allclose(turned, Rotation.from_euler("YZX", [30, 40, 50], degrees=True).as_matrix())


@pytest.mark.parametrize(
    "spelled",
    [
        BVH.replace("\n", "\r\n"),
        BVH.replace("  ", "\t"),
        BVH.replace("ROOT Hips\n{", "ROOT Hips {"),
        BVH.replace("0 90 5 0 0 90 10 0 0", "0 90 5\n0 0 90 10\n0 0"),
        "\ufeff" + BVH,
        BVH.replace("Xposition", "XPOSITION").replace("Frames: 3", "Frames:\t3"),
        BVH.replace("Frame Time: 0.0416667", "Frame  Time:0.0416667"),
    ],
)
def test_spellings(spelled: str) -> None:
    rig, plain = bvh.read(spelled.encode()), bvh.read(BVH.encode())
    seconds = np.linspace(0, 0.1, 7)
    assert rig.joint_names == plain.joint_names
    assert np.allclose(rig.world_matrices(seconds), plain.world_matrices(seconds))


def test_more_or_fewer_rows_than_declared_are_said() -> None:
    more = bvh.read(BVH.replace("Frames: 3", "Frames: 2").encode())
    fewer = bvh.read((BVH.replace("Frames: 3", "Frames: 9") + "1 2 3\n").encode())
    assert any("holds 3" in note for note in more.notes)
    assert any("3 of 9 numbers" in note for note in fewer.notes)
    assert fewer.motion.duration_seconds == pytest.approx(2 / 24)


def test_a_file_of_300_rows_at_a_rounded_thirtieth_has_300_frames() -> None:
    rows = "".join(f"{i} 90 0 0 0 0 0 0 0\n" for i in range(300))
    text = BVH[: BVH.index("Frames: 3")] + f"Frames: 300\nFrame Time: 0.0333333\n{rows}"
    rig = bvh.read(text.encode())
    assert last_frame_of(rig.motion.duration_seconds, 1, Rate.parse("30")) == 300
    seconds = seconds_at(np.arange(300), 0, Rate.parse("30"))
    assert np.allclose(rig.world_positions(seconds, np.array([0]))[:, 0, 0], 0.01 * np.arange(300), atol=1e-12)


def test_several_roots_and_positions_on_any_joint() -> None:
    second = "ROOT Prop\n{\nOFFSET 1 2 3\nCHANNELS 1 Xposition\n}\n"
    text = BVH.replace("MOTION", second + "MOTION")
    for row in ("0 90 0 0 0 0 0 0 0", "0 90 5 0 0 90 10 0 0", "0 90 10 0 0 370 20 0 0"):
        text = text.replace(row, row + " 7")
    rig = bvh.read(text.encode(), offsets="replace")
    assert np.allclose(place(rig, "Prop", 0), [0.07, 0.02, 0.03]), "only the axes that have a channel are replaced"
    assert np.allclose(place(bvh.read(text.encode(), offsets="add"), "Prop", 0), [0.08, 0.02, 0.03])


def test_offsets_are_decided_by_evidence_and_said() -> None:
    raised = BVH.replace("OFFSET 0 0 0\n  CHANNELS 6", "OFFSET 0 90 0\n  CHANNELS 6")
    replaces = bvh.read(raised.encode())
    assert np.allclose(place(replaces, "Hips", 0), [0, 0.9, 0]), "added, the feet would hang in the air"
    assert "replace the OFFSET" in replaces.notes[0]
    low = raised.replace("0 90 0 0", "0 0 0 0").replace("0 90 5 0", "0 0 5 0").replace("0 90 10 0", "0 0 10 0")
    adds = bvh.read(low.encode())
    assert np.allclose(place(adds, "Hips", 0), [0, 0.9, 0])
    assert "add to the OFFSET" in adds.notes[0]
    assert np.allclose(place(bvh.read(raised.encode(), offsets="add"), "Hips", 0), [0, 1.8, 0])


def test_a_channel_that_is_not_known_is_named() -> None:
    with pytest.raises(FileError, match="Wrotation"):
        bvh.read(
            BVH.replace("Zrotation Xrotation Yrotation\n    End", "Wrotation Xrotation Yrotation\n    End").encode()
        )


def test_csv_rows_quote_names_and_leave_out_what_is_behind() -> None:
    world = np.array([[[0, 0, -2.0], [1, 0, 3.0]]])
    frame = DeliveryFrame(100, 100)
    text = TRACK_COLUMNS + "\n" + track_rows(np.array([7]), ['a,"%b', "c"], world, project(world, Lens(), frame), frame)
    first, second = csv.DictReader(io.StringIO(text))
    assert (first["joint"], first["x_px"], first["in_front"], first["in_frame"]) == ('a,"%b', "50.000000", "1", "1")
    assert (second["x_px"], second["y_px"], second["in_front"], second["depth_m"]) == ("", "", "0", "-3.000000000")
    assert table({"a": [1, 2], "b": np.array([0.5, np.nan])}) == "a,b\n1,0.500000\n2,\n"
