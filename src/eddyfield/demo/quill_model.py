"""Quill, the heron: skeleton and mesh. Metres, facing +Z, its left at +X, standing on y = 0, wings spread when bound."""

from __future__ import annotations

from functools import cache

import numpy as np

from .eyes import dome, sparkle
from .modelling import Model, Ring, Weights

SLATE, PALE, DARK, WHITE = "#74879a", "#a9b6be", "#39434f", "#e4e2d8"
BEAK, LEG, EYE_RING, EYE = "#d09a3c", "#7b6a4a", "#e8c65a", "#23242a"

_MIDDLE = [
    ("body", "", (0, 0.52, -0.02)),
    ("breast", "body", (0, 0.60, 0.08)),
    ("neck_1", "breast", (0, 0.66, 0.13)),
    ("neck_2", "neck_1", (0, 0.74, 0.17)),
    ("neck_3", "neck_2", (0, 0.84, 0.13)),
    ("neck_4", "neck_3", (0, 0.93, 0.10)),
    ("head", "neck_4", (0, 1.00, 0.125)),
    ("beak", "head", (0, 0.995, 0.18)),
    ("crest", "head", (0, 1.025, 0.08)),
    ("tail", "body", (0, 0.46, -0.20)),
]
_SIDES = [
    ("eye", "head", (0.027, 1.012, 0.160)),
    ("lid", "head", (0.027, 1.012, 0.160)),
    ("wing", "breast", (0.085, 0.63, 0.04)),
    ("forewing", "wing", (0.33, 0.63, 0.02)),
    ("primaries", "forewing", (0.56, 0.63, 0.04)),
    ("thigh", "body", (0.045, 0.44, 0.0)),
    ("shank", "thigh", (0.048, 0.27, 0.03)),
    ("foot", "shank", (0.048, 0.02, 0.0)),
]


def _joints() -> list[tuple[str, str, np.ndarray]]:
    out = [(name, parent, np.array(place, dtype=np.float64)) for name, parent, place in _MIDDLE]
    sided = {name for name, _, _ in _SIDES}
    for side, sign in (("l", 1), ("r", -1)):
        for name, parent, (x, y, z) in _SIDES:
            above = f"{parent}_{side}" if parent in sided else parent
            out.append((f"{name}_{side}", above, np.array([sign * x, y, z], dtype=np.float64)))
    return out


JOINTS = _joints()
NAMES = tuple(name for name, _, _ in JOINTS)
PARENT = {name: parent for name, parent, _ in JOINTS}
PLACE = {name: place for name, _, place in JOINTS}
SOLE_M = 0.02
"""Height of the foot joints above what the bird stands on."""


CREASE_DEG = 50.0
"""What meets at more than this has a hard edge."""


def model() -> Model:
    """Its mesh, but for the face, with its skin weights."""
    m = Model()
    _body(m)
    _neck_and_head(m)
    for side, sign in (("l", 1.0), ("r", -1.0)):
        _wing(m, side, sign)
        _leg(m, side, sign)
    return m


def _body(m: Model) -> None:
    trunk = [
        Ring((0, 0.665, 0.135), 0.040, 0.045, {"neck_1": 0.6, "breast": 0.4}, PALE),
        Ring((0, 0.635, 0.115), 0.068, 0.074, {"breast": 1}, PALE),
        Ring((0, 0.585, 0.065), 0.092, 0.098, {"breast": 1}),
        Ring((0, 0.535, 0.005), 0.098, 0.104, {"breast": 0.5, "body": 0.5}),
        Ring((0, 0.490, -0.070), 0.086, 0.088, {"body": 1}),
        Ring((0, 0.460, -0.145), 0.058, 0.056, {"body": 0.7, "tail": 0.3}),
        Ring((0, 0.445, -0.195), 0.034, 0.026, {"body": 0.3, "tail": 0.7}, DARK),
    ]
    m.loft(trunk, SLATE, sides=12, deep=(0, 0.72, -0.69))
    tail = [
        Ring((0, 0.452, -0.19), 0.040, 0.014, {"tail": 1}),
        Ring((0, 0.415, -0.29), 0.052, 0.010, {"tail": 1}),
        Ring((0, 0.385, -0.36), 0.040, 0.006, {"tail": 1}, DARK),
    ]
    m.loft(tail, SLATE, sides=6, deep=(0, 1, -0.3))
    # Long plumes hang before the breast.
    for x in (-0.03, 0.0, 0.03):
        plume = [
            Ring((x, 0.655, 0.165), 0.010, 0.008, {"breast": 0.6, "neck_1": 0.4}),
            Ring((x * 1.2, 0.575, 0.175), 0.014, 0.007, {"breast": 1}),
            Ring((x * 1.3, 0.505, 0.150), 0.003, 0.003, {"breast": 1}),
        ]
        m.loft(plume, WHITE, sides=5)


def _neck_and_head(m: Model) -> None:
    neck = [
        Ring((0, 0.640, 0.125), 0.046, 0.046, {"breast": 0.7, "neck_1": 0.3}, PALE),
        Ring((0, 0.690, 0.155), 0.034, 0.038, {"neck_1": 1}, PALE),
        Ring((0, 0.745, 0.170), 0.028, 0.032, {"neck_1": 0.5, "neck_2": 0.5}, PALE),
        Ring((0, 0.800, 0.155), 0.025, 0.028, {"neck_2": 1}, PALE),
        Ring((0, 0.860, 0.123), 0.023, 0.026, {"neck_2": 0.4, "neck_3": 0.6}),
        Ring((0, 0.920, 0.104), 0.023, 0.025, {"neck_3": 0.5, "neck_4": 0.5}),
        Ring((0, 0.970, 0.110), 0.025, 0.027, {"neck_4": 1}),
        Ring((0, 1.005, 0.122), 0.026, 0.027, {"neck_4": 0.4, "head": 0.6}),
    ]
    m.loft(neck[::-1], SLATE, sides=9)
    head: Weights = {"head": 1.0}
    cap = [
        Ring((0, 1.022, 0.175), 0.014, 0.006, head),
        Ring((0, 1.036, 0.145), 0.028, 0.010, head),
        Ring((0, 1.036, 0.110), 0.030, 0.012, head),
        Ring((0, 1.024, 0.075), 0.016, 0.010, {"head": 0.5, "crest": 0.5}),
        Ring((0, 1.002, 0.030), 0.009, 0.006, {"crest": 1}),
        Ring((0, 0.965, -0.050), 0.003, 0.002, {"crest": 1}),
    ]
    m.loft(cap, DARK, sides=8, deep=(0, 1, 0.2))
    upper = [
        Ring((0, 1.006, 0.168), 0.021, 0.017, head),
        Ring((0, 1.001, 0.225), 0.013, 0.010, head),
        Ring((0, 0.994, 0.320), 0.003, 0.003, head),
    ]
    m.loft(upper[::-1], BEAK, sides=6, deep=(0, 1, 0))
    lower = [
        Ring((0, 0.990, 0.165), 0.017, 0.010, {"beak": 1}),
        Ring((0, 0.987, 0.222), 0.010, 0.006, {"beak": 1}),
        Ring((0, 0.990, 0.308), 0.002, 0.002, {"beak": 1}),
    ]
    m.loft(lower[::-1], "#b98531", sides=6, deep=(0, 1, 0))


@cache
def face() -> Model:
    """Its face with its shapes: the lower lids, the feathers of the cheeks, and the throat that swallows."""
    m = Model()
    head: Weights = {"head": 1.0}
    m.ball((0, 1.008, 0.132), (0.036, 0.034, 0.056), WHITE, head, sides=20, rows=14)
    m.ball((0, 0.982, 0.140), (0.020, 0.016, 0.030), PALE, {"head": 0.7, "neck_4": 0.3}, sides=14, rows=10)
    skin = len(m.positions)
    lids: list[int] = []
    for side in ("l", "r"):
        eye = PLACE[f"eye_{side}"]
        outward = np.array([np.sign(eye[0]), 0.05, 0.42])
        turned: Weights = {f"eye_{side}": 1.0}
        dome(
            m,
            eye,
            0.0118,
            [(0, ""), (20, EYE), (24, EYE), (40, EYE_RING), (52, EYE_RING), (64, DARK), (100, DARK)],
            turned,
            outward,
        )
        m.new_part()
        light = np.array([np.sign(eye[0]) * 0.75, 0.45, 0.55])
        sparkle(m, eye, 0.0122, light, 0.0016, head)
        m.ball(
            eye, (0.0125, 0.0135, 0.0135), DARK, {f"lid_{side}": 1}, sides=14, rows=10,
            keep=lambda p, c=eye: bool(p[1] > c[1] + 0.006),  # type: ignore[misc]
        )  # fmt: skip
        first = len(m.positions)
        m.ball(
            eye, (0.0122, 0.0130, 0.0130), SLATE, head, sides=14, rows=10,
            keep=lambda p, c=eye: bool(p[1] < c[1] - 0.007),  # type: ignore[misc]
        )  # fmt: skip
        lids += range(first, len(m.positions))
    places = np.array(m.positions)
    lid, rest = np.zeros(len(places), bool), np.arange(len(places)) < skin
    lid[lids] = True
    eye_y = PLACE["eye_l"][1]
    cheek = rest * np.exp(-(((places[:, 1] - 0.996) / 0.012) ** 2) - ((places[:, 2] - 0.125) / 0.03) ** 2)
    throat = rest * np.exp(-(((places[:, 1] - 0.972) / 0.012) ** 2) - ((places[:, 2] - 0.145) / 0.02) ** 2)
    nothing = np.zeros(len(places))
    m.shapes = {
        "lower lids up": np.stack([nothing, lid * 0.006 * (places[:, 1] > eye_y - 0.012), nothing], axis=1),
        "cheeks full": np.stack([cheek * 0.006 * np.sign(places[:, 0]), nothing, nothing], axis=1),
        "throat": np.stack([nothing, throat * -0.008, throat * 0.004], axis=1),
    }
    return m


def _plate(
    m: Model, joint: str, sign: float, near: float, far: float, chord: tuple[float, float], colors: tuple[str, str]
) -> None:
    """One flat part of a wing, from ``near`` to ``far`` along X, with feathers of these lengths towards the tail."""
    y, z = 0.63, 0.05
    weights: Weights = {joint: 1.0}
    for color, lead, deep, thick in ((colors[0], z + 0.02, 0.45, 0.011), (colors[1], z - 0.02, 1.0, 0.006)):
        rings = []
        for share in (0.0, 0.5, 1.0):
            x = near + (far - near) * share
            length = (chord[0] + (chord[1] - chord[0]) * share) * deep
            rings.append(Ring((sign * x, y - 0.004 * (deep > 0.5), lead - length / 2), thick, length / 2, weights))
        m.loft(rings if sign < 0 else rings[::-1], color, sides=8, across=(0, 1, 0), deep=(0, 0, 1))


def _wing(m: Model, side: str, sign: float) -> None:
    _plate(m, f"wing_{side}", sign, 0.06, 0.35, (0.20, 0.25), (SLATE, PALE))
    _plate(m, f"forewing_{side}", sign, 0.31, 0.58, (0.25, 0.26), (SLATE, DARK))
    _plate(m, f"primaries_{side}", sign, 0.54, 0.93, (0.25, 0.10), (DARK, DARK))


def _leg(m: Model, side: str, sign: float) -> None:
    x = float(PLACE[f"foot_{side}"][0])
    feathers = [
        Ring((sign * 0.045, 0.475, -0.005), 0.040, 0.050, {"body": 0.5, f"thigh_{side}": 0.5}),
        Ring((sign * 0.047, 0.40, 0.008), 0.030, 0.036, {f"thigh_{side}": 1}),
        Ring((x, 0.315, 0.024), 0.013, 0.015, {f"thigh_{side}": 1}),
    ]
    m.loft(feathers, PALE, sides=8)
    shank = [
        Ring((x, 0.335, 0.022), 0.008, 0.008, {f"thigh_{side}": 1}),
        Ring((x, 0.275, 0.030), 0.012, 0.012, {f"thigh_{side}": 0.5, f"shank_{side}": 0.5}),
        Ring((x, 0.15, 0.016), 0.0075, 0.0075, {f"shank_{side}": 1}),
        Ring((x, 0.015, 0.0), 0.009, 0.009, {f"shank_{side}": 0.5, f"foot_{side}": 0.5}),
    ]
    m.loft(shank, LEG, sides=6)
    for turn, length in ((-0.45, 0.075), (0.0, 0.085), (0.45, 0.075), (np.pi, 0.05)):
        out = np.array([np.sin(turn), 0.0, np.cos(turn)])
        tip = np.array([x, 0.006, 0.0]) + out * length
        toe = [
            Ring((x, 0.012, 0.0), 0.008, 0.009, {f"foot_{side}": 1}),
            Ring((float(tip[0]), 0.005, float(tip[2])), 0.003, 0.003, {f"foot_{side}": 1}),
        ]
        across = (float(np.cos(turn)), 0.0, float(-np.sin(turn)))
        m.loft(toe[::-1], LEG, sides=5, across=across, deep=(0, 1, 0))
