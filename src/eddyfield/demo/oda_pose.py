"""Oda posed in the world, from the hips outwards: what all her performances are made with."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms

from . import lantern_pole, oda_model
from .posing import continuous, rotation

PARENT = {**oda_model.PARENT, **lantern_pole.PARENT, lantern_pole.ROOT: "hand_r"}
PLACE = {**oda_model.PLACE, **lantern_pole.PLACE}


def _frame(direction: Floats, hint: Floats) -> Floats:
    """Orthonormal axes whose first follows ``direction`` and whose second leans to ``hint``."""
    first = transforms.normalized(direction, (1, 0, 0))
    third = transforms.normalized(np.cross(first, hint), (0, 0, 1))
    return np.stack([first, np.cross(third, first), third], axis=-1)


def aligned(bind: Floats, bind_hint: Floats, wanted: Floats, hint: Floats) -> Floats:
    """Rotations that turn ``bind`` onto ``wanted`` and keep ``bind_hint`` towards ``hint``."""
    return np.asarray(_frame(wanted, hint) @ np.swapaxes(_frame(bind, bind_hint), -1, -2))


def _middle_of_limb(root: Floats, end: Floats, upper: float, lower: float, toward: Floats) -> tuple[Floats, Floats]:
    """Two-bone solution: the middle joint (rows, 3), bent ``toward``, and the end, pulled in where it is out of reach."""
    line = end - root
    distance = np.linalg.norm(line, axis=-1)
    reach = np.minimum(distance, 0.9995 * (upper + lower))
    along = line / distance[:, None]
    share = (reach**2 + upper**2 - lower**2) / (2 * reach)
    height = np.sqrt(np.maximum(upper**2 - share**2, 0))
    side = toward - np.einsum("fi,fi->f", toward, along)[:, None] * along
    side = transforms.normalized(side, (0, 0, 1))
    return root + along * share[:, None] + side * height[:, None], root + along * reach[:, None]


class Pose:
    """World rotations (rows, 3, 3) and places (rows, 3) of the joints, filled from the hips outwards."""

    def __init__(self) -> None:
        self.rotation: dict[str, Floats] = {}
        self.place: dict[str, Floats] = {}

    def rest_place(self, joint: str) -> Floats:
        """Where a joint stands if it keeps its place on its parent."""
        parent = PARENT[joint]
        offset = PLACE[joint] - PLACE[parent]
        return np.asarray(self.place[parent] + np.einsum("fij,j->fi", self.rotation[parent], offset))

    def set(self, joint: str, rotation: Floats) -> None:
        self.place[joint] = self.rest_place(joint)
        self.rotation[joint] = rotation

    def follow(self, joint: str, local: Floats | None = None) -> None:
        above = self.rotation[PARENT[joint]]
        self.set(joint, above if local is None else above @ local)

    def limb(self, upper: str, lower: str, end: str, target: Floats, toward: Floats, bind_toward: Floats) -> None:
        """Bend a limb so that ``end`` comes to ``target``; sets the upper and lower joints and the place of the end."""
        root = self.rest_place(upper)
        lengths = float(np.linalg.norm(PLACE[lower] - PLACE[upper])), float(np.linalg.norm(PLACE[end] - PLACE[lower]))
        middle, reached = _middle_of_limb(root, target, lengths[0], lengths[1], toward)
        bend = np.broadcast_to(bind_toward, root.shape)
        for joint, after, direction in ((upper, lower, middle - root), (lower, end, reached - middle)):
            bind = np.broadcast_to(PLACE[after] - PLACE[joint], root.shape)
            self.set(joint, aligned(bind, bend, direction, toward))

    def local(self, joints: Sequence[str]) -> Floats:
        """Rotations of joints out of their parents' axes, (rows, joints, 4)."""
        out = np.empty((len(self.place["hips"]), len(joints), 4))
        for index, name in enumerate(joints):
            turned = self.rotation[name]
            if PARENT[name]:
                turned = np.swapaxes(self.rotation[PARENT[name]], -1, -2) @ turned
            out[:, index] = transforms.quaternion_from_matrix(turned)
        return continuous(out)

    def world(self, joint: str) -> Floats:
        """World matrices of a joint, (rows, 4, 4)."""
        return transforms.rigid(self.rotation[joint], self.place[joint])


def legs(pose: Pose, ankles: dict[str, Floats], pitch: dict[str, Floats]) -> None:
    """Both legs to where the ankles are (rows, 3), the feet leaning forwards by ``pitch`` degrees (rows,)."""
    for side, sign in (("l", 1.0), ("r", -1.0)):
        thigh, shin, foot, toe = (f"{n}_{side}" for n in ("thigh", "shin", "foot", "toe"))
        still = 0 * pitch[side]
        ahead = np.broadcast_to([sign * 0.12, 0.0, 1.0], ankles[side].shape)
        pose.limb(thigh, shin, foot, ankles[side], ahead, np.array([0.0, 0.0, 1.0]))
        pose.set(foot, rotation(pitch[side], still + sign * 4.0, still))
        pose.follow(toe, rotation(-0.5 * np.maximum(pitch[side], 0), still, still))


def arm(pose: Pose, side: str, target: Floats) -> None:
    """An arm bent so that the hand comes to ``target`` (rows, 3); how the hand is turned is left open."""
    sign = 1.0 if side == "l" else -1.0
    elbow = np.einsum("fij,j->fi", pose.rotation["chest"], np.array([sign * 0.75, -1.0, -0.35]))
    pose.limb(f"upper_arm_{side}", f"forearm_{side}", f"hand_{side}", target, elbow, np.array([0.0, 0.0, -1.0]))


def grip(pose: Pose, side: str, pole: Floats) -> Floats:
    """World rotations of a hand that is closed around a pole of these directions (rows, 3)."""
    sign = 1.0 if side == "l" else -1.0
    bind = np.broadcast_to(PLACE[f"fingers_1_{side}"] - PLACE[f"hand_{side}"], pole.shape)
    inward = np.einsum("fij,j->fi", pose.rotation["chest"], np.array([-sign * 0.8, -0.15, 0.9]))
    return aligned(bind, np.broadcast_to([0.0, 0.0, 1.0], pole.shape), inward, pole)


def fingers(pose: Pose, side: str, closed: Floats) -> None:
    """Fingers and thumb, from open to closed by a share (rows,)."""
    sign = 1.0 if side == "l" else -1.0
    for joint in ("fingers_1", "fingers_2"):
        pose.follow(f"{joint}_{side}", rotation(0 * closed, -sign * 38.0 * closed, -sign * 28.0 * closed))
    for joint in ("thumb_1", "thumb_2"):
        pose.follow(f"{joint}_{side}", rotation(18.0 * closed, sign * 14.0 * closed, 0 * closed))


def cloth(
    pose: Pose, hips_pitch: Floats | float, flare: Floats, scarf: tuple[Floats, Floats, Floats], sag: Floats
) -> None:
    """Coat, scarf and hood: pushed by the thighs, and moved by hand: degrees, (rows,) each. Of the ``scarf``: how it lifts and
    turns, and how its end lifts more."""
    still = 0 * flare
    ahead = {}
    for side in ("l", "r"):
        direction = pose.rotation[f"thigh_{side}"] @ np.array([0.0, -1.0, 0.0])
        ahead[side] = np.degrees(np.arctan2(direction[:, 2], -direction[:, 1]))
    forward, back = np.maximum(ahead["l"], ahead["r"]), np.minimum(ahead["l"], ahead["r"])
    lag = np.concatenate([[0.0], np.diff(forward)])
    pose.follow("coat_front", rotation(-(0.80 * forward + 0.5 * lag + hips_pitch), still, still))
    pose.follow("coat_back", rotation(-(0.72 * back + hips_pitch), still, still))
    middle = (forward + back) * 0.25
    for side, sign in (("l", 1.0), ("r", -1.0)):
        pose.follow(f"coat_{side}", rotation(-middle, still, sign * flare))
    lifts, turns, end_lifts = scarf
    pose.follow("scarf_1", rotation(lifts, turns, still))
    pose.follow("scarf_2", rotation(0.8 * lifts + end_lifts, still, still))
    pose.follow("hood_tip", rotation(sag, still, still))


def lantern(pose: Pose, pole: Floats, bend_deg: Floats, seconds: Floats) -> None:
    """The pole, whose foot is in her right hand, along these directions (rows, 3), and the lantern that swings from its tip."""
    still = 0 * bend_deg
    up = np.broadcast_to([0.0, 1.0, 0.0], pole.shape)
    pose.set("pole", aligned(up, np.broadcast_to([0.0, 0.0, 1.0], pole.shape), pole, up))
    pose.follow("pole_tip", rotation(bend_deg, still, still))
    pose.place["lantern_ring"] = pose.rest_place("lantern_ring")
    swing_z, swing_x = _pendulum(pose.place["lantern_ring"], seconds)
    pose.set("lantern_ring", rotation(np.degrees(-swing_z), still, np.degrees(swing_x)))
    pose.follow("lantern", rotation(0.25 * np.degrees(-swing_z), still, still))


def _pendulum(pivot: Floats, time: Floats) -> tuple[Floats, Floats]:
    """Angles, radians, of a damped pendulum of 0.24 m that hangs from a moving pivot, along z and along x."""
    length, damping, finer = 0.24, 2.6, 16
    fine = np.linspace(0, time[-1], (len(time) - 1) * finer + 1)
    step = fine[1]
    out = []
    for axis in (2, 0):
        path = np.interp(fine, time, pivot[:, axis])
        push = np.gradient(
            np.gradient(
                np.convolve(np.pad(path, 24, mode="reflect", reflect_type="odd"), np.ones(49) / 49, "valid"), step
            ),
            step,
        )
        angle, speed = 0.0, 0.0
        angles = []
        for pull in push:
            speed += step * (-(9.81 / length) * np.sin(angle) - pull / length * np.cos(angle) - damping * speed)
            angle += step * speed
            angles.append(angle)
        out.append(np.array(angles)[::finer])
    return out[0], out[1]
