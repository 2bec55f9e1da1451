"""A scene without all that a judgement does not go by, so that only what it goes by has it judged again."""

from __future__ import annotations

from dataclasses import replace

from ..cameras.camera import Camera
from ..cut.cut import Cut, CutEntry
from ..performance.character import Character
from ..performance.ride import Ride
from ..scene import Scene

OTHER = "other"
"""Stands for every camera that does not matter."""


def for_camera(scene: Scene, camera: Camera) -> Scene:
    """What one camera is judged by, itself as it is given: the other cameras matter where a character rides with them."""
    if any(c.ride.way != "off" for c in scene.characters):
        others = tuple(_look(c) for c in scene.cameras_of_cut if c.id != camera.id)
        return replace(_bare(scene), cameras=(camera, *others))
    cut = _shown_apart(scene.cut, camera.id)
    return replace(_bare(scene), cameras=(camera, Camera(OTHER, "")), cut=cut)


def for_performance(scene: Scene, character: Character, holds_poses: bool) -> Scene:
    """What a performance is judged by: the cut, and whom its cameras go by, where it holds poses; else itself."""
    if not holds_poses:
        alone = replace(_bare(scene), cameras=(Camera(OTHER, ""),), cut=Cut.of((scene.frames.first, OTHER)))
        return replace(alone, id="", name="", characters=(character,), pieces=())
    cameras = tuple(map(_look, scene.cameras_of_cut))
    followed = {subject.owner_id for camera in cameras for subject, _ in camera.followed()}
    followed |= {camera.steps_with for camera in cameras}
    pieces = tuple(replace(p, name="") for p in scene.pieces if p.id in followed)
    holders = {hold.character_id for piece in pieces for hold in piece.holds}
    near = (followed | holders) - {character.id}
    others = (replace(c, name="", ride=Ride(), feet=()) for c in scene.characters if c.id in near)
    return replace(
        scene,
        id="",
        name="",
        other_cuts=(),
        cut_name="",
        cameras=cameras,
        characters=(character, *others),
        pieces=pieces,
    )


def _bare(scene: Scene) -> Scene:
    """Without its name, and without the cuts that are kept beside the one that is shown."""
    return replace(scene, id="", name="", other_cuts=(), cut_name="")


def _look(camera: Camera) -> Camera:
    return replace(camera.look, id=camera.id)


def _shown_apart(cut: Cut, camera_id: str) -> Cut:
    """When a camera is shown, and when another one."""
    entries: list[CutEntry] = []
    for entry in cut.entries:
        shown = camera_id if entry.camera_id == camera_id else OTHER
        if not entries or shown == camera_id or entries[-1].camera_id != shown:
            entries.append(CutEntry(entry.first, shown))
    return Cut(tuple(entries))
