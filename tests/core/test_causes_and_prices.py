"""Readings of one cause are one matter; what is moot is not told; and what would lower the price of Ride."""

from __future__ import annotations

from dataclasses import replace
from typing import get_args

import numpy as np
import pytest

from eddyfield.core import edits
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.mounts import Carried
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.performance.contacts import find_contacts
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings.camera_readings import camera_readings
from eddyfield.core.readings.causes import CAUSE_TITLES, CAUSES, cause_key, told_once
from eddyfield.core.readings.performance_readings import performance_readings
from eddyfield.core.readings.reading import Reading, ReadingKind
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ODA = SCENE.characters[0]
RIDDEN = replace(ODA, ride=Ride("rigid"))


def read(scene: Scene) -> list[Reading]:
    def fail(subject: str, error: Exception) -> None:
        raise AssertionError(subject) from error

    return scene_readings(baker(scene), None, None, fail)


def test_every_kind_has_a_cause_and_every_cause_a_title() -> None:
    assert set(CAUSES) == set(get_args(ReadingKind))
    assert set(CAUSES.values()) == set(CAUSE_TITLES)


def test_a_careless_drag_is_one_matter_of_each_character() -> None:
    scene = edits.LockCamera(camera_id=mill_race.BANK, locks=()).apply(SCENE)
    pose = baker(scene).camera(scene.camera(mill_race.BANK)).pose_at(19)
    for turned, tilted in ((0.0, -12.0), (5.0, 9.0)):
        moved = replace(pose, pan=pose.pan + turned, tilt=pose.tilt + tilted)
        edit = edits.PlaceCamera(camera_id=mill_race.BANK, pose=moved, frame=1020)
        found = [r for r in read(edit.apply(scene, baker(scene))) if r.camera_id == mill_race.BANK]
        assert len(found) > len({cause_key(r) for r in found})
        assert len({cause_key(r) for r in found if CAUSES[r.kind] == "framing"}) <= 2


def test_a_reading_of_the_cut_says_in_which_shot() -> None:
    found = read(SCENE)
    assert {r.shot for r in found} == {1}
    two = replace(SCENE, cut=type(SCENE.cut).of((1001, mill_race.BANK), (1049, mill_race.FACE)))
    told = {(r.kind, r.camera_id): r.shot for r in read(two)}
    assert all(shot == 2 for (_, camera_id), shot in told.items() if camera_id == mill_race.FACE)
    assert all(shot == 1 for (_, camera_id), shot in told.items() if camera_id == mill_race.BANK)


def test_what_a_graver_one_implies_is_not_told_beside_it() -> None:
    out = Reading("head_out_of_frame", "Oda", 10, 40, 90.0, "px", 0.0, "oda", "bank")
    within = Reading("little_headroom", "Oda", 12, 40, 0.0, "share", 0.02, "oda", "bank")
    beyond, other = replace(within, last=41), replace(within, character_id="quill")
    assert told_once([out, within, beyond, other]) == [out, beyond, other]


def test_no_aim_is_judged_that_a_lock_overrides() -> None:
    zoom = mill_race.ZOOM
    scene = edits.LockCamera(camera_id=zoom, locks=()).apply(SCENE)
    foot = Subject("joint", ODA.id, "foot_r")
    aim = replace(scene.camera(zoom).aim, targets=()) if scene.camera(zoom).aim is None else scene.camera(zoom).aim
    assert aim is not None
    aimed = edits.AimCamera(
        camera_id=zoom, aim=replace(aim, targets=(replace(aim.targets[0], subjects=(foot,)),)), frame=1001
    ).apply(scene, baker(scene))
    kinds = {r.kind for r in camera_readings(baker(aimed), aimed.camera(zoom))}
    assert "aim_bobs" in kinds
    held = edits.FrameCamera(camera_id=zoom, framing=Framing((Subject("joint", ODA.id, "hips"),)), frame=1001).apply(
        aimed, baker(aimed)
    )
    assert "aim_bobs" not in {r.kind for r in camera_readings(baker(held), held.camera(zoom))}


def test_no_carrier_is_judged_by_what_does_not_come_along() -> None:
    zoom = mill_race.ZOOM
    scene = edits.LockCamera(camera_id=zoom, locks=()).apply(SCENE)
    kinds = []
    for rise in (1.0, 0.0):
        mount = Carried(subject=Subject("joint", ODA.id, "foot_r"), through=(1.0, rise, 1.0, 0.0, 0.0, 0.0))
        carried = edits.MountCamera(camera_id=zoom, mount=mount, frame=1001).apply(scene, baker(scene))
        kinds.append({r.kind for r in camera_readings(baker(carried), carried.camera(zoom))})
    assert "carrier_bobs" in kinds[0]
    assert "carrier_bobs" not in kinds[1]


def test_what_only_the_lens_brings_is_told_once_under_a_ride() -> None:
    """The dolly zoom changes the lens while poses are held."""
    cut = type(SCENE.cut).of((1001, mill_race.ZOOM))
    told = []
    for ride in (Ride(), Ride("rigid")):
        character = replace(ODA, ride=ride)
        scene = replace(SCENE, cut=cut, characters=(character, *SCENE.characters[1:]))
        told.append({r.kind for r in performance_readings(baker(scene), character)})
    assert {"strobes", "lens_moves_in_holds"} <= told[0]
    assert "lens_moves_in_holds" in told[1]
    assert "strobes" not in told[1]


# --- the price of Ride ---


def test_the_price_in_pixels_is_where_the_foot_is_seen_and_where_it_came_to_rest() -> None:
    scene = replace(SCENE, characters=(RIDDEN, *SCENE.characters[1:]))
    work = baker(scene)
    price = work.contact_price(RIDDEN)
    assert price is not None
    assert price.before_px < 0.5 < 5 < price.after_px
    # Frame by frame, by the camera's own projection.
    names = [n for n in RIDDEN.feet if n in work.rig(RIDDEN).index_of]
    nodes = [work.rig(RIDDEN).index_of[n] for n in names]
    ones = work.world(RIDDEN)[..., :3, 3][:, nodes]
    shown = work.shown_points(RIDDEN, ones)
    rows = work.value(work.rows_part(RIDDEN))
    path, most = work.cut_path(), 0.0
    for contact in find_contacts(ones, scene.rate):
        rest: np.ndarray | None = None
        for row in range(contact.rests, contact.leaves + 1):
            if rows[row] < contact.rests:
                continue
            here = shown[row, contact.point]
            rest = here if rest is None else rest
            ground = np.array([rest[0], here[1], rest[2]])
            (a, b) = path.at_rows(np.array([row])).project(np.stack([here, ground])[None]).pixels[0]
            if 0 <= a[0] < 1920 and 0 <= a[1] < 1080:
                most = max(most, float(np.hypot(*(a - b))))
    assert price.after_px == pytest.approx(most, rel=1e-9)
