"""Feet that sink or hover, sizes that hitch, pans that judder, corners: on made motion."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.contacts import find_contacts, slide_m
from eddyfield.core.readings.contact_readings import contact_readings, off_the_ground
from eddyfield.core.readings.corners import find_corners
from eddyfield.core.readings.pan_speed import pan_speed_readings
from eddyfield.core.readings.size_hitches import size_hitch_readings
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.key_reduction import keys_on_every_frame
from eddyfield.demo import mill_race

from .scenery import DIGESTS, SCENE, baker

RATE = 24.0
ODA, QUILL = SCENE.characters


def stepping_foot(levels: list[float]) -> np.ndarray:
    """A foot that rests for ten frames at each height, and goes on over ten."""
    out = []
    for number, level in enumerate(levels):
        out += [(0.5 * number, level)] * 10
        out += [(0.5 * number + 0.05 * k, level + 0.2 * np.sin(np.pi * k / 10)) for k in range(1, 10)]
    x, y = np.array(out).T
    return np.stack([x, y, 0 * x], axis=-1)


@pytest.mark.parametrize(("off", "told"), [(-0.03, [-0.03]), (0.02, [0.02]), (0.004, []), (0.3, [])])
def test_a_foot_that_rests_beside_the_ground_is_told(off: float, told: list[float]) -> None:
    places = stepping_foot([0.08, 0.08, 0.08 + off, 0.08, 0.08])
    found = off_the_ground(places[:, 1], places, RATE)
    assert [stand.above_m for stand in found] == pytest.approx(told, abs=1e-3)
    if told:
        assert 36 <= found[0].first <= 40
        assert 45 <= found[0].last <= 49


def test_on_ground_that_is_not_flat_nothing_is_told() -> None:
    places = stepping_foot([0.08, 0.11, 0.15, 0.20, 0.26])
    assert off_the_ground(places[:, 1], places, RATE) == []
    assert off_the_ground(places[:1, 1], places[:1], RATE) == []


def moved(**values: np.ndarray) -> Camera:
    frames = SCENE.frames.frames().astype(float)
    plain = {"x": -4.0, "y": 1.4, "z": 2.0, "pan": 90.0, "tilt": -4.0, "roll": 0.0, "focal_mm": 35.0}
    camera = Camera("made", "made")
    channels = {name: Channel(value) for name, value in plain.items()} | keys_on_every_frame(frames, values)
    return replace(camera, channels=camera.channels.having(**channels))


def with_camera(camera: Camera) -> object:
    return baker(replace(SCENE, cameras=(*SCENE.cameras, camera)))


def test_a_push_in_that_stumbles_is_told_on_its_frame_as_the_cameras() -> None:
    t = np.arange(SCENE.frames.count, dtype=float)
    smooth = -6.0 + 2.0 * (t / t[-1]) ** 2
    stumbles = smooth.copy()
    stumbles[50] -= 0.12
    clean, spoilt = (moved(x=x) for x in (smooth, stumbles))
    assert size_hitch_readings(with_camera(clean), clean, QUILL) == []
    (found,) = size_hitch_readings(with_camera(spoilt), spoilt, QUILL)
    assert (found.first, found.frame, found.fault_of) == (1051, 1051, "camera")
    assert found.size > (found.least or 0) * 0.99
    (fix,) = found.fixes
    mended = fix.edit.apply(spoilt_scene := with_camera(spoilt).scene, with_camera(spoilt))
    lens, before = (baker(s).camera(s.camera(spoilt.id)).values["focal_mm"] for s in (mended, spoilt_scene))
    assert np.flatnonzero(np.abs(lens - before) > 1e-9).tolist() == [50], "on that frame alone"
    assert size_hitch_readings(baker(mended), mended.camera(spoilt.id), QUILL) == []
    held = replace(spoilt, locks=("lens",))
    (locked,) = size_hitch_readings(with_camera(held), held, QUILL)
    assert locked.fixes == (), "a locked lens does nothing"


def test_a_dolly_that_jumps_is_steadied_over_the_frames_beside_it() -> None:
    t = np.arange(SCENE.frames.count, dtype=float)
    jumps = moved(x=-6.0 + 2.0 * (t / t[-1]) ** 2 + 0.1 * (t >= 50))
    (found,) = size_hitch_readings(with_camera(jumps), jumps, QUILL)
    mended = found.fixes[0].edit.apply(with_camera(jumps).scene, with_camera(jumps))
    assert size_hitch_readings(baker(mended), mended.camera(jumps.id), QUILL) == []
    for wrong, said in (({"ratio": 9.0}, "as large"), ({"on_frame": 5}, "not in the scene")):
        with pytest.raises(DomainError, match=said):
            replace(found.fixes[0].edit, **wrong).apply(with_camera(jumps).scene, with_camera(jumps))


def test_a_pan_past_somebody_who_stands_judders_and_one_along_with_a_walker_does_not() -> None:
    t = np.arange(SCENE.frames.count, dtype=float)
    fast = moved(pan=20.0 + 1.4 * t)
    (found, *_) = pan_speed_readings(with_camera(fast), fast)
    assert found.size > found.threshold
    assert found.unit == "px"
    slow = moved(pan=80.0 + 0.1 * t)
    assert pan_speed_readings(with_camera(slow), slow) == []
    along = replace(SCENE.cameras[0])
    assert pan_speed_readings(baker(), along) == [], "the camera on the bank goes along with Oda"


def test_corners_are_told_where_they_are_and_smooth_motion_has_none() -> None:
    t = np.arange(60.0)
    bounce = np.stack([4.0 * t, np.abs(t - 30.5) * 6.0], axis=-1)
    (corner,) = find_corners(bounce, 0.12, 1.6)
    assert corner.at == 30.5
    assert corner.size == pytest.approx(12.0, rel=1e-6)
    wave = np.stack([4.0 * t, 90 * np.sin(t / 6)], axis=-1)
    assert find_corners(wave, 0.12, 1.6) == []
    assert find_corners(wave[:8], 0.12, 1.6) == []


@pytest.mark.parametrize("scale", [0.01, 0.1, 1 / 3, 1.0, 3.0, 100.0])
def test_feet_are_judged_by_the_size_of_their_body(scale: float) -> None:
    file = mill_race.demo_rig("oda")
    walks = replace(file, scale=scale)
    assert walks.size == pytest.approx(scale * file.size)
    work = Baker(
        SCENE,
        lambda source: walks if DIGESTS[source.digest] == "oda" else mill_race.demo_rig(DIGESTS[source.digest]),
        {},
    )
    assert [r for r in contact_readings(work, ODA) if r.kind == "feet_slide"] == []
    feet = np.array([file.index_of[name] for name in ODA.feet])
    skates = work.world(ODA)[:, feet, :3, 3].copy()
    skates[..., 0] += scale * 0.05 * np.sin(np.arange(len(skates)) / 6.0)[:, None]
    contacts = find_contacts(skates, SCENE.rate, size=walks.size)
    assert slide_m(contacts, skates, np.arange(len(skates))) > scale * work.limits.slide_m
