"""Readings of the lens: what its planes cut, and whether what should be sharp is."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np

from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.dolly_zoom import subject_depths
from ..cameras.subjects import Follows, Subject, Target, group_of
from ..optics.depth_of_field import blur_disc_mm, blur_disc_px, circle_of_confusion_mm
from ..optics.lens import inside_frame
from ..performance.character import Character
from .judges import judges_cameras, judges_characters
from .reading import Reading, over_spans

LEAST_NEAR_M = 1e-4


@judges_characters
def plane_readings(baker: Baker, camera: Camera, character: Character) -> list[Reading]:
    """The near plane cuts into the character while it is in sight; the far plane cuts all of it off."""
    path, frames = baker.camera_path(camera), baker.scene.frames
    points = baker.shown_joints(character)
    # With the near plane out of the way: what it takes from the frame.
    whole = replace(path, lens=replace(path.lens, near_m=LEAST_NEAR_M))
    seen = whole.project(points)
    near = camera.glass.near_m
    taken = np.where(inside_frame(seen, path.delivery) & (seen.depth < near), near - seen.depth, 0.0).max(axis=1)
    out = over_spans("near_plane_cuts_in", character.name, frames, taken > 0, taken, "m", 0.0)
    if camera.glass.far_m is not None:
        beyond = seen.depth.min(axis=1) - camera.glass.far_m
        out += over_spans("far_plane_cuts_off", character.name, frames, beyond > 0, beyond, "m", 0.0)
    return out


@judges_cameras
def focus_readings(baker: Baker, camera: Camera) -> list[Reading]:
    """What the camera is focused on, aimed at or holds in its frame is blurred by more than two circles of confusion.

    During a pull the subject that is being left is not asked for.
    """
    if camera.glass.orthographic_height_m is not None:
        return []
    found = baker.camera(camera)
    lens, delivery = found.path.lens, baker.scene.delivery
    circle = circle_of_confusion_mm(camera.lens(), delivery, camera.glass.circle_mm)
    limit_px = float(blur_disc_px(np.array(circle), camera.lens(), delivery)) * baker.limits.blur_circles
    frames = baker.scene.frames.frames()
    out: list[Reading] = []
    for target, follows in _should_be_sharp(camera):
        rules = np.ones(len(frames), dtype=bool)
        if target.last is not None:
            rules &= frames >= target.last
        following = _next_start(camera, target)
        if following is not None:
            rules &= frames < following
        group = group_of(target.subjects, baker, follows)
        depth = subject_depths(found.path, group.place)
        disc = blur_disc_mm(depth, np.asarray(lens.focal_mm), found.aperture, found.focus_m)
        px = blur_disc_px(disc, camera.lens(), delivery)
        with np.errstate(invalid="ignore"):
            soft = rules & (px > limit_px)
        out += over_spans(
            "soft", subject_title(baker, target.subjects[0]), baker.scene.frames, soft, px, "px", limit_px
        )
    return out


def _should_be_sharp(camera: Camera) -> list[tuple[Target, Follows]]:
    if camera.focus:
        return [(t, camera.focus.follows) for t in camera.focus.targets]
    if camera.aim:
        return [(t, camera.aim.follows) for t in camera.aim.targets]
    if camera.framing:
        return [(Target(camera.framing.subjects), camera.framing.follows)]
    return []


def _next_start(camera: Camera, target: Target) -> int | None:
    ruling = camera.focus or camera.aim
    targets = ruling.targets if ruling else ()
    for one, other in pairwise(targets):
        if one is target:
            return other.first
    return None


def subject_title(baker: Baker, subject: Subject) -> str:
    """A subject in words."""
    if subject.kind == "point":
        return "point"
    if subject.kind == "object":
        return baker.scene.piece(subject.owner_id or "").name
    name = baker.scene.thing(subject.owner_id or "").name
    return f"{name} {subject.joint}" if subject.kind == "joint" else name
