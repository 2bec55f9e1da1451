"""Oda's lantern on its pole: a prop of its own, with the joints by which it bends and swings. Metres, as it lies in her hand in
her bind pose."""

from __future__ import annotations

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms

from .modelling import Model, Ring, Weights
from .posing import continuous
from .rigged_glb import Performer, rigged_glb

POLE, IRON = "#6d4d33", "#3c3a3d"
POLE_LENGTH, GRIP_FROM_BUTT, LEFT_GRIP_FROM_BUTT = 1.7, 0.52, 0.2
CREASE_DEG = 48.0
ROOT = "pole"
_FOOT = np.array([-0.50, 0.91, 0.03])
_JOINTS = [
    ("pole", "", _FOOT),
    ("pole_tip", "pole", _FOOT + [0, 0.75, 0]),
    ("lantern_ring", "pole_tip", _FOOT + [0, POLE_LENGTH - GRIP_FROM_BUTT, 0]),
    ("lantern", "lantern_ring", _FOOT + [0, POLE_LENGTH - GRIP_FROM_BUTT - 0.13, 0]),
]
NAMES = tuple(name for name, _, _ in _JOINTS)
PARENT = {name: parent for name, parent, _ in _JOINTS}
PLACE = {name: place for name, _, place in _JOINTS}


def model() -> Model:
    """Its mesh with its skin weights."""
    m = Model()
    foot = _FOOT
    low, high = -GRIP_FROM_BUTT, POLE_LENGTH - GRIP_FROM_BUTT
    shaft = []
    for share in np.linspace(0, 1, 9):
        y = high + (low - high) * share
        bend = float(np.clip(y / high, 0, 1)) ** 2
        weights = {"pole": 1.0 - 0.9 * bend, "pole_tip": 0.9 * bend} if y > 0.3 else {"pole": 1.0}
        radius = 0.013 + 0.006 * float(share)
        shaft.append(Ring((float(foot[0]), float(foot[1] + y), float(foot[2])), radius, radius, weights))
    m.loft(shaft, POLE, sides=7)
    x, y, z = (float(v) for v in PLACE["lantern"])
    carried: Weights = {"lantern": 1.0}
    chain = [Ring((x, y + 0.13, z), 0.006, 0.006, {"lantern_ring": 1}), Ring((x, y, z), 0.006, 0.006, carried)]
    m.loft(chain, IRON, sides=5)
    body = [
        Ring((x, y + 0.01, z), 0.012, 0.012, carried, IRON),
        Ring((x, y - 0.035, z), 0.066, 0.066, carried, IRON),
        Ring((x, y - 0.046, z), 0.066, 0.066, carried, IRON),
        Ring((x, y - 0.047, z), 0.040, 0.040, carried, IRON),
        Ring((x, y - 0.15, z), 0.040, 0.040, carried, IRON),
        Ring((x, y - 0.151, z), 0.062, 0.062, carried, IRON),
        Ring((x, y - 0.172, z), 0.060, 0.060, carried, IRON),
    ]
    m.loft(body, IRON, sides=8)
    glass = [Ring((x, y - 0.047, z), 0.052, 0.052, carried), Ring((x, y - 0.15, z), 0.054, 0.054, carried)]
    m.look = "lantern glass"
    m.loft(glass, "#ffffff", sides=8, caps=(False, False), repeat=(8, 1))
    m.look = ""
    return m


def glb(action: str, hand: Floats, world: dict[str, Floats], put_down_row: int | None = None) -> bytes:
    """The file of a performance in which a ``hand`` (rows, 4, 4) carries the pole, all of it where it is in the ``world``: the
    matrices (rows, 4, 4) of its joints by name. What a hand carries moves with it, so that here it moves as seen from the hand,
    in the axes that this had on the first frame; from the row on which it is put down it keeps still, but for its lantern."""
    rows = len(hand)
    held = np.minimum(np.arange(rows), rows if put_down_row is None else put_down_row)
    in_hand = hand[0] @ transforms.rigid_inverse(hand[held]) @ world[ROOT][held]
    local = np.empty((rows, len(NAMES), 4))
    for index, name in enumerate(NAMES):
        above = world[PARENT[name]][:, :3, :3] if PARENT[name] else None
        turned = in_hand[:, :3, :3] if above is None else np.swapaxes(above, -1, -2) @ world[name][:, :3, :3]
        local[:, index] = transforms.quaternion_from_matrix(turned)
    performer = Performer(
        "Lantern pole", action, NAMES, PARENT, PLACE, model(), continuous(local), in_hand[:, :3, 3],
        lambda joint: np.arange(rows), CREASE_DEG,
    )  # fmt: skip
    return rigged_glb(performer)
