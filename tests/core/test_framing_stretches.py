"""Framing readings by spans and stretches: on the demo's own characters, with cameras that are put for the purpose."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from eddyfield.core import edits
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_channels import camera_channels
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.mounts import Free
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.cut.cut import Cut
from eddyfield.core.optics.sight_lines import behind_ellipsoids
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.timing import Timing
from eddyfield.core.readings.body_marks import body_marks
from eddyfield.core.readings.camera_readings import camera_readings
from eddyfield.core.readings.crossings import crossings
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.size_drift import unasked_growth
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameTime
from eddyfield.core.time.keys import Key
from eddyfield.core.time.stretches import mostly, stretches, was_before
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ODA = SCENE.character(mill_race.ODA)
ALONE = replace(SCENE, characters=(ODA,), pieces=())
HEAD = Subject("joint", ODA.id, "head")


def channel(*keys: tuple[int, float]) -> Channel:
    return (
        Channel(keys[0][1], tuple(Key(FrameTime(t), v, "linear") for t, v in keys))
        if len(keys) > 1
        else Channel(keys[0][1])
    )


def watching(scene: Scene = ALONE, framing: Framing | None = None, **channels: Channel) -> tuple[Scene, Camera]:
    """The bank camera freed and put elsewhere: it stands to Oda's left, level, and sees all of her way."""
    plain = camera_channels(x=Channel(-9.0), y=Channel(1.0), z=Channel(1.7), pan=Channel(90.0), focal_mm=Channel(50.0))
    camera = replace(
        scene.camera(mill_race.BANK), mount=Free(), aim=None, focus=None, framing=framing, unkeyed=(), locks=(),
        channels=plain.having(**channels),
    )  # fmt: skip
    return scene.with_camera(camera), camera


def kinds(scene: Scene, camera: Camera) -> dict[str, Reading]:
    return {r.kind: r for r in camera_readings(baker(scene), camera)}


# --- stretches ---


def test_stretches_bridge_gaps_and_leave_out_what_is_short() -> None:
    mask = np.zeros(40, dtype=bool)
    mask[[2, 3, 7, 8, 20, 21, 22, 30, 31, 32, 33, 34, 35, 39]] = True
    assert stretches(mask, [(0, 39)]) == [(2, 8), (30, 39)], "gaps of three are bridged; three rows alone are too few"
    assert stretches(mask, [(0, 21), (22, 33)]) == [(2, 8), (20, 21), (30, 33)], "to the span's end a few are enough"
    assert was_before(~mask, 20, 9)
    assert not was_before(mask, 20, 9)


def test_mostly_is_eight_of_any_twelve() -> None:
    mask = np.zeros(40, dtype=bool)
    mask[[5, 6, 7, 9, 10, 12, 13, 16]] = True
    assert mostly(mask, [(0, 39)]) == [(5, 16)]
    mask[7] = False
    assert mostly(mask, [(0, 39)]) == []


# --- what leaves the frame ---


def test_a_head_that_is_lost_half_way_and_stays_lost_is_told() -> None:
    scene, camera = watching(tilt=channel((1001, 0.0), (1030, 0.0), (1060, -14.0), (1096, -14.0)))
    found = kinds(scene, camera)["head_out_of_frame"]
    assert 1030 < found.first < 1060
    assert found.last == 1096
    assert not [k for k in kinds(*watching()) if k.startswith("head out")]


def test_a_head_lost_within_one_shot_of_a_cut_is_told() -> None:
    scene, camera = watching(tilt=channel((1001, 0.0), (1030, 0.0), (1040, -14.0), (1050, -14.0), (1060, 0.0)))
    other = next(c for c in scene.cameras if c.id != camera.id)
    cut = Cut.of((1001, other.id), (1034, camera.id), (1046, other.id))
    scene = replace(scene, cut=cut)
    found = kinds(scene, camera)["head_out_of_frame"]
    assert (found.first >= 1034, found.last) == (True, 1045)
    outside = replace(scene, cut=Cut.of((1001, camera.id), (1028, other.id)))
    assert "head_out_of_frame" not in kinds(outside, camera), "the cut does not show it"


def test_soles_below_the_frame_are_told_though_the_ankles_are_in_it() -> None:
    marks = body_marks(baker(), ODA)
    level, camera = watching()
    path = baker(level).camera_path(camera)
    soles = path.project(marks.soles).pixels[..., 1].max()
    ankles = (
        path.project(np.stack([baker().joint_frames(ODA.id, f, "motion")[:, :3, 3] for f in ODA.feet], axis=1))
        .pixels[..., 1]
        .max()
    )
    assert soles > ankles + 5, "the soles are below the ankles"
    # Tilt so that the frame's edge runs between the two.
    up = np.degrees(np.arctan((1080 - (soles + ankles) / 2) / (50 / 20.25 * 1080)))
    scene, camera = watching(tilt=Channel(float(up)))
    found = kinds(scene, camera)
    assert 0 < found["feet_out_of_frame"].size < soles - ankles


def test_walking_in_and_out_is_an_entrance_and_an_exit_and_no_fault() -> None:
    scene, camera = watching(x=Channel(-3.0))
    found = kinds(scene, camera)
    assert {"entrance", "exit"} <= set(found)
    assert found["entrance"].remark
    assert found["exit"].remark
    assert not [k for k in found if k.startswith(("head out", "feet out"))]
    # The same loss, when the camera does it and she stands: a fault.
    still = replace(ODA, performance=replace(ODA.performance, timing=Timing(1001 - 5000)))
    stands = replace(ALONE, characters=(still,))
    place = baker(stands).joint_positions(still)[0].mean(axis=0)
    scene, camera = watching(
        stands, z=Channel(float(place[2])), pan=channel((1001, 90.0), (1030, 90.0), (1060, 30.0), (1096, 30.0))
    )
    found = kinds(scene, camera)
    assert "exit" not in found
    assert "head_out_of_frame" in found


def test_crossings_need_the_bodys_own_travel() -> None:
    scene, camera = watching(x=Channel(-3.0))
    path, points = baker(scene).camera_path(camera), baker(scene).joint_positions(ODA)
    pixels = path.project(points).pixels
    inside = ((pixels >= 0) & (pixels < [1920, 1080])).all(axis=-1)
    found = crossings(path, points, inside, [(0, 95)], 12)
    assert [c.way for c in found] == ["entrance", "exit"]
    assert inside[found[0].last : found[1].first + 1].mean() > 0.8


# --- size ---


def test_a_nodding_head_and_a_keyed_push_in_are_no_drift() -> None:
    face = kinds(*watching(framing=Framing((HEAD,), 0.5, 0.3)))
    assert "size_drifts" not in face
    pushed = watching(framing=Framing((HEAD,), 0.5, 0.3), x=channel((1001, -9.0), (1096, -4.0)))
    assert "size_drifts" not in kinds(*pushed), "the distance is keyed"
    zoomed = watching(framing=Framing((HEAD,), 0.5, 0.3), focal_mm=channel((1001, 35.0), (1096, 85.0)))
    assert "size_drifts" not in kinds(*zoomed), "the lens is keyed"
    ahead = watching(framing=Framing((HEAD,), 0.5, 0.3), x=Channel(0.0), z=Channel(8.0), pan=Channel(0.0))
    found = kinds(*ahead)["size_drifts"]
    assert found.size > 0.5, "she walks towards a camera that stands"


@pytest.mark.parametrize("given", ["move", "lens"])
def test_a_dolly_zoom_that_keeps_the_size_is_no_drift(given: str) -> None:
    """Its keys ask for just what is not seen; an off-centre lock turns the camera with it."""
    framing = Framing((Subject("joint", SCENE.characters[0].id, "head"),), 0.25, 0.35)
    keys = (
        {"z": channel((1001, 6.0), (1090, 3.5))}
        if given == "move"
        else {"focal_mm": channel((1001, 35.0), (1090, 60.0))}
    )
    scene, camera = watching(SCENE, framing, **keys)
    wanted = edits.DollyZoom(Subject("body", SCENE.characters[0].id), 1001, 1096, given)  # type: ignore[arg-type]
    solved = edits.SolveDollyZoom(camera_id=camera.id, wanted=wanted).apply(scene, baker(scene))
    assert "size_drifts" not in kinds(solved, solved.camera(camera.id))


def test_growth_is_that_of_the_distance() -> None:
    """A constellation that comes nearer, turning and changing its pose on the way."""
    scene, camera = watching()
    rng = np.random.default_rng(0)
    away = np.linspace(9, 5, 96)
    spread = rng.normal(0, 0.4, (96, 20, 3))
    spread -= spread.mean(axis=1, keepdims=True)
    world = spread + np.stack([-9 + away, np.ones(96), np.full(96, 1.7)], axis=-1)[:, None]
    growth = unasked_growth(camera, baker(scene).camera(camera), world, 0, 95)
    assert np.allclose(growth, np.log(9 / away), atol=1e-9)


# --- hidden ---


def test_a_face_hidden_in_a_close_up_is_told() -> None:
    """Oda's head alone fills the frame, and the mill stands before half of it."""
    scene, camera = watching(SCENE, framing=Framing((HEAD,)), focal_mm=Channel(300.0))
    assert "head_hidden" not in kinds(scene, camera)
    assert isinstance(scene.pieces[0], Piece)
    behind, camera = watching(
        SCENE, framing=Framing((HEAD,)), x=Channel(9.5), y=Channel(1.6), z=Channel(6.0), focal_mm=Channel(400.0)
    )
    found = kinds(behind, camera)
    assert found["head_hidden"].size >= 0.25
    assert "body_hidden" not in found or found["head_hidden"].last >= found["body_hidden"].first


def test_another_character_hides_as_well() -> None:
    quill = SCENE.character(mill_race.QUILL)
    scene = replace(SCENE, pieces=())
    post = baker().joint_positions(quill).mean(axis=(0, 1))
    oda = baker().joint_positions(ODA)[60].mean(axis=0)
    eye = post + (post - oda) * [0.5, 0.0, 0.5]
    eye[1] = post[1]
    scene, camera = watching(
        scene, framing=Framing((Subject("body", ODA.id),)), focal_mm=Channel(60.0),
        x=Channel(float(eye[0])), y=Channel(float(eye[1])), z=Channel(float(eye[2])),
    )  # fmt: skip
    found = camera_readings(baker(scene), camera)
    assert [r for r in found if r.kind in ("head_hidden", "body_hidden") and r.subject == "Oda"]
    alone = replace(scene, characters=(ODA,))
    assert not [r for r in camera_readings(baker(alone), camera) if "hidden" in r.kind]


@pytest.mark.parametrize("radius", [0.2, 0.6])
def test_lines_behind_an_ellipsoid_against_the_distance_of_a_line_from_a_ball(radius: float) -> None:
    rng = np.random.default_rng(3)
    ends = rng.normal(0, 1, (1, 200, 3)) + [0, 0, -6]
    origins = np.broadcast_to(np.array([0.0, 0, 0]), ends.shape)
    ball = np.eye(4)
    ball[:3, :3] *= radius
    ball[2, 3] = -3.0
    found = behind_ellipsoids(origins, ends, np.broadcast_to(ball, (1, 1, 4, 4)), np.ones(1, dtype=bool))
    along = ends / np.linalg.norm(ends, axis=-1, keepdims=True)
    centre = np.array([0, 0, -3.0])
    away = np.linalg.norm(centre - along * (along @ centre)[..., None], axis=-1)
    clear = np.abs(away - radius) > 1e-6
    assert np.array_equal(found[clear], (away < radius)[clear])


# --- lead room ---


def test_lead_room_goes_by_the_travel_where_that_is_fast() -> None:
    """She walks to the right of this camera, out of the frame's right side, whatever way she looks."""
    scene, camera = watching(pan=Channel(84.0))
    found = kinds(scene, camera)
    turned = edits.SetFront(character_id=ODA.id, front_deg=0.0).apply(scene)
    assert "little_lead_room" in found
    assert "little_lead_room" in kinds(turned, turned.camera(camera.id))
