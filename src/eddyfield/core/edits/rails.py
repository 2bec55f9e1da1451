"""Rails laid and run in one action, and the orbit that takes the place of a chord cut through a circle."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal

import numpy as np
from scipy.interpolate import splev, splprep

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera_frames import channels_standing_at
from ..cameras.left_mounts import moved_onto
from ..cameras.mounts import Free, Orbit, Rail
from ..cameras.placement import calm_joint
from ..cameras.subjects import Subject, Vector
from ..errors import DomainError
from ..performance.character import Character
from ..rig.transforms import angles_from_rotation, look_rotation, normalized, rigid
from ..scene import Scene
from ..time.channels import Channel
from ..time.frames import FrameTime
from ..time.key_reduction import fewest_keys
from ..time.keys import Key, KeyShape
from .camera_mounts import standing_on
from .cameras import refuse_locked
from .edit import Edit
from .keyed_stretches import having_within
from .reach import Reach, Stretch

Pace = Literal["even", "ease", "abreast"]
RailShape = Literal["straight", "ring", "square", "beside the path", "drawn"]
RING_POINTS, PATH_POINTS = 8, 9
LEAST_SIDE_M, FARTHEST_SIDE_M = 0.3, 1000
MOST_OF_A_STROKE = 5000
SHORTEST_STROKE_M, STROKE_STEP_M, MOST_STROKE_POINTS = 0.2, 0.8, 24
TREMBLE_M = 0.03
"""How far a hand trembles: a drawn rail leaves so much out."""
RING_CLOSES = 0.12
"""Of the length of a stroke: its ends are as near to each other where it is meant as a ring."""
ABREAST_M = 0.02
"""How near a run keeps to what it is abreast of."""
SWAY_SECONDS = 1.0
"""About two steps of a walk."""
CORNER_SHARE = 0.25
PLACE_AND_ANGLES = ("x", "y", "z", "pan", "tilt", "roll")
ROUND_M, ROUND_DEG = 0.001, 0.01
"""How near to its circle a camera goes round that does so by keys."""
QUARTERS = np.arange(4) * np.pi / 2


@dataclass(frozen=True, kw_only=True)
class LayRail(Edit):
    """Put a camera on a new rail that runs through where it stands, the picture kept.

    ``straight``: level, across its sight. ``ring`` and ``square`` (with rounded corners): closed, around the character.
    ``beside the path``: along the character's own way, at the camera's height, as far beside it as the camera stands.
    ``drawn``: along a stroke on the ground, ``stroke`` (x, z in metres), without its tremble, at the camera's height; a stroke
    that ends where it began is a ring. The camera is moved onto it, and stays turned as it is.
    With ``side_m`` it runs that many metres to the character's left (negative: to its right), and the camera is put on
    it beside the character, looking at it. Raises ``DomainError`` where there is no character, where it goes nowhere, and
    where the camera stands on its way or is locked.
    """

    edit: Literal["lay rail"] = "lay rail"
    title: ClassVar[str] = "lay rail"
    camera_id: str
    shape: RailShape
    frame: int
    character_id: str | None = None
    side_m: float | None = None
    stroke: tuple[tuple[float, float], ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.side_m is not None and abs(self.side_m) > FARTHEST_SIDE_M:
            raise DomainError("The rail would run too far away.", f"Keep it within {FARTHEST_SIDE_M} m.")
        if len(self.stroke) > MOST_OF_A_STROKE:
            raise DomainError("That stroke is too long.", f"Draw it with at most {MOST_OF_A_STROKE:,} points.")

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        frames, row = baker.camera(camera), baker.row_of(self.frame)
        eye, world = frames.path.world_from_camera[row, :3, 3], frames.path.world_from_camera[row]
        if self.shape == "straight":
            return standing_on(scene, baker, self.camera_id, Rail.begun(world, None), self.frame)
        if self.shape == "drawn":
            rail = _drawn(np.array(self.stroke, dtype=np.float64).reshape(-1, 2), float(eye[1]))
            place = rail.at(np.array([float(rail.nearest(eye))]))[0][0]
            return standing_on(scene, baker, self.camera_id, rail, self.frame, rigid(world[:3, :3], place))
        character = _character(scene, self.character_id)
        low, high = baker.body_bounds(character.id, "motion")
        middle = (low + high) / 2
        if self.shape == "beside the path":
            carrying = _carrying(character, baker)
            way = _way(carrying, round(float(scene.rate) * SWAY_SECONDS))
            if self.side_m is None:
                way = _prolonged(way, eye)
                rail = _beside(way, _side_of(way, eye), float(eye[1]))
                return standing_on(scene, baker, self.camera_id, rail, self.frame)
            refuse_locked(camera, {"place", "angles"}, "put on the rail")
            rail = _beside(way, self.side_m, float(eye[1]))
            place = rail.at(np.array([float(rail.nearest(carrying[row]))]))[0][0]
            sight = look_rotation(middle[row] - place, np.array([0.0, 1.0, 0.0]))
            return standing_on(scene, baker, self.camera_id, rail, self.frame, rigid(sight, place))
        out = (eye - middle[row]) * [1.0, 0.0, 1.0]
        radius = max(float(np.linalg.norm(out)), 0.5)
        start = float(np.arctan2(out[0], out[2]))
        if self.shape == "ring":
            turns = start + np.arange(RING_POINTS) * 2 * np.pi / RING_POINTS
            reach = np.full(RING_POINTS, radius)
        else:
            # Each side has a point in its middle and one at each end; between two sides one lies on the arc of the corner.
            straight = 1 - CORNER_SHARE
            arc = straight + CORNER_SHARE * np.sqrt(0.5)
            quarter = np.array([[0.0, 1.0], [straight, 1.0], [arc, arc], [1.0, straight]])
            quarters = [quarter @ np.array([[np.cos(q), -np.sin(q)], [np.sin(q), np.cos(q)]]) for q in QUARTERS]
            corners = np.concatenate(quarters)
            turns, reach = start + np.arctan2(corners[:, 0], corners[:, 1]), radius * np.hypot(*corners.T)
        centre = np.array([middle[row, 0], eye[1], middle[row, 2]])
        points = [centre + r * np.array([np.sin(t), 0.0, np.cos(t)]) for t, r in zip(turns, reach, strict=True)]
        laid = standing_on(scene, baker, self.camera_id, Rail(points=_vectors(points), closed=True), self.frame)
        # On a rail that is new there is no turn to go on from.
        closed = laid.camera(self.camera_id)
        position = closed.channels["rail"]
        return laid.with_camera(
            replace(closed, channels=closed.channels.having(rail=replace(position, default=position.default % 1.0)))
        )


@dataclass(frozen=True, kw_only=True)
class RunRail(Edit):
    """Let a camera run its rail between two frames: all of it at an even speed, or setting off and arriving slowly, or
    ``abreast`` of a character, where the rail is nearest to it on every frame, without its sway."""

    edit: Literal["run rail evenly"] = "run rail evenly"
    title: ClassVar[str] = "run of a rail"
    camera_id: str
    first: int
    last: int
    pace: Pace = "even"
    character_id: str | None = None

    def reach(self, scene: Scene) -> Reach:
        return Reach(frozenset({self.camera_id}), stretch=Stretch(frozenset({"rail"})))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        if not isinstance(camera.mount, Rail):
            raise DomainError(f"“{camera.name}” stands on no rail.", "Put it on a rail first.")
        if self.last <= self.first:
            raise DomainError("The run ends before it begins.", "Give a last frame after the first one.")
        refuse_locked(camera, {"place"}, "changed")
        if self.pace == "abreast":
            run = self._abreast(scene, baker, camera.mount)
        else:
            shape: KeyShape = "linear" if self.pace == "even" else "ease"
            run = Channel(0.0, tuple(Key(FrameTime(f), v, shape) for f, v in ((self.first, 0.0), (self.last, 1.0))))
        unkeyed = tuple((n, v) for n, v in camera.unkeyed if n != "rail")
        return scene.with_camera(replace(camera, channels=camera.channels.having(rail=run), unkeyed=unkeyed))

    def _abreast(self, scene: Scene, baker: Baker, rail: Rail) -> Channel:
        first, last = max(self.first, scene.frames.first), min(self.last, scene.frames.last)
        if last <= first:
            raise DomainError("The run lies outside the scene.", "Give frames of the scene.")
        sway = round(float(scene.rate) * SWAY_SECONDS)
        way = _calm(_carrying(_character(scene, self.character_id), baker), sway)
        rows = slice(first - scene.frames.first, last - scene.frames.first + 1)
        positions = rail.nearest(way[rows] * [1.0, 0.0, 1.0] + [0.0, float(np.mean(rail.points, axis=0)[1]), 0.0])
        if rail.closed:
            positions = np.unwrap(positions, period=1.0)
        # From far beside, small bends of the rail make large differences: they are no part of how she goes.
        positions = _calm(positions[:, None], 2 * sway)[:, 0]
        off = lambda values: np.abs(values["rail"] - positions) * rail.length_m  # noqa: E731
        return fewest_keys(np.arange(first, last + 1.0), {"rail": positions}, off, ABREAST_M)["rail"]


@dataclass(frozen=True, kw_only=True)
class OrbitInstead(Edit):
    """Between two keys, go around a subject in place of the straight way: an orbit with the same end pictures. A camera that does
    something before or after it goes round by keys of its own, and goes on as it did."""

    edit: Literal["orbit instead"] = "orbit instead"
    title: ClassVar[str] = "orbit instead of a chord"
    camera_id: str
    first: int
    last: int
    subject: Subject

    def reach(self, scene: Scene) -> Reach:
        owners = frozenset({self.camera_id})
        if self._goes_round_all_along(scene):
            return Reach(owners)
        return Reach(owners, stretch=Stretch(frozenset(PLACE_AND_ANGLES), self.first, self.last))

    def _goes_round_all_along(self, scene: Scene) -> bool:
        return self.first <= scene.frames.first and scene.frames.last <= self.last

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.camera_id)
        refuse_locked(camera, {"place", "angles"}, "put on an orbit")
        if self.last <= self.first:
            raise DomainError("The move ends before it begins.", "Give two frames in order.")
        if not self._goes_round_all_along(scene) and (self.first not in scene.frames or self.last not in scene.frames):
            raise DomainError(f"{self.first} to {self.last} is no stretch of the scene.", "Give two of its frames.")
        now = baker.camera(camera)
        orbit = moved_onto(camera, Orbit(pivot=self.subject))
        ends = []
        values = now.values
        for frame in (self.first, self.last):
            row = baker.row_of(frame)
            found = channels_standing_at(orbit, now.mounted[row], row, values, baker, keep_offset=False)
            ends.append(found)
            # The second end goes round from the first, by the shorter way.
            values = dict(values) | {n: np.full_like(now.values[n], v) for n, v in found.items()}
        channels = {name: _between(self.first, self.last, ends[0][name], ends[1][name]) for name in ends[0]}
        orbit = replace(orbit, channels=orbit.channels.having(**channels))
        around = baker.camera(orbit).mounted
        if self._goes_round_all_along(scene):
            return scene.with_camera(orbit)
        if not isinstance(camera.mount, Free):
            raise DomainError(
                f"All that “{camera.name}” does before {self.first} and after {self.last} hangs on what carries it.",
                "Bake it to keys first.",
            )
        # What it does before and after stays as it is: it goes round by keys of its own.
        rows = slice(baker.row_of(self.first), baker.row_of(self.last) + 1)
        begins = [float(now.values[name][rows.start]) for name in ("pan", "roll")]
        angles = angles_from_rotation(around[rows, :3, :3], *begins)
        values = dict(zip(PLACE_AND_ANGLES, np.column_stack([around[rows, :3, 3], angles]).T, strict=True))
        for name in PLACE_AND_ANGLES:  # where it begins and ends it is where it was, but for whole turns
            off = now.values[name][[rows.start, rows.stop - 1]] - values[name][[0, -1]]
            off = off if name in "xyz" else off - 360.0 * np.round(off / 360.0)
            values[name] = values[name] + np.linspace(float(off[0]), float(off[1]), len(angles))
        keys = fewest_keys(np.arange(self.first, self.last + 1.0), values, _off_the_way(values), 1.0)
        return scene.with_camera(having_within(camera, {name: channel.keys for name, channel in keys.items()}))


def _off_the_way(way: Mapping[str, Floats]) -> Callable[[Mapping[str, Floats]], Floats]:
    """How far values are off a way, 1 where that is as much as may be."""

    def off(near: Mapping[str, Floats]) -> Floats:
        place, angles = (
            np.stack([near[name] - way[name] for name in names])
            for names in (PLACE_AND_ANGLES[:3], PLACE_AND_ANGLES[3:])
        )
        return np.asarray(np.fmax(np.linalg.norm(place, axis=0) / ROUND_M, np.linalg.norm(angles, axis=0) / ROUND_DEG))

    return off


def _between(first: int, last: int, start: float, end: float) -> Channel:
    if start == end:
        return Channel(start)
    return Channel(start, (Key(FrameTime(first), start, "ease"), Key(FrameTime(last), end, "ease")))


def _character(scene: Scene, character_id: str | None) -> Character:
    character = scene.character(character_id) if character_id else (scene.characters or (None,))[0]
    if character is None:
        raise DomainError("There is no character to go by.", "Bring one in first.")
    return character


def _carrying(character: Character, baker: Baker) -> Floats:
    """Where the joint is that carries a character's body, (frames, 3): what it holds may swing about as it likes."""
    return np.asarray(baker.joint_frames(character.id, calm_joint(baker.rig(character)), "motion")[:, :3, 3])


def _calm(places: Floats, sway_frames: int) -> Floats:
    """A way (frames, 3) without the sway of steps."""
    half = min(sway_frames // 2, len(places) - 1)
    # Gone on at both ends as if turned about them, so that the mean begins and ends where the way does.
    before, after = 2 * places[:1] - places[half:0:-1], 2 * places[-1:] - places[-2 : -2 - half : -1]
    gone_on = np.concatenate([before, places, after])
    return np.asarray(np.lib.stride_tricks.sliding_window_view(gone_on, 2 * half + 1, axis=0).mean(axis=-1))


def _way(places: Floats, sway_frames: int) -> Floats:
    """Points on the ground along the way of a character that is at ``places`` (frames, 3), without its sway."""
    calm = _calm(places, sway_frames)
    rows = np.unique(np.linspace(0, len(calm) - 1, PATH_POINTS).round().astype(int))
    way: Floats = calm[rows] * [1.0, 0.0, 1.0]
    steps = np.linalg.norm(np.diff(way, axis=0), axis=-1)
    if float(np.linalg.norm(way[-1] - way[0])) < 0.1 or (steps < 1e-6).any():
        raise DomainError("The character does not go anywhere.", "Lay a straight rail or a ring.")
    return way


def _drawn(stroke: Floats, height: float) -> Rail:
    """A rail along a stroke on the ground, (points, 2): as few points as its length asks for, on a smoothing spline."""
    kept = stroke[np.append(True, np.linalg.norm(np.diff(stroke, axis=0), axis=-1) > 1e-6)] if len(stroke) else stroke
    length = float(np.linalg.norm(np.diff(kept, axis=0), axis=-1).sum())
    if length < SHORTEST_STROKE_M:
        raise DomainError("That rail has no length.", "Draw it with a longer stroke.")
    is_ring = len(kept) > 3 and bool(np.linalg.norm(kept[-1] - kept[0]) < RING_CLOSES * length)
    if is_ring:
        kept = np.vstack([kept[:-1], kept[:1]])
    spline: Any = splprep(kept.T, s=len(kept) * TREMBLE_M**2, k=min(3, len(kept) - 1), per=is_ring)[0]
    count = int(np.clip(round(length / STROKE_STEP_M), 2 + 2 * is_ring, MOST_STROKE_POINTS)) + 1
    x, z = splev(np.linspace(0, 1, count), spline)
    points = [np.array([a, height, b]) for a, b in zip(x, z, strict=True)]
    return Rail(points=_vectors(points[:-1] if is_ring else points), closed=is_ring)


def _prolonged(way: Floats, eye: Floats) -> Floats:
    """A way gone on straight at an end that a place lies beyond."""
    for end, before in ((0, 1), (-1, -2)):
        out = normalized(way[end] - way[before], (0.0, 0.0, -1.0))
        beyond = float((eye - way[end]) @ out)
        if beyond > LEAST_SIDE_M:
            way = np.insert(way, 0 if end == 0 else len(way), way[end] + out * beyond, axis=0)
    return np.asarray(way, dtype=np.float64)


def _left_of(ahead: Floats) -> Floats:
    left: Floats = np.stack([ahead[:, 2], np.zeros(len(ahead)), -ahead[:, 0]], axis=-1)
    return left


def _side_of(way: Floats, eye: Floats) -> float:
    """How far a place is to the left of a way."""
    track = Rail(points=_vectors(list(way)))
    place, ahead = track.at(np.array([float(track.nearest(eye * [1.0, 0.0, 1.0]))]))
    side = float((eye - place[0]) @ _left_of(ahead)[0])
    if abs(side) < LEAST_SIDE_M:
        raise DomainError("The camera stands on the character's own way.", "Give how far beside it the rail is to run.")
    return side


def _beside(way: Floats, side_m: float, height: float) -> Rail:
    """A rail along a way, to the left of where it goes."""
    ahead = normalized(np.gradient(way, axis=0), (0.0, 0.0, -1.0))
    return Rail(points=_vectors(list(way + _left_of(ahead) * side_m + [0.0, height, 0.0])))


def _vectors(points: list[Floats]) -> tuple[Vector, ...]:
    return tuple((float(p[0]), float(p[1]), float(p[2])) for p in points)
