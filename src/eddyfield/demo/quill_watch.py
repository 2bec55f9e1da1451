"""Quill's watch: 96 frames on the mooring post. It looks about, sees Oda, spreads its wings and folds them again."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms

from .posing import bump, continuous, rotation, smooth
from .quill_model import NAMES, PLACE, SOLE_M, face

FRAMES, KEY_EVERY = 96, 4
POST_TOP = np.array([1.7, 1.5, 4.0])
HEADING_DEG = -146.0
"""Where it faces: about towards the middle of the crossing; 0 is +Z, positive turns to its left."""
FOLD_DEG = {"roll": -82.0, "back": 78.0, "elbow": -152.0, "wrist": 158.0}


def poses() -> tuple[Floats, Floats]:
    """Local rotations (rows, joints, 4) and places of the body (rows, 3)."""
    row = np.arange(FRAMES, dtype=np.float64)
    still = np.zeros(FRAMES)
    breath = np.sin(2 * np.pi * row / 40)
    sees = smooth((row - 44) / 8)
    opens = bump(row, 54, 88, 12)
    crouch = bump(row, 47, 60, 6)
    local: dict[str, Floats] = {}
    local["body"] = rotation(2 * breath + 9 * crouch - 6 * opens, HEADING_DEG + still, still)
    local["breast"] = rotation(1.5 * breath - 4 * opens, still, still)
    # It looks about, then at her; the neck draws back before the wings go up.
    glance = 34 * np.sin(2 * np.pi * row / 52) * (1 - sees) + (-6 + 10 * smooth((row - 50) / 40)) * sees
    for name, share, back in (("neck_1", 0.10, 10), ("neck_2", 0.20, -22), ("neck_3", 0.30, 20), ("neck_4", 0.40, -9)):
        local[name] = rotation(back * (0.55 * crouch - 0.5 * opens) + 1.2 * breath, glance * share, still)
    nod = 10 - 12 * sees + 3 * np.sin(2 * np.pi * (row - 6) / 40)
    local["head"] = rotation(nod, 0.45 * glance, 5 * sees * np.sin(row / 7))
    local["beak"] = rotation(11 * bump(row, 56, 74, 6) + 1.0, still, still)
    local["crest"] = rotation(-26 * opens - 6 * sees, still, still)
    local["tail"] = rotation(-8 * opens + 2 * breath, still, still)
    blink = np.maximum(bump(row, 18, 24, 2.5), bump(row, 44, 49, 2.2))
    beat = 16 * np.sin(2 * np.pi * (row - 62) / 12) * bump(row, 60, 84, 6)
    for side, sign in (("l", 1.0), ("r", -1.0)):
        shut = 1 - opens
        fold = rotation(FOLD_DEG["roll"] * shut, sign * FOLD_DEG["back"] * shut, sign * (18 * opens + beat))
        local[f"wing_{side}"] = fold
        local[f"forewing_{side}"] = rotation(still, sign * FOLD_DEG["elbow"] * shut, sign * 0.5 * beat)
        local[f"primaries_{side}"] = rotation(still, sign * FOLD_DEG["wrist"] * shut, sign * (0.4 * beat - 6 * opens))
        bend = 20 * crouch - 4 * opens
        local[f"thigh_{side}"] = rotation(-bend - 2 * breath, still, still)
        local[f"shank_{side}"] = rotation(2 * bend - 0 * breath, still, still)
        local[f"foot_{side}"] = rotation(-bend + 6 * opens - 9 * crouch, still, still)
        local[f"eye_{side}"] = rotation(still, 6 * np.sin(row / 11) * (1 - sees), still)
        local[f"lid_{side}"] = rotation(-18 + 74 * blink, still, still)
    rotations = np.stack([transforms.quaternion_from_matrix(local[name]) for name in NAMES], axis=1)
    return continuous(rotations), _standing(local)


def _standing(local: dict[str, Floats]) -> Floats:
    """Places of the body that keep the middle of both feet on the post."""
    feet = []
    for side in ("l", "r"):
        turn, place = local["body"], np.zeros((FRAMES, 3))
        for joint, above in (
            (f"thigh_{side}", "body"),
            (f"shank_{side}", f"thigh_{side}"),
            (f"foot_{side}", f"shank_{side}"),
        ):
            place = place + np.einsum("fij,j->fi", turn, PLACE[joint] - PLACE[above])
            turn = turn @ local[joint]
        feet.append(place)
    return np.asarray(POST_TOP + [0.0, SOLE_M, 0.0] - (feet[0] + feet[1]) / 2)


def key_rows(joint: str) -> NDArray[np.int64]:
    """Rows on which a joint is keyed: every fourth, more on the legs so that the feet stay, and the last."""
    every = 2 if joint == "body" or joint.startswith(("thigh", "shank", "foot", "wing", "lid")) else KEY_EVERY
    return np.array(sorted({*range(0, FRAMES, every), FRAMES - 1}))


def face_weights() -> Floats:
    """How much of every shape of its face on every frame (rows, shapes)."""
    row = np.arange(FRAMES, dtype=np.float64)
    blink = np.maximum(bump(row, 18, 24, 2.5), bump(row, 44, 49, 2.2))
    swallow = bump(row, 30, 38, 4)
    weights = {
        "lower lids up": blink,
        "cheeks full": bump(row, 52, 78, 8),
        "throat": np.maximum(swallow, 0.8 * bump(row, 56, 74, 6)),
    }
    return np.stack([weights[name] for name in face().shapes], axis=1)
