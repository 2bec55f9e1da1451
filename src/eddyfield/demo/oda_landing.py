"""Oda's landing: 72 frames at 24 frames a second on the far bank. She takes the last step, sets her lantern down beside her,
comes up again, and looks round at the heron. Row i is frame 2001 + i."""

from __future__ import annotations

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms

from .lantern_pole import GRIP_FROM_BUTT, LEFT_GRIP_FROM_BUTT
from .oda_crossing import FIRST_FOOTPRINT, LEGS, STRIDE
from .oda_model import NAMES, PLACE, face
from .oda_pose import Pose, arm, cloth, fingers, grip, lantern, legs
from .posing import RATE, bump, rotation, smooth
from .rigged_glb import FACE

FRAMES = 72
KEY_EVERY, ARM_KEY_EVERY = 4, 2
SETS_DOWN_ROW = 40
STEP_ENDS_ROW = 16
BEHIND, AHEAD = FIRST_FOOTPRINT + 6 * STRIDE, FIRST_FOOTPRINT + 7 * STRIDE
"""Where her right foot stands as it begins, and her left one, where it stays."""
PLANTED = np.array([-0.34, GRIP_FROM_BUTT - 0.03, AHEAD + 0.30])
"""Where her hand is on the pole as its foot stands in the ground."""
RAISED_DEG, UPRIGHT_DEG = 42.0, 87.0


def performed() -> Pose:
    """She and her lantern on every frame, in the world."""
    row, still = np.arange(FRAMES, dtype=np.float64), np.zeros(FRAMES)
    pose = Pose()
    comes, bends = smooth(row / STEP_ENDS_ROW), bump(row, 16, 58, 17)
    turns = smooth((row - 46) / 18)
    breath = np.sin(2 * np.pi * row / 52)
    hips_y = 0.79 + 0.014 * np.sin(np.pi * comes) + 0.012 * comes - 0.21 * bends + 0.003 * breath
    hips_z = BEHIND + 0.31 + 0.27 * comes - 0.05 * bends
    pose.place["hips"] = np.stack([0.016 - 0.016 * comes - 0.03 * bends, hips_y, hips_z], axis=-1)
    pose.rotation["hips"] = rotation(5 + 13 * bends, -6 * (1 - comes) + 10 * turns, 2 * bends)
    _legs(pose, row, comes)
    lean = 7 - 3 * comes + 19 * bends + breath
    pose.set("spine", rotation(lean, 12 * turns, 2 * bends))
    pose.set("chest", rotation(lean + 2 + 9 * bends, 4 * (1 - comes) + 20 * turns, 3 * bends))
    pose.set("neck", rotation(8 + 8 * bends - 3 * turns, 40 * turns, still))
    watches_hand = -10 * bump(row, 20, 46, 10)
    pose.set("head", rotation(5 + 16 * bends - 12 * turns, 62 * turns + watches_hand, -4 * turns))
    _face(pose, row, turns)
    _arms(pose, row, comes, breath)
    drags = np.gradient(hips_y) * -260
    scarf = 9 + drags - 8 * bends, 2 * breath, 3 * breath
    cloth(pose, 5.0 + 13 * bends, 5 + 10 * bends, scarf, 0.4 * drags)
    return pose


def poses() -> tuple[Floats, Floats]:
    """Her motion on every frame: local rotations (rows, joints, 4) and the place of the hips (rows, 3)."""
    pose = performed()
    return pose.local(NAMES), pose.place["hips"]


def _legs(pose: Pose, row: Floats, comes: Floats) -> None:
    """The left foot stands; the right one comes up beside it, and stays."""
    still, ankle = 0 * row, PLACE["foot_l"][1]
    up = np.sin(np.pi * np.clip((row - 1) / (STEP_ENDS_ROW - 3), 0, 1))
    moved = smooth((row - 1) / (STEP_ENDS_ROW - 3))
    ankles = {
        "l": np.stack([still + 0.085, still + ankle, still + AHEAD], axis=-1),
        "r": np.stack([still - 0.085, ankle + 0.10 * up**1.3, BEHIND + (AHEAD - 0.16 - BEHIND) * moved], axis=-1),
    }
    legs(pose, ankles, {"l": still, "r": 26 * bump(row, -2, 9, 5) - 12 * bump(row, 7, 15, 4)})


def _face(pose: Pose, row: Floats, turns: Floats) -> None:
    blink = np.maximum(bump(row, 14, 19, 2.5), bump(row, 45, 50, 2.5))
    pose.follow("jaw", rotation(0 * row, 0 * row, 0 * row))
    down = bump(row, 18, 48, 8)
    for side, sign in (("l", 1.0), ("r", -1.0)):
        pose.follow(f"brow_{side}", rotation(-4 * turns, 0 * row, sign * 2 * turns))
        pose.follow(f"eye_{side}", rotation(4 + 12 * down - 4 * turns, -8 * down + 8 * turns, 0 * row))
        pose.follow(f"lid_{side}", rotation((6 + 14 * down) * (1 - blink) + 62 * blink, 0 * row, 0 * row))


def face_weights() -> Floats:
    """How much of every shape of her face on every frame (rows, shapes): careful with the lantern, then glad of the company."""
    row = np.arange(FRAMES, dtype=np.float64)
    glad, careful = smooth((row - 52) / 12), bump(row, 16, 50, 8)
    weights = {
        "brows together": 0.45 * careful,
        "pressed": 0.5 * careful,
        "lower lids up": 0.6 * glad,
        "smile": 0.75 * glad,
        "left corner up": 0.4 * bump(row, 50, 66, 6),
        "brows up in the middle": 0.4 * glad,
    }
    return np.stack([np.clip(weights.get(name, 0 * row), 0, 1) for name in face().shapes], axis=1)


def _arms(pose: Pose, row: Floats, comes: Floats, breath: Floats) -> None:
    still = np.zeros(FRAMES)
    for side, sign in (("l", 1.0), ("r", -1.0)):
        pose.follow(f"clavicle_{side}", rotation(still, -sign * 6.0 + still, sign * 2.0 + still))
    chest = pose.rotation["chest"]

    def in_chest(x: float, y: float, z: float) -> Floats:
        return np.asarray(pose.place["chest"] + chest @ np.array([x, y, z]))

    lowers, lets_go = smooth((row - 14) / 22), smooth((row - SETS_DOWN_ROW - 1) / 16)
    left_lets_go = smooth((row - 8) / 16)
    right = in_chest(-0.15, 0.0, 0.30) * (1 - lowers)[:, None] + PLANTED * lowers[:, None]
    rise = np.radians(RAISED_DEG + (UPRIGHT_DEG - RAISED_DEG) * lowers)
    heading = np.radians(-3 - 5 * lowers)
    pole = np.stack([np.cos(rise) * np.sin(heading), np.sin(rise), np.cos(rise) * np.cos(heading)], axis=-1)
    left = right - pole * (GRIP_FROM_BUTT - LEFT_GRIP_FROM_BUTT) + chest @ np.array([0.035, 0.0, 0.0])
    rest = {"r": in_chest(-0.25, -0.37, 0.07), "l": in_chest(0.25, -0.36, 0.09)}
    for side, target, free in (("r", right, lets_go), ("l", left, left_lets_go)):
        sign = 1.0 if side == "l" else -1.0
        arm(pose, side, (target - pole * 0.02) * (1 - free)[:, None] + rest[side] * free[:, None])
        hangs = pose.rotation[f"forearm_{side}"] @ rotation(-6 + still, sign * 8 + 2 * breath, still)
        pose.set(f"hand_{side}", _between(grip(pose, side, pole), hangs, free))
        fingers(pose, side, 1.0 - 0.75 * free)
    # From its own weight the pole bends as she swings it; the lantern swings on when it stands.
    lantern(pose, pole, 2.5 * np.sin(2 * np.pi * (row / 20 - 0.2)) * bump(row, 0, 46, 8), row / RATE)


def _between(one: Floats, other: Floats, share: Floats) -> Floats:
    """Rotations (rows, 3, 3) from the one to the other by a share, the short way."""
    ends = [transforms.quaternion_from_matrix(turn) for turn in (one, other)]
    return transforms.matrix_from_quaternion(transforms.slerp(ends[0], ends[1], share))


def key_rows(joint: str) -> np.ndarray:
    """Rows on which a joint is keyed: key poses and breakdowns, more on planted legs and on what holds the pole."""
    arms = tuple(f"{part}_{side}" for part in ("upper_arm", "forearm", "hand") for side in ("l", "r"))
    every = ARM_KEY_EVERY if joint in (*LEGS, *arms, "hips", "lid_l", "lid_r", FACE) else KEY_EVERY
    return np.array(sorted({*range(0, FRAMES, every), FRAMES - 1, SETS_DOWN_ROW}))
