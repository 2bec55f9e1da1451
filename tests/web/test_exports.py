"""The shot as .glb, read back: cuts of several cameras, and parallel ones."""

from dataclasses import replace

import numpy as np
import pytest

from eddyfield.core.cameras.camera import Camera, Glass
from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.corrections import CorrectJoint
from eddyfield.core.edits.own_exposures import StepPart
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.placing import placing
from eddyfield.core.performance.ride import Ride, RideWay
from eddyfield.core.readings.camera_readings import camera_readings
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import seconds_at
from eddyfield.demo import mill_race
from eddyfield.formats import gltf
from eddyfield.web.exports import shot_glb, shot_notes
from tests.core.scenery import SCENE, baker


def cut_to(*entries: tuple[int, str]) -> Scene:
    return replace(SCENE, cut=Cut.of(*entries))


def test_a_cut_of_two_cameras_carries_both() -> None:
    scene = cut_to((1001, mill_race.BANK), (1050, mill_race.FACE), (1080, mill_race.BANK))
    data = shot_glb(baker(scene))
    rig = gltf.read(data)
    seconds = seconds_at(scene.frames.frames(), scene.frames.first, scene.rate)
    for camera_id in (mill_race.BANK, mill_race.FACE):
        camera = scene.camera(camera_id)
        (found,) = [c for c in rig.cameras if c.name == camera.name]
        path = baker(scene).camera_path(camera)
        world = transforms.orthonormal(rig.world_matrices(seconds, np.array([found.node]))[:, 0])
        assert np.allclose(world, path.world_from_camera, atol=2e-5)
        assert found.vertical_fov_deg == pytest.approx(float(path.lens.field_of_view_deg(path.delivery)[1][0]))
    document, _ = gltf.container.open_document(data)  # type: ignore[attr-defined]
    assert len(document.cameras) == 2
    assert any("extras" in note for note in shot_notes(baker(scene)))
    bank, face = (scene.camera(i).name for i in (mill_race.BANK, mill_race.FACE))
    spans = [(1001, 1049, bank), (1050, 1079, face), (1080, 1096, bank)]
    text = data[20 : 20 + int.from_bytes(data[12:16], "little")].decode()
    assert all(f'"first":{a},"last":{b},"camera":"{name}"' in text for a, b, name in spans)


def test_a_parallel_camera_stays_parallel() -> None:
    side = next(c for c in SCENE.cameras if c.role == "review")
    camera = replace(side, glass=Glass(orthographic_height_m=3.5))
    scene = replace(cut_to((1001, camera.id)).with_camera(camera))
    (found,) = gltf.read(shot_glb(baker(scene))).cameras
    assert (found.vertical_fov_deg, found.orthographic_height_m) == (None, pytest.approx(3.5))


def test_twins_from_one_file_bear_their_own_names() -> None:
    oda = SCENE.character(mill_race.ODA)
    twin = replace(oda, id="11111111-1111-4111-8111-111111111111", name="Twin")
    scene = replace(SCENE, characters=(oda, twin))
    work = baker(scene)
    # Before the character, so that the near plane and the edges of the frame have something to say.
    camera: Camera = replace(SCENE.camera(mill_race.BANK), glass=Glass(near_m=50.0), aim=None, framing=None)
    found = [r for r in camera_readings(work, camera) if r.kind == "near_plane_cuts_in"]
    assert sorted({r.subject for r in found}) == ["Oda", "Twin"]


@pytest.mark.parametrize(("way", "camera_id"), [("rigid", mill_race.BANK), ("scaled", mill_race.ZOOM)])
def test_planted_feet_and_a_scaled_ride_are_in_the_file_as_they_are_shown(way: RideWay, camera_id: str) -> None:
    scene = cut_to((1001, camera_id))
    oda = replace(scene.characters[0], ride=Ride(way, plants=True), placing=placing(x=Channel(0.2), turn=Channel(15.0)))
    scene = scene.with_character(oda)
    work = baker(scene)
    carried = work.carried(oda)
    assert np.abs(np.linalg.det(carried.whole[:, :3, :3]) - 1).max() > 0.01 or way == "rigid"
    assert not np.allclose(carried.own[:, 2], carried.whole), "a foot goes otherwise than the body"
    rig = gltf.read(shot_glb(work))
    seconds = seconds_at(scene.frames.frames(), scene.frames.first, scene.rate)
    own, shown = work.rig(oda), work.shown_joints(oda)
    for column, joint in enumerate(own.joints.tolist()):
        node = np.array([rig.find(own.names[joint])])
        assert np.allclose(rig.world_positions(seconds, node)[:, 0], shown[:, column], atol=5e-5), own.names[joint]


@pytest.mark.parametrize("ride", [Ride(), Ride("rigid", plants=True)])
@pytest.mark.parametrize("placed", [{}, {"x": Channel(0.4), "turn": Channel(-30.0)}])
def test_corrections_and_parts_on_their_own_are_in_the_file(ride: Ride, placed: dict[str, Channel]) -> None:
    scene = cut_to((1001, mill_race.BANK))
    scene = scene.with_character(replace(scene.characters[0], ride=ride, placing=placing(**placed)))
    for joint in ("hand_r", "hips", "head"):
        push = CorrectJoint(thing_id=mill_race.ODA, joint=joint, on_frame=1031, shift_px=(14.0, -9.0), fades=2)
        scene = push.apply(scene, baker(scene))
    scene = StepPart(character_id=mill_race.ODA, joint="scarf_1", stepping=Stepping(3)).apply(scene, baker(scene))
    scene = StepPart(character_id=mill_race.ODA, joint="hand_l", stepping=Stepping(1)).apply(scene, baker(scene))
    work = baker(scene)
    oda, rig = scene.character(mill_race.ODA), gltf.read(shot_glb(work))
    seconds = seconds_at(scene.frames.frames(), scene.frames.first, scene.rate)
    own, shown = work.rig(oda), work.shown_joints(oda)
    for column, joint in enumerate(own.joints.tolist()):
        node = np.array([rig.find(own.names[joint])])
        assert np.allclose(rig.world_positions(seconds, node)[:, 0], shown[:, column], atol=5e-5), own.names[joint]
