"""The framing at its worst: somebody is in the picture, and nobody's head."""

from __future__ import annotations

import numpy as np

from ..bake import Baker
from ..cameras.camera import Camera
from ..optics.lens import inside_frame
from ..time.stretches import stretches
from .body_marks import body_marks
from .judges import judges_cameras
from .reading import Reading
from .thresholds import NO_HEAD


@judges_cameras
def no_head_readings(baker: Baker, camera: Camera) -> list[Reading]:
    """Stretches of the camera's spans on which a part of somebody is in the frame and no head of anybody is.

    The figure is the greatest share of the joints, of who is seen most, that lie outside the frame there.
    """
    scene, path = baker.scene, baker.camera_path(camera)
    if not scene.characters:
        return []
    heads, shares = [], []
    for character in scene.characters:
        head = path.project(baker.shown_points(character, body_marks(baker, character).head))
        heads.append(inside_frame(head, path.delivery).any(axis=1))
        joints = path.project(baker.shown_joints(character))
        shares.append(inside_frame(joints, path.delivery).mean(axis=1))
    share = np.stack(shares)
    rows = ~np.any(heads, axis=0) & (share.max(axis=0) > 0)
    first = scene.frames.first
    spans = scene.frames_of_cut(camera) or [(first, scene.frames.last)]
    out = []
    for start, end in stretches(rows, [(a - first, b - first) for a, b in spans]):
        seen = share[:, start : end + 1]
        most = int(np.argmax(seen.sum(axis=1)))
        outside = float(1 - seen[most].min())
        who = scene.characters[most]
        told = Reading("no_head_in_frame", who.name, first + start, first + end, outside, "share", NO_HEAD, who.id)
        out.append(told)
    return out
