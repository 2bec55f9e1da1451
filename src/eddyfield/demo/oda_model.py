"""Oda, the ferry keeper: her skeleton and her mesh. Metres, facing +Z, her left at +X, standing on y = 0."""

from __future__ import annotations

from functools import cache

import numpy as np

from . import oda_face
from .modelling import Model, Ring, Weights

COAT, CAPE, TROUSERS, BOOT = "#3f5866", "#2f4552", "#3a3846", "#4a3a30"
SKIN, SCARF, LINING = oda_face.SKIN, "#b98a3a", "#22303a"

# name, parent, place in the bind pose (every joint's own axes are the world's)
_MIDDLE = [
    ("hips", "", (0, 0.86, 0)),
    ("spine", "hips", (0, 0.98, -0.005)),
    ("chest", "spine", (0, 1.12, -0.01)),
    ("neck", "chest", (0, 1.31, -0.005)),
    ("head", "neck", (0, 1.385, 0.005)),
    ("jaw", "head", (0, 1.42, 0.03)),
    ("hood_tip", "head", (0, 1.53, -0.12)),
    ("scarf_1", "chest", (0.05, 1.30, -0.10)),
    ("scarf_2", "scarf_1", (0.06, 1.20, -0.17)),
    ("coat_front", "hips", (0, 0.84, 0.12)),
    ("coat_back", "hips", (0, 0.84, -0.12)),
]
_SIDES = [
    ("brow", "head", (0.043, 1.501, 0.110)),
    ("eye", "head", (0.042, 1.466, 0.0865)),
    ("lid", "head", (0.042, 1.466, 0.0865)),
    ("clavicle", "chest", (0.035, 1.285, 0)),
    ("upper_arm", "clavicle", (0.145, 1.265, -0.005)),
    ("forearm", "upper_arm", (0.325, 1.085, -0.01)),
    ("hand", "forearm", (0.49, 0.92, 0.01)),
    ("fingers_1", "hand", (0.54, 0.87, 0.015)),
    ("fingers_2", "fingers_1", (0.57, 0.84, 0.02)),
    ("thumb_1", "hand", (0.505, 0.895, 0.045)),
    ("thumb_2", "thumb_1", (0.525, 0.87, 0.065)),
    ("thigh", "hips", (0.085, 0.84, 0)),
    ("shin", "thigh", (0.09, 0.455, 0.012)),
    ("foot", "shin", (0.092, 0.08, -0.02)),
    ("toe", "foot", (0.094, 0.03, 0.09)),
    ("coat", "hips", (0.15, 0.84, 0)),
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


CREASE_DEG = 48.0
"""What meets at more than this has a hard edge."""


@cache
def face() -> Model:
    """Her face, with its shapes."""
    places = [{side: PLACE[f"{part}_{side}"] for side in ("l", "r")} for part in ("eye", "brow")]
    return oda_face.model(*places)


def model() -> Model:
    """Her mesh, but for the face, with its skin weights."""
    m = Model()
    _legs(m)
    _coat(m)
    _arms(m)
    _head(m)
    return m


def _between(a: str, b: str, share: float) -> tuple[float, float, float]:
    place = PLACE[a] + (PLACE[b] - PLACE[a]) * share
    return float(place[0]), float(place[1]), float(place[2])


def _around_hem(angle: float, weights: Weights) -> Weights:
    """Spread the share called ``hem`` over the four coat joints by direction."""
    share = weights.get("hem", 0.0)
    out = {name: w for name, w in weights.items() if name != "hem"}
    for name, toward in (("coat_front", 0.0), ("coat_l", np.pi / 2), ("coat_back", np.pi), ("coat_r", -np.pi / 2)):
        part = max(0.0, np.cos(angle - toward)) ** 2
        if share * part > 1e-3:
            out[name] = share * part
    return out


def _coat(m: Model) -> None:
    rings = [
        Ring((0, 1.335, -0.005), 0.055, 0.052, {"neck": 1}),
        Ring((0, 1.30, -0.008), 0.09, 0.075, {"chest": 0.7, "neck": 0.3}),
        Ring((0, 1.26, -0.01), 0.142, 0.092, {"chest": 1}),
        Ring((0, 1.17, -0.008), 0.148, 0.108, {"chest": 0.85, "spine": 0.15}),
        Ring((0, 1.06, -0.004), 0.130, 0.100, {"spine": 0.6, "chest": 0.4}),
        Ring((0, 0.97, 0), 0.128, 0.100, {"spine": 0.65, "hips": 0.35}),
        Ring((0, 0.955, 0), 0.136, 0.108, {"spine": 0.5, "hips": 0.5}, SCARF),
        Ring((0, 0.92, 0), 0.138, 0.110, {"hips": 0.8, "spine": 0.2}, SCARF),
        Ring((0, 0.90, 0), 0.140, 0.112, {"hips": 1}),
        Ring((0, 0.82, 0), 0.186, 0.172, {"hips": 0.5, "hem": 0.5}),
        Ring((0, 0.68, 0), 0.206, 0.206, {"hem": 1}),
        Ring((0, 0.50, 0), 0.246, 0.250, {"hem": 1}),
        Ring((0, 0.485, 0), 0.240, 0.244, {"hem": 1}, LINING),
        Ring((0, 0.60, 0), 0.19, 0.185, {"hem": 0.8, "hips": 0.2}, LINING),
    ]
    m.loft(rings, COAT, sides=14, angle_weights=_around_hem)
    cape = [
        Ring((0, 1.345, -0.01), 0.078, 0.075, {"neck": 0.6, "chest": 0.4}),
        Ring((0, 1.30, -0.012), 0.125, 0.108, {"chest": 0.8, "neck": 0.2}),
        Ring((0, 1.25, -0.012), 0.196, 0.140, {"chest": 1}),
        Ring((0, 1.135, -0.012), 0.234, 0.170, {"chest": 1}),
        Ring((0, 1.122, -0.012), 0.226, 0.163, {"chest": 1}, LINING),
        Ring((0, 1.22, -0.012), 0.16, 0.115, {"chest": 1}, LINING),
    ]
    m.loft(cape, CAPE, sides=14, caps=(True, False))
    scarf = [
        Ring((0, 1.372, 0.0), 0.082, 0.082, {"neck": 0.8, "chest": 0.2}),
        Ring((0, 1.35, 0.004), 0.098, 0.100, {"neck": 0.7, "chest": 0.3}),
        Ring((0, 1.325, 0.0), 0.090, 0.092, {"neck": 0.5, "chest": 0.5}),
    ]
    m.look = "woven cloth"
    m.loft(scarf, "#ffffff", sides=14, repeat=(5, 1))
    tail = [
        Ring((0.05, 1.33, -0.08), 0.036, 0.014, {"chest": 0.5, "scarf_1": 0.5}),
        Ring((0.055, 1.25, -0.145), 0.042, 0.013, {"scarf_1": 1}),
        Ring((0.06, 1.16, -0.178), 0.046, 0.012, {"scarf_1": 0.4, "scarf_2": 0.6}),
        Ring((0.065, 1.07, -0.188), 0.048, 0.011, {"scarf_2": 1}),
    ]
    m.loft(tail, "#ffffff", sides=8, repeat=(2, 4))
    m.look = ""


def _arms(m: Model) -> None:
    for side in ("l", "r"):
        upper, fore, hand = f"upper_arm_{side}", f"forearm_{side}", f"hand_{side}"
        along = PLACE[hand] - PLACE[upper]
        along = along / np.linalg.norm(along)
        wide = np.array([along[1] * -1, along[0], 0.0])
        wide = wide / np.linalg.norm(wide)
        deep = np.cross(along, wide)
        frame = {"across": tuple(wide), "deep": tuple(deep)}
        sleeve = [
            Ring(_between(upper, fore, -0.22), 0.05, 0.055, {"chest": 0.5, f"clavicle_{side}": 0.5}),
            Ring(_between(upper, fore, 0.05), 0.062, 0.062, {f"clavicle_{side}": 0.6, upper: 0.4}),
            Ring(_between(upper, fore, 0.28), 0.055, 0.057, {f"clavicle_{side}": 0.15, upper: 0.85}),
            Ring(_between(upper, fore, 0.55), 0.051, 0.053, {upper: 1}),
            Ring(_between(upper, fore, 0.88), 0.047, 0.049, {upper: 0.72, fore: 0.28}),
            Ring(_between(fore, hand, 0.08), 0.047, 0.049, {upper: 0.3, fore: 0.7}),
            Ring(_between(fore, hand, 0.5), 0.047, 0.049, {fore: 1}),
            Ring(_between(fore, hand, 0.9), 0.052, 0.053, {fore: 1}),
            Ring(_between(fore, hand, 0.91), 0.036, 0.037, {fore: 1}, LINING),
        ]
        m.loft(sleeve, COAT, sides=9, **frame)  # type: ignore[arg-type]
        one, two = f"fingers_1_{side}", f"fingers_2_{side}"
        tip = tuple(float(v) for v in PLACE[two] + (PLACE[two] - PLACE[one]) * 0.9)
        mitt = [
            Ring(_between(fore, hand, 0.86), 0.024, 0.027, {fore: 0.5, hand: 0.5}),
            Ring(_between(hand, one, 0.15), 0.023, 0.034, {hand: 1}),
            Ring(_between(hand, one, 0.9), 0.023, 0.042, {hand: 0.6, one: 0.4}),
            Ring(_between(one, two, 0.8), 0.020, 0.038, {one: 0.5, two: 0.5}),
            Ring((tip[0], tip[1], tip[2]), 0.011, 0.024, {two: 1}),
        ]
        m.loft(mitt, SKIN, sides=8, **frame)  # type: ignore[arg-type]
        base, end = f"thumb_1_{side}", f"thumb_2_{side}"
        beyond = PLACE[end] + (PLACE[end] - PLACE[base]) * 0.8
        thumb = [
            Ring(_between(hand, base, 0.5), 0.015, 0.015, {hand: 1}),
            Ring(_between(base, end, 0.2), 0.016, 0.016, {base: 1}),
            Ring(_between(base, end, 1.0), 0.014, 0.014, {base: 0.5, end: 0.5}),
            Ring((float(beyond[0]), float(beyond[1]), float(beyond[2])), 0.007, 0.007, {end: 1}),
        ]
        m.loft(thumb, SKIN, sides=6)


def _legs(m: Model) -> None:
    for side in ("l", "r"):
        thigh, shin, foot, toe = (f"{n}_{side}" for n in ("thigh", "shin", "foot", "toe"))
        leg = [
            Ring(_between(thigh, shin, -0.05), 0.078, 0.086, {"hips": 0.6, thigh: 0.4}),
            Ring(_between(thigh, shin, 0.25), 0.078, 0.086, {thigh: 1}),
            Ring(_between(thigh, shin, 0.65), 0.064, 0.070, {thigh: 1}),
            Ring(_between(thigh, shin, 0.93), 0.056, 0.062, {thigh: 0.7, shin: 0.3}),
            Ring(_between(shin, foot, 0.08), 0.055, 0.060, {thigh: 0.25, shin: 0.75}),
            Ring(_between(shin, foot, 0.30), 0.058, 0.064, {shin: 1}),
            Ring(_between(shin, foot, 0.31), 0.068, 0.074, {shin: 1}, BOOT),
            Ring(_between(shin, foot, 0.40), 0.064, 0.070, {shin: 1}, BOOT),
            Ring(_between(shin, foot, 0.75), 0.048, 0.055, {shin: 1}, BOOT),
            Ring(_between(shin, foot, 1.0), 0.046, 0.058, {shin: 0.4, foot: 0.6}, BOOT),
            Ring((float(PLACE[foot][0]), 0.03, -0.012), 0.044, 0.066, {foot: 1}, BOOT),
        ]
        m.loft(leg, TROUSERS, sides=10, caps=(True, False))
        x = float(PLACE[foot][0])
        boot = [
            Ring((x, 0.048, -0.085), 0.030, 0.044, {foot: 1}),
            Ring((x, 0.050, -0.055), 0.046, 0.050, {foot: 1}),
            Ring((x, 0.052, 0.02), 0.047, 0.052, {foot: 1}),
            Ring((x, 0.040, 0.085), 0.052, 0.040, {foot: 0.5, toe: 0.5}),
            Ring((x, 0.032, 0.135), 0.047, 0.031, {toe: 1}),
            Ring((x, 0.026, 0.165), 0.026, 0.020, {toe: 1}),
        ]
        m.loft(boot, BOOT, sides=10, deep=(0, 1, 0))


def _head(m: Model) -> None:
    head: Weights = {"head": 1.0}
    tip: Weights = {"hood_tip": 1.0}
    hood = [
        Ring((0, 1.515, -0.235), 0.012, 0.012, tip),
        Ring((0, 1.510, -0.185), 0.055, 0.058, {"hood_tip": 0.8, "head": 0.2}),
        Ring((0, 1.490, -0.110), 0.112, 0.122, {"head": 0.7, "hood_tip": 0.3}),
        Ring((0, 1.475, -0.030), 0.146, 0.158, head),
        Ring((0, 1.478, 0.030), 0.152, 0.168, head),
        Ring((0, 1.480, 0.058), 0.144, 0.164, head),
        Ring((0, 1.480, 0.064), 0.132, 0.152, head, LINING),
        Ring((0, 1.478, 0.000), 0.124, 0.146, head, LINING),
    ]
    m.loft(hood, CAPE, sides=16, deep=(0, 1, 0))
    neck = [
        Ring((0, 1.39, 0.0), 0.055, 0.055, {"head": 0.5, "neck": 0.5}),
        Ring((0, 1.31, 0.0), 0.058, 0.058, {"neck": 1}),
    ]
    m.loft(neck, SKIN, sides=8)
