"""The set of the mill race. Metres; stones and banks have their tops at y = 0, the water lies below."""

from __future__ import annotations

import numpy as np

from .modelling import Model, Ring, Weights, linear_color
from .oda_crossing import FIRST_FOOTPRINT, STRIDE

WATER, WATER_DARK, FOAM = "#84a9a9", "#74999b", "#b7cdc7"
STONE, STONE_SIDE, GRASS, EARTH = "#a39c8c", "#7c7567", "#a3a687", "#7f6f58"
WALL, WALL_DARK, ROOF, FRAME, TIMBER = "#ab957f", "#97826d", "#7d564b", "#6a4b41", "#5b4a3b"
WATER_Y = -0.24
STILL: Weights = {"world": 1.0}


def model() -> Model:
    m = Model()
    _water(m)
    for number in range(2, 6):
        _stone(m, number)
    _banks(m)
    _mill(m)
    _post(m)
    return m


def _flat(m: Model, x0: float, x1: float, z0: float, z1: float, y: float, color: str) -> None:
    m.box(((x0 + x1) / 2, y - 0.01, (z0 + z1) / 2), (x1 - x0, 0.02, z1 - z0), color, STILL)


def _water(m: Model) -> None:
    _flat(m, -30, 34, -40, 44, WATER_Y, WATER)
    random = np.random.default_rng(7)
    for _ in range(46):
        x, z = random.uniform(-7, 14), random.uniform(-8, 12)
        length, width = random.uniform(0.5, 2.2), random.uniform(0.015, 0.05)
        color = FOAM if random.uniform() < 0.55 else WATER_DARK
        _flat(m, x - width, x + width, z - length / 2, z + length / 2, WATER_Y + 0.004, color)


def _stone(m: Model, number: int) -> None:
    z = FIRST_FOOTPRINT + STRIDE * number
    x = 0.07 if number % 2 else -0.07
    turn = 0.4 * number
    wide, deep = (np.cos(turn), 0.0, np.sin(turn)), (-np.sin(turn), 0.0, np.cos(turn))
    rings = [
        Ring((x, 0.0, z + 0.035), 0.20, 0.235, STILL),
        Ring((x, -0.035, z + 0.035), 0.25, 0.275, STILL),
        Ring((x, -0.30, z + 0.035), 0.31, 0.29, STILL, STONE_SIDE),
        Ring((x, -0.42, z + 0.035), 0.32, 0.30, STILL, STONE_SIDE),
    ]
    m.loft(rings, STONE, sides=11, across=wide, deep=deep)
    foam = [
        Ring((x, WATER_Y + 0.006, z + 0.035), 0.37, 0.35, STILL),
        Ring((x, WATER_Y + 0.002, z + 0.035), 0.375, 0.355, STILL),
    ]
    m.loft(foam, FOAM, sides=14, across=wide, deep=deep)


def _banks(m: Model) -> None:
    for near, far in ((0.52, -9.0), (3.42, 13.0)):
        middle, length = (near + far) / 2, abs(far - near)
        m.box((1.5, -0.03, middle), (20.0, 0.06, length), GRASS, STILL)
        m.box((1.5, -0.36, middle), (19.9, 0.62, length - 0.12), EARTH, STILL)
        edge = near + (0.05 if near > far else -0.05)
        for x in np.arange(-6.0, 9.0, 1.05):
            wobble = 0.06 * np.sin(5.1 * x)
            m.box((float(x), -0.06, edge + wobble), (0.62, 0.14, 0.24), STONE_SIDE, STILL, taper=0.85)


def _mill(m: Model) -> None:
    # The mill stands across the race, behind the far bank as the camera sees it.
    x, z = 7.0, 6.2
    m.box((x, 1.55, z), (5.0, 3.7, 6.4), WALL, STILL)
    m.box((x - 2.52, 0.1, z), (0.1, 0.8, 6.44), WALL_DARK, STILL)
    slope = [
        Ring((x, 4.75, z - 3.55), 0.10, 0.10, STILL),
        Ring((x, 4.75, z + 3.55), 0.10, 0.10, STILL),
    ]
    m.loft(slope, ROOF, sides=4, deep=(0, 1, 0))
    for side in (-1.0, 1.0):
        _roof(m, x, z, side)
    _gables(m, x, z)
    for dz, dy in ((-1.5, 1.75), (1.2, 1.75)):
        m.box((x - 2.53, dy, z + dz), (0.10, 1.0, 0.86), FRAME, STILL)
        m.look = "window"
        face, low, high, left, right = x - 2.59, dy - 0.42, dy + 0.42, z + dz - 0.35, z + dz + 0.35
        m.picture(((face, low, left), (face, low, right), (face, high, right), (face, high, left)), STILL)
        m.look = ""
    # The wheel, half in the water, and its axle.
    centre = (x - 2.95, 0.55, z - 2.1)
    for spoke in range(10):
        angle = np.pi * spoke / 5
        out = np.array([0.0, np.sin(angle), np.cos(angle)])
        far = np.array(centre) + out * 1.15
        near = np.array(centre) + out * 0.1
        rings = [Ring(tuple(near), 0.05, 0.045, STILL), Ring(tuple(far), 0.05, 0.04, STILL)]
        m.loft(rings, TIMBER, sides=4, across=(1, 0, 0), deep=tuple(np.cross(out, [1.0, 0.0, 0.0])))
        following = np.pi * (spoke + 1) / 5
        ahead = np.array(centre) + np.array([0.0, np.sin(following), np.cos(following)]) * 1.0
        here = np.array(centre) + out * 1.0
        rim = [Ring(tuple(here), 0.06, 0.045, STILL), Ring(tuple(ahead), 0.06, 0.045, STILL)]
        m.loft(rim, TIMBER, sides=4, across=(1, 0, 0), deep=tuple(np.cross(ahead - here, [1.0, 0.0, 0.0]) / 0.618))
        paddle = np.array(centre) + out * 1.22
        blade = [
            Ring(tuple(paddle - out * 0.16), 0.34, 0.03, STILL),
            Ring(tuple(paddle + out * 0.16), 0.34, 0.03, STILL),
        ]
        m.loft(blade, TIMBER, sides=4, across=(1, 0, 0), deep=tuple(np.cross(out, [1.0, 0.0, 0.0])))


def _roof(m: Model, x: float, z: float, side: float) -> None:
    tint = linear_color(ROOF)
    low, high = 3.25, 4.8
    outline = ((x + side * 2.95, low, z - 3.6), (x + side * 2.95, low, z + 3.6), (x, high, z + 3.6), (x, high, z - 3.6))
    places = [*outline, *((px, py - 0.16, pz) for px, py, pz in outline)]
    a, b, c, d, e, f, g, h = (m.vertex(np.array(p), tint, STILL) for p in places)
    faces = [(a, b, c, d), (h, g, f, e), (a, e, f, b), (b, f, g, c), (d, h, e, a)]
    for p, q, r, s in faces:
        m.face(*((p, q, r, s) if side < 0 else (p, s, r, q)))


def _gables(m: Model, x: float, z: float) -> None:
    tint = linear_color(WALL)
    for dz in (-3.2, 3.2):
        corners = [
            m.vertex(np.array(p), tint, STILL)
            for p in ((x - 2.5, 3.3, z + dz), (x + 2.5, 3.3, z + dz), (x, 4.68, z + dz))
        ]
        a, b, c = corners
        m.face(*((a, c, b) if dz < 0 else (a, b, c)))


def _post(m: Model) -> None:
    x, z = 1.7, 4.0
    post = [
        Ring((x, 1.5, z), 0.10, 0.10, STILL, "#6e5b49"),
        Ring((x, 1.46, z), 0.125, 0.125, STILL),
        Ring((x, -0.4, z), 0.125, 0.125, STILL),
    ]
    m.loft(post, TIMBER, sides=8)
    rope = [
        Ring((x, 1.12, z), 0.14, 0.14, STILL),
        Ring((x, 1.04, z), 0.145, 0.145, STILL),
        Ring((x, 0.97, z), 0.14, 0.14, STILL),
    ]
    m.loft(rope, "#b49a6c", sides=8)
    for dx, dz, height in ((-0.3, 0.5, 0.42), (0.25, -0.2, 0.34), (-0.6, 1.4, 0.5), (0.5, 2.0, 0.4)):
        for lean in (-0.06, 0.0, 0.07):
            reed = [
                Ring((x + dx + lean * 2, height, z + dz + lean), 0.004, 0.004, STILL),
                Ring((x + dx, 0.0, z + dz), 0.013, 0.013, STILL),
            ]
            m.loft(reed, "#7d8a5c", sides=4)
