"""Oda's crossing: 96 frames at 24 frames a second over the stepping stones, her lantern's pole in both hands.

Worked out pose by pose, in the world, then stored as an animator would key it: every key pose and breakdown on all
joints, more keys on hips and legs so that the planted feet stay down. Row i is frame 1001 + i.
"""

from __future__ import annotations

import numpy as np

from eddyfield.core.arrays import Floats

from .lantern_pole import GRIP_FROM_BUTT, LEFT_GRIP_FROM_BUTT
from .oda_model import NAMES, PLACE, face
from .oda_pose import Pose, arm, cloth, fingers, grip, lantern, legs
from .posing import RATE, bump, rotation, smooth
from .rigged_glb import FACE

FRAMES = 96
STEP_FRAMES, STRIDE = 16, 0.62
FIRST_FOOTPRINT = -0.31
KEY_EVERY, LEG_KEY_EVERY = 4, 2
KINK_ROW, KINK_M = 42, 0.03
"""How far her hand is off its arc on one frame."""
JOLT_ROW, JOLT_DEG = 66, 3.5
"""What her second version has in the place of the kink: a nod that is off on one frame."""
RIGHT_ARM = ("upper_arm_r", "forearm_r", "hand_r")
LEGS = tuple(f"{part}_{side}" for part in ("thigh", "shin", "foot", "toe") for side in ("l", "r"))


def performed(second: bool = False) -> Pose:
    """She and her lantern on every frame, in the world. In the ``second`` version the kink of her hand is mended, and her head
    jolts."""
    row = np.arange(FRAMES, dtype=np.float64)
    pose = Pose()
    step = row / STEP_FRAMES
    phase = step % 1.0
    # Which foot swings: 1 while it is the right one's turn, -1 for the left; smooth at the change.
    sway = np.cos(np.pi * step)
    lift_lantern = bump(row, 40, 84, 16)
    hips_y = 0.792 + 0.020 * np.cos(2 * np.pi * (phase - 0.62)) + 0.004 * np.cos(np.pi * step * 4)
    hips_z = STRIDE * step + 0.014 * np.sin(2 * np.pi * (phase - 0.1))
    hips_x = 0.024 * np.cos(np.pi * (step - 0.45))
    pose.place["hips"] = np.stack([hips_x, hips_y, hips_z], axis=-1)
    pose.rotation["hips"] = rotation(5 + 2 * np.sin(2 * np.pi * phase), 7 * sway, 3.0 * np.sin(np.pi * (step - 0.1)))
    _legs(pose, row)
    lean = 7 + 2.5 * np.sin(2 * np.pi * (phase - 0.12)) - 3 * lift_lantern
    pose.set("spine", rotation(lean, 0.5 * sway, -1.0 * np.sin(np.pi * (step - 0.2))))
    pose.set("chest", rotation(lean + 2, -6.5 * np.cos(np.pi * (step - 0.12)), -2 * np.sin(np.pi * (step - 0.25))))
    glance = 26 * bump(row, 50, 88, 12)
    pose.set("neck", rotation(8 - 2 * np.sin(2 * np.pi * (phase - 0.2)), glance * 0.4, 0 * row))
    nod = 4 + 2.5 * np.sin(2 * np.pi * (phase - 0.25)) - 9 * lift_lantern
    nod = nod + JOLT_DEG * second * (row == JOLT_ROW)
    pose.set("head", rotation(nod, glance - 2 * sway, 2.5 * np.sin(np.pi * (step - 0.3))))
    _face(pose, row)
    _arms(pose, row, phase, lift_lantern, 0.0 if second else KINK_M)
    flutter = 8 + 6 * np.sin(2 * np.pi * (step - 0.5))
    scarf = flutter, 3 * np.sin(np.pi * step), 5 * np.sin(2 * np.pi * (step - 0.7))
    cloth(pose, 5.0, 4 + 3 * np.sin(2 * np.pi * (step - 0.35)), scarf, 4 * np.sin(2 * np.pi * (step - 0.45)))
    return pose


def poses(second: bool = False) -> tuple[Floats, Floats]:
    """Her motion on every frame: local rotations (rows, joints, 4) and the place of the hips (rows, 3)."""
    pose = performed(second)
    return pose.local(NAMES), pose.place["hips"]


def _footprint(number: Floats) -> Floats:
    return FIRST_FOOTPRINT + STRIDE * number


def _legs(pose: Pose, row: Floats) -> None:
    ankles, pitch = {}, {}
    for side, sign, own in (("l", 1.0, 1), ("r", -1.0, 0)):
        # Right feet land on even footprints, left ones on odd. The step k swings the foot of footprint k to k + 2.
        step = np.floor(row / STEP_FRAMES).astype(int)
        share = row / STEP_FRAMES - step
        swings = step % 2 == own
        standing = np.where(swings, step, np.where((step - 1) % 2 == own, step + 1, step))
        moved = smooth((share - 0.10) / 0.80) * swings
        z = _footprint(standing + 2 * moved)
        up = np.sin(np.pi * np.clip((share - 0.10) / 0.80, 0, 1)) * swings
        heel_first = np.where(swings, bump(share, 0.62, 1.0, 0.19), 0)
        roll_off = np.where(swings, bump(share, 0.0, 0.55, 0.22), 0)
        pitch[side] = 34 * roll_off - 20 * heel_first
        ankles[side] = np.stack(
            [np.full(FRAMES, sign * 0.075), PLACE["foot_l"][1] + 0.15 * up**1.3 + 0.035 * roll_off, z], axis=-1
        )
    legs(pose, ankles, pitch)


def _face(pose: Pose, row: Floats) -> None:
    blink = np.maximum(bump(row, 29, 34, 2.5), bump(row, 74, 79, 2.5))
    wonder = bump(row, 52, 86, 8)
    talks = sum(open_deg * bump(row, at - 3, at + 3, 3) for at, open_deg in SPOKEN_OPEN)
    pose.follow("jaw", rotation(4 * wonder + talks, 0 * row, 0 * row))
    look = 9 * bump(row, 46, 88, 6)
    glad = 9 * smooth((row - 78) / 10)
    for side, sign in (("l", 1.0), ("r", -1.0)):
        pose.follow(f"brow_{side}", rotation(-7 * wonder, 0 * row, sign * 5 * wonder))
        pose.follow(f"eye_{side}", rotation(2 - 4 * wonder, look, 0 * row))
        pose.follow(f"lid_{side}", rotation((4 - 13 * wonder + glad) * (1 - blink) + 62 * blink, 0 * row, 0 * row))


# “There you are.”: on which row the jaw is open by how many degrees, and what the mouth forms.
SPOKEN_OPEN = ((63, 5.0), (69, 6.5), (76, 9.0))
SPOKEN: dict[str, tuple[tuple[float, float], ...]] = {
    "wide": ((63, 0.8), (73, 0.3)),
    "lips apart": ((63, 0.8), (66, 0.5), (70, 0.6), (76, 1.0)),
    "rounded": ((70, 1.0), (79, 0.5)),
    "pressed": ((60, 0.7), (82, 0.8)),
    "upper lip up": ((65, 0.6),),
    "lower lip in": ((61.5, 0.35),),
}


def face_weights() -> Floats:
    """How much of every shape of her face on every frame (rows, shapes): careful on the stones, wonder at the heron, what she
    says to it, and a smile that comes from one corner of the mouth."""
    row = np.arange(FRAMES, dtype=np.float64)
    wonder, glad = bump(row, 50, 64, 5), smooth((row - 78) / 10)
    careful = 1 - smooth((row - 44) / 8)
    weights: dict[str, Floats] = {
        "brows together": 0.55 * careful,
        "lower lids up": 0.25 * careful + 0.6 * glad,
        "corners down": 0.45 * careful,
        "pressed": 0.5 * bump(row, 8, 26, 6) + 0.4 * bump(row, 34, 46, 5),
        "brows up in the middle": 0.9 * bump(row, 48, 88, 6),
        "lips apart": 0.55 * wonder,
        "nostrils wide": 0.7 * wonder + 0.4 * bump(row, 4, 18, 6),
        "left corner up": 0.7 * bump(row, 74, 86, 5),
        "right corner up": 0.35 * bump(row, 80, 88, 4),
        "smile": 0.85 * glad,
        "cheeks full": 0.8 * bump(row, 12, 24, 6),
    }
    for shape, moments in SPOKEN.items():
        for at, much in moments:
            weights[shape] = weights.get(shape, 0 * row) + much * bump(row, at - 3.5, at + 3.5, 3.5)
    return np.stack([np.clip(weights.get(name, 0 * row), 0, 1) for name in face().shapes], axis=1)


def _arms(pose: Pose, row: Floats, phase: Floats, lift: Floats, kink_m: float) -> None:
    bob, still = np.sin(2 * np.pi * (phase - 0.22)), np.zeros(FRAMES)
    for side, sign in (("l", 1.0), ("r", -1.0)):
        shrug = 5 * lift if side == "r" else 2 * lift
        pose.follow(f"clavicle_{side}", rotation(still, -sign * 6.0 + still, sign * shrug))
    chest = pose.rotation["chest"]
    held_at = np.stack([still - 0.15, 0.018 * bob + 0.11 * lift, 0.30 + 0.008 * bob + 0.03 * lift], axis=-1)
    right = pose.place["chest"] + np.einsum("fij,fj->fi", chest, held_at)
    # The pole drags behind her: its tip follows the bob of the step late, and drops before it is lifted.
    rise = 40 + 3.2 * np.sin(2 * np.pi * (phase - 0.47)) + 17 * bump(row, 43, 87, 17) - 3.5 * bump(row, 38, 48, 5)
    heading = np.radians(-3 + 5 * np.cos(np.pi * (row / STEP_FRAMES - 0.35)))
    tilt = np.radians(rise)
    pole = np.stack([np.cos(tilt) * np.sin(heading), np.sin(tilt), np.cos(tilt) * np.cos(heading)], axis=-1)
    left = right - pole * (GRIP_FROM_BUTT - LEFT_GRIP_FROM_BUTT) + chest @ np.array([0.035, 0.0, 0.0])
    right[KINK_ROW, 1] -= kink_m
    for side, target in (("r", right), ("l", left)):
        arm(pose, side, target - pole * 0.02)
        pose.set(f"hand_{side}", grip(pose, side, pole))
        fingers(pose, side, still + 1.0)
    lantern(pose, pole, 1.6 * np.sin(2 * np.pi * (phase - 0.6)), np.arange(FRAMES) / RATE)


def key_rows(joint: str) -> np.ndarray:
    """Rows on which a joint is keyed: key poses and breakdowns, the last frame, more on hips and legs, and what is planted."""
    every = LEG_KEY_EVERY if joint in (*LEGS, "hips", "jaw", "lid_l", "lid_r", FACE) else KEY_EVERY
    rows = set(range(0, FRAMES, every)) | {FRAMES - 1}
    if joint in RIGHT_ARM:
        rows |= {KINK_ROW - 1, KINK_ROW, KINK_ROW + 1}
    if joint == "head":
        rows |= {JOLT_ROW - 1, JOLT_ROW, JOLT_ROW + 1}
    return np.array(sorted(rows))
