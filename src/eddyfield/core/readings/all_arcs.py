"""The arcs of all joints of a body at once: which of them have a fault, each told once at each place."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.face import head_joint
from ..cameras.placement import calm_joint
from ..optics.camera_path import CameraPath
from ..parts import Part
from ..performance.character import Character
from ..scene import Thing
from .accepted import if_accepted
from .arc_mends import with_mends
from .arc_readings import arc_readings
from .arcs import NOISE_FLOOR_PX_AT_1080, ArcJudgement, judge_arc, with_causes
from .faults import could_hold_faults
from .reading import Figure, Reading
from .source_samples import source_samples
from .window import LEAST_HALF, NINE, Window

SAME_FAULT_FRAMES = 1
MOST_JUDGED = 200_000
"""Joints times frames."""
MOST_HANDS = 2
LEAST_TOLD = 2 * LEAST_HALF + 1
"""Frames."""
_HAND = re.compile("hand|wrist", re.IGNORECASE)


def body_arc_readings(baker: Baker, character: Character, camera: Camera | None) -> list[Reading]:
    """The faults of the arcs of a body's joints, and of what it holds, through a camera, or (None) through the cut. One fault
    goes through all joints that hang on the one that makes it: it is told once, of the joint in which it is worst, with how many
    more there are."""
    held = [p for p in baker.scene.pieces if any(hold.character_id == character.id for hold in p.holds)]
    things: list[Thing] = [character, *held]
    told = [r for thing in things for r in _arc_readings_of_all(baker, thing, camera)]
    worst = worst_at_each_place([if_accepted(r, baker.scene.accepted) for r in told])
    # What is one sample of a source is no one frame: its mend belongs to the source.
    coarse = {thing.id for thing in things if source_samples(baker, thing)}
    mended = [r if r.character_id in coarse else with_mends(baker, r, camera) for r in worst]
    return [*mended, *_too_short(baker, character, camera)]


def _too_short(baker: Baker, character: Character, camera: Camera | None) -> list[Reading]:
    """Of a scene, or through the cut of its shots, what has too few frames for anything to be told of an arc."""
    frames, starts = baker.frames, (0,) if camera else baker.value(baker.span_starts_part)
    out = []
    for first, end in pairwise((*starts, frames.count)):
        if (count := end - first) < LEAST_TOLD:
            what = "frame is" if count == 1 else "frames are"
            note = f"{count} {what} too few to tell a fault of an arc from: that takes {LEAST_TOLD}."
            at = frames.first + first, frames.first + end - 1
            told = Reading("nothing_can_be_told", character.name, *at, count, "frames", LEAST_TOLD, character.id)
            out.append(replace(told, remark=True, note=note))
    return out


def _arc_readings_of_all(baker: Baker, thing: Thing, camera: Camera | None) -> list[Reading]:
    rig, frames = baker.rig(thing), baker.frames
    joints = _judged_joints(baker, thing)
    nodes = tuple(rig.index_of[name] for name in joints)
    samples = source_samples(baker, thing)
    there, seen = (samples.baker, samples.thing) if samples else (baker, thing)
    path = there.path_part(samples.camera(camera) if samples else camera)
    spans = (0,) if camera else there.span_starts_part
    window = Window.at(there.rate)
    inputs = (path, there.motion_part(seen), nodes, spans, baker.limits.arc_permille, window)
    judged = there.value(Part("arcs of all", judged_arcs, inputs))
    if samples:
        judged = tuple((index, samples.judgement(arc)) for index, arc in judged)

    def camera_at(row: int) -> Camera:
        return camera or baker.scene.camera(baker.scene.cut.camera_id_at(frames.first + row))

    faults = [r for index, arc in judged for r in arc_readings(joints[index], arc, frames, camera_at)]
    return [r if r.kind == "camera_jolts" else replace(r, character_id=thing.id) for r in faults]


def _judged_joints(baker: Baker, thing: Thing) -> tuple[str, ...]:
    """All of them; of a long scene what carries the body, the head, the feet and the hands, and of a prop its first."""
    rig = baker.rig(thing)
    if baker.frames.count * len(rig.joint_names) <= MOST_JUDGED:
        return tuple(rig.joint_names)
    if not isinstance(thing, Character):
        return tuple(rig.joint_names[:1])
    hands = [name for name in rig.joint_names if _HAND.search(name)][:MOST_HANDS]
    return tuple(dict.fromkeys([calm_joint(rig), rig.names[head_joint(rig)], *thing.feet, *hands]))


def judged_arcs(
    path: CameraPath, world: Floats, nodes: Sequence[int], span_starts: Sequence[int], least_permille: float,
    window: Window = NINE,
) -> tuple[tuple[int, ArcJudgement], ...]:  # fmt: skip
    """Of the ``nodes`` of a motion ``world`` (frames, nodes, 4, 4) those whose arcs have faults, by their place among them, with
    the judgement of each. All are looked at in one product of matrices; only where something sticks out one is judged."""
    points = np.ascontiguousarray(world[..., :3, 3])[:, list(nodes)]
    pixels = path.project(points).pixels
    height = path.delivery.height
    least, noise = least_permille * height / 1000, NOISE_FLOOR_PX_AT_1080 * height / 1080
    square = path.delivery.square(pixels)
    suspects = np.zeros(len(nodes), dtype=bool)
    for first, end in zip(span_starts, [*span_starts[1:], len(points)], strict=True):
        whole = np.isfinite(square[first:end]).all(axis=(0, 2))
        suspects |= ~whole
        if whole.any():
            suspects[whole] |= could_hold_faults(square[first:end, whole], noise, least, window)
    out = []
    for index in np.flatnonzero(suspects).tolist():
        judged = judge_arc(pixels[:, index], path.delivery, tuple(span_starts), least_permille, window)
        if judged.faults:
            out.append((index, with_causes(judged, path, points[:, index], least_permille)))
    return tuple(out)


def worst_at_each_place(faults: Sequence[Reading]) -> list[Reading]:
    """Of faults that meet in time, of the same camera or of none, the one that hurts most, with how many further joints have
    one there. What somebody lets stand of one joint, stands."""
    out: list[Reading] = []
    counts: list[int] = []
    for fault in sorted(faults, key=lambda f: -replace(f, accepted=None).weight):
        met = next((i for i, o in enumerate(out) if same_place(o, fault)), None)
        if met is None:
            out.append(fault)
            counts.append(0)
        else:
            counts[met] += out[met].subject != fault.subject
            out[met] = replace(out[met], accepted=out[met].accepted or fault.accepted)
    return [
        replace(fault, figures=(*fault.figures, Figure("further joints", more, ""))) if more else fault
        for fault, more in zip(out, counts, strict=True)
    ]


def same_place(one: Reading, other: Reading) -> bool:
    """Whether two faults of arcs meet in time, of the same camera or of none."""
    apart = max(one.first - other.last, other.first - one.last)
    return one.camera_id == other.camera_id and apart <= SAME_FAULT_FRAMES
