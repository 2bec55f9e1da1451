"""The dolly zoom as an edit: a subject's size over a range is given, and the lens or the move is solved for it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.camera_frames import camera_frames
from ..cameras.dolly_zoom import apparent_sizes_px, solve_places, solve_ratios, subject_depths, wanted_sizes
from ..cameras.framing import SizeHold
from ..cameras.mounts import Free
from ..cameras.subjects import Group, Subject, group_of
from ..errors import DomainError
from ..scene import Scene
from ..time.ease import Ease, check_ease
from .cameras import refuse_locked
from .edit import Edit
from .keyed_stretches import keyed_within
from .reach import Reach, Stretch

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


@dataclass(frozen=True, kw_only=True)
class SolveDollyZoom(Edit):
    """Solve the lens for the move, or the move for the lens; the solution is keyed on every frame of the range."""

    edit: Literal["dolly zoom"] = "dolly zoom"
    title: ClassVar[str] = "dolly zoom"
    camera_id: str
    wanted: DollyZoom

    def reach(self, scene: Scene) -> Reach:
        names = frozenset({"focal_mm"} if self.wanted.given == "move" else "xyz")
        return Reach(frozenset({self.camera_id}), stretch=Stretch(names, self.wanted.first, self.wanted.last))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"lens"} if self.wanted.given == "move" else {"place"}, "solved")
        if camera.glass.orthographic_height_m is not None:
            raise DomainError("A parallel view has no dolly zoom.", "Give the camera a lens.")
        if camera.framing is not None and camera.framing.size is not None:
            raise DomainError(
                "The held framing keeps the size of its subject, so a dolly zoom changes nothing.",
                "Let the held size go, or leave the dolly zoom.",
            )
        first, last = max(self.wanted.first, scene.frames.first), min(self.wanted.last, scene.frames.last)
        if last <= first:
            raise DomainError("The dolly zoom lies outside the scene.", "Give frames within it.")
        rows = np.arange(first, last + 1) - scene.frames.first
        now = baker.camera(camera)
        path = now.path.at_rows(rows)
        whole = group_of((self.wanted.subject,), baker)
        group = type(whole)(whole.place[rows], whole.radius_m[rows])
        if not (group.radius_m > 0).all():
            raise DomainError("The subject has no size.", "Choose a character, or give the subject a radius.")
        if not (subject_depths(path, group.place) > 0).all():
            raise DomainError(
                "The subject is behind the camera on some frames.", "Choose frames on which it is in sight."
            )
        height = scene.delivery.height
        begins = self.wanted.share_from * height if self.wanted.share_from else float(apparent_sizes_px(path, group)[0])
        ends = self.wanted.share_to * height if self.wanted.share_to else begins
        frames = np.arange(first, last + 1, dtype=np.float64)
        sizes = wanted_sizes(frames, first, last, begins, ends, self.wanted.ease)
        if self.wanted.given == "move":
            if camera.framing is None:  # how it stands does not depend on the lens
                ratios = sizes / apparent_sizes_px(path, group)
            else:
                ratios = solve_ratios(_sizes_by_lens(baker, camera, frames, whole), sizes, True)
            focal = now.values["focal_mm"][rows] * ratios
            if not ((focal >= 1) & (focal <= 5000)).all():
                raise DomainError(
                    f"The lens would have to go from {focal.min():.3g} to {focal.max():.3g} mm.",
                    "Move the camera less.",
                )
            return scene.with_camera(keyed_within(camera, frames, {"focal_mm": focal}, stays=True))
        if not isinstance(camera.mount, Free):
            raise DomainError(
                "The move can be solved for a free camera only.",
                "Bake the camera to keys first, or let the move be given.",
            )
        if camera.aim is None and camera.framing is None:
            places = solve_places(path, group, sizes)
        else:
            # Aim and lock go on: the camera moves along its ray to the subject.
            own = now.mounted[rows, :3, 3]
            ratios = solve_ratios(_sizes_by_move(baker, camera, frames, whole), sizes, False)
            places = group.place + (own - group.place) * ratios[:, None]
        return scene.with_camera(keyed_within(camera, frames, dict(zip("xyz", places.T, strict=True)), stays=True))


def _sizes_by_lens(baker: Baker, camera: Camera, frames: Floats, group: Group) -> Callable[[Floats], Floats]:
    """Sizes of the subject on the frames, px, for ratios of the camera's own focal length, on the final camera."""
    rows = _rows(baker, frames)
    focal = baker.camera(camera).values["focal_mm"][rows]

    def sizes(ratios: Floats) -> Floats:
        tried = keyed_within(camera, frames, {"focal_mm": np.maximum(focal * ratios, 1e-3)})
        return _sizes(baker, tried, group)[rows]

    return sizes


def _sizes_by_move(baker: Baker, camera: Camera, frames: Floats, group: Group) -> Callable[[Floats], Floats]:
    """The same for ratios of the distance between the subject and where the camera's own keys put it."""
    rows = _rows(baker, frames)
    subject, own = group.place[rows], baker.camera(camera).mounted[rows, :3, 3]

    def sizes(ratios: Floats) -> Floats:
        places = subject + (own - subject) * ratios[:, None]
        return _sizes(baker, keyed_within(camera, frames, dict(zip("xyz", places.T, strict=True))), group)[rows]

    return sizes


def _sizes(baker: Baker, camera: Camera, group: Group) -> Floats:
    return apparent_sizes_px(camera_frames(camera, baker, baker.scene.delivery).path, group)


def _rows(baker: Baker, frames: Floats) -> NDArray[np.int64]:
    return frames.astype(np.int64) - baker.scene.frames.first
