"""What is told of a cut, against cameras that were put so that it has to be."""

from __future__ import annotations

import uuid
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest

from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_channels import camera_channels
from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.camera_keys import ChosenKeys, RetimeCameraKeys
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.cut_readings import cut_readings
from eddyfield.core.readings.reading import Reading
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.keys import Key

from .scenery import SCENE, baker

ODA, QUILL = SCENE.characters
CUT = 1049
ROW = CUT - SCENE.frames.first


def middle(who: int) -> np.ndarray:
    """Where the middle of a body is at the cut."""
    character = SCENE.characters[who]
    points = baker().shown_points(character, baker().joint_positions(character))
    return np.asarray(points[ROW].mean(axis=0))


def looking_at(target: np.ndarray, azimuth_deg: float, distance: float, **channels: Channel) -> Camera:
    """A camera on a level circle around a place, turned towards it."""
    a = np.radians(azimuth_deg)
    place = target + distance * np.array([np.sin(a), 0, np.cos(a)])
    at = {name: Channel(float(v)) for name, v in zip("xyz", place, strict=True)}
    # Pan positive turns right, and a camera looks along -z: one at azimuth 0 looks straight on.
    own = {**at, "pan": Channel(-azimuth_deg), "focal_mm": Channel(35.0), **channels}
    return Camera(str(uuid.uuid4()), f"at {azimuth_deg:g}", channels=camera_channels(**own))


def told(*cameras: Camera, firsts: tuple[int, ...] = (SCENE.frames.first, CUT)) -> dict[str, Reading]:
    cut = Cut.of(*zip(firsts, (c.id for c in cameras), strict=True))
    return {r.kind: r for r in cut_readings(baker(with_cameras(cut, *cameras)))}


def with_cameras(cut: Cut, *cameras: Camera) -> Scene:
    return replace(SCENE, cameras=tuple(dict.fromkeys(cameras)), cut=cut)


@pytest.mark.parametrize("aside", [10.0, 28.0, 32.0, 90.0])
@pytest.mark.parametrize("nearer", [1.0, 1.2, 1.6])
def test_a_jump_cut_comes_from_less_than_thirty_degrees_at_nearly_the_same_size(aside: float, nearer: float) -> None:
    oda = middle(0)
    found = told(looking_at(oda, 0, 4.0), looking_at(oda, aside, 4.0 / nearer))
    assert ("jump_cut" in found) == (aside < 30 and nearer < 1.25)
    if "jump_cut" in found:
        reading = found["jump_cut"]
        assert (reading.subject, reading.first, reading.character_id) == ("Oda", CUT, ODA.id)
        assert reading.size == pytest.approx(aside, abs=0.5), "she moves a little between the two frames"
        assert reading.figures[0].value == pytest.approx(nearer, rel=0.02)


def test_the_line_through_two_characters_is_crossed() -> None:
    one, other = middle(0), middle(1)
    between, along = (one + other) / 2, (other - one)[[0, 2]]
    across = np.degrees(np.arctan2(-along[1], along[0]))
    distance = 3.5 * float(np.linalg.norm(along))
    cameras = [looking_at(between, across + turn, distance) for turn in (0.0, 60.0, 180.0)]
    assert "line_crossed" not in told(*cameras[:2])
    crossed = told(cameras[0], cameras[2])["line_crossed"]
    assert (crossed.subject, crossed.first, crossed.camera_id) == ("Oda, Quill", CUT, cameras[2].id)
    assert crossed.size == pytest.approx(distance, rel=0.02), "straight across from it"
    apart = looking_at(one + 50, 0, 2.0)
    assert "line_crossed" not in told(cameras[0], apart), "nobody can be mistaken in a picture without them"


def moving(camera: Camera, first: int, last: int, by: float) -> Camera:
    pan = camera.channels["pan"].default
    keys = (Key(Fraction(first), pan, "linear"), Key(Fraction(last), pan + by, "linear"))
    return replace(camera, channels=camera.channels.having(pan=Channel(pan, keys)))


def test_a_still_picture_cut_against_a_moving_one_jolts_and_the_move_can_begin_earlier() -> None:
    oda = middle(0)
    still, other = looking_at(oda, 0, 5.0), looking_at(oda, 90, 5.0)
    assert "cut_jolts" not in told(still, other)
    pans = moving(other, CUT - 20, CUT + 20, 40)
    jolt = told(still, pans)["cut_jolts"]
    # A degree a frame: most of the nine points lie four tenths of the width aside, where a turn moves more than in the middle.
    lens = float(np.asarray(pans.lens().with_focal(35.0).pixels_per_slope(SCENE.delivery)[0]))
    aside = np.arctan(0.4 * SCENE.delivery.width / lens)
    assert jolt.size == pytest.approx(lens * (np.tan(aside + np.radians(1)) - np.tan(aside)), rel=0.04)
    assert jolt.figures[0].value == pytest.approx(0, abs=1e-9)
    assert "cut_jolts" not in told(moving(still, CUT - 20, CUT + 20, 40), pans), "from a move into a move"
    leaves = told(moving(still, CUT - 20, CUT + 20, 40), other)["cut_jolts"]
    assert leaves.fixes == ()
    late = moving(other, CUT + 6, CUT + 30, 40)
    assert "cut_jolts" not in told(still, late), "both stand at the cut"
    (fix,) = told(moving(still, CUT - 20, CUT + 20, 40), late)["cut_jolts"].fixes
    cut = Cut.of((SCENE.frames.first, still.id), (CUT, late.id))
    scene = with_cameras(cut, moving(still, CUT - 20, CUT + 20, 40), late)
    assert fix.edit == RetimeCameraKeys(keys=ChosenKeys(late.id), by=Fraction(-6))
    mended = fix.edit.apply(scene, baker(scene))
    assert "cut_jolts" not in {r.kind for r in cut_readings(baker(mended))}


def test_short_shots_can_be_joined_and_what_lies_outside_can_go() -> None:
    oda = middle(0)
    cameras = [looking_at(oda, azimuth, 4.0) for azimuth in (0, 60, 120)]
    found = told(*cameras, firsts=(1001, 1040, 1048))
    short = found["short_shot"]
    assert (short.first, short.last, short.size, short.subject) == (1040, 1047, 8, "shot 020")
    scene = with_cameras(Cut.of((1001, cameras[0].id), (1040, cameras[1].id), (1048, cameras[2].id)), *cameras)
    joined = short.fixes[0].edit.apply(scene, baker(scene))
    assert [(e.first, e.camera_id) for e in joined.cut.entries] == [(1001, cameras[0].id), (1048, cameras[2].id)]
    for locked in (0, 1):
        entries = scene.cut.entries
        kept = [replace(e, locked=at == locked) for at, e in enumerate(entries)]
        (held,) = (r for r in cut_readings(baker(replace(scene, cut=Cut(tuple(kept))))) if r.kind == "short_shot")
        assert held.fixes == (), "what a lock refuses is not offered"
    beyond = told(*cameras, firsts=(1001, 1040, 2000))["cut_outside_scene"]
    assert (beyond.size, len(beyond.fixes)) == (1, 1)
    assert told(cameras[0], firsts=(1001,)) == {}


def test_a_split_shot_is_no_cut_to_be_seen() -> None:
    pans = moving(looking_at(middle(0), 0, 4.0), CUT, CUT + 30, 30)
    assert told(pans, pans) == {}


def test_a_whole_move_is_moved_in_time() -> None:
    camera = moving(looking_at(middle(0), 0, 4.0), 1010, 1030, 30)
    scene = with_cameras(Cut.of((1001, camera.id)), camera)
    later = RetimeCameraKeys(keys=ChosenKeys(camera.id), by=Fraction(7)).apply(scene)
    pans = [baker(s).camera(s.cameras[0]).pose[:, 3] for s in (scene, later)]
    assert np.allclose(pans[1][7:], pans[0][:-7], atol=1e-12)
    assert RetimeCameraKeys(keys=ChosenKeys(camera.id), by=Fraction(-7)).apply(later) == scene
    with pytest.raises(DomainError, match="are locked"):
        RetimeCameraKeys(keys=ChosenKeys(camera.id), by=Fraction(1)).apply(
            scene.with_camera(replace(camera, locks=("angles",)))
        )
