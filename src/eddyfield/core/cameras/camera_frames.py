"""A camera on every frame: lens, then mount, then aim, then framing lock, then focus."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

import numpy as np

from ..arrays import Bools, Floats, Ints
from ..optics.camera_path import CameraPath
from ..optics.lens import DeliveryFrame
from ..rig import transforms
from ..time.channels import Located, evaluate, located
from .aim import aimed
from .camera import Camera, CameraPose
from .focus import focus_distances
from .framing import lock_framing
from .mounts import Free, Values
from .subjects import Surroundings

REACHES = 4
"""How often a reach is corrected for an offset that turns with the head."""


@dataclass(frozen=True, eq=False)
class CameraFrames:
    """``values`` are its channels, (frames,) each. ``mounted`` (frames, 4, 4) is where mount and own channels put it, before
    aim and lock; ``path`` is what is seen. ``pose`` (frames, 7): x y z in metres, pan tilt roll in degrees, focal length
    in mm. ``place_reached`` and ``size_reached`` tell where the lock does what it should; ``wanted_px`` (frames, 2) is
    the place it holds and ``correction`` (frames, 6) what it does for that (see ``lock_correction``), None without one.
    ``view_height_m`` (frames,) is that of a parallel view, else None. ``focus_m`` and ``aperture`` are (frames,)."""

    values: Values
    mounted: Floats
    path: CameraPath
    pose: Floats
    aim_reached: Bools
    place_reached: Bools
    size_reached: Bools
    wanted_px: Floats | None
    correction: Floats | None
    view_height_m: Floats | None
    focus_m: Floats
    aperture: Floats

    def pose_at(self, row: int) -> CameraPose:
        return CameraPose(*(float(v) for v in self.pose[row]))


def camera_frames(camera: Camera, surroundings: Surroundings, delivery: DeliveryFrame) -> CameraFrames:
    """Work a camera out over all frames of the scene."""
    values = channel_values(camera, surroundings)
    own = np.stack([values[n] for n in ("x", "y", "z")], axis=-1)
    angles = np.stack([values[n] for n in ("pan", "tilt", "roll")], axis=-1)
    mounted = transforms.rigid(transforms.rotation_from_angles(*angles.T), own)
    place = own
    if not isinstance(camera.mount, Free):
        mounted = camera.mount.world_from_mount(values, surroundings) @ mounted
        place = mounted[:, :3, 3]
        angles = transforms.angles_from_rotation(mounted[:, :3, :3])
    every = np.ones(len(place), dtype=bool)
    aim_reached, place_reached, size_reached = every, every, every
    focal, wanted = np.maximum(values["focal_mm"], 1.0), None
    if camera.aim:
        turned = aimed(camera.aim, values["aim_weight"], place, angles, surroundings)
        angles = np.stack([turned.pan, turned.tilt, angles[:, 2]], axis=-1)
        aim_reached = turned.reached
    lens = camera.lens().with_focal(focal)
    correction, height = None, None
    if lens.orthographic_height_m is not None:
        height = np.full(len(place), lens.orthographic_height_m)
    if camera.framing:
        kept = lock_framing(camera.framing, values["framing_weight"], place, angles, lens, delivery, surroundings)
        place, angles, focal, wanted = kept.place, kept.angles, kept.focal_mm, kept.wanted_px
        correction, height = kept.correction, kept.view_height_m
        place_reached, size_reached = kept.place_reached, kept.size_reached
    world = mounted
    if camera.aim or camera.framing:
        world = transforms.rigid(transforms.rotation_from_angles(*angles.T), place)
    path = CameraPath(world, replace(lens, focal_mm=focal, orthographic_height_m=height), delivery)
    focus = values["focus_m"] if camera.focus is None else focus_distances(camera.focus, world, surroundings)
    pose = np.column_stack([place, angles, focal])
    return CameraFrames(
        values, mounted, path, pose, aim_reached, place_reached, size_reached, wanted, correction, height, focus,
        values["aperture"],
    )  # fmt: skip


def held_on(found: CameraFrames, rows: Ints) -> CameraFrames:
    """A camera that shows on each frame how it stands on the row of ``rows`` (frames,)."""
    arrays = {
        f.name: value[rows]
        for f in fields(found)
        if isinstance(value := getattr(found, f.name), np.ndarray) and len(value) == len(rows)
    }
    values = {name: value[rows] for name, value in found.values.items()}
    return replace(found, values=values, path=found.path.at_rows(rows), **arrays)


def channel_values(camera: Camera, surroundings: Surroundings) -> Values:
    """All channels on every frame, (frames,) each; those that were moved and not keyed are constant."""
    frames = surroundings.frames.frames().astype(np.float64)
    unkeyed = dict(camera.unkeyed)
    out: dict[str, Floats] = {}
    among: Located | None = None
    for name, channel in camera.channels.items():
        if name in unkeyed:
            out[name] = np.full(len(frames), unkeyed[name])
            continue
        if among is None and len(channel.keys) > 1:
            among = located(channel.segments, frames)  # most channels have their keys where the first has them
        out[name] = evaluate(channel, frames, among)
    return out


def channels_standing_at(
    camera: Camera, wanted: Floats, row: int, values: Values, surroundings: Surroundings, keep_offset: bool
) -> dict[str, float]:
    """Values of the place and angle channels, and of the mount's own, that put the mounted camera at ``wanted``.

    ``wanted`` (4, 4) is ``world_from_camera`` on a row. With ``keep_offset`` the camera stays on its rail, arm or orbit as
    near as that can be, and only turns; otherwise what is missing becomes its offset from the mount, exactly.
    """
    mount = camera.mount
    here = {name: v[row : row + 1] for name, v in values.items()}
    moved = {name: np.array(v) for name, v in values.items()}
    stays_off = keep_offset and bool(mount.channels)
    offset = np.array([float(here[n][0]) for n in ("x", "y", "z")])
    head, own = mount.world_from_mount(moved, surroundings)[row], dict[str, float]()
    # An offset that turns with the head is known only once the head is there.
    for _ in range(REACHES if stays_off and offset.any() else 1):
        beside = head[:3, :3] @ offset if stays_off else 0.0
        own = mount.reaching(wanted[:3, 3] - beside, row, values, surroundings)
        for name, value in own.items():
            moved[name][row] = value
        head = mount.world_from_mount(moved, surroundings)[row]
    local = transforms.rigid_inverse(head) @ wanted
    angles = transforms.angles_from_rotation(local[None, :3, :3], float(here["pan"][0]), float(here["roll"][0]))[0]
    place = offset if stays_off else local[:3, 3]
    return own | dict(zip(("x", "y", "z", "pan", "tilt", "roll"), (float(v) for v in (*place, *angles)), strict=True))
