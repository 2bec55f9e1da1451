"""Readings of how a camera is carried, aimed and held: locks out of reach, wrong joints, chords cut through circles."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import pairwise

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.dolly_zoom import subject_depths
from ..cameras.face import head_joint
from ..cameras.framing import Framing, seen_size_px
from ..cameras.mounts import Carried, Free, Trailing
from ..cameras.placement import calm_joint
from ..cameras.subjects import Subject, group_of
from ..edits.camera_mounts import MountCamera
from ..edits.camera_rigging import AimCamera
from ..edits.edit import Edit
from ..edits.rails import OrbitInstead
from ..performance.character import Character
from ..rig.rig import Rig
from ..shots import face_of
from ..time.stretches import LEAST_FRAMES, runs
from .judges import judges_cameras, judges_characters, judges_every_camera
from .lens_readings import subject_title
from .reading import Fix, Reading, ReadingKind, over_spans
from .thresholds import BOB_RATIO, REACHED_PX, REACHED_SIZE, STILL_M, TRAVELS_M

MOST_MOVES = 200
STRAIGHT, LEAST_STEP_M = float(np.cos(np.radians(0.1))), 1e-5
"""The turn from one step to the next that still is none, and a step that is one."""
_CHEST = re.compile(r"chest|spine[ _.-]?\d*|torso", re.IGNORECASE)


@judges_every_camera
def lock_readings(baker: Baker, camera: Camera) -> list[Reading]:
    """Frames on which the framing lock cannot bring its subject to the place, or keep its size within the limits."""
    framing: Framing | None = camera.framing
    if framing is None:
        return []
    found, frames = baker.camera(camera), baker.scene.frames
    group = group_of(framing.subjects, baker, framing.follows)
    seen = found.path.project(group.place).pixels
    wanted = found.wanted_px if found.wanted_px is not None else seen
    away = baker.scene.delivery.square(seen - wanted)
    off = np.nan_to_num(np.hypot(away[:, 0], away[:, 1]), nan=float(baker.scene.delivery.height))
    weight = found.values["framing_weight"]
    subject = subject_title(baker, framing.subjects[0])
    out = over_spans("lock_cannot_reach", subject, frames, ~found.place_reached & (weight > 0.5), off, "px", REACHED_PX)
    if framing.size:
        wanted_px = framing.size.share * baker.scene.delivery.height
        ratio = np.nan_to_num(seen_size_px(framing, found.path, baker) / wanted_px - 1)
        missed = ~found.size_reached & (weight > 0.5)
        out += over_spans("size_cannot_be_held", subject, frames, missed, ratio, "share", REACHED_SIZE)
    return out


@judges_every_camera
def lost_joint_readings(baker: Baker, camera: Camera) -> list[Reading]:
    """It goes by a joint that the present file of a character or prop does not have: the body stands in for it."""
    frames = baker.scene.frames
    lost: dict[tuple[str, str], Reading] = {}
    for subject, _ in camera.followed():
        owner_id, joint = subject.owner_id or "", subject.joint or ""
        if subject.kind != "joint" or joint in (rig := baker.rig(baker.scene.thing(owner_id))).index_of:
            continue
        note = f"{baker.scene.thing(owner_id).name}’s file has no {joint} any more; {calm_joint(rig)} stands in."
        found = Reading("joint_is_lost", joint, frames.first, frames.last, frames.count, "frames", 0.0, note=note)
        lost[owner_id, joint] = found
    return list(lost.values())


@judges_cameras
def wrong_joint_readings(baker: Baker, camera: Camera) -> list[Reading]:
    """The camera goes by a joint that stands still while its character travels, or by one that bobs more than another."""
    out: list[Reading] = []
    mount = camera.mount
    if isinstance(mount, (Carried, Trailing)) and any(mount.through[:3]):
        out += _judge(baker, camera, mount.subject, "carried_by_still_joint", "carrier_bobs", mount.through[1])
    if camera.aim and not _turned_by_lock(baker, camera):
        for target in camera.aim.targets:
            for subject in target.subjects:
                out += _judge(baker, camera, subject, "aims_at_still_joint", "aim_bobs")
    return out


def _turned_by_lock(baker: Baker, camera: Camera) -> bool:
    """Whether a framing lock turns it wholly, all the time: then it matters no more what it aims at."""
    framing = camera.framing
    if framing is None or framing.half_life_s > 0 or framing.slack or camera.glass.orthographic_height_m is not None:
        return False
    return bool((baker.camera(camera).values["framing_weight"] == 1).all())


def _judge(
    baker: Baker, camera: Camera, subject: Subject, still: ReadingKind, bobs: ReadingKind, share: float = 1.0
) -> list[Reading]:
    """Of a subject of whose rise and fall a ``share`` comes along."""
    character = next((c for c in baker.scene.characters if c.id == subject.owner_id), None)
    if subject.kind != "joint" or character is None:  # of a prop nothing is better to go by than what was chosen
        return []
    rig, frames = baker.rig(character), baker.scene.frames
    if subject.joint not in rig.index_of:  # it is told already
        return []
    places = baker.joint_frames(character.id, subject.joint or "", "motion")[:, :3, 3]
    calm = calm_joint(rig)
    body = baker.joint_frames(character.id, calm, "motion")[:, :3, 3]
    title = subject_title(baker, subject)

    def fixes(joint: str) -> tuple[Fix, ...]:
        edit = None if camera.locked else _going_by(camera, subject, still, joint, frames.first)
        return () if edit is None else (Fix(f"Use {joint}", f"Go by {joint} instead", edit),)

    still_m = STILL_M * rig.size
    if _travel(places) < still_m and _travel(body) > TRAVELS_M * rig.size:
        return [
            Reading(
                still,
                title,
                frames.first,
                frames.last,
                _travel(body),
                "m",
                still_m,
                fixes=fixes(calm),
                better_joint=calm,
            )
        ]
    eye = baker.camera_path(camera).world_from_camera[:, :3, 3]
    if camera.role == "face" or float(np.linalg.norm(eye - places, axis=-1).min()) < face_of(baker, character).height_m:
        return []  # a face camera, or a point of view: it is meant to stay with the head
    heights = {name: share * _bob_px(baker, camera, character, name) for name in _candidates(rig, subject.joint or "")}
    own = heights[subject.joint or ""]
    best = min(heights, key=lambda n: heights[n])
    threshold = baker.limits.bob_permille * baker.scene.delivery.height / 1000
    if own > threshold and own > BOB_RATIO * heights[best]:
        return [
            Reading(bobs, title, frames.first, frames.last, own, "px", threshold, fixes=fixes(best), better_joint=best)
        ]
    return []


def _going_by(camera: Camera, subject: Subject, kind: ReadingKind, joint: str, frame: int) -> Edit | None:
    """Let the camera go by another joint: what carries it with the picture kept, or what it aims at."""
    other = replace(subject, joint=joint)
    if kind == "carried_by_still_joint":
        if not isinstance(camera.mount, (Carried, Trailing)):
            return None
        return MountCamera(camera_id=camera.id, mount=replace(camera.mount, subject=other), frame=frame)
    if camera.aim is None:
        return None
    targets = tuple(
        replace(target, subjects=tuple(other if s == subject else s for s in target.subjects))
        for target in camera.aim.targets
    )
    return AimCamera(camera_id=camera.id, aim=replace(camera.aim, targets=targets), frame=frame)


def _candidates(rig: Rig, own: str) -> list[str]:
    """The joint itself, the head, the chest and the hips."""
    chest = [n for n in rig.joint_names if _CHEST.search(n)][-1:]
    return list(dict.fromkeys([own, rig.names[head_joint(rig)], *chest, calm_joint(rig)]))


def _travel(places: Floats) -> float:
    return float(np.linalg.norm(np.ptp(places, axis=0)))


def _bob_px(baker: Baker, camera: Camera, character: Character, joint: str) -> float:
    """Rise and fall about a running mean of a second, root mean square, in pixels at the joint's depth."""
    places = baker.joint_frames(character.id, joint, "motion")[:, :3, 3]
    width = max(3, 2 * round(float(baker.rate) / 2) + 1)
    if len(places) <= width:
        return 0.0
    padded = np.pad(places[:, 1], width // 2, mode="reflect", reflect_type="odd")
    level = np.convolve(padded, np.ones(width) / width, "valid")
    path = baker.camera_path(camera)
    # Through where the camera would stand without this aim: the depth is all that is asked of it.
    depth = np.maximum(np.abs(subject_depths(path, places)), 0.1)
    per_metre = path.lens.pixels_per_metre(depth, path.delivery)[1]
    return float(np.sqrt(np.mean(((places[:, 1] - level) * per_metre) ** 2)))


@judges_characters
def chord_readings(baker: Baker, camera: Camera, character: Character) -> list[Reading]:
    """Two keys between which a free camera comes nearer to the character than at both: it cuts through the circle."""
    if not isinstance(camera.mount, Free) or camera.unkeyed or camera.framing:
        return []
    eye = baker.camera_path(camera).world_from_camera[:, :3, 3]
    times = sorted({key.time for name in ("x", "z") for key in camera.channels[name].keys})
    moves = [(round(one), round(other)) for one, other in pairwise(times)]
    # With a key on every frame, as a file brings them, a move is as far as it goes straight.
    is_sampled = len(times) > 2 and float(times[-1] - times[0]) <= len(times)
    if is_sampled:
        moves = [(baker.frames.first + a, baker.frames.first + b) for a, b in straight_runs(eye)]
    if len(moves) > MOST_MOVES:
        return []
    rig, frames = baker.rig(character), baker.scene.frames
    joint = calm_joint(rig)
    place = baker.joint_frames(character.id, joint, "motion")[:, :3, 3]
    away = np.linalg.norm(eye - place, axis=-1)
    out = []
    for first, last in moves:
        if first < frames.first or last > frames.last or last - first < 2:
            continue
        a, b = first - frames.first, last - frames.first
        least, ends = float(away[a : b + 1].min()), min(float(away[a]), float(away[b]))
        short = 1 - least / max(ends, 1e-9)
        if short > baker.limits.chord_share:
            pivot = Subject("joint", character.id, joint)
            orbit = OrbitInstead(camera_id=camera.id, first=first, last=last, subject=pivot)
            fix = Fix("Orbit", "It goes round with the same end pictures; what it does before and after stays", orbit)
            found = Reading(
                "straight_chord",
                character.name,
                first,
                last,
                short,
                "share",
                baker.limits.chord_share,
                better_joint=joint,
            )
            found = replace(found, frame=first + int(away[a : b + 1].argmin()))
            out.append(replace(found, fixes=() if camera.locked or is_sampled else (fix,)))
    return out


def straight_runs(places: Floats) -> list[tuple[int, int]]:
    """First and last row of each run of six rows and more on which places (frames, 3) go on along one straight line.

    >>> straight_runs(np.array([[0.0, 0, 0]] * 3 + [[float(k), 0, 0] for k in range(1, 9)]))
    [(2, 10)]
    """
    steps = np.diff(places, axis=0)
    lengths = np.linalg.norm(steps, axis=1)
    ways = steps / np.maximum(lengths, 1e-12)[:, None]
    same = (np.einsum("fi,fi->f", ways[1:], ways[:-1]) > STRAIGHT) & (lengths[1:] > LEAST_STEP_M)
    same &= lengths[:-1] > LEAST_STEP_M
    return [(a, b + 2) for a, b in runs(same) if b + 3 - a >= LEAST_FRAMES]
