"""Rails laid in one action, and the orbit that takes the place of a chord cut through a circle."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from ..bake import Baker
from ..camera_frames import channels_standing_at
from ..channels import Channel, Key
from ..errors import DomainError
from ..mounts import Orbit, Rail
from ..scene import Scene
from ..subjects import Subject, Vector
from ..time import FrameTime
from ..transforms import Floats
from .camera_rigging import mount_camera
from .cameras import refuse_locked

RailShape = Literal["straight", "ring", "square", "beside the path"]
STRAIGHT_M = 4.0
RING_POINTS, PATH_POINTS = 8, 9
CORNER_SHARE = 0.25
QUARTERS = np.arange(4) * np.pi / 2


def lay_rail(
    scene: Scene,
    baker: Baker,
    camera_id: str,
    shape: RailShape,
    frame: int,
    character_id: str | None = None,
    side_m: float = 3.0,
) -> Scene:
    """Put a camera on a new rail that runs through where it stands, the picture kept.

    ``straight``: level, across its sight. ``ring`` and ``square`` (with rounded corners): closed, around the character.
    ``beside the path``: along the character's own way, ``side_m`` metres to its left (negative: to its right), at the
    camera's height.
    """
    camera = scene.camera(camera_id)
    frames, row = baker.camera(camera), baker.row_of(frame)
    eye, world = frames.path.world_from_camera[row, :3, 3], frames.path.world_from_camera[row]
    if shape == "straight":
        across = np.array([world[0, 0], 0.0, world[2, 0]])
        across = across / max(float(np.linalg.norm(across)), 1e-9) * STRAIGHT_M / 2
        points = [eye - across, eye, eye + across]
        return mount_camera(scene, baker, camera_id, Rail(points=_vectors(points)), frame)
    character = scene.character(character_id) if character_id else (scene.characters or (None,))[0]
    if character is None:
        raise DomainError("There is no character to lay the rail by.", "Bring one in first.")
    low, high = baker.body_bounds(character.id, "motion")
    middle = (low + high) / 2
    if shape == "beside the path":
        points = _beside(middle, side_m, float(eye[1]))
        return mount_camera(scene, baker, camera_id, Rail(points=_vectors(points)), frame)
    out = (eye - middle[row]) * [1.0, 0.0, 1.0]
    radius = max(float(np.linalg.norm(out)), 0.5)
    start = float(np.arctan2(out[0], out[2]))
    if shape == "ring":
        turns = start + np.arange(RING_POINTS) * 2 * np.pi / RING_POINTS
        reach = np.full(RING_POINTS, radius)
    else:
        # Each side has a point in its middle and one at each end; between two sides one lies on the arc of the corner.
        straight = 1 - CORNER_SHARE
        arc = straight + CORNER_SHARE * np.sqrt(0.5)
        quarter = np.array([[0.0, 1.0], [straight, 1.0], [arc, arc], [1.0, straight]])
        quarters = [quarter @ np.array([[np.cos(q), -np.sin(q)], [np.sin(q), np.cos(q)]]) for q in QUARTERS]
        corners = np.concatenate(quarters)
        turns, reach = start + np.arctan2(corners[:, 0], corners[:, 1]), radius * np.hypot(*corners.T)
    centre = np.array([middle[row, 0], eye[1], middle[row, 2]])
    points = [centre + r * np.array([np.sin(t), 0.0, np.cos(t)]) for t, r in zip(turns, reach, strict=True)]
    laid = mount_camera(scene, baker, camera_id, Rail(points=_vectors(points), closed=True), frame)
    # On a rail that is new there is no turn to go on from.
    closed = laid.camera(camera_id)
    position = closed.channels.rail
    return laid.with_camera(
        replace(closed, channels=replace(closed.channels, rail=replace(position, default=position.default % 1.0)))
    )


def orbit_instead(scene: Scene, baker: Baker, camera_id: str, first: int, last: int, subject: Subject) -> Scene:
    """Between two keys, go around a subject in place of the straight way: an orbit with the same end pictures."""
    camera = scene.camera(camera_id)
    refuse_locked(camera, {"place", "angles"}, "put on an orbit")
    if last <= first:
        raise DomainError("The move ends before it begins.", "Give two frames in order.")
    now = baker.camera(camera)
    orbit = replace(camera, mount=Orbit(pivot=subject), unkeyed=())
    ends = []
    values = now.values
    for frame in (first, last):
        row = baker.row_of(frame)
        found = channels_standing_at(orbit, now.mounted[row], row, values, baker, keep_offset=False)
        ends.append(found)
        # The second end goes round from the first, by the shorter way.
        values = dict(values) | {n: np.full_like(now.values[n], v) for n, v in found.items()}
    focal = [float(now.values["focal_mm"][baker.row_of(f)]) for f in (first, last)]
    channels = {name: _between(first, last, ends[0][name], ends[1][name]) for name in ends[0]} | {
        "focal_mm": _between(first, last, *focal)
    }
    orbit = replace(orbit, channels=replace(camera.channels, **channels))
    baker.camera(orbit)
    return scene.with_camera(orbit)


def _between(first: int, last: int, start: float, end: float) -> Channel:
    if start == end:
        return Channel(start)
    return Channel(start, (Key(FrameTime(first), start, "ease"), Key(FrameTime(last), end, "ease")))


def _beside(middle: Floats, side_m: float, height: float) -> list[Floats]:
    """Points along a way, offset to the left of where it goes."""
    rows = np.unique(np.linspace(0, len(middle) - 1, PATH_POINTS).round().astype(int))
    way = middle[rows] * [1.0, 0.0, 1.0]
    ahead = np.gradient(way, axis=0) if len(way) > 1 else np.zeros_like(way)
    length = np.linalg.norm(ahead, axis=-1, keepdims=True)
    if float(np.linalg.norm(way[-1] - way[0])) < 0.1 or (length < 1e-6).any():
        raise DomainError("The character does not go anywhere.", "Lay a straight rail or a ring.")
    ahead = ahead / length
    left = np.stack([ahead[:, 2], np.zeros(len(way)), -ahead[:, 0]], axis=-1)
    return list(way + left * side_m + [0.0, height, 0.0])


def _vectors(points: list[Floats]) -> tuple[Vector, ...]:
    return tuple((float(p[0]), float(p[1]), float(p[2])) for p in points)
