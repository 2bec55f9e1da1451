"""Names of the parts that show a scene's cameras, worked out again only for the cameras that changed."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Container, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import zip_longest
from typing import Any, TypeVar

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.content import content_key

KEPT_SCENES = 32
KEPT_REVISIONS = 64

Key = TypeVar("Key")
Value = TypeVar("Value")


@dataclass(frozen=True, eq=False)
class NamedCamera:
    """A camera with the names of its parts: ``path`` what is worked out from it, ``view`` its settings, ``channels`` its
    keys."""

    camera: Camera
    path: str
    view: str
    channels: str
    saved: tuple[tuple[Camera, str], ...]
    """The camera as each saved view shows it, with the name of what is worked out from that."""

    @property
    def parts(self) -> tuple[str, str, str]:
        """Names of all that is held of every camera."""
        return self.path, self.view, self.channels


@dataclass(frozen=True, eq=False)
class NamedCameras:
    """The cameras of a scene in their order, as they are ``around`` what they could follow."""

    surroundings: str
    cameras: tuple[Camera, ...]
    named: tuple[NamedCamera, ...]
    views: tuple[str, ...]


NOTHING = NamedCameras("", (), (), ())


class CameraNames:
    """Remembers the cameras of each scene as they were last asked for. One that is the same object in the same place is
    passed over unread, so that a scene of hundreds of cameras costs hardly more than a few."""

    def __init__(self) -> None:
        self._last: OrderedDict[str, NamedCameras] = OrderedDict()
        self._answered: OrderedDict[tuple[str, int], NamedCameras] = OrderedDict()

    def of(self, baker: Baker) -> NamedCameras:
        """The cameras of the baker's scene, named."""
        scene, cameras = baker.scene, baker.scene.cameras
        last = self._last.get(scene.id, NOTHING)
        if last.surroundings != baker.surroundings_key:
            last = NOTHING
        changed = _changed_indices(cameras, last.cameras)
        known = {id(n.camera): n for n in last.named} if len(changed) > 1 else {}  # moved to other places
        named = {p: known.get(id(cameras[p])) or _named(baker, cameras[p]) for p in changed}
        found = NamedCameras(
            baker.surroundings_key,
            cameras,
            _with(last.named, named, len(cameras)),
            _with(last.views, {index: n.view for index, n in named.items()}, len(cameras)),
        )
        _keep(self._last, scene.id, found, KEPT_SCENES)
        return found

    def answer(self, scene_id: str, revision: int, cameras: NamedCameras) -> None:
        """These are the cameras of a scene at a revision: whoever is answered so, holds all their parts."""
        _keep(self._answered, (scene_id, revision), cameras, KEPT_REVISIONS)

    def held(self, scene_id: str, revision: int | None) -> Mapping[str, NamedCamera]:
        """The cameras that who was answered at a revision holds all parts of, by their ids."""
        return {n.camera.id: n for n in self._answered.get((scene_id, revision or 0), NOTHING).named}

    def unknown(
        self, scene_id: str, cameras: NamedCameras, revision: int | None, known_parts: Container[str]
    ) -> list[NamedCamera]:
        """Those of the cameras of which a part is missing to who holds those of a revision, and the parts ``held``."""
        before = self._answered.get((scene_id, revision or 0), NOTHING)
        changed = [cameras.named[index] for index in _changed_indices(cameras.named, before.named)]
        of_revision = {name for n in before.named for name in n.parts} if len(changed) > 1 else set()
        return [n for n in changed if any(name not in known_parts and name not in of_revision for name in n.parts)]


def _changed_indices(now: Sequence[object], before: Sequence[object]) -> list[int]:
    """Places at which there is now another object than before."""
    return [index for index, (a, b) in enumerate(zip_longest(now, before[: len(now)])) if a is not b]


def _with(before: tuple[Value, ...], changed: Mapping[int, Value], count: int) -> tuple[Value, ...]:
    """The first ``count`` of what was before, with what changed by place; all beyond what was before has changed."""
    out: list[Any] = [*before[:count], *[None] * (count - len(before))]
    for index, value in changed.items():
        out[index] = value
    return tuple(out)


def _keep(memory: OrderedDict[Key, Value], key: Key, value: Value, most: int) -> None:
    memory[key] = value
    if len(memory) > most:
        memory.popitem(last=False)


def _named(baker: Baker, camera: Camera) -> NamedCamera:
    path = baker.camera_part(camera).key
    free = replace(camera, locks=())
    saved = [
        replace(free.rigged(view.rigging or camera.rigging), mount=view.mount, unkeyed=view.values)
        for view in camera.views
    ]
    view = content_key("camera view", camera.shown_by, path)
    return NamedCamera(
        camera, path, view, camera.channels.content, tuple((shown, baker.camera_part(shown).key) for shown in saved)
    )
