"""Where a camera stands, over time."""

from __future__ import annotations

from typing import Literal

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import KeyShape, frame_time

from .base import ChannelValues, Frame, OfCamera, Pose, Time


class PlaceCamera(OfCamera):
    edit: Literal["place camera"] = "place camera"
    pose: Pose
    frame: Frame
    turns: edits.Turns = "nearest"
    keep_offset: bool = False
    """Stay on the rail, arm or orbit, as near as that can be."""

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        pose = self.pose.value()
        return edits.place_camera(scene, baker, self.camera_id, pose, self.frame, self.turns, self.keep_offset)


class KeyCamera(OfCamera):
    edit: Literal["set camera key"] = "set camera key"
    time: Time
    pose: Pose | None = None

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        pose = self.pose.value() if self.pose else None
        return edits.key_camera(scene, baker, self.camera_id, frame_time(self.time), pose)


class SetCameraValues(OfCamera):
    edit: Literal["set camera values"] = "set camera values"
    values: ChannelValues

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.set_camera_values(scene, self.camera_id, self.values)


class KeyCameraValues(OfCamera):
    edit: Literal["key camera values"] = "key camera values"
    time: Time
    values: ChannelValues

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.key_camera_values(scene, self.camera_id, frame_time(self.time), self.values)


class RunEvenly(OfCamera):
    edit: Literal["run rail evenly"] = "run rail evenly"
    first: Frame
    last: Frame

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.run_evenly(scene, self.camera_id, self.first, self.last)


class PutCameraBack(OfCamera):
    edit: Literal["put camera back"] = "put camera back"

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.put_camera_back(scene, self.camera_id)


class DeleteCameraKeys(OfCamera):
    edit: Literal["delete camera key"] = "delete camera key"
    time: Time

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.delete_camera_keys(scene, self.camera_id, frame_time(self.time))


class MoveCameraKeys(OfCamera):
    edit: Literal["move camera key"] = "move camera key"
    time: Time
    to: Time

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.move_camera_keys(scene, self.camera_id, frame_time(self.time), frame_time(self.to))


class ShapeCameraKeys(OfCamera):
    edit: Literal["shape camera key"] = "shape camera key"
    time: Time
    shape: KeyShape

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        return edits.shape_camera_keys(scene, self.camera_id, frame_time(self.time), self.shape)
