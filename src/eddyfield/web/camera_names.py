"""Names of the parts that show a scene's cameras, worked out again only for the cameras that changed."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass, replace

from eddyfield.core.bake import Baker
from eddyfield.core.cameras import Camera
from eddyfield.core.content import content_name

KEPT_SCENES = 32
SPARE_CAMERAS = 64
"""Earlier states of cameras whose names are kept beside those of a scene."""


@dataclass(frozen=True, eq=False)
class NamedCamera:
    """A camera with the names of its parts: ``path`` what is worked out from it, ``view`` its settings."""

    camera: Camera
    path: str
    view: str
    saved: tuple[tuple[Camera, str], ...]
    """The camera as each saved view shows it, with the name of what is worked out from that."""


class CameraNames:
    """Remembers the names of the cameras of each scene. A camera that is the same object, among the same things, keeps
    its names unread, so that a scene of hundreds of cameras costs hardly more than a few."""

    def __init__(self) -> None:
        self._known: OrderedDict[str, tuple[str, dict[int, NamedCamera]]] = OrderedDict()

    def of(self, baker: Baker) -> list[NamedCamera]:
        scene = baker.scene
        around, known = self._known.get(scene.id, ("", {}))
        if around != baker.around_name or len(known) > 2 * len(scene.cameras) + SPARE_CAMERAS:
            known = {}
            self._known[scene.id] = baker.around_name, known
            if len(self._known) > KEPT_SCENES:
                self._known.popitem(last=False)
        # By their ids: each camera is held with its names, so that no other object can come to have the same.
        for camera in (c for c in scene.cameras if id(c) not in known):
            known[id(camera)] = _named(baker, camera)
        return [known[key] for key in map(id, scene.cameras)]


def _named(baker: Baker, camera: Camera) -> NamedCamera:
    path = baker.camera_name(camera)
    saved = [replace(camera, mount=view.mount, unkeyed=view.values) for view in camera.views]
    view = content_name("camera view", camera.shown_by, path)
    return NamedCamera(camera, path, view, tuple((shown, baker.camera_name(shown)) for shown in saved))
