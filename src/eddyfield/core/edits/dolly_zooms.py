"""The dolly zoom as an edit: a subject's size over a range is given, and the lens or the move is solved for it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..bake import Baker
from ..cameras import POSE_NAMES, Camera
from ..channels import Channel, Key
from ..dolly_zoom import apparent_sizes_px, solve_focal_mm, solve_places, subject_depths, wanted_sizes
from ..ease import Ease, check_ease
from ..errors import DomainError
from ..framing import SizeHold
from ..key_reduction import keys_on_every_frame
from ..mounts import Free
from ..scene import Scene
from ..subjects import Subject, group_of
from .cameras import refuse_locked

Given = Literal["move", "lens"]


@dataclass(frozen=True)
class DollyZoom:
    """``share_from`` and ``share_to`` are the subject's height in frame heights, None for what it has on the first frame.
    ``given`` says which path stays: the camera's move, or the lens's focal length."""

    subject: Subject
    first: int
    last: int
    given: Given = "move"
    share_from: float | None = None
    share_to: float | None = None
    ease: Ease = "even"

    def __post_init__(self) -> None:
        check_ease(self.ease)
        if self.last <= self.first:
            raise DomainError("The dolly zoom ends before it begins.", "Give a last frame after the first one.")
        for share in (self.share_from, self.share_to):
            if share is not None:
                SizeHold(share=share)


def dolly_zoom(scene: Scene, baker: Baker, camera_id: str, wanted: DollyZoom) -> Scene:
    """Solve the lens for the move, or the move for the lens; the solution is keyed on every frame of the range."""
    camera = scene.camera(camera_id)
    refuse_locked(camera, {"lens"} if wanted.given == "move" else {"place"}, "solved")
    if camera.glass.orthographic_height_m is not None:
        raise DomainError("A parallel view has no dolly zoom.", "Give the camera a lens.")
    first, last = max(wanted.first, scene.frames.first), min(wanted.last, scene.frames.last)
    if last <= first:
        raise DomainError("The dolly zoom lies outside the scene.", "Give frames within it.")
    rows = np.arange(first, last + 1) - scene.frames.first
    now = baker.camera(camera)
    path = now.path.at_rows(rows)
    whole = group_of((wanted.subject,), baker)
    group = type(whole)(whole.place[rows], whole.radius_m[rows])
    if not (group.radius_m > 0).all():
        raise DomainError("The subject has no size.", "Choose a character, or give the subject a radius.")
    if not (subject_depths(path, group.place) > 0).all():
        raise DomainError("The subject is behind the camera on some frames.", "Choose frames on which it is in sight.")
    height = scene.delivery.height
    begins = wanted.share_from * height if wanted.share_from else float(apparent_sizes_px(path, group)[0])
    ends = wanted.share_to * height if wanted.share_to else begins
    frames = np.arange(first, last + 1, dtype=np.float64)
    sizes = wanted_sizes(frames, first, last, begins, ends, wanted.ease)
    if wanted.given == "move":
        focal = solve_focal_mm(path, group, sizes)
        if not ((focal >= 1) & (focal <= 5000)).all():
            raise DomainError(
                f"The lens would have to go from {focal.min():.3g} to {focal.max():.3g} mm.", "Move the camera less."
            )
        solved = {"focal_mm": keys_on_every_frame(frames, {"focal_mm": focal})["focal_mm"]}
        camera = replace(camera, unkeyed=tuple((n, v) for n, v in camera.unkeyed if n != "focal_mm"))
        return scene.with_camera(replace(camera, channels=replace(camera.channels, **_around(camera, solved))))
    if not isinstance(camera.mount, Free) or camera.framing is not None:
        raise DomainError(
            "The move can be solved for a free camera only.", "Bake the camera to keys first, or let the move be given."
        )
    places = solve_places(path, group, sizes)
    pose = now.pose[rows].copy()
    pose[:, :3] = places
    names = POSE_NAMES[:6]
    solved = keys_on_every_frame(frames, {n: pose[:, i] for i, n in enumerate(names)})
    left = tuple((n, v) for n, v in camera.unkeyed if n not in names)
    return scene.with_camera(
        replace(camera, aim=None, unkeyed=left, channels=replace(camera.channels, **_around(camera, solved)))
    )


def _around(camera: Camera, solved: dict[str, Channel]) -> dict[str, Channel]:
    """The solved keys within their range, and the camera's own before and after it."""
    out = {}
    for name, channel in solved.items():
        first, last = channel.keys[0].time, channel.keys[-1].time
        own: Channel = getattr(camera.channels, name)
        before = [k for k in own.keys if k.time < first]
        after = [k for k in own.keys if k.time > last]
        keys: list[Key] = [*before, *channel.keys, *after]
        out[name] = Channel(channel.default, tuple(keys))
    return out
