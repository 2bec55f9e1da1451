"""The next version of a performance: what stays, what is refused, and what it makes better and worse."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings import compared as module
from eddyfield.core.readings.changed_poses import changed_poses, joint_pairs, version_before
from eddyfield.core.readings.compared import MOST_JUDGED, NEAR_FRAMES, compared, readings_to_compare
from eddyfield.core.readings.reading import Reading
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race, oda_crossing
from eddyfield.formats import bvh
from eddyfield.formats.table import read_rig
from tests.formats.builders import BVH

from .scenery import DIGESTS, SCENE, baker

ODA = SCENE.characters[0]
NEXT = RigSource("d" * 64, "gltf")


def working(scene: Scene, version: Rig) -> Baker:
    """A baker that knows the next version of Oda as well."""
    return Baker(scene, lambda source: version if source == NEXT else mill_race.demo_rig(DIGESTS[source.digest]), {})


def kinked(monkeypatch: pytest.MonkeyPatch, degrees: float) -> Rig:
    """Oda with another kink than the demo's."""
    monkeypatch.setattr(oda_crossing, "KINK_DEG", degrees)
    return read_rig(mill_race.oda_glb.__wrapped__(), NEXT)


def brought(version: Rig, scene: Scene = SCENE) -> Scene:
    edit = edits.BringNextVersion(character_id=ODA.id, source=NEXT)
    assert edit.brings(SCENE) == (NEXT,)
    return edit.apply(scene, working(scene, version))


def fail(subject: str, error: Exception) -> None:
    raise AssertionError(subject) from error


def changes(version: Rig) -> dict[tuple[str, str], str]:
    """Kind and subject of what changed, with what became of it."""
    before, after = baker(), working(brought(version), version)
    told = [readings_to_compare(b, fail) for b in (before, after)]
    return {(c.reading.kind, c.reading.subject): c.status for c in compared(*told) if c.status != "same"}


def test_her_second_version_is_better_in_one_thing_and_worse_in_another() -> None:
    second = read_rig(mill_race.oda_glb(second=True), NEXT)
    assert changes(second) == {("off_arc", "lantern"): "gone", ("off_arc", "hood_tip"): "new"}


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


def test_a_version_without_a_joint_that_a_camera_goes_by_is_refused() -> None:
    rig = mill_race.demo_rig("oda")
    headless = replace(rig, names=tuple("skull" if name == "head" else name for name in rig.names))
    with pytest.raises(DomainError, match=r"lacks the joint “head”, which “Face Oda 85” goes by") as refused:
        brought(headless)
    assert "export the file with them" in refused.value.remedy


def test_feet_and_anchor_that_are_no_longer_there_are_let_go() -> None:
    rig = mill_race.demo_rig("oda")
    renamed = {"foot_l": "Left foot", "foot_r": "Right foot", "pole": "rod"}
    other = replace(rig, names=tuple(renamed.get(name, name) for name in rig.names))
    anchored = SCENE.with_character(replace(ODA, ride=Ride("rigid", 1.0, "pole")))
    character = brought(other, anchored).character(ODA.id)
    assert set(character.feet) == {"Left foot", "Right foot"}
    assert character.ride.anchor is None


def test_whose_version_a_file_is() -> None:
    work = baker()
    assert edits.version_of(SCENE, work, mill_race.demo_rig("oda")) == ODA
    assert edits.version_of(SCENE, work, mill_race.demo_rig("quill")) == SCENE.characters[1]
    assert edits.version_of(SCENE, work, bvh.read(BVH.encode())) is None


def test_a_kink_that_was_mended_is_gone_and_a_worse_one_worse(monkeypatch: pytest.MonkeyPatch) -> None:
    mended, worse = kinked(monkeypatch, 0.0), kinked(monkeypatch, -6.0)
    assert changes(mended)["off_arc", "lantern"] == "gone"
    assert changes(worse)["off_arc", "lantern"] == "worse"
    assert changes(mill_race.demo_rig("oda")) == {}


def test_a_fault_is_told_once_of_the_joint_in_which_it_is_worst(monkeypatch: pytest.MonkeyPatch) -> None:
    (kink,) = (r for r in readings_to_compare(baker(), fail) if r.kind == "off_arc")
    assert (kink.subject, kink.first) == ("lantern", 1043)
    assert [(f.title, f.value) for f in kink.figures] == [("further joints", 2)]
    monkeypatch.setattr(module, "MOST_JUDGED", 10)
    assert MOST_JUDGED > 10
    assert not [r for r in readings_to_compare(baker(), fail) if r.kind == "off_arc"], "of a long scene fewer joints"


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
