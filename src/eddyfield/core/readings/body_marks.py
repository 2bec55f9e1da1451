"""Points that stand for parts of a body in the picture: the head all around, and the soles."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats, Ints
from ..bake import Baker
from ..cameras.face import Face
from ..parts import Part, RigOf
from ..performance.character import Character
from ..rig import transforms
from ..rig.hanging import outermost
from ..rig.rig import Rig
from ..shots import face_part


@dataclass(frozen=True, eq=False)
class BodyMarks:
    """World places of the unstepped motion: ``head`` (frames, points, 3), the outermost points of what hangs on the head;
    ``soles`` (frames, points, 3), those of the feet, no points where no feet are known, and the nodes (points,) that they hang
    on. ``estimate`` says what had no mesh to
    measure and is a share of the body."""

    head: Floats
    soles: Floats
    sole_nodes: Ints
    estimate: str


def body_marks(baker: Baker, character: Character) -> BodyMarks:
    """The marks of a character."""
    inputs = (RigOf(character.performance.source), baker.motion_part(character), face_part(character), character.feet)
    return baker.value(Part("marks", measured_marks, inputs))


def measured_marks(rig: Rig, world: Floats, face: Face, feet: tuple[str, ...]) -> BodyMarks:
    """The marks of a body in its unstepped motion ``world`` (frames, nodes, 4, 4)."""
    head_points = outermost(rig, face.node)
    estimate = ""
    if head_points is None:
        up = face.axes[:, 1] * face.height_m / 2
        head_points = np.stack([face.centre + up, face.centre, face.centre - up])
        estimate = "the head as a share of the body"
    soles, nodes = [np.zeros((len(world), 0, 3))], []
    for foot in (rig.find(name) for name in feet if name in rig.index_of):
        points = outermost(rig, foot)
        if points is None:
            # Without a mesh: below the ankle by as much as it is above the ground at least.
            places = world[:, foot, None, :3, 3]
            soles.append(places - [0.0, max(float(places[..., 1].min()), 0.0), 0.0])
        else:
            soles.append(_carried(world[:, foot], points))
        nodes += [foot] * soles[-1].shape[1]
    head = _carried(world[:, face.node], head_points)
    return BodyMarks(head, np.concatenate(soles, axis=1), np.array(nodes, dtype=np.int64), estimate)


def _carried(world_from_joint: Floats, points: Floats) -> Floats:
    frames = transforms.orthonormal(world_from_joint)
    return transforms.apply(frames[:, None], np.broadcast_to(points, (len(frames), *points.shape)))
