"""The mill race as a scene: Oda's and Quill's rigs, the set, and the cameras, each made with the tools of the trade."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from fractions import Fraction
from functools import cache

import numpy as np

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import LOCK_GROUPS, Camera, CameraPose
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.mounts import Crane, Rail
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.rig.rig import Rig
from eddyfield.core.scene import Character, CutEntry, RigSource, Scene, SetPiece
from eddyfield.core.time.frames import FrameRange, Rate
from eddyfield.formats import gltf
from eddyfield.formats.gltf import GltfWriter

from . import mill_set, oda_crossing, oda_model, quill_model, quill_watch
from .rigged_glb import Performer, add_mesh, rigged_glb

FIRST, LAST = 1001, 1096
AtWork = Callable[[Scene], Baker]
_HOME = uuid.UUID("6d1f2f0e-6f0c-4b52-9c25-0a1b5f2f7a10")


def demo_id(name: str) -> str:
    """The same id for the same demo thing on every machine."""
    return str(uuid.uuid5(_HOME, name))


@cache
def oda_glb() -> bytes:
    """Oda with her crossing: skinned mesh, 47 joints, keyed as cubic splines."""
    rotations, hips = oda_crossing.poses()
    return rigged_glb(
        Performer(
            "Oda", "crossing", oda_model.NAMES, oda_model.PARENT, oda_model.PLACE, oda_model.model(), rotations, hips,
            oda_crossing.key_rows,
        )
    )  # fmt: skip


@cache
def quill_glb() -> bytes:
    """Quill on the mooring post: it looks about, sees Oda, spreads its wings."""
    rotations, body = quill_watch.poses()
    return rigged_glb(
        Performer(
            "Quill", "watch", quill_model.NAMES, quill_model.PARENT, quill_model.PLACE, quill_model.model(), rotations,
            body, quill_watch.key_rows,
        )
    )  # fmt: skip


@cache
def set_glb() -> bytes:
    """The set: stones, banks, mill, mooring post, water; nothing of it moves."""
    writer = GltfWriter("Eddyfield demo")
    mesh = add_mesh(writer, mill_set.model(), None)
    writer.add("scenes", {"nodes": [writer.add("nodes", {"name": "Mill race", "mesh": mesh})]})
    writer.root["scene"] = 0
    return writer.to_glb()


@cache
def demo_rig(name: str) -> Rig:
    """The rig of ``oda``, ``quill`` or ``set``."""
    return gltf.read({"oda": oda_glb, "quill": quill_glb, "set": set_glb}[name](), with_mesh=True)


# The rail runs along the bank beside her: frame, x y z (metres), pan tilt (degrees).
BANK_RAIL = (
    (1001, -5.30, 1.25, 0.45, 92.0, -4.0),
    (1024, -5.00, 1.20, 1.15, 90.0, -3.5),
    (1048, -4.70, 1.18, 2.05, 87.0, -3.2),
    (1072, -4.55, 1.26, 2.95, 84.0, -3.8),
    (1096, -4.40, 1.35, 3.75, 81.0, -4.5),
)
ODA, QUILL, MILL = demo_id("oda"), demo_id("quill"), demo_id("mill race set")
BANK, FACE, TWO, SHOULDER, CRANE, ZOOM, VIEW = (
    demo_id(n) for n in ("bank rail", "face", "two-shot", "shoulder", "crane", "dolly zoom", "point of view")
)
SEES, LOOKED = 1046, 1074
"""Between these frames Oda sees the heron."""


def scene(oda_digest: str, quill_digest: str, set_digest: str) -> Scene:
    """The scene “Crossing”: Oda on twos, Quill on ones, and the coverage of a scene, one camera after another."""
    sources = {
        "oda": RigSource(oda_digest, "gltf"), "quill": RigSource(quill_digest, "gltf"), "set": RigSource(set_digest, "gltf"),
    }  # fmt: skip
    rigs = {id(source): demo_rig(name) for name, source in sources.items()}
    oda = Character(ODA, "Oda", sources["oda"], start=FIRST, stepping=Stepping(2), feet=("foot_l", "foot_r"))
    quill = Character(QUILL, "Quill", sources["quill"], start=FIRST, front_deg=quill_watch.HEADING_DEG)
    shown = Scene(
        demo_id("crossing"),
        "Crossing",
        Rate(Fraction(24)),
        FrameRange(FIRST, LAST),
        cameras=(Camera(BANK, "Bank rail 35"),),
        characters=(oda, quill),
        set_pieces=(SetPiece(MILL, "Mill race", sources["set"]),),
        cut=(CutEntry(FIRST, BANK),),
    )
    memory: dict[str, object] = {}

    def at_work(now: Scene) -> Baker:
        return Baker(now, lambda source: rigs[id(source)], memory)

    for make in (_bank_rail, _face, _two_shot, _shoulder, _crane, _dolly_zoom, _reviews):
        shown = make(shown, at_work)
    return shown


def _bank_rail(scene: Scene, at_work: AtWork) -> Scene:
    """A rail along the bank that tracks Oda, locked. She is on twos: it strobes until Ride is on."""
    rail = Rail(points=tuple((x, y, z) for _, x, y, z, _, _ in BANK_RAIL))
    _, x, y, z, pan, tilt = BANK_RAIL[0]
    scene = edits.place_camera(scene, at_work(scene), BANK, CameraPose(x, y, z, pan, tilt, 0, 35), FIRST)
    scene = edits.mount_camera(scene, at_work(scene), BANK, rail, FIRST)
    for frame, x, y, z, pan, tilt in BANK_RAIL:
        position = rail.nearest(np.array([x, y, z]))
        scene = edits.set_camera_values(scene, BANK, {"rail": position, "pan": pan, "tilt": tilt})
        scene = edits.key_camera(scene, at_work(scene), BANK, Fraction(frame))
    return edits.lock_camera(scene, BANK, LOCK_GROUPS)


def _face(scene: Scene, at_work: AtWork) -> Scene:
    return edits.make_face_camera(scene, at_work(scene), FACE, ODA, FIRST)


def _two_shot(scene: Scene, at_work: AtWork) -> Scene:
    return edits.make_two_shot(scene, at_work(scene), TWO, ODA, QUILL, 1060)


def _shoulder(scene: Scene, at_work: AtWork) -> Scene:
    """Past Quill at Oda, wide open; the focus is pulled from the one to the other when she sees it."""
    scene = edits.make_over_the_shoulder(scene, at_work(scene), SHOULDER, QUILL, ODA, 1056)
    scene = edits.set_camera_values(scene, SHOULDER, {"aperture": 1.4})
    near, far = (Subject("joint", who, "head") for who in (QUILL, ODA))
    pull = Focus((Target((near,)), Target((far,), SEES, SEES + 14)))
    return edits.focus_camera(scene, at_work(scene), SHOULDER, pull, SEES)


def _crane(scene: Scene, at_work: AtWork) -> Scene:
    """Up and away at the end, turned towards her all the while."""
    pose = CameraPose(-2.6, 1.1, 5.4, 125.0, -4.0, 0.0, 28.0)
    scene = edits.make_camera(scene, at_work(scene), CRANE, pose, "shot", LAST)
    scene = edits.rename_camera(scene, CRANE, "Crane up 28")
    scene = edits.mount_camera(scene, at_work(scene), CRANE, Crane(base=(-4.6, 0.9, 7.6), heading=130.0), LAST)
    aim = Aim((Target((Subject("joint", ODA, "chest"),)),))
    scene = edits.aim_camera(scene, at_work(scene), CRANE, aim, LAST)
    scene = edits.key_camera(scene, at_work(scene), CRANE, Fraction(1066))
    now = at_work(scene).camera(scene.camera(CRANE)).values
    up = {
        "arm_pitch": 44.0,
        "arm_yaw": float(now["arm_yaw"][0]) - 24.0,
        "arm_length": float(now["arm_length"][0]) + 1.2,
    }
    scene = edits.set_camera_values(scene, CRANE, up)
    return edits.key_camera(scene, at_work(scene), CRANE, Fraction(LAST))


def _dolly_zoom(scene: Scene, at_work: AtWork) -> Scene:
    """When she sees the heron: the camera comes near, the lens makes up for it, the world behind her falls away."""
    far, near = CameraPose(1.9, 1.55, 8.2, -30.0, -2.0, 0.0, 85.0), CameraPose(0.95, 1.5, 4.3, -30.0, -2.0, 0.0, 35.0)
    scene = edits.make_camera(scene, at_work(scene), ZOOM, far, "shot", SEES)
    scene = edits.rename_camera(scene, ZOOM, "Dolly zoom Oda")
    aim = Aim((Target((Subject("joint", ODA, "chest"),)),))
    scene = edits.aim_camera(scene, at_work(scene), ZOOM, aim, SEES)
    scene = edits.focus_camera(scene, at_work(scene), ZOOM, Focus(aim.targets), SEES)
    scene = edits.key_camera(scene, at_work(scene), ZOOM, Fraction(SEES), far)
    scene = edits.key_camera(scene, at_work(scene), ZOOM, Fraction(LOOKED), near)
    wanted = edits.DollyZoom(Subject("body", ODA), SEES, LOOKED, "move")
    return edits.dolly_zoom(scene, at_work(scene), ZOOM, wanted)


def _reviews(scene: Scene, at_work: AtWork) -> Scene:
    scene = edits.make_point_of_view(scene, at_work(scene), VIEW, QUILL, 1056)
    return edits.make_review_set(scene, at_work(scene), demo_id("reviews"), ODA, parallel=True)
