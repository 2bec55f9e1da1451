"""“Landing”: the second scene of the mill race. Oda sets her lantern down on the far bank, and looks round at Quill, who watches
on, slower, over the same performance as before."""

from __future__ import annotations

import math
from collections.abc import Sequence
from fractions import Fraction

from eddyfield.core import edits
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import Camera, CameraPose
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.cut.cut import Cut
from eddyfield.core.edits.cuts import CutTo, SetShot
from eddyfield.core.edits.sounds import BringSound
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.timing import Timing
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameRange, FrameTime, Rate

from . import oda_landing, quill_watch
from .mill_race import demo_id, demo_rig

FIRST = 2001
LAST = FIRST + oda_landing.FRAMES - 1
SETS_DOWN = FIRST + oda_landing.SETS_DOWN_ROW
CUTS = SETS_DOWN + 6
OF_LANDING = ("oda landing", "quill", "set", "pole landing")
"""The files of the scene, in order. Two of them are those of the crossing."""
ODA, QUILL, MILL, POLE, WIDE, GLANCE = (
    demo_id(f"{name} landing") for name in ("oda", "quill", "mill race set", "lantern pole", "wide", "glance")
)
QUILL_FROM, QUILL_STRETCH = FrameTime(40), FrameTime(3, 2)
"""From which frame of its file Quill is seen, and how many frames of the scene each of it lasts."""
WIDE_FROM, WIDE_TO = (-3.2, 1.0, 8.3), (-2.6, 1.15, 7.4)
GLANCE_AT, GLANCE_TO = (1.15, 1.25, 6.05), (1.05, 1.32, 5.85)
SEEN_M = (0.3, 1.1, 4.1)


def scene(digests: Sequence[str], race_digest: str) -> Scene:
    """The scene with its two shots."""
    sources = {name: RigSource(digest, "gltf") for name, digest in zip(OF_LANDING, digests, strict=True)}
    rigs = {id(source): demo_rig(name) for name, source in sources.items()}
    starts = Timing(FrameTime(FIRST))
    shown = Scene(
        demo_id("landing"),
        "Landing",
        Rate(Fraction(24)),
        FrameRange(FIRST, LAST),
        cameras=(Camera(WIDE, "Landing 35"),),
        characters=(
            Character(
                ODA, "Oda", Performance(sources["oda landing"], starts), stepping=Stepping(2), feet=("foot_l", "foot_r")
            ),
            Character(
                QUILL, "Quill", Performance(sources["quill"], Timing(FrameTime(FIRST), QUILL_STRETCH, QUILL_FROM)),
                front_deg=quill_watch.HEADING_DEG,
            ),
        ),
        pieces=(
            Piece(MILL, "Mill race", Performance(sources["set"])),
            Piece(
                POLE, "Lantern pole", Performance(sources["pole landing"], starts), "prop",
                holds=(Hold(FIRST, ODA, "hand_r"), Hold(SETS_DOWN)),
            ),
        ),
        cut=Cut.of((FIRST, WIDE)),
    )  # fmt: skip
    memory: dict[str, object] = {}

    def at_work(now: Scene) -> Baker:
        return Baker(now, lambda source: rigs[id(source)], memory)

    for frame, place in ((FIRST, WIDE_FROM), (LAST, WIDE_TO)):
        shown = edits.KeyCamera(camera_id=WIDE, time=Fraction(frame), pose=_looking(place, SEEN_M, 35.0)).apply(
            shown, at_work(shown)
        )
    shown = edits.MakeCamera(
        camera_id=GLANCE, pose=_looking(GLANCE_AT, (0, 1.25, 4.1), 50.0), role="shot", frame=CUTS
    ).apply(shown, at_work(shown))
    shown = edits.RenameCamera(camera_id=GLANCE, name="She looks round 50").apply(shown)
    head = Aim((Target((Subject("joint", ODA, "chest", (0.0, 0.12, 0.0)),)),))
    shown = edits.AimCamera(camera_id=GLANCE, aim=head, frame=CUTS).apply(shown, at_work(shown))
    sharp = Focus((Target((Subject("joint", ODA, "head"),)),))
    shown = edits.FocusCamera(camera_id=GLANCE, focus=sharp, frame=CUTS).apply(shown, at_work(shown))
    for frame, place in ((CUTS - 6, GLANCE_AT), (LAST, GLANCE_TO)):
        shown = edits.KeyCamera(
            camera_id=GLANCE, time=Fraction(frame), pose=_looking(place, (0, 1.3, 4.1), 50.0)
        ).apply(shown, at_work(shown))
    shown = CutTo(frame=CUTS, camera_id=GLANCE).apply(shown)
    shown = SetShot(first=FIRST, note="She sets the lantern down.", state="in work").apply(shown)
    shown = SetShot(first=CUTS, note="And looks round.", state="open").apply(shown)
    return BringSound(sound_id=demo_id("sound of landing"), name="Mill race", digest=race_digest, start=FIRST).apply(
        shown
    )


def _looking(place: tuple[float, float, float], at: tuple[float, float, float], focal_mm: float) -> CameraPose:
    x, y, z = (to - of for to, of in zip(at, place, strict=True))
    pan, tilt = math.degrees(math.atan2(x, -z)), math.degrees(math.atan2(y, math.hypot(x, z)))
    return CameraPose(*place, pan, tilt, 0.0, focal_mm)
