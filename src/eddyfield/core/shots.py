"""Cameras made in one action: for a face, a point of view, over a shoulder, a two-shot, reviews, and from a view."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from .arrays import Floats
from .bake import Baker
from .cameras.camera import Camera, CameraPose, Glass, Role
from .cameras.camera_frames import channel_values, channels_standing_at
from .cameras.face import Face, measure_face
from .cameras.focus import Focus
from .cameras.framing import Framing, SizeHold
from .cameras.mounts import attached
from .cameras.placement import ACTION_SAFE, camera_that_frames
from .cameras.subjects import Subject, Target, group_of
from .optics.lens import inside_frame
from .parts import Part, RigOf
from .performance.character import Character
from .rig import transforms
from .time.channels import Channel

ReviewSide = Literal["front", "side", "three-quarter", "top"]
REVIEW_SIDES: dict[ReviewSide, tuple[float, float]] = {
    "front": (0.0, 0.0),
    "side": (90.0, 0.0),
    "three-quarter": (40.0, 12.0),
    "top": (0.0, 90.0),
}
"""Degrees: round to the character's left, and above."""
FACE_FILLS = 2 / 3
FACE_MM, VIEW_MM, SHOULDER_MM, TWO_SHOT_MM, REVIEW_MM = 85.0, 35.0, 50.0, 50.0, 50.0
TWO_SHOT_FILLS = 0.84
TIGHTER, MOST_STEPS = 0.94, 16
"""How much smaller both are taken, step by step, until the frame holds all of them."""
OWN_NEAR_M = 0.06
SHOULDER_OF_HEIGHT = 0.16
SHOULDER_PLACE = (0.58, 0.34)
"""Where in the frame the face is held that is seen past a shoulder."""


def face_part(character: Character) -> Part[Face]:
    return Part("face", measure_face, (RigOf(character.performance.source),))


def face_of(baker: Baker, character: Character) -> Face:
    """The character's face, measured once."""
    return baker.value(face_part(character))


def moving_face(baker: Baker, character: Character) -> Floats:
    """The middle of the character's face as it moves, on ones, (frames, 3)."""
    face = face_of(baker, character)
    return transforms.apply(baker.joint_frames(character.id, face.joint, "motion"), face.centre)


def shown_face(baker: Baker, character: Character) -> Floats:
    """The same as it is shown: stepped, and riding."""
    return baker.shown_points(character, moving_face(baker, character)[:, None])[:, 0]


def head_subject(face: Face, character: Character) -> Subject:
    """The middle of the face, as something to go by."""
    x, y, z = (float(v) for v in face.centre)
    return Subject("joint", character.id, face.joint, (x, y, z), "joint", radius_m=face.height_m / 2)


def seen_from(camera: Camera, world_from_camera: Floats, focal_mm: float, baker: Baker, row: int) -> Camera:
    """The camera with its channels put so that it stands at ``world_from_camera`` (4, 4) on a row, by its mount."""
    values = channel_values(camera, baker)
    standing = channels_standing_at(camera, world_from_camera, row, values, baker, keep_offset=False)
    channels = {name: Channel(value) for name, value in (standing | {"focal_mm": focal_mm}).items()}
    return replace(camera, channels=camera.channels.having(**channels))


def camera_from_view(baker: Baker, camera_id: str, pose: CameraPose, role: Role, frame: int) -> Camera:
    """A camera where somebody is looking from, named by how large the character is in its picture, and by the lens."""
    world = transforms.rigid(
        transforms.rotation_from_angles(pose.pan, pose.tilt, pose.roll), np.array([pose.x, pose.y, pose.z])
    )
    camera = seen_from(Camera(camera_id, "", role), world, pose.focal_mm, baker, 0)
    return replace(camera, name=offered_name(baker, camera, baker.row_of(frame)))


def offered_name(baker: Baker, camera: Camera, row: int) -> str:
    """By shot convention and lens: from how much of the frame's height the nearest character takes."""
    path = baker.camera_path(camera)
    focal = f"{float(baker.camera(camera).pose[row, 6]):.0f}"
    best = ("", 0.0)
    for character in baker.scene.characters:
        joints = baker.joint_positions(character)[row]
        seen = path.at_rows(np.full(len(joints), row)).project(joints)
        if seen.in_front.all():
            tall = float(np.ptp(seen.pixels[:, 1])) / baker.scene.delivery.height
            middle = seen.pixels.mean(axis=0) / [baker.scene.delivery.width, baker.scene.delivery.height]
            if tall > best[1] and (np.abs(middle - 0.5) < 0.6).all():
                best = (character.name, tall)
    name, tall = best
    if not name or tall < 0.35:
        return f"Wide {focal}"
    size = "Full" if tall < 1.0 else "Medium" if tall < 2.2 else "Close-up"
    return f"{size} {name} {focal}"


def face_camera(baker: Baker, camera_id: str, character: Character, frame: int, turns_with_head: bool = True) -> Camera:
    """Carried by the head, before the face, which fills two thirds of the frame's height."""
    face, row = face_of(baker, character), baker.row_of(frame)
    camera = Camera(camera_id, f"Face {character.name} {FACE_MM:.0f}", "face")
    mount = attached(Subject("joint", character.id, face.joint), row, baker)
    if not turns_with_head:
        mount = replace(mount, through=(1.0, 1.0, 1.0, 0.0, 0.0, 0.0))
    camera = replace(camera, mount=mount)
    head = _face_frame(baker, character, face, row)
    slope = float(camera.lens().with_focal(FACE_MM).pixels_per_slope(baker.scene.delivery)[1])
    depth = face.height_m * slope / (FACE_FILLS * baker.scene.delivery.height)
    # It looks back at the face: turned half round about what is up for the head.
    turned = head.copy()
    turned[:3, 0], turned[:3, 2] = -head[:3, 0], -head[:3, 2]
    turned[:3, 3] = head[:3, 3] - head[:3, 2] * depth
    camera = seen_from(camera, turned, FACE_MM, baker, row)
    return replace(camera, channels=camera.channels.having(focus_m=Channel(depth)))


def point_of_view(baker: Baker, camera_id: str, character: Character, frame: int) -> Camera:
    """From the eyes, looking where the face looks."""
    face, row = face_of(baker, character), baker.row_of(frame)
    mount = attached(Subject("joint", character.id, face.joint), row, baker)
    camera = Camera(camera_id, f"Point of view {character.name} {VIEW_MM:.0f}", "shot", mount=mount)
    camera = replace(camera, glass=Glass(near_m=OWN_NEAR_M))
    head = _face_frame(baker, character, face, row)
    joint = transforms.orthonormal(baker.joint_frames(character.id, face.joint, "motion")[row][None])[0]
    head[:3, 3] = transforms.apply(joint, face.eyes) - head[:3, 2] * OWN_NEAR_M
    return seen_from(camera, head, VIEW_MM, baker, row)


def over_the_shoulder(baker: Baker, camera_id: str, of: Character, at: Character, frame: int) -> Camera:
    """From behind one character's head, past the right shoulder, at another's face."""
    row = baker.row_of(frame)
    own, other = face_of(baker, of), face_of(baker, at)
    head = _face_frame(baker, of, own, row)[:3, 3]
    subject = head_subject(other, at)
    target = group_of((subject,), baker).place[row]
    # Along the line of sight, whichever way it leans, so that the head in front stays in the picture.
    ahead = transforms.normalized(target - head, (0.0, 0.0, -1.0))
    right = transforms.normalized(np.cross(ahead, [0.0, 1.0, 0.0]), (1.0, 0.0, 0.0))
    low, high = baker.body_bounds(of.id, "motion")
    size = max(own.height_m, SHOULDER_OF_HEIGHT * float(high[row, 1] - low[row, 1]))
    place = head - ahead * 3.2 * size + right * 0.8 * size + np.cross(right, ahead) * 0.35 * size
    world = transforms.rigid(transforms.look_rotation(target - place, np.array([0.0, 1.0, 0.0])), place)
    camera = Camera(
        camera_id,
        f"Over {of.name}'s shoulder {SHOULDER_MM:.0f}",
        focus=Focus((Target((subject,)),)),
        framing=Framing((subject,), *SHOULDER_PLACE),
    )
    return seen_from(camera, world, SHOULDER_MM, baker, row)


def two_shot(
    baker: Baker, camera_id: str, one: Character, other: Character, frame: int, from_place: Floats | None = None
) -> Camera:
    """Both characters held in the frame as they part and meet, from the side on which ``from_place`` (3,) lies."""
    row, delivery = baker.row_of(frame), baker.scene.delivery
    subjects = (Subject("body", one.id), Subject("body", other.id))
    group = group_of(subjects, baker)
    middle = group.place[row]
    a, b = (group_of((s,), baker).place[row] for s in subjects)
    across = transforms.normalized((b - a) * [1.0, 0.0, 1.0], (1.0, 0.0, 0.0))
    out = np.cross(across, [0.0, 1.0, 0.0])
    if from_place is not None and (from_place - middle) @ out < 0:
        out = -out
    share = TWO_SHOT_FILLS * delivery.aspect
    camera = Camera(camera_id, f"Two-shot {one.name} {other.name} {TWO_SHOT_MM:.0f}", "shot")
    slope = float(camera.lens().with_focal(TWO_SHOT_MM).pixels_per_slope(delivery)[1])
    depth = 2 * float(group.radius_m[row]) * slope / (share * delivery.height)
    place = middle + out * depth
    world = transforms.rigid(transforms.look_rotation(middle - place, np.array([0.0, 1.0, 0.0])), place)
    camera = seen_from(replace(camera, focus=Focus((Target(subjects),))), world, TWO_SHOT_MM, baker, row)
    # Where they stand close together the frame is filled by their height first.
    shares = (share * TIGHTER**step for step in range(MOST_STEPS))
    held = (replace(camera, framing=Framing(subjects, size=SizeHold("dolly", size))) for size in shares)
    wide = None
    for wide in held:
        if _holds_all(baker, wide, (one, other)):
            break
    assert wide is not None
    return wide


def _holds_all(baker: Baker, camera: Camera, characters: tuple[Character, ...]) -> bool:
    """Whether every joint of some characters is in the picture on all frames."""
    path = baker.camera_path(camera)
    projected = (path.project(baker.joint_positions(character)) for character in characters)
    return all(bool(inside_frame(seen, path.delivery).all()) for seen in projected)


def review_camera(baker: Baker, camera_id: str, character: Character, side: ReviewSide, parallel: bool) -> Camera:
    """One side of the character's whole path, sized so that its body stays inside action safe, in perspective or as a
    parallel view."""
    around, above = REVIEW_SIDES[side]
    front = baker.front(character)
    heading = np.degrees(np.arctan2(front[0], front[2])) + around
    rotation = transforms.rotation_from_angles(-heading, -above, 0.0)
    blocks = baker.body_blocks(character)
    camera = Camera(camera_id, f"{side[0].upper()}{side[1:]} {character.name}", "review")
    delivery = baker.scene.delivery
    if parallel:
        place, height = _parallel_view(blocks, rotation, delivery.aspect)
        camera = replace(camera, glass=Glass(orthographic_height_m=height))
    else:
        lens = camera.lens().with_focal(REVIEW_MM)
        place = camera_that_frames(blocks, rotation, lens, delivery, ACTION_SAFE)
    return seen_from(camera, transforms.rigid(rotation, place), REVIEW_MM, baker, 0)


def _parallel_view(blocks: list[Floats], rotation: Floats, aspect: float) -> tuple[Floats, float]:
    """Place and height in metres of a parallel view that holds all points inside action safe."""
    points = np.concatenate([b.reshape(-1, 3) for b in blocks]) @ rotation
    low, high = points.min(axis=0), points.max(axis=0)
    size = high - low
    height = float(max(size[1], size[0] / aspect, 0.05)) / ACTION_SAFE
    place = np.append((low[:2] + high[:2]) / 2, high[2] + max(1.0, float(size[2])))
    return rotation @ place, height


def _face_frame(baker: Baker, character: Character, face: Face, row: int) -> Floats:
    """World frame (4, 4) in the middle of the face, -Z where it looks, +Y up for the head."""
    joint = transforms.orthonormal(baker.joint_frames(character.id, face.joint, "motion")[row][None])[0]
    out = transforms.rigid(joint[:3, :3] @ face.axes, transforms.apply(joint, face.centre))
    return np.asarray(out)
