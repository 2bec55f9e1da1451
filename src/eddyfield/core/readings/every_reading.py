"""Everything that can be told of one camera's picture: all readings, and the arcs of any number of joints."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ..bake import Baker
from ..cameras.camera import Camera
from ..performance.character import Character
from ..performance.contacts import find_contacts
from ..rig.mesh_points import followed_on
from ..time.frames import FrameTime
from .all_arcs import worst_at_each_place
from .arcs import NOISE_FLOOR_PX_AT_1080
from .causes import CAUSES
from .corners import find_corners
from .reading import Reading
from .scene_readings import OnFault, arc_readings_of, scene_readings, seen_through
from .window import Window

NEAR_FRAMES = 2
"""A corner so near to a contact's beginning or end, or to a key pose, is of it."""


def every_reading(
    baker: Baker, camera: Camera, joints: Sequence[tuple[Character, str]], on_fault: OnFault
) -> list[Reading]:
    """All readings of what is seen through a camera, with the arcs of these joints, in the order of their frames. A jolt of the
    camera is told once, not for every joint; a fault of a body is told of every joint that has it."""
    out = [r for r in scene_readings(baker, None, camera, on_fault) if CAUSES[r.kind] != "arc"]
    through = seen_through(baker, camera)
    for character, joint in joints:
        out += arc_readings_of(baker, character, joint, through)
        out += corner_readings(baker, character, joint, camera)
    jolts = worst_at_each_place([r for r in out if r.kind == "camera_jolts"])
    told = [r for r in out if r.kind != "camera_jolts"]
    return sorted([*told, *jolts], key=lambda r: (r.first, r.kind, r.joint or ""))


def corner_readings(baker: Baker, character: Character, joint: str, camera: Camera) -> list[Reading]:
    """Corners of a joint's arc that lie at no contact and no key pose, as remarks."""
    path, rig, first = baker.camera_path(camera), baker.rig(character), baker.frames.first
    arc = baker.arc(character, followed_on(rig, joint), camera)
    height = path.delivery.height
    least, noise = baker.limits.arc_permille * height / 1000, NOISE_FLOOR_PX_AT_1080 * height / 1080
    if not np.isfinite(arc.pixels).all():
        return []
    expected = _expected_corners(baker, character)
    out = []
    for corner in find_corners(path.delivery.square(arc.pixels), noise, least, Window.at(baker.rate)):
        if any(abs(first + corner.at - float(time)) <= NEAR_FRAMES for time in expected):
            continue
        frame = first + round(corner.at)
        told = Reading("corner", joint, frame, frame, corner.size, "px", least, character.id, joint=joint, remark=True)
        out.append(replace(told, frame=frame, least=max(least, corner.least), fault_of="subject"))
    return out


def _expected_corners(baker: Baker, character: Character) -> list[FrameTime]:
    """Key poses, and where contacts begin and end."""
    rig = baker.rig(character)
    feet = [rig.index_of[name] for name in character.feet if name in rig.index_of]
    contacts = find_contacts(baker.world(character)[:, feet, :3, 3], baker.rate, size=rig.size) if feet else ()
    ends = {row for contact in contacts for row in (contact.first, contact.rests, contact.leaves, contact.last)}
    return [*baker.key_poses(character), *(FrameTime(baker.frames.first + row) for row in ends)]
