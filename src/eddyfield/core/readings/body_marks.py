"""Points that stand for parts of a body in the picture: the head all around, and the soles."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..content import content_key
from ..rig import transforms
from ..rig.hanging import outermost
from ..scene import Character
from ..shots import face_of


@dataclass(frozen=True, eq=False)
class BodyMarks:
    """World places of the unstepped motion: ``head`` (frames, points, 3), the outermost points of what hangs on the head;
    ``soles`` (frames, points, 3), those of the feet, no points where no feet are known. ``estimate`` says what had no mesh to
    measure and is a share of the body."""

    head: Floats
    soles: Floats
    estimate: str


def body_marks(baker: Baker, character: Character) -> BodyMarks:
    """The marks of a character, kept under the name of its motion."""

    def compute() -> BodyMarks:
        rig, face = baker.rig_of(character.source), face_of(baker, character)
        head_points = outermost(rig, face.node)
        estimate = ""
        if head_points is None:
            up = face.axes[:, 1] * face.height_m / 2
            head_points = np.stack([face.centre + up, face.centre, face.centre - up])
            estimate = "the head as a share of the body"
        head = _carried(baker, character, face.joint, head_points)
        soles = []
        for foot in character.feet:
            if foot not in rig.index_of:
                continue
            points = outermost(rig, rig.find(foot))
            if points is None:
                # Without a mesh: below the ankle by as much as it is above the ground at least.
                places = baker.joint_frames(character.id, foot, "motion")[:, None, :3, 3]
                soles.append(places - [0.0, max(float(places[..., 1].min()), 0.0), 0.0])
            else:
                soles.append(_carried(baker, character, foot, points))
        nothing = np.zeros((baker.scene.frames.count, 0, 3))
        return BodyMarks(head, np.concatenate([nothing, *soles], axis=1), estimate)

    return baker.part(content_key("marks", baker.motion_part(character).key, character.feet), compute)


def _carried(baker: Baker, character: Character, joint: str, points: Floats) -> Floats:
    frames = transforms.orthonormal(baker.joint_frames(character.id, joint, "motion"))
    return transforms.apply(frames[:, None], np.broadcast_to(points, (len(frames), *points.shape)))
