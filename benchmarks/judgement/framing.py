"""How well faults of framing are told from clean shots: made shots of a walking and a standing figure, clean by margins that are
measured here, and the same with one thing wrong."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cache

import numpy as np

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_channels import POSE_NAMES, camera_channels
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.subjects import Subject
from eddyfield.core.cut.cut import Cut
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.placing import AS_IN_FILE, placing
from eddyfield.core.performance.timing import Timing
from eddyfield.core.readings.causes import CAUSES
from eddyfield.core.readings.published_kinds import published_kind
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameRange, FrameTime, Rate
from eddyfield.core.time.key_reduction import keys_on_every_frame
from eddyfield.core.time.keys import Key
from eddyfield.demo import mill_race
from eddyfield.formats import stand_in

from .motions import Floats

COUNT = 72
WIDTH, HEIGHT = 1920.0, 1080.0
BACK_W_MM, BACK_H_MM = 36.0, 20.25
WHO, SOURCE, STILL, WALL = "oda", RigSource("oda", "glb"), 20, RigSource("wall", "stand-in")
SHOTS = {  # from where to where above the ground the frame reaches at the figure, metres
    "wide": (-0.2, 1.85), "from the thighs": (0.58, 1.72), "from the waist": (0.88, 1.68), "head and shoulders": (1.04, 1.62),
}  # fmt: skip
FAULTS = (
    "head_lost", "feet_lost", "cut_at_joint", "headroom", "lead_room", "hidden", "size_drift", "chord", "strobes", "feet_slide",
)  # fmt: skip
JOINTS_TO_CUT = {"ankle": "foot_l", "knee": "shin_l", "wrist": "hand_l", "neck": "neck"}


@dataclass(frozen=True, eq=False)
class Shot:
    """The eye (frames, 3), what is looked at (frames, 3) and the focal length (frames,), with what else there is about it."""

    eye: Floats
    at: Floats
    focal_mm: Floats
    stands: bool = False
    wall: tuple[float, float, float] | None = None
    step: int = 1
    drift_m: float = 0.0
    holds: bool = False
    sparse: tuple[int, ...] = ()
    unspoilt: Shot | None = None
    """The same without its fault."""


@dataclass
class Outcome:
    """Of clean shots: how many, and what was told of them by kind; of faults by kind: how many were planted and found."""

    clean: int = 0
    false: Counter[str] = field(default_factory=Counter)
    planted: Counter[str] = field(default_factory=Counter)
    found: Counter[str] = field(default_factory=Counter)


@cache
def _rig() -> Rig:
    return mill_race.demo_rig("oda")


@cache
def _wall() -> Rig:
    return stand_in.read(stand_in.write(stand_in.StandIn("wall", 0.5, 2.4, 0.1)))


@cache
def _joints(stands: bool) -> Floats:
    """World places of all joints, (frames, joints, 3)."""
    scene = _scene(_plain(stands))
    return _baker(scene).joint_positions(scene.characters[0])


def _plain(stands: bool) -> Shot:
    still = np.zeros((COUNT, 3))
    return Shot(still + [0.0, 0.0, 9.0], still, np.full(COUNT, 35.0), stands)


def _timing(stands: bool) -> Timing:
    if not stands:
        return Timing(FrameTime(1))
    return Timing(FrameTime(1), FrameTime(1000), FrameTime(STILL), FrameTime(STILL + 1))


def _scene(shot: Shot) -> Scene:
    frames = FrameRange(1, COUNT)
    ahead = shot.at - shot.eye
    pan = -np.degrees(np.unwrap(np.arctan2(-ahead[:, 0], -ahead[:, 2])))
    tilt = np.degrees(np.arctan2(ahead[:, 1], np.hypot(ahead[:, 0], ahead[:, 2])))
    values = dict(zip(POSE_NAMES, [*shot.eye.T, pan, tilt, 0 * pan, shot.focal_mm], strict=True))
    if shot.sparse:
        channels = {
            name: Channel(0.0, tuple(Key(FrameTime(r + 1), float(value[r]), "linear") for r in shot.sparse))
            for name, value in values.items()
        }
    else:
        channels = keys_on_every_frame(frames.frames().astype(np.float64), values)
    framing = Framing((Subject("joint", WHO, "chest"),), 0.5, 0.5) if shot.holds else None
    if shot.holds:
        channels = {name: Channel(float(value[0])) for name, value in values.items()}
    camera = Camera("camera", "camera", channels=camera_channels(**channels), framing=framing)
    drift = placing(x=Channel(0.0, (Key(FrameTime(1), 0.0, "linear"), Key(FrameTime(COUNT), shot.drift_m, "linear"))))
    character = Character(
        WHO, "Oda", Performance(SOURCE, _timing(shot.stands)), Stepping(shot.step), feet=("foot_l", "foot_r"),
        placing=drift if shot.drift_m else AS_IN_FILE,
    )  # fmt: skip
    pieces: tuple[Piece, ...] = ()
    if shot.wall:
        x, z, turn = shot.wall
        where = placing(x=Channel(x), z=Channel(z), turn=Channel(turn))
        pieces = (Piece("wall", "Wall", Performance(WALL), placing=where),)
    return Scene(
        "scene", "scene", Rate.parse("24"), frames, DeliveryFrame(), (camera,), (character,), pieces,
        cut=Cut.of((1, "camera")),
    )  # fmt: skip


def _baker(scene: Scene) -> Baker:
    return Baker(scene, lambda source: _rig() if source == SOURCE else _wall(), {})


def baker_of(shot: Shot) -> Baker:
    """What bakes the scene of a shot."""
    return _baker(_scene(shot))


def told(shot: Shot) -> list[Reading]:
    """What is told of a shot as a fault; arcs have a bench of their own, and the figure's hand has a kink."""

    def refuse(subject: str, error: Exception) -> None:
        raise error

    baker = baker_of(shot)
    return [r for r in scene_readings(baker, None, None, refuse) if not r.remark and CAUSES[r.kind] != "arc"]


def clean_shot(rng: np.random.Generator) -> tuple[str, Shot] | None:
    """A shot with nothing wrong in it; None where what was made has no margin to all that could be."""
    size = str(rng.choice(list(SHOTS)))
    stands = bool(rng.random() < 0.3)
    move = str(rng.choice(["locked", "tracking", "craning", "handheld", "zooming"]))
    shot = _shot(rng, SHOTS[size], stands, move)
    return (size, shot) if _has_margin(shot, size) else None


def _shot(rng: np.random.Generator, reach: tuple[float, float], stands: bool, move: str) -> Shot:
    low, high = (edge + rng.uniform(-0.02, 0.02) for edge in reach)
    joints, t = _joints(stands), np.arange(COUNT)
    names = _rig().joint_names
    hips = joints[:, names.index("hips")]
    travel = np.polynomial.Polynomial.fit(t, hips[:, 2], 3)(t)  # she goes along +Z
    if move == "locked" and not stands:
        low, high = low - 0.6, high + 1.4
        travel = np.full(COUNT, float(travel.mean()))
    focal = np.full(COUNT, rng.choice([35.0, 50.0, 85.0]))
    away = (high - low) * focal[0] / BACK_H_MM
    side = np.radians(rng.uniform(58, 110)) * rng.choice([-1, 1])
    # Room is left on the side that she goes to.
    lead = rng.uniform(0.05, 0.12) * (high - low) * WIDTH / HEIGHT * np.sin(abs(side))
    at = np.stack([0 * travel, np.full(COUNT, (low + high) / 2), travel + (0 if stands else lead)], axis=-1)
    eye = at + away * np.array([np.sin(side), 0.0, np.cos(side)])
    eye[:, 1] += rng.uniform(-0.1, 0.2)
    u = t / (COUNT - 1)
    ease = u * u * (3 - 2 * u)
    if move == "craning":
        eye[:, 1] += rng.uniform(0.2, 0.5) * ease
    elif move == "handheld":
        for target, much in ((eye, 0.012), (at, 0.008)):
            for axis in (0, 1):
                target[:, axis] += (
                    much * (high - low) * np.sin(2 * np.pi * rng.uniform(0.4, 1.2) * t / 24 + rng.uniform(0, 6))
                )
    elif move == "zooming":
        focal = focal * (1 + rng.uniform(0.03, 0.08) * ease)
    return Shot(eye, at, focal, stands)


def _seen(shot: Shot, points: Floats) -> Floats:
    """Pixels (frames, points, 2), by the plain formula of a camera that looks level at a point."""
    ahead = shot.at - shot.eye
    ahead = ahead / np.linalg.norm(ahead, axis=1, keepdims=True)
    right = np.cross(ahead, [0.0, 1.0, 0.0])
    right /= np.linalg.norm(right, axis=1, keepdims=True)
    up = np.cross(right, ahead)
    away = points - shot.eye[:, None]
    x, y, z = (np.einsum("fpi,fi->fp", away, axis) for axis in (right, up, ahead))
    scale = (shot.focal_mm / BACK_W_MM * WIDTH)[:, None]
    return np.stack([WIDTH / 2 + x / z * scale, HEIGHT / 2 - y / z * scale], axis=-1)


@cache
def _mesh_points(stands: bool) -> tuple[Floats, Floats]:
    """The vertices of the head, and of the feet, over the frames, skinned here."""
    rig = _rig()
    scene = _scene(_plain(stands))
    world = _baker(scene).world(scene.characters[0])
    assert rig.mesh is not None
    assert rig.skinning is not None
    out = []
    for wanted in (("head", "hood_tip", "jaw"), ("foot_l", "foot_r", "toe_l", "toe_r")):
        slots = [k for k, node in enumerate(rig.skinning.nodes) if rig.names[int(node)] in wanted]
        chosen = np.flatnonzero((rig.mesh.weights * np.isin(rig.mesh.slots, slots)).sum(axis=1) > 0.5)
        points = np.zeros((COUNT, len(chosen), 3))
        ones = np.column_stack([rig.mesh.positions[chosen], np.ones(len(chosen))])
        for k in range(rig.mesh.slots.shape[1]):
            nodes = rig.skinning.nodes[rig.mesh.slots[chosen, k]]
            skin = world[:, nodes] @ rig.skinning.joint_from_mesh[rig.mesh.slots[chosen, k]]
            points += rig.mesh.weights[chosen, k, None] * np.einsum("fvij,vj->fvi", skin, ones)[..., :3]
        out.append(points)
    return out[0], out[1]


def _has_margin(shot: Shot, size: str) -> bool:
    head, feet = (_seen(shot, points) for points in _mesh_points(shot.stands))
    joints = _seen(shot, _joints(shot.stands))
    names = _rig().joint_names
    top = head[..., 1].min(axis=1) / HEIGHT
    if not ((top > 0.045) & (top < 0.30)).all():
        return False
    if not ((head[..., 0] > 0.06 * WIDTH) & (head[..., 0] < 0.94 * WIDTH)).all():
        return False
    sole = feet[..., 1].max(axis=1) / HEIGHT
    if not ((sole < 0.955).all() or (feet[..., 1].min(axis=1) > 1.03 * HEIGHT).all()):
        return False
    if size == "wide" and not (sole < 0.955).all():
        return False
    for name in [n for n in names if n in ("neck", "hand_l", "hand_r", "shin_l", "shin_r", "foot_l", "foot_r")]:
        y = joints[:, names.index(name), 1] / HEIGHT
        x = joints[:, names.index(name), 0] / WIDTH
        near = (np.abs(y - 1) < 0.03) | (name.startswith("hand") & ((np.abs(x) < 0.03) | (np.abs(x - 1) < 0.03)))
        if (np.convolve(near, np.ones(12), "valid") > 5).any():
            return False
    middle = head[..., 0].mean(axis=1) / WIDTH
    hips = joints[:, names.index("hips"), 0]
    goes = hips[-1] - hips[0] if not shot.stands else 0.0
    ahead = _seen(shot, _joints(shot.stands)[:, [names.index("hips")]] + [[[0.0, 0.0, 0.3]]])[:, 0, 0] - hips
    heading = np.sign(goes) if abs(goes) > 0.1 * WIDTH * COUNT / 24 else np.sign(np.median(ahead))
    room = 1 - middle if heading > 0 else middle
    return bool((room > 0.34).all())


def spoilt(rng: np.random.Generator, kind: str) -> Shot | None:
    """A shot with one thing clearly wrong."""
    u = np.arange(COUNT)
    bump = np.clip(np.minimum((u - 14) / 8, (58 - u) / 8), 0, 1)
    bump = bump * bump * (3 - 2 * bump)
    if kind in ("head_lost", "feet_lost", "headroom"):
        size = "wide" if kind == "feet_lost" else str(rng.choice(list(SHOTS)))
        made = _until_clean(rng, size)
        if made is None:
            return None
        head, feet = (_seen(made, points) for points in _mesh_points(made.stands))
        edge = head[..., 1].min(axis=1) if kind != "feet_lost" else feet[..., 1].max(axis=1)
        goal = {"head_lost": -0.04, "feet_lost": 1.04, "headroom": 0.011}[kind] * HEIGHT
        # Looking so much higher or lower that the edge of the body comes to where it should not be.
        shift_px = (edge - goal) * bump
        depth = np.linalg.norm(made.at - made.eye, axis=1)
        metres: Floats = shift_px / (made.focal_mm / BACK_W_MM * WIDTH) * depth
        return replace(made, at=made.at - np.stack([0 * metres, metres, 0 * metres], axis=-1))
    if kind == "cut_at_joint":
        name = JOINTS_TO_CUT[str(rng.choice(list(JOINTS_TO_CUT)))]
        joint = _joints(True)[:, [_rig().joint_names.index(name)]]
        made = _shot(rng, (float(joint[0, 0, 1]), 1.72), True, "locked")
        made = replace(made, eye=made.eye * [1, 0, 1] + made.at * [0, 1, 0])  # level: up and down, nothing is skewed
        y = _seen(made, joint)[:, 0, 1]
        ahead = made.at - made.eye
        depth = np.einsum("fi,fi->f", joint[:, 0] - made.eye, ahead) / np.linalg.norm(ahead, axis=1)
        metres = (y - HEIGHT * (1 + rng.uniform(-0.004, 0.004))) / (made.focal_mm / BACK_W_MM * WIDTH) * depth
        lower = np.stack([0 * metres, metres, 0 * metres], axis=-1)
        return replace(made, at=made.at - lower, eye=made.eye - lower)
    made = _until_clean(rng, "wide" if kind in ("chord", "size_drift") else None, kind in ("strobes", "feet_slide"))
    if made is None:
        return None
    if kind == "lead_room":
        ahead = made.at - made.eye
        side = np.cross(ahead, [0.0, 1.0, 0.0])
        side /= np.linalg.norm(side, axis=1, keepdims=True)
        head = np.asarray(_seen(made, _mesh_points(made.stands)[0])[..., 0].mean(axis=1))
        ahead_is_right = (
            _seen(made, _joints(made.stands)[:, :1] + [[[0.0, 0.0, 0.3]]])[:, 0, 0]
            > _seen(made, _joints(made.stands)[:, :1])[:, 0, 0]
        )
        wanted = np.where(ahead_is_right, 0.78, 0.22) * WIDTH
        # From the beginning: a pan would be travel of its own.
        aside: Floats = (
            (float(head.mean()) - wanted) / (made.focal_mm / BACK_W_MM * WIDTH) * np.linalg.norm(ahead, axis=1)
        )
        return replace(made, at=made.at + side * aside[:, None])
    if kind == "size_hitch":
        row = int(rng.integers(14, COUNT - 14))
        eye = made.eye.copy()
        eye[row] += (made.at[row] - made.eye[row]) * rng.uniform(0.04, 0.08)
        return replace(made, eye=eye, unspoilt=made)
    if kind == "hidden":
        row = COUNT // 2
        between = made.eye[row] + 0.55 * (_joints(made.stands)[row].mean(axis=0) - made.eye[row])
        turn = float(np.degrees(np.arctan2(*(made.eye[row] - between)[[0, 2]])))
        return replace(made, wall=(float(between[0]), float(between[2]), turn))
    if kind == "size_drift":
        eye = np.tile([rng.uniform(-0.4, 0.4), 1.2, 8.0 + rng.uniform(0, 1.5)], (COUNT, 1))
        return Shot(eye, np.tile([0.0, 1.0, 2.0], (COUNT, 1)), np.full(COUNT, 50.0), holds=True)
    if kind == "chord":
        at = np.tile(_joints(True)[0].mean(axis=0), (COUNT, 1))
        angles = np.radians(rng.uniform(-80, -50)), np.radians(rng.uniform(50, 80))
        away = rng.uniform(4, 6)
        ends = [at[0] + away * np.array([np.sin(a), 0.1, np.cos(a)]) for a in angles]
        eye = ends[0] + np.linspace(0, 1, COUNT)[:, None] * (ends[1] - ends[0])
        return Shot(eye, at, np.full(COUNT, 28.0), stands=True, sparse=(0, COUNT - 1))
    if kind == "strobes":
        return replace(made, step=int(rng.integers(2, 5)))
    return replace(made, drift_m=float(rng.uniform(0.4, 0.8)))


def _until_clean(rng: np.random.Generator, size: str | None, walks: bool = False) -> Shot | None:
    for _ in range(60):
        wanted = size or str(rng.choice(list(SHOTS)))
        move = "tracking" if walks else str(rng.choice(["tracking", "craning", "handheld"]))
        shot = _shot(rng, SHOTS[wanted], not walks and bool(rng.random() < 0.3), move)
        if _has_margin(shot, wanted):
            return shot
    return None


def run(shots: int) -> Outcome:
    """Of so many clean shots, and a third as many of each fault."""
    rng, out = np.random.default_rng(5), Outcome()
    while out.clean < shots:
        made = clean_shot(rng)
        if made is None:
            continue
        out.clean += 1
        out.false.update({published_kind(reading) for reading in told(made[1])})
    for kind in FAULTS:
        for _ in range(max(1, shots // 3)):
            shot = spoilt(rng, kind)
            if shot is None:
                continue
            out.planted[kind] += 1
            out.found[kind] += any(published_kind(reading) == kind for reading in told(shot))
    return out


def table(shots: int, show: Callable[[str], None] = print) -> None:
    outcome = run(shots)
    show(
        f"{outcome.clean} clean shots: "
        + (", ".join(f"{k} in {n}" for k, n in outcome.false.most_common()) or "nothing told")
    )
    for kind in FAULTS:
        show(f"{kind:14} {outcome.found[kind]:4} of {outcome.planted[kind]:4}")
