"""The next version of a performance: what stays, what is lost or renamed, and what it makes better and worse."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.edits.versions import going_by_lost_joints
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.ride import Ride
from eddyfield.core.performance.version import Version, Versions
from eddyfield.core.readings import all_arcs
from eddyfield.core.readings.camera_readings import camera_readings
from eddyfield.core.readings.changed_poses import changed_poses, joint_pairs, version_before
from eddyfield.core.readings.compared import NEAR_FRAMES, compared
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.rig.joint_matching import renamed_joints
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race, oda_crossing
from eddyfield.formats import bvh
from eddyfield.formats.table import read_rig
from tests.formats.builders import BVH

from .scenery import DIGESTS, SCENE, baker, fail

ODA = SCENE.characters[0]
NEXT = RigSource("d" * 64, "gltf")


def working(scene: Scene, version: Rig) -> Baker:
    """A baker that knows the next version of Oda as well."""
    return Baker(scene, lambda source: version if source == NEXT else mill_race.demo_rig(DIGESTS[source.digest]), {})


def kinked(monkeypatch: pytest.MonkeyPatch, metres: float) -> Rig:
    """Oda with another kink than the demo's."""
    monkeypatch.setattr(oda_crossing, "KINK_M", metres)
    return read_rig(mill_race.oda_glb.__wrapped__(), NEXT)


def brought(version: Rig, scene: Scene = SCENE) -> Scene:
    edit = edits.BringNextVersion(character_id=ODA.id, source=NEXT)
    assert edit.brings(SCENE) == (NEXT,)
    return edit.apply(scene, working(scene, version))


def changes(version: Rig) -> dict[tuple[str, str], str]:
    """Kind and subject of what changed, with what became of it."""
    before, after = baker(), working(brought(version), version)
    told = [scene_readings(b, None, None, fail) for b in (before, after)]
    return {(c.reading.kind, c.reading.subject): c.status for c in compared(*told) if c.status != "same"}


def test_her_second_version_is_better_in_one_thing_and_worse_in_another() -> None:
    second = read_rig(mill_race.oda_glb(second=True), NEXT)
    assert changes(second) == {("off_arc", "thumb_2_r"): "gone", ("off_arc", "hood_tip"): "new"}


def test_all_versions_stay_known_and_any_is_taken_up_again(monkeypatch: pytest.MonkeyPatch) -> None:
    version = kinked(monkeypatch, 0.0)
    work = working(SCENE, version)
    next_one = edits.BringNextVersion(
        character_id=ODA.id, source=NEXT, name="oda_v2.glb", brought_at="2026-11-26T10:00:00+00:00"
    )
    scene = next_one.apply(SCENE, work)
    known = scene.character(ODA.id).versions.all
    assert [(v.name, v.source) for v in known] == [("first version", ODA.performance.source), ("oda_v2.glb", NEXT)]
    noted = edits.BY_KIND["note version"](character_id=ODA.id, source=NEXT, note=" slower turn ").apply(scene, work)  # type: ignore[call-arg]
    assert [v.note for v in noted.character(ODA.id).versions.all] == ["", "slower turn"]
    back = edits.BringNextVersion(character_id=ODA.id, source=ODA.performance.source).apply(noted, work)
    assert back.character(ODA.id).performance == ODA.performance
    assert back.character(ODA.id).versions == noted.character(ODA.id).versions, "none is there twice, and notes stay"
    with pytest.raises(DomainError, match="not known any more"):
        edits.BY_KIND["note version"](character_id=ODA.id, source=NEXT, note="x").apply(SCENE, work)  # type: ignore[call-arg]


def test_what_a_version_changed_is_told_in_the_picture(monkeypatch: pytest.MonkeyPatch) -> None:
    version = kinked(monkeypatch, 0.0)
    scene = brought(version)
    work, now = working(scene, version), scene.character(ODA.id)
    assert version_before(now) == ODA.performance.source
    assert version_before(ODA) is None
    pairs = joint_pairs(work, now, ODA)
    path = work.cut_path()
    changed = changed_poses(path, work.joint_positions(now), work.joint_positions(ODA), pairs)
    # By another way: each joint of each frame on its own.
    frames = range(scene.frames.count)
    slow = np.zeros((len(frames), len(pairs)))
    for row in frames:
        for column, (own, other) in enumerate(pairs):
            a, b = (path.at_rows(np.array([row])).project(w.joint_positions(c)[row : row + 1, [j]]).pixels[0, 0]
                    for w, c, j in ((work, now, own), (work, ODA, other)))  # fmt: skip
            slow[row, column] = np.linalg.norm(a - b)
    assert np.allclose(changed.px, slow.max(axis=1), atol=1e-9)
    names = work.rig(now).joint_names
    worst = int(changed.px.argmax())
    assert names[changed.joints[worst]] == names[pairs[int(slow[worst].argmax())][0]]
    assert scene.frames.first + worst == 1043
    assert set(changed.rows) == set(np.flatnonzero(slow.max(axis=1) > 0.05))
    assert not len(changed_poses(path, work.joint_positions(now), work.joint_positions(ODA), ()).rows)


def test_everything_but_the_performance_stays(monkeypatch: pytest.MonkeyPatch) -> None:
    scene = brought(kinked(monkeypatch, 0.0))
    character = scene.character(ODA.id)
    assert character.performance == replace(ODA.performance, source=NEXT)
    assert replace(character, performance=ODA.performance, versions=ODA.versions) == ODA
    assert scene.cameras == SCENE.cameras
    assert scene.cut == SCENE.cut
    same = edits.BringNextVersion(character_id=ODA.id, source=ODA.performance.source)
    assert same.apply(SCENE, baker()) is SCENE


def without(rig: Rig, name: str, other: str) -> Rig:
    """The rig with another name for a joint."""
    return replace(rig, names=tuple(other if n == name else n for n in rig.names))


def test_what_goes_by_a_joint_that_is_lost_keeps_it_and_the_body_stands_in() -> None:
    headless = without(mill_race.demo_rig("oda"), "head", "skull")
    edit = edits.BringNextVersion(character_id=ODA.id, source=NEXT, renamed=())
    scene = edit.apply(SCENE, working(SCENE, headless))
    assert scene.cameras == SCENE.cameras, "nothing is lost"
    gone_by = going_by_lost_joints(scene, ODA.id, headless)
    assert ("Face Oda 85", "head") in gone_by
    work = working(scene, headless)
    stood_in = work.joint_frames(ODA.id, "head", "motion")
    assert np.array_equal(stood_in, work.joint_frames(ODA.id, "hips", "motion"))
    told = [r for r in camera_readings(work, scene.camera(mill_race.FACE)) if r.kind == "joint_is_lost"]
    assert [(r.subject, r.note) for r in told] == [("head", "Oda’s file has no head any more; hips stands in.")]
    back = edits.BringNextVersion(character_id=ODA.id, source=ODA.performance.source).apply(scene, work)
    assert back.cameras == SCENE.cameras
    assert not going_by_lost_joints(back, ODA.id, mill_race.demo_rig("oda"))
    aim = Aim((Target((Subject("joint", ODA.id, "skull"),)),))
    aimed = edits.AimCamera(camera_id=mill_race.CRANE, aim=aim, frame=1001)
    with pytest.raises(DomainError, match="no joint “skull”"):
        aimed.apply(SCENE, baker())


def test_a_joint_with_another_name_is_known_by_where_it_hangs() -> None:
    rig = mill_race.demo_rig("oda")
    names = {"head": "Kopf", "hand_r": "Hand rechts", "hand_l": "Hand links", "fingers_1_r": "f", "hips": "Becken"}
    other = replace(rig, names=tuple(names.get(n, n) for n in rig.names))
    assert dict(renamed_joints(rig, other)) == names
    assert renamed_joints(rig, rig) == ()
    held = replace(SCENE.pieces[0], kind="prop", holds=(Hold(1010, ODA.id, "hand_r"),))
    scene = brought(other, SCENE.with_thing(held))
    assert scene.pieces[0].holds == (Hold(1010, ODA.id, "Hand rechts"),)
    assert not going_by_lost_joints(scene, ODA.id, other)
    joints = {s.joint for c in scene.cameras for s, _ in c.followed() if s.owner_id == ODA.id}
    assert "Kopf" in joints
    assert not joints & set(names)
    before, after = baker(), working(scene, other)
    for camera in SCENE.cameras:  # the same picture, under other names
        own, new = before.camera_path(camera), after.camera_path(scene.camera(camera.id))
        assert np.allclose(own.world_from_camera, new.world_from_camera, atol=1e-12)
    back = edits.BringNextVersion(character_id=ODA.id, source=ODA.performance.source).apply(scene, after)
    assert back.cameras == SCENE.cameras, "and taken up again, under those of before"


@given(st.lists(st.sampled_from(mill_race.demo_rig("oda").joint_names), unique=True, max_size=12))
def test_whatever_joints_are_renamed_none_is_taken_for_two_or_for_one_that_is_there(names: list[str]) -> None:
    rig = mill_race.demo_rig("oda")
    found = renamed_joints(rig, replace(rig, names=tuple(f"{n} 2" if n in names else n for n in rig.names)))
    assert dict(found) == {name: f"{name} 2" for name in names}


def test_a_joint_that_branches_otherwise_is_another_one() -> None:
    rig = mill_race.demo_rig("oda")
    cut = rig.index_of["hand_r"]
    moved = rig.parents.copy()
    moved[rig.index_of["thumb_1_r"]] = rig.index_of["forearm_r"]
    assert renamed_joints(rig, replace(without(rig, "hand_r", "paw"), parents=moved)) == ()
    far = rig.rest_matrices.copy()
    far[cut, :3, 3] *= -1
    assert renamed_joints(rig, replace(without(rig, "hand_r", "paw"), rest_matrices=far)) == ()


def test_a_version_is_looked_at_beside_the_one_before_it() -> None:
    sources = [RigSource(letter * 64, "gltf") for letter in "abc"]
    versions = (
        Versions().having(Version(sources[1], "two"), sources[0]).having(Version(sources[2], "three"), sources[1])
    )
    assert [v and v.source for v in map(versions.before, sources)] == [None, *sources[:2]]
    assert [v and v.source for v in map(versions.compared_with, sources)] == [sources[1], *sources[:2]]
    assert Versions().compared_with(sources[0]) is None


def test_feet_and_anchor_that_are_no_longer_there_are_let_go() -> None:
    rig = mill_race.demo_rig("oda")
    renamed = {"foot_l": "Left foot", "foot_r": "Right foot", "hand_l": "paw"}
    other = replace(rig, names=tuple(renamed.get(name, name) for name in rig.names))
    anchored = SCENE.with_character(replace(ODA, ride=Ride("rigid", 1.0, "hand_l")))
    edit = edits.BringNextVersion(character_id=ODA.id, source=NEXT, renamed=())
    character = edit.apply(anchored, working(anchored, other)).character(ODA.id)
    assert set(character.feet) == {"Left foot", "Right foot"}
    assert character.ride.anchor is None


def test_whose_version_a_file_is() -> None:
    work = baker()
    assert edits.version_of(SCENE, work, mill_race.demo_rig("oda")) == ODA
    assert edits.version_of(SCENE, work, mill_race.demo_rig("quill")) == SCENE.characters[1]
    assert edits.version_of(SCENE, work, bvh.read(BVH.encode())) is None


def test_a_kink_that_was_mended_is_gone_and_a_worse_one_worse(monkeypatch: pytest.MonkeyPatch) -> None:
    mended, worse = kinked(monkeypatch, 0.0), kinked(monkeypatch, 0.06)
    assert changes(mended)["off_arc", "thumb_2_r"] == "gone"
    assert changes(worse)["off_arc", "thumb_2_r"] == "worse"
    assert changes(mill_race.demo_rig("oda")) == {}


def test_a_fault_is_told_once_of_the_joint_in_which_it_is_worst(monkeypatch: pytest.MonkeyPatch) -> None:
    (kink,) = (r for r in scene_readings(baker(), None, None, fail) if r.kind == "off_arc")
    assert (kink.subject, kink.first) == ("thumb_2_r", 1043)
    assert [(f.title, f.value) for f in kink.figures] == [("further joints", 9)]
    monkeypatch.setattr(all_arcs, "MOST_JUDGED", 10)
    (kink,) = (r for r in scene_readings(baker(), None, None, fail) if r.kind == "off_arc")
    assert (kink.subject, kink.figures[0].value) == ("pole", 1), (
        "of a long scene fewer joints: a hand, and what it holds"
    )


def reading(first: int, length: int, size: float, kind: str = "strobes") -> Reading:
    return Reading(kind, "Oda", first, first + length, size, "px", 2.0)  # type: ignore[arg-type]


def test_readings_are_matched_by_what_they_are_about_and_when() -> None:
    before = [reading(10, 5, 4.0), reading(60, 5, 4.0), reading(100, 0, 3.0, "hitch")]
    after = [reading(12, 5, 8.0), reading(60 + 5 + NEAR_FRAMES + 1, 5, 4.0), reading(100, 0, 3.0, "pop")]
    found = [(c.status, c.before, c.after) for c in compared(before, after)]
    assert found == [
        ("new", None, after[1]),
        ("new", None, after[2]),
        ("worse", before[0], after[0]),
        ("gone", before[1], None),
        ("gone", before[2], None),
    ]


readings = st.lists(
    st.builds(
        reading, st.integers(1, 200), st.integers(0, 20), st.floats(0.5, 50), st.sampled_from(["strobes", "hitch"])
    ),
    max_size=8,
)


@given(readings)
def test_nothing_changes_from_a_state_to_itself(told: list[Reading]) -> None:
    assert {change.status for change in compared(told, told)} <= {"same"}


@given(readings, readings)
def test_every_reading_is_accounted_for_once(before: list[Reading], after: list[Reading]) -> None:
    found = compared(before, after)
    assert sorted(map(repr, (c.before for c in found if c.before))) == sorted(map(repr, before))
    assert sorted(map(repr, (c.after for c in found if c.after))) == sorted(map(repr, after))


def test_less_room_than_is_wanted_hurts_the_more_the_less_there_is() -> None:
    little, none = (Reading("little_headroom", "Oda", 1, 20, size, "share", 0.02) for size in (0.01, -0.05))
    assert 1 < little.weight < none.weight
    (change,) = compared([little], [none])
    assert change.status == "worse"
