"""The mill race as a scene: Oda's and Quill's rigs, the set, and the cameras, each made with the tools of the trade."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from fractions import Fraction
from functools import cache

import numpy as np

from eddyfield.core import edits
from eddyfield.core.arrays import Floats, Ints
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import Camera, CameraPose
from eddyfield.core.cameras.camera_channels import LOCK_GROUPS
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.mounts import Crane, Rail
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.cut.cut import Cut
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.timing import Timing
from eddyfield.core.rig import transforms
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameRange, FrameTime, Rate
from eddyfield.formats import gltf
from eddyfield.formats.gltf import GltfWriter

from . import lantern_pole, mill_set, oda_crossing, oda_landing, oda_model, quill_model, quill_watch
from .oda_pose import Pose
from .rigged_glb import Performer, add_mesh, rigged_glb

FIRST, LAST = 1001, 1096
AtWork = Callable[[Scene], Baker]
_HOME = uuid.UUID("6d1f2f0e-6f0c-4b52-9c25-0a1b5f2f7a10")


def demo_id(name: str) -> str:
    """The same id for the same demo thing on every machine."""
    return str(uuid.uuid5(_HOME, name))


WINDOW, WINDOW_ANGLES = (2.2, 2.1, 3.0), (-58.0, -20.0, 0.0)
"""Where the camera of the set stands, metres, and its pan, tilt and roll, degrees."""


@cache
def oda_glb(second: bool = False) -> bytes:
    """Oda with her crossing: skinned mesh, 43 joints, keyed as cubic splines; or its ``second`` version."""
    return _oda("crossing", oda_crossing.poses(second), oda_crossing.key_rows, oda_crossing.face_weights())


@cache
def oda_landing_glb() -> bytes:
    """Oda on the far bank: she sets her lantern down, and looks round."""
    return _oda("landing", oda_landing.poses(), oda_landing.key_rows, oda_landing.face_weights())


def _oda(action: str, poses: tuple[Floats, Floats], key_rows: Callable[[str], Ints], weights: Floats) -> bytes:
    return rigged_glb(
        Performer(
            "Oda", action, oda_model.NAMES, oda_model.PARENT, oda_model.PLACE, oda_model.model(), *poses,
            key_rows, oda_model.CREASE_DEG, oda_model.face(), weights,
        )
    )  # fmt: skip


@cache
def pole_glb() -> bytes:
    """The lantern on its pole, as it bends and swings in Oda's hand on her crossing."""
    return _pole("crossing", oda_crossing.performed(), None)


@cache
def pole_landing_glb() -> bytes:
    """The same until it stands in the ground."""
    return _pole("landing", oda_landing.performed(), oda_landing.SETS_DOWN_ROW)


def _pole(action: str, pose: Pose, set_down_row: int | None) -> bytes:
    world = {name: pose.world(name) for name in lantern_pole.NAMES}
    return lantern_pole.glb(action, pose.world("hand_r"), world, set_down_row)


@cache
def quill_glb() -> bytes:
    """Quill on the mooring post: it looks about, sees Oda, spreads its wings."""
    rotations, body = quill_watch.poses()
    return rigged_glb(
        Performer(
            "Quill", "watch", quill_model.NAMES, quill_model.PARENT, quill_model.PLACE, quill_model.model(), rotations,
            body, quill_watch.key_rows, quill_model.CREASE_DEG, quill_model.face(), quill_watch.face_weights(),
        )
    )  # fmt: skip


@cache
def set_glb() -> bytes:
    """The set: stones, banks, mill, mooring post, water; nothing of it moves. With a camera at the mill's window."""
    writer = GltfWriter("Eddyfield demo")
    mesh = add_mesh(writer, mill_set.model(), None)
    lens = {"name": "Mill window", "type": "perspective", "perspective": {"yfov": 0.62, "znear": 0.1}}
    turn = transforms.quaternion_from_matrix(transforms.rotation_from_angles(*WINDOW_ANGLES)[None])[0]
    at_window = {
        "name": "Mill window", "camera": writer.add("cameras", lens), "translation": list(WINDOW),
        "rotation": [round(float(v), 9) for v in turn],
    }  # fmt: skip
    nodes = [writer.add("nodes", {"name": "Mill race", "mesh": mesh}), writer.add("nodes", at_window)]
    writer.add("scenes", {"nodes": nodes})
    writer.root["scene"] = 0
    return writer.to_glb()


FILES: dict[str, Callable[[], bytes]] = {
    "oda": oda_glb, "quill": quill_glb, "set": set_glb, "pole": pole_glb,
    "oda landing": oda_landing_glb, "pole landing": pole_landing_glb,
}  # fmt: skip
FILE_NAMES = {
    "oda": "oda-crossing.glb", "quill": "quill-watch.glb", "set": "mill-race.glb", "pole": "lantern-pole.glb",
    "oda landing": "oda-landing.glb", "pole landing": "lantern-pole-landing.glb",
}  # fmt: skip
OF_CROSSING = ("oda", "quill", "set", "pole")
"""The files of the scene “Crossing”, in order."""


@cache
def demo_rig(name: str) -> Rig:
    """The rig of one of ``FILES``."""
    return gltf.read(FILES[name](), with_mesh=True)


# The rail runs along the bank beside her: frame, x y z (metres), pan tilt (degrees).
BANK_RAIL = (
    (1001, -5.30, 1.25, 0.45, 92.0, -4.0),
    (1024, -5.00, 1.20, 1.15, 90.0, -3.5),
    (1048, -4.70, 1.18, 2.05, 87.0, -3.2),
    (1072, -4.55, 1.26, 2.95, 84.0, -3.8),
    (1096, -4.40, 1.35, 3.75, 81.0, -4.5),
)
ODA, QUILL, MILL, POLE = demo_id("oda"), demo_id("quill"), demo_id("mill race set"), demo_id("lantern pole")
BANK, FACE, TWO, SHOULDER, CRANE, ZOOM, VIEW = (
    demo_id(n) for n in ("bank rail", "face", "two-shot", "shoulder", "crane", "dolly zoom", "point of view")
)
SEES, LOOKED = 1046, 1074
"""Between these frames Oda sees the heron."""


@cache
def scene(*digests: str) -> Scene:
    """The scene “Crossing”: Oda on twos, Quill on ones, and the coverage of a scene, one camera after another."""
    sources = {name: RigSource(digest, "gltf") for name, digest in zip(OF_CROSSING, digests, strict=True)}
    rigs = {id(source): demo_rig(name) for name, source in sources.items()}
    oda = Character(
        ODA,
        "Oda",
        Performance(sources["oda"], Timing(FrameTime(FIRST))),
        stepping=Stepping(2),
        feet=("foot_l", "foot_r"),
    )
    quill = Character(
        QUILL, "Quill", Performance(sources["quill"], Timing(FrameTime(FIRST))), front_deg=quill_watch.HEADING_DEG
    )
    shown = Scene(
        demo_id("crossing"),
        "Crossing",
        Rate(Fraction(24)),
        FrameRange(FIRST, LAST),
        cameras=(Camera(BANK, "Bank rail 35"),),
        characters=(oda, quill),
        pieces=(
            Piece(MILL, "Mill race", Performance(sources["set"])),
            Piece(
                POLE,
                "Lantern pole",
                Performance(sources["pole"], Timing(FrameTime(FIRST))),
                "prop",
                holds=(Hold(FIRST, ODA, "hand_r"),),
            ),
        ),
        cut=Cut.of((FIRST, BANK)),
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
    scene = edits.PlaceCamera(camera_id=BANK, pose=CameraPose(x, y, z, pan, tilt, 0, 35), frame=FIRST).apply(
        scene, at_work(scene)
    )
    scene = edits.MountCamera(camera_id=BANK, mount=rail, frame=FIRST).apply(scene, at_work(scene))
    for frame, x, y, z, pan, tilt in BANK_RAIL:
        position = float(rail.nearest(np.array([x, y, z])))
        scene = edits.SetCameraValues(camera_id=BANK, values={"rail": position, "pan": pan, "tilt": tilt}).apply(scene)
        scene = edits.KeyCamera(camera_id=BANK, time=Fraction(frame)).apply(scene, at_work(scene))
    return edits.LockCamera(camera_id=BANK, locks=LOCK_GROUPS).apply(scene)


def _face(scene: Scene, at_work: AtWork) -> Scene:
    return edits.MakeFaceCamera(camera_id=FACE, character_id=ODA, frame=FIRST).apply(scene, at_work(scene))


def _two_shot(scene: Scene, at_work: AtWork) -> Scene:
    return edits.MakeTwoShot(camera_id=TWO, character_id=ODA, other_id=QUILL, frame=1060).apply(scene, at_work(scene))


def _shoulder(scene: Scene, at_work: AtWork) -> Scene:
    """Past Quill at Oda, wide open; the focus is pulled from the one to the other when she sees it."""
    scene = edits.MakeOverTheShoulder(camera_id=SHOULDER, character_id=QUILL, other_id=ODA, frame=1056).apply(
        scene, at_work(scene)
    )
    scene = edits.SetCameraValues(camera_id=SHOULDER, values={"aperture": 1.4}).apply(scene)
    near, far = (Subject("joint", who, "head") for who in (QUILL, ODA))
    pull = Focus((Target((near,)), Target((far,), SEES, SEES + 14)))
    return edits.FocusCamera(camera_id=SHOULDER, focus=pull, frame=SEES).apply(scene, at_work(scene))


def _crane(scene: Scene, at_work: AtWork) -> Scene:
    """Up and away at the end, turned towards her all the while."""
    pose = CameraPose(-2.6, 1.1, 5.4, 125.0, -4.0, 0.0, 28.0)
    scene = edits.MakeCamera(camera_id=CRANE, pose=pose, role="shot", frame=LAST).apply(scene, at_work(scene))
    scene = edits.RenameCamera(camera_id=CRANE, name="Crane up 28").apply(scene)
    scene = edits.MountCamera(camera_id=CRANE, mount=Crane(base=(-4.6, 0.9, 7.6), heading=130.0), frame=LAST).apply(
        scene, at_work(scene)
    )
    aim = Aim((Target((Subject("joint", ODA, "chest"),)),))
    scene = edits.AimCamera(camera_id=CRANE, aim=aim, frame=LAST).apply(scene, at_work(scene))
    scene = edits.KeyCamera(camera_id=CRANE, time=Fraction(1066)).apply(scene, at_work(scene))
    now = at_work(scene).camera(scene.camera(CRANE)).values
    up = {
        "arm_pitch": 44.0,
        "arm_yaw": float(now["arm_yaw"][0]) - 24.0,
        "arm_length": float(now["arm_length"][0]) + 1.2,
    }
    scene = edits.SetCameraValues(camera_id=CRANE, values=up).apply(scene)
    return edits.KeyCamera(camera_id=CRANE, time=Fraction(LAST)).apply(scene, at_work(scene))


def _dolly_zoom(scene: Scene, at_work: AtWork) -> Scene:
    """When she sees the heron: the camera comes near, the lens makes up for it, the world behind her falls away."""
    far, near = CameraPose(1.9, 1.55, 8.2, -30.0, -2.0, 0.0, 85.0), CameraPose(0.95, 1.5, 4.3, -30.0, -2.0, 0.0, 35.0)
    scene = edits.MakeCamera(camera_id=ZOOM, pose=far, role="shot", frame=SEES).apply(scene, at_work(scene))
    scene = edits.RenameCamera(camera_id=ZOOM, name="Dolly zoom Oda").apply(scene)
    aim = Aim((Target((Subject("joint", ODA, "chest"),)),))
    scene = edits.AimCamera(camera_id=ZOOM, aim=aim, frame=SEES).apply(scene, at_work(scene))
    scene = edits.FocusCamera(camera_id=ZOOM, focus=Focus(aim.targets), frame=SEES).apply(scene, at_work(scene))
    scene = edits.KeyCamera(camera_id=ZOOM, time=Fraction(SEES), pose=far).apply(scene, at_work(scene))
    scene = edits.KeyCamera(camera_id=ZOOM, time=Fraction(LOOKED), pose=near).apply(scene, at_work(scene))
    wanted = edits.DollyZoom(Subject("body", ODA), SEES, LOOKED, "move")
    return edits.SolveDollyZoom(camera_id=ZOOM, wanted=wanted).apply(scene, at_work(scene))


def _reviews(scene: Scene, at_work: AtWork) -> Scene:
    scene = edits.MakePointOfView(camera_id=VIEW, character_id=QUILL, frame=1056).apply(scene, at_work(scene))
    return edits.MakeReviewSet(camera_id=demo_id("reviews"), character_id=ODA, parallel=True).apply(
        scene, at_work(scene)
    )
