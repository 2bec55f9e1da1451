"""Stand-ins: as large as they are asked for, closed, facing outwards, and refused when their words are none."""

import numpy as np
import pytest

from eddyfield.core.cameras.face import measure_face
from eddyfield.core.rig.source import RigSource
from eddyfield.formats.errors import FileError
from eddyfield.formats.stand_in import SHAPES, SOLIDS, Shape, StandIn, write
from eddyfield.formats.table import read_rig

SOURCE = RigSource("0" * 64, "stand-in")


@pytest.mark.parametrize("shape", sorted(SOLIDS))
def test_solids_are_closed_and_as_large_as_asked_for(shape: Shape) -> None:
    rig = read_rig(write(StandIn(shape, 2.0, 3.0, 0.5)), SOURCE)
    assert rig.mesh is not None
    corners = rig.mesh.positions[rig.mesh.triangles].astype(np.float64)
    assert np.allclose(corners.min(axis=(0, 1)), [-1, 0, -0.25], atol=0.02)
    assert np.allclose(corners.max(axis=(0, 1)), [1, 3, 0.25], atol=0.02)
    # By the divergence theorem: what faces outwards everywhere and has no hole has its own volume.
    volume = np.einsum("ti,ti->t", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum() / 6
    count = round(3.0 / 0.17)
    wanted = {"box": 3.0, "wall": 3.0, "slope": 1.5, "steps": 3.0 * (count + 1) / (2 * count), "ball": np.pi / 6 * 3.0}[
        shape
    ]
    assert volume == pytest.approx(wanted, rel=0.03 if shape == "ball" else 1e-5)
    area = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]).sum(axis=0)
    assert np.allclose(area, 0, atol=1e-4), "closed"


@pytest.mark.parametrize(("shape", "tall"), [("standing figure", 1.8), ("seated figure", 1.37)])
def test_figures_have_joints_and_a_face_to_frame(shape: Shape, tall: float) -> None:
    rig = read_rig(write(StandIn(shape, height_m=1.8)), SOURCE)
    assert rig.mesh is not None
    assert {"hips", "head", "hand_l", "foot_r"} <= set(rig.joint_names)
    places = rig.world_positions(np.zeros(1), np.arange(len(rig.names)))[0]
    assert float(np.ptp(places[:, 1])) == pytest.approx(tall, abs=0.08)
    assert places[:, 1].min() >= -0.02
    assert measure_face(rig).joint == "head"
    assert set(SOLIDS) | {shape} <= set(SHAPES)


@pytest.mark.parametrize(
    "words",
    [b"", b"{", b'{"version":2,"stand_in":{"shape":"box"}}', b'{"stand_in":{"shape":"tower"}}',
     b'{"stand_in":{"shape":"box","width_m":1e9}}', b'{"stand_in":{"shape":"box","width_m":NaN}}'],
)  # fmt: skip
def test_words_that_are_none_are_refused(words: bytes) -> None:
    with pytest.raises(FileError):
        read_rig(words, SOURCE)
