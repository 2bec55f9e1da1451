"""Cameras that came with a file become cameras of the scene."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera, FilmBack, Glass
from ..cameras.camera_channels import POSE_NAMES, camera_channels
from ..errors import DomainError
from ..optics.depth_of_field import blur_disc_mm, blur_disc_px
from ..optics.lens import Lens
from ..performance.nested import ground_of
from ..performance.shown import carried_out
from ..rig import transforms
from ..rig.rig import FileCamera
from ..scene import Scene
from ..time.channels import Channel
from ..time.frames import FrameRange
from ..time.key_reduction import fewest_keys, keys_on_every_frame
from .camera_rigging import BakeCamera
from .cameras import add_camera
from .edit import Edit, check_new_id

BACK = FilmBack(36.0, 24.0, "height")
"""Files give a vertical field of view: by the height of the back it stays, whatever the delivery frame is."""
USUAL_MM = 35.0
FAR_M = 1000.0
STILL = 1e-9


@dataclass(frozen=True, kw_only=True)
class BringFileCamera(Edit):
    """Make a camera of one that came with a thing's file, where that is placed: with as few keys as keep the picture within
    ``error_px``, or (None) a key on every frame."""

    edit: Literal["bring file camera"] = "bring file camera"
    title: ClassVar[str] = "camera of a file"
    camera_id: str
    thing_id: str
    camera: str
    error_px: float | None = 0.1

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        check_new_id(self.camera_id)
        thing = scene.thing(self.thing_id)
        rig = baker.rig(thing)
        found = next((c for c in rig.cameras if c.name == self.camera), None)
        if found is None:
            there = ", ".join(c.name for c in rig.cameras) or "none"
            raise DomainError(f"The file of {thing.name} has no camera “{self.camera}”.", f"It has {there}.")
        frames = scene.frames
        seconds = thing.performance.timing.file_seconds(frames.frames(), scene.rate, rig.motion.duration_seconds)
        node = np.array([found.node], dtype=np.int64)
        world = carried_out(rig.world_matrices(seconds, node), thing.placing, frames, ground_of(thing.nested))[:, 0]
        rigid = transforms.orthonormal(world)
        back = back_of(found)
        focal = focal_mm(found, seconds)
        pose = np.concatenate(
            [rigid[:, :3, 3], transforms.angles_from_rotation(rigid[:, :3, :3]), focal[:, None]], axis=1
        )
        values = dict(zip(POSE_NAMES, pose.T, strict=True))
        stands_still = bool((np.ptp(pose, axis=0) < STILL).all())
        if stands_still:
            channels = {name: Channel(float(v[0])) for name, v in values.items()}
        else:
            channels = keys_on_every_frame(frames.frames().astype(np.float64), values)
        across, up = found.off_middle_mm
        width = back.height_mm * scene.delivery.aspect
        glass = Glass(
            shift_x=-across / width, shift_y=-up / back.height_mm, near_m=found.near_m, far_m=found.far_m,
            orthographic_height_m=found.orthographic_height_m,
        )  # fmt: skip
        channels |= self._focus(
            found, frames, seconds, focal, Lens(35.0, back.width_mm, back.height_mm, "height"), scene
        )
        camera = Camera(self.camera_id, found.name, back=back, glass=glass, channels=camera_channels(**channels))
        scene = add_camera(scene, camera)
        if stands_still or self.error_px is None:
            return scene
        few = BakeCamera(camera_id=self.camera_id, first=frames.first, last=frames.last, error_px=self.error_px)
        return few.apply(scene, baker.of(scene))

    def _focus(
        self, found: FileCamera, frames: FrameRange, seconds: Floats, focal: Floats, lens: Lens, scene: Scene
    ) -> dict[str, Channel]:
        """Its focus and aperture: the discs of a point that ought to be sharp, and of one far away, stay within the error."""
        if found.focus_curve is None:
            return {}
        focus_m, aperture = np.clip(found.focus_curve.sample(seconds), [[0.01, 0.5]], [[1e6, 128.0]]).T
        values = {"focus_m": focus_m, "aperture": aperture}
        if all(np.ptp(v) < STILL for v in values.values()):
            return {name: Channel(float(v[0])) for name, v in values.items()}
        at = frames.frames().astype(np.float64)
        if self.error_px is None:
            return keys_on_every_frame(at, values)

        def disc_px(depth_m: Floats, with_values: Mapping[str, Floats]) -> Floats:
            disc = blur_disc_mm(depth_m, focal, with_values["aperture"], with_values["focus_m"])
            return np.nan_to_num(blur_disc_px(disc, lens, scene.delivery))

        far = np.full(len(at), FAR_M)

        def error(approximate: Mapping[str, Floats]) -> Floats:
            far_off = np.abs(disc_px(far, approximate) - disc_px(far, values))
            return np.maximum(disc_px(focus_m, approximate), far_off)

        return fewest_keys(at, values, error, self.error_px)


def back_of(camera: FileCamera) -> FilmBack:
    """The film back of a file's camera, taken by its height."""
    return replace(BACK, width_mm=camera.back_mm[0], height_mm=camera.back_mm[1]) if camera.back_mm else BACK


def focal_mm(camera: FileCamera, seconds: Floats) -> Floats:
    """The focal length on its back that gives the file's vertical field of view at times in seconds, (times,)."""
    if camera.fov_curve is not None:
        fov = np.degrees(camera.fov_curve.sample(seconds)[:, 0])
    elif camera.vertical_fov_deg is not None:
        fov = np.full(len(seconds), camera.vertical_fov_deg)
    else:
        return np.full(len(seconds), USUAL_MM)
    return np.asarray(back_of(camera).height_mm / 2 / np.tan(np.radians(np.clip(fov, 0.3, 170.0)) / 2))
