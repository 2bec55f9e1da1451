"""Names of the cameras' parts, remembered from answer to answer, against naming them all anew."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from fractions import Fraction

from hypothesis import given, settings
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.scene import Scene
from eddyfield.web.camera_names import KEPT_REVISIONS, CameraNames, NamedCameras
from tests.core.scenery import SCENE, baker


def some(scene: Scene, number: int) -> str:
    free = [c.id for c in scene.cameras if c not in scene.cameras_of_cut]
    return free[number % len(free)]


CHANGES: dict[str, Callable[[Scene, int], Scene]] = {
    "nothing": lambda s, n: s,
    "value": lambda s, n: edits.SetCameraValues(camera_id=some(s, n), values={"focus_m": 1 + n / 7}).apply(s),
    "name": lambda s, n: edits.RenameCamera(camera_id=some(s, n), name=f"Camera {uuid.uuid4()}").apply(s),
    "copy": lambda s, n: edits.CopyCamera(camera_id=some(s, n), new_id=str(uuid.uuid4())).apply(s),
    "delete": lambda s, n: (
        edits.DeleteCamera(camera_id=some(s, n), replace_by=None).apply(s) if len(s.cameras) > 3 else s
    ),
    "order": lambda s, n: edits.OrderCamera(camera_id=some(s, n), index=(n * 7) % len(s.cameras)).apply(s),
    "view": lambda s, n: edits.SaveView(
        camera_id=some(s, n), view_id=str(uuid.uuid4()), name=f"View {n}", time=Fraction(1001 + n)
    ).apply(s),
    "poses": lambda s, n: edits.StepCharacter(character_id=s.characters[0].id, stepping=Stepping(1 + n % 3)).apply(s),
}
steps = st.lists(st.tuples(st.sampled_from(sorted(CHANGES)), st.integers(0, 60), st.integers(0, 3)), max_size=7)


def parts_of(cameras: NamedCameras) -> set[str]:
    return {name for named in cameras.named for name in named.parts}


@settings(max_examples=60, deadline=None)
@given(steps)
def test_names_are_those_of_naming_anew_and_nothing_that_is_missing_is_held_back(
    asked: list[tuple[str, int, int]],
) -> None:
    names, scene = CameraNames(), SCENE
    answered = [names.of(baker(scene))]
    names.answer(scene.id, 1, answered[0])
    for what, number, back in asked:
        scene = CHANGES[what](scene, number)
        found, anew = names.of(baker(scene)), CameraNames().of(baker(scene))
        assert [n.camera for n in found.named] == list(scene.cameras)
        assert [(n.parts, n.saved) for n in found.named] == [(n.parts, n.saved) for n in anew.named]
        assert list(found.views) == [n.view for n in found.named]
        # A browser that holds what some earlier answer told it of the cameras, and one part of this one.
        revision = max(1, len(answered) - back)
        other = {found.named[number % len(found.named)].path}
        sent = names.unknown(scene.id, found, revision, other)
        has = parts_of(answered[revision - 1]) | other | {name for n in sent for name in n.parts}
        assert parts_of(found) <= has
        if revision == len(answered) and what in ("nothing", "value", "name", "order"):
            assert len(sent) <= 1, "only what changed is sent"
        answered.append(found)
        names.answer(scene.id, len(answered), found)


def test_revisions_long_past_and_other_scenes_are_not_known() -> None:
    names = CameraNames()
    cameras = names.of(baker(SCENE))
    for revision in range(1, KEPT_REVISIONS + 2):
        names.answer(SCENE.id, revision, cameras)
    everything = list(cameras.named)
    assert names.unknown(SCENE.id, cameras, 1, set()) == everything
    assert names.unknown(SCENE.id, cameras, None, set()) == everything
    assert names.unknown("another", cameras, 2, set()) == everything
    assert names.unknown(SCENE.id, cameras, 2, set()) == []
    assert names.unknown(SCENE.id, cameras, None, parts_of(cameras)) == []
