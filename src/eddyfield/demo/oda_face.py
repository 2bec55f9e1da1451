"""Oda's face: one smooth surface with eyes, lids, brows and a mouth that opens, and the shapes that she speaks and feels with.

The surface is a grid of columns (round the head) and rows (downwards). Along the row of the mouth it has two edges, one of each
lip, with the hollow of the mouth behind them. Metres, in the bind pose; her left is at +X.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator

from eddyfield.core.arrays import Floats

from .eyes import dome, sparkle
from .modelling import Model, Ring, Weights, linear_color

SKIN, BLUSH, LIP, HOLLOW, TEETH, TONGUE = "#e6b997", "#d99678", "#b4685a", "#4a1f1f", "#f1e9da", "#b3605a"
HAIR, HAIR_DARK, LASH = "#9c5230", "#7d3f25", "#3b2620"
WHITE, RIM, IRIS, PUPIL = "#f4efe6", "#3f4f3f", "#6f8f66", "#1c1b20"
AXIS_Z = 0.012
"""The head is round about this upright line."""
MOUTH_Y, MOUTH_HALF_WIDTH = 1.401, 0.030
EYE_RADIUS_M = 0.0275
COLUMNS_DEG = (2.5, 5, 8, 11, 14.5, 18, 22, 26, 31, 36, 42, 49, 57, 66, 76, 88, 105, 125)
CORNER_DEG = 22
"""The mouth's corners lie on this column."""
ROWS_Y = (
    1.578, 1.566, 1.550, 1.535, 1.522, 1.512, 1.503, 1.495, 1.487, 1.479, 1.471, 1.463, 1.455, 1.448, 1.442, 1.436, 1.430, 1.425,
    1.420, 1.416, 1.4125, 1.409, 1.406, 1.4035, 1.401, 1.3985, 1.396, 1.393, 1.3895, 1.386, 1.381, 1.375, 1.367, 1.358, 1.348,
    1.339,
)  # fmt: skip
_HEIGHTS = (1.333, 1.340, 1.355, 1.375, 1.400, 1.430, 1.465, 1.500, 1.540, 1.565, 1.583)
_WIDTH = PchipInterpolator(_HEIGHTS, (0.0, 0.034, 0.056, 0.076, 0.094, 0.107, 0.113, 0.110, 0.092, 0.062, 0.0))
_DEPTH = PchipInterpolator(_HEIGHTS, (0.0, 0.048, 0.082, 0.101, 0.110, 0.116, 0.119, 0.116, 0.097, 0.065, 0.0))
# Where it stands out (x, y, by how much, and how wide to the sides and upwards, metres); mirrored where x is not 0.
_FEATURES = (
    (0.043, 1.467, -0.018, 0.029, 0.024),
    (0.042, 1.499, 0.005, 0.034, 0.009),
    (0.0, 1.478, 0.008, 0.009, 0.022),
    (0.0, 1.458, 0.010, 0.009, 0.016),
    (0.0, 1.441, 0.023, 0.0115, 0.0105),
    (0.0135, 1.4365, 0.010, 0.0065, 0.0065),
    (0.062, 1.432, 0.008, 0.030, 0.022),
    (0.0, 1.419, -0.0022, 0.0035, 0.006),
    (0.0, 1.4075, 0.0055, 0.019, 0.0055),
    (0.0, 1.3945, 0.0065, 0.017, 0.0060),
    (0.0, 1.383, -0.0035, 0.020, 0.006),
    (0.033, 1.401, -0.0035, 0.006, 0.010),
    (0.0, 1.362, 0.007, 0.022, 0.014),
)  # fmt: skip


def _hill(places: Floats, x: float, y: float, wide: float, high: float) -> Floats:
    """1 at (x, y) of the places (..., 3), falling off to the sides and up and down."""
    return np.asarray(np.exp(-(((places[..., 0] - x) / wide) ** 2) - ((places[..., 1] - y) / high) ** 2))


def surface(angle: Floats, y: Floats) -> Floats:
    """Places (..., 3) of the face at these angles round the head (radians, 0 in front, positive to her left) and heights."""
    out = np.stack([np.sin(angle), np.zeros_like(angle), np.cos(angle)], axis=-1)
    wide, deep = _WIDTH(y), np.where(np.cos(angle) > 0, _DEPTH(y), _WIDTH(y))
    place = np.stack([wide * out[..., 0], y, AXIS_Z + deep * out[..., 2]], axis=-1)
    grows = np.zeros_like(angle)
    for x, height, much, across, up in _FEATURES:
        for sign in (1.0, -1.0) if x else (1.0,):
            grows = grows + much * _hill(place, sign * x, height, across, up)
    return np.asarray(place + out * (grows * np.clip(out[..., 2] * 3, 0, 1))[..., None])


def surface_z(x: float, y: float) -> float:
    """How far in front the face lies at this place."""
    angle = np.arcsin(np.clip(x / float(_WIDTH(y)), -1, 1))
    return float(surface(np.array(angle), np.array(y))[2])


# Of her left brow, from its inner end: to the side and up from its joint, and half its height, metres.
_BROW = (
    (-0.027, -0.003, 0.0050), (-0.014, 0.002, 0.0064), (0.002, 0.0045, 0.0060), (0.018, 0.001, 0.0045), (0.031, -0.006, 0.0020),
)  # fmt: skip


# Of every lock of her hair: where it ends (x, y, metres), and its colour.
_LOCKS = (
    (-0.098, 1.455, HAIR_DARK), (-0.078, 1.500, HAIR), (-0.052, 1.520, HAIR), (-0.030, 1.536, HAIR_DARK),
    (-0.004, 1.530, HAIR), (0.024, 1.519, HAIR), (0.052, 1.504, HAIR_DARK), (0.078, 1.484, HAIR), (0.099, 1.448, HAIR_DARK),
)  # fmt: skip


@dataclass
class _Face:
    model: Model = field(default_factory=Model)
    kinds: list[str] = field(default_factory=list)
    """Of every vertex: what it is part of, for the shapes."""

    def mark(self, kind: str) -> None:
        """Whatever was made since the last mark is of this kind."""
        self.kinds += [kind] * (len(self.model.positions) - len(self.kinds))


def model(eye_places: dict[str, Floats], brow_places: dict[str, Floats]) -> Model:
    """Her face with its shapes, for eyes and brows whose joints stand here."""
    face = _Face()
    _skin(face)
    for side, sign in (("l", 1.0), ("r", -1.0)):
        _eye(face, side, eye_places[side])
        _brow(face, side, sign, brow_places[side])
    _hair(face)
    face.mark("hair")
    places = np.array(face.model.positions)
    face.model.shapes = _shapes(places, np.array(face.kinds))
    return face.model


def _jaw_share(place: Floats, lower: bool) -> float:
    """How far the jaw carries a place: wholly below the mouth, not at all above it, in between beside its corners."""
    x, y = abs(float(place[0])), float(place[1])
    down = np.clip((MOUTH_Y + 0.014 - y) / 0.032, 0, 1)
    down = down * down * (3 - 2 * down)
    beside = np.clip((x - MOUTH_HALF_WIDTH * 0.7) / 0.012, 0, 1)
    lip = 1.0 if lower else 0.0
    share = beside * down + (1 - beside) * lip
    ahead = np.clip((place[2] - 0.0) / 0.05, 0, 1)
    return float(share * ahead * 0.95)


def _skin_color(place: Floats) -> Floats:
    x, y = place[0], place[1]
    if y > 1.546 - 0.35 * abs(x + 0.02):
        return linear_color(HAIR_DARK)
    cheeks = max(float(_hill(place, sign * 0.058, 1.434, 0.026, 0.018)) for sign in (1.0, -1.0))
    nose = float(_hill(place, 0.0, 1.439, 0.016, 0.012)) * (place[2] > 0.1)
    blush = 0.75 * max(cheeks, 0.8 * nose)
    across = 1 - (x / (MOUTH_HALF_WIDTH + 0.002)) ** 2
    above = 0.0078 * across * (0.82 + 0.18 * np.cos(x / 0.0075)) if y >= MOUTH_Y else 0.0102 * across
    lip = 1.0 if across > 0 and abs(y - MOUTH_Y) <= above else 0.0
    skin = linear_color(SKIN) + (linear_color(BLUSH) - linear_color(SKIN)) * blush
    return np.asarray(skin + (linear_color(LIP) - skin) * lip)


def _skin(face: _Face) -> None:
    m = face.model
    columns = np.radians([*(-a for a in COLUMNS_DEG[::-1]), 0.0, *COLUMNS_DEG])
    inside = [n for n, a in enumerate(np.degrees(columns)) if abs(a) < CORNER_DEG - 0.1]
    grid = surface(*np.broadcast_arrays(columns[None, :], np.array(ROWS_Y)[:, None]))
    m.new_part()

    def line(places: Floats, lower: bool) -> list[int]:
        made = []
        for place in places:
            share = _jaw_share(place, lower)
            made.append(m.vertex(place, _skin_color(place), {"jaw": share, "head": 1 - share}))
        face.mark("lower" if lower else "upper")
        return made

    mouth = ROWS_Y.index(MOUTH_Y)
    above = [line(places, False) for places in grid[: mouth + 1]]
    # The lower lip's own edge lies on the upper one's; the two share their corners and all beyond.
    edge = list(above[-1])
    edge[inside[0] : inside[-1] + 1] = line(grid[mouth][inside], True)
    below = [edge, *(line(places, True) for places in grid[mouth + 1 :])]
    for rows in (above, below):
        for upper, lower in pairwise(rows):
            for n in range(len(columns) - 1):
                m.face(upper[n], lower[n], lower[n + 1], upper[n + 1])
    crown = m.vertex(np.array([0.0, 1.583, AXIS_Z]), linear_color(SKIN), {"head": 1.0})
    face.mark("upper")
    for n in range(len(columns) - 1):
        m.face(crown, above[0][n], above[0][n + 1])
    _mouth(face, grid[mouth][inside[0] - 1 : inside[-1] + 2])


def _mouth(face: _Face, edge: Floats) -> None:
    """Behind the lips: a hollow that its own lips carry, teeth above, a tongue below."""
    m = face.model
    dark = linear_color(HOLLOW)
    for lower in (False, True):
        m.new_part()
        carried: Weights = {"jaw": 0.95, "head": 0.05} if lower else {"head": 1.0}
        rows = []
        # The wall behind hangs from above, deep enough for a dropped jaw.
        for back, apart in ((0.0008, 0.0), (0.004, 0.010), (0.026, 0.011), (0.034, 0.0 if lower else -0.045)):
            down = -apart if lower else apart
            rows.append([m.vertex(place + [0, down, -back], dark, carried) for place in edge])
        for upper, behind in pairwise(rows):
            for n in range(len(edge) - 1):
                corners = (upper[n], upper[n + 1], behind[n + 1], behind[n])
                m.face(*(corners if lower else corners[::-1]))
        face.mark("hollow lower" if lower else "hollow upper")
    m.new_part()
    tint = linear_color(TEETH)
    arch = edge[3:-3] + np.array([0, 0.0, -0.0095])
    top = [m.vertex(p + [0, 0.0100, 0], tint, {"head": 1.0}) for p in arch]
    low = [m.vertex(p + [0, 0.0012, 0], tint, {"head": 1.0}) for p in arch]
    for n in range(len(arch) - 1):
        m.face(top[n], low[n], low[n + 1], top[n + 1])
    face.mark("teeth")
    m.ball(
        (0, MOUTH_Y - 0.010, edge[:, 2].max() - 0.024),
        (0.017, 0.006, 0.018),
        TONGUE,
        {"jaw": 0.95, "head": 0.05},
        10,
        6,
    )
    face.mark("hollow lower")


def _lid_shell(
    face: _Face, center: Floats, radius: float, tilts_deg: tuple[float, ...], color: str, weights: Weights, lash: bool
) -> None:
    """A lid: arcs from one corner of the eye to the other, each tilted up by so many degrees, the first one its edge."""
    m = face.model
    m.new_part()
    across = np.radians(np.linspace(-82, 82, 15))
    rows = []
    for number, tilt in enumerate(np.radians(tilts_deg)):
        tint = linear_color(LASH if lash and number == 0 else color)
        reach = radius + (0.0012 if lash and number == 0 else 0.0)
        arc = np.stack([np.sin(across), np.cos(across) * np.sin(tilt), np.cos(across) * np.cos(tilt)], axis=1)
        rows.append([m.vertex(center + reach * p, tint, weights) for p in arc])
    upwards = tilts_deg[-1] > tilts_deg[0]
    for low, high in pairwise(rows):
        for n in range(len(across) - 1):
            corners = (low[n], low[n + 1], high[n + 1], high[n])
            m.face(*(corners if upwards else corners[::-1]))


def _eye(face: _Face, side: str, center: Floats) -> None:
    m = face.model
    eye: Weights = {f"eye_{side}": 1.0}
    rings = [
        (0, ""),
        (12, PUPIL),
        (15, PUPIL),
        (22, IRIS),
        (29, IRIS),
        (33, RIM),
        (48, WHITE),
        (64, WHITE),
        (84, WHITE),
        (110, WHITE),
    ]
    dome(m, center, EYE_RADIUS_M, rings, eye)
    sparkle(m, center, EYE_RADIUS_M + 0.0006, np.array([-0.20, 0.27, 0.94]), 0.0032, {"head": 1.0})
    face.mark("eye")
    _lid_shell(face, center, EYE_RADIUS_M + 0.0014, (24, 25.5, 42, 60, 80, 104), BLUSH, {f"lid_{side}": 1.0}, lash=True)
    face.mark("lid")
    _lid_shell(face, center, EYE_RADIUS_M + 0.0010, (-33, -36, -52, -70, -92), SKIN, {"head": 1.0}, lash=False)
    face.mark("lower lid")


def _brow(face: _Face, side: str, sign: float, place: Floats) -> None:
    follows: Weights = {f"brow_{side}": 1.0}
    x, y = float(place[0]), float(place[1])
    arch = []
    for along, up, high in _BROW:
        at = x + sign * along
        arch.append(Ring((at, y + up, surface_z(at, y + up) + 0.0025), high, 0.0038, follows))
    face.model.loft(arch, HAIR, sides=8, across=(0, 1, 0), deep=(0, 0, 1))
    face.mark(f"brow {side}")


def _hair(face: _Face) -> None:
    """A fringe brushed to her left, and a strand down each side."""
    m = face.model
    head: Weights = {"head": 1.0}
    parting = -0.030
    for number, (x, low, color) in enumerate(_LOCKS):
        start = parting + 0.55 * (x - parting)
        rings = []
        for share in (0.0, 0.25, 0.5, 0.75, 1.0):
            y = 1.572 + (low - 1.572) * share**1.15
            at = start + (x - start) * np.sin(share * np.pi / 2)
            at = float(np.clip(at, -0.97 * float(_WIDTH(y)), 0.97 * float(_WIDTH(y))))
            thick = (0.010 + 0.001 * (number % 2)) * (1 - share**3) + 0.001
            wide = 0.019 * (1 - share**2.5) + 0.002
            rings.append(Ring((at, y, surface_z(at, y) + 0.004 * (1 - share) + 0.001), wide, thick, head))
        m.loft(rings, color, sides=8)


def _shapes(places: Floats, kinds: NDArray[np.str_]) -> dict[str, Floats]:
    """What each shape adds to the places (vertices, 3)."""
    upper, lower = np.isin(kinds, ("upper", "hollow upper")), np.isin(kinds, ("lower", "hollow lower"))
    skin = upper | lower
    lids = kinds == "lower lid"
    x, y = places[:, 0], places[:, 1]
    zero = np.zeros(len(places))

    def moved(dx: Floats = zero, dy: Floats = zero, dz: Floats = zero) -> Floats:
        moves = np.stack([dx + zero, dy + zero, dz + zero], axis=1)
        moves[np.abs(moves).max(axis=1) < 2e-5] = 0
        return moves

    def both(at: float, height: float, wide: float, high: float) -> Floats:
        return np.asarray(_hill(places, at, height, wide, high) + _hill(places, -at, height, wide, high))

    mouth = skin * _hill(places, 0.0, MOUTH_Y, 0.038, 0.020)
    lips = skin * _hill(places, 0.0, MOUTH_Y, 0.026, 0.009)
    corners = skin * both(0.031, MOUTH_Y, 0.014, 0.013)
    cheeks = skin * both(0.056, 1.432, 0.022, 0.018)
    side = np.tanh(x / 0.008)
    left, right = corners * (x > 0), corners * (x < 0)
    wings = skin * both(0.0135, 1.4365, 0.008, 0.008)
    inner = np.asarray(
        (kinds == "brow l") * np.exp(-(((x - 0.016) / 0.014) ** 2))
        + (kinds == "brow r") * np.exp(-(((x + 0.016) / 0.014) ** 2))
    )
    full = skin * both(0.050, 1.405, 0.021, 0.020)
    raised = np.asarray(lids * np.clip((y - 1.440) / 0.02, 0, 1))
    smile = moved(
        corners * 0.008 * side, corners * 0.009 + cheeks * 0.004 + raised * 0.003, cheeks * 0.004 - corners * 0.004
    )
    return {
        "lips apart": moved(dy=lips * (upper * 0.0035 - lower * 0.010)),
        "smile": smile,
        "corners down": moved(corners * 0.002 * side, corners * -0.009, corners * -0.002),
        "rounded": moved(mouth * -0.36 * x, lips * (upper * 0.002 - lower * 0.003), mouth * 0.010),
        "wide": moved(mouth * 0.28 * x, zero, mouth * -0.003),
        "pressed": moved(zero, lips * (upper * -0.0022 + lower * 0.0022), lips * -0.004),
        "lower lip in": moved(zero, lips * lower * 0.005, lips * lower * -0.007),
        "upper lip up": moved(wings * 0.001 * side, lips * upper * 0.006 + wings * 0.003, zero),
        "left corner up": moved(left * 0.006, left * 0.009 + cheeks * (x > 0) * 0.003, left * -0.003),
        "right corner up": moved(right * -0.006, right * 0.009 + cheeks * (x < 0) * 0.003, right * -0.003),
        "cheeks full": moved(full * 0.006 * side, zero, full * 0.010),
        "lower lids up": moved(zero, raised * 0.009 + cheeks * 0.003, raised * 0.002),
        "brows up in the middle": moved(dy=inner * 0.009),
        "brows together": moved(inner * -0.006 * np.sign(x), inner * -0.007, inner * 0.002),
        "nostrils wide": moved(wings * 0.0035 * side, zero, wings * 0.001),
    }  # fmt: skip
