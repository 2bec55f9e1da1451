"""One change of every kind to a scene as it is stored, and what has to be there before it."""

from __future__ import annotations

import uuid
from dataclasses import replace
from fractions import Fraction

from eddyfield.core import edits
from eddyfield.core.acceptance import Acceptance
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import CameraPose, FilmBack, Glass
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.mounts import Free, Trailing
from eddyfield.core.cameras.room import Room
from eddyfield.core.cameras.subjects import Subject, Target
from eddyfield.core.cut.cut import Cut, Handles
from eddyfield.core.cut.sound import MARK_KINDS, Mark, Sound
from eddyfield.core.cut.transition import Transition
from eddyfield.core.edits.accepting import AcceptReading, TakeAcceptanceBack
from eddyfield.core.edits.bend_time import BendCameraTime, BendSceneTime, BendTime
from eddyfield.core.edits.contents import TimeThing
from eddyfield.core.edits.corrections import DropCorrection
from eddyfield.core.edits.cuts import CutLive, CutTo, JoinShots, RollCut, SetShot, SplitShot, Take
from eddyfield.core.edits.dolly_zooms import DollyZoom
from eddyfield.core.edits.exposures import ChangeExposures
from eddyfield.core.edits.held_cameras import HoldCamera
from eddyfield.core.edits.key_tools import GoOnBeyondKeys
from eddyfield.core.edits.other_cuts import DropCut, KeepCut, TakeUpCut
from eddyfield.core.edits.own_exposures import StepPiece
from eddyfield.core.edits.scene_time import SetRate, SetTimecode
from eddyfield.core.edits.sounds import MarkFrames
from eddyfield.core.edits.strictness import JudgeScene
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.performance.correction import Correction, Moment
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.own_exposures import OwnExposures
from eddyfield.core.performance.ride import Ride
from eddyfield.core.performance.timing import Timing
from eddyfield.core.rig.joint_change import JointChange
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.keys import Key

from .stored import fresh, work


def pose(number: float) -> CameraPose:
    return CameraPose(number, 1 / 3, number * 1e-7, 400.123456789, -12, 0.1, 35)


def head(scene: Scene, n: int = 0) -> Subject:
    return Subject("joint", scene.characters[n % 2].id, "head", (0.0, n / 100, 0.0), "joint", radius_m=0.1)


def carried(scene: Scene, n: int) -> Scene:
    mount = Trailing(subject=head(scene, n), half_life_s=n / 10, through=(1.0, n / 10, 1.0, 1.0, 1.0, 0.0))
    return edits.MountCamera(camera_id=scene.cameras[0].id, mount=mount, frame=1001 + n).apply(scene, work(scene))


def orbited(scene: Scene, n: int) -> Scene:
    orbit = edits.OrbitInstead(camera_id=scene.cameras[0].id, first=1005, last=1030 + n, subject=head(scene))
    return orbit.apply(scene, work(scene))


CHANGES = {
    "accept": lambda s, n: AcceptReading(
        accepted=Acceptance(
            "off_arc", s.characters[0].id, "", f"joint {n % 3}", 1000 + n, 1000 + n, n / 7, f"stays {n}"
        )
    ).apply(s),
    "accept no more": lambda s, n: TakeAcceptanceBack(
        kind="off_arc",
        character_id=s.accepted[-1].character_id,
        camera_id="",
        joint=s.accepted[-1].joint,
        first=s.accepted[-1].first,
    ).apply(s),
    "judge": lambda s, n: JudgeScene(strictness=("rough", "final")[n % 2]).apply(s),
    "step part": lambda s, n: s.with_thing(
        replace(s.characters[0], parts=(OwnExposures(f"joint {n}", Stepping(1 + n % 5, offset=n % 3)),))
    ),
    "step piece": lambda s, n: StepPiece(piece_id=s.pieces[0].id, stepping=Stepping(1 + n % 5)).apply(s),
    "key ride": lambda s, n: s.with_thing(
        replace(
            s.characters[0],
            ride=Ride("rigid", 1 / 3, weights=Channel(0.1, (Key(Fraction(n, 3), 1 / n if n else 0.5, "ease"),))),
        )
    ),
    "correct": lambda s, n: s.with_thing(
        replace(
            s.characters[0],
            performance=replace(
                s.characters[0].performance,
                corrections=(*s.characters[0].performance.corrections, correction(n)),
            ),
        )
    ),
    "correct no more": lambda s, n: DropCorrection(character_id=s.characters[0].id, place=0).apply(s),
    "bend camera": lambda s, n: BendCameraTime(
        camera_id=s.cameras[n % len(s.cameras)].id, first=1001 + n, last=1010 + n, speed=n / 3 - 1
    ).apply(s),
    "bend scene": lambda s, n: BendSceneTime(
        first=s.frames.first, last=s.frames.first + 1 + n % 3, speed=(0.0, 0.5, 2.0)[n % 3]
    ).apply(s),
    "bend time": lambda s, n: BendTime(
        thing_id=s.things[n % len(s.things)].id, first=1001 + n, last=1010 + n, speed=n / 3 - 1
    ).apply(s),
    "beyond": lambda s, n: GoOnBeyondKeys(camera_id=s.cameras[0].id, after=("cycle", "drift")[n % 2]).apply(s),
    "rate": lambda s, n: SetRate(rate=str(12 * (1 + n % 4))).apply(s),
    "time code": lambda s, n: SetTimecode(text=f"0{n % 10}:00:00:00").apply(s),
    "keep cut": lambda s, n: KeepCut(cut_id=fresh(), name=f"cut {n}").apply(s),
    "take up cut": lambda s, n: TakeUpCut(cut_id=s.other_cuts[-1].id).apply(s),
    "drop cut": lambda s, n: DropCut(cut_id=s.other_cuts[-1].id).apply(s),
    "handles": lambda s, n: SetShot(first=s.cut.entries[0].first, handles=Handles(n, 2 * n)).apply(s),
    "place": lambda s, n: edits.PlaceCamera(camera_id=s.cameras[0].id, pose=pose(n), frame=1001 + n).apply(s, work(s)),
    "key": lambda s, n: edits.KeyCamera(camera_id=s.cameras[0].id, time=Fraction(2003 + n, 2), pose=pose(n)).apply(
        s, work(s)
    ),
    "drop key": lambda s, n: edits.DeleteCameraKeys(
        keys=edits.ChosenKeys(s.cameras[0].id, (s.cameras[0].channels["x"].keys[0].time,))
    ).apply(s),
    "move key": lambda s, n: edits.RetimeCameraKeys(
        keys=edits.ChosenKeys(s.cameras[0].id, (s.cameras[0].channels["x"].keys[-1].time,)), by=Fraction(9000 + n)
    ).apply(s),
    "step": lambda s, n: edits.StepCharacter(
        character_id=s.characters[0].id, stepping=Stepping(1 + n % 4, n % 3, n % 2 == 0, None, n % 3 == 0)
    ).apply(s),
    "held with": lambda s, n: HoldCamera(
        camera_id=s.cameras[0].id, character_id=s.characters[0].id if n % 3 else None
    ).apply(edits.LockCamera(camera_id=s.cameras[0].id, locks=()).apply(s)),
    "exposures": lambda s, n: ChangeExposures(
        character_id=s.characters[0].id, add=(s.frames.first + n % 40, s.frames.first + 1 + n % 30)
    ).apply(s, work(s)),
    "ride": lambda s, n: edits.RideCharacter(
        character_id=s.characters[0].id, ride=Ride("rigid", (n % 10) / 10, "hips")
    ).apply(s, work(s)),
    "front": lambda s, n: edits.SetFront(character_id=s.characters[0].id, front_deg=n / 3 if n % 2 else None).apply(s),
    "room": lambda s, n: edits.SetRoom(room=Room(n / 100, 0.9, n / 50)).apply(s),
    "rename": lambda s, n: edits.RenameScene(name=f"Überfahrt {n} “quoted”; DROP TABLE scene").apply(s),
    "frames": lambda s, n: edits.SetFrames(first=1001, last=1050 + n).apply(s),
    "lock": lambda s, n: edits.LockCamera(camera_id=s.cameras[0].id, locks=("angles",) if n % 4 == 3 else ()).apply(s),
    "lines": lambda s, n: edits.SetCameraLines(camera_id=s.cameras[-1].id, tint=n % 3, pattern=n % 6).apply(s),
    "values": lambda s, n: edits.SetCameraValues(
        camera_id=s.cameras[0].id, values={"focus_m": 1 + n, "rail": n / 40}
    ).apply(s),
    "key values": lambda s, n: edits.KeyCameraValues(
        camera_id=s.cameras[0].id, time=Fraction(1001 + n), values={"aim_weight": n / 40}
    ).apply(s),
    "face": lambda s, n: edits.MakeFaceCamera(camera_id=fresh(), character_id=s.characters[0].id, frame=1001 + n).apply(
        s, work(s)
    ),
    "reviews": lambda s, n: edits.MakeReviewSet(
        camera_id=fresh(), character_id=s.characters[n % 2].id, parallel=n % 2 == 0
    ).apply(s, work(s)),
    "two-shot": lambda s, n: edits.MakeTwoShot(
        camera_id=fresh(), character_id=s.characters[0].id, other_id=s.characters[1].id, frame=1001 + n
    ).apply(s, work(s)),
    "carry": carried,
    "try a mount": lambda s, n: edits.CarryCamera(
        camera_id=s.cameras[0].id, mount=("crane", "rail", "free", "carried")[n % 4], frame=1001 + n, subject=head(s)
    ).apply(s, work(s)),
    "lay rail": lambda s, n: edits.LayRail(
        camera_id=s.cameras[0].id, shape=("straight", "ring", "square")[n % 3], frame=1001 + n
    ).apply(s, work(s)),
    "rail beside": lambda s, n: edits.LayRail(
        camera_id=s.cameras[0].id,
        shape="beside the path",
        frame=1001,
        character_id=s.characters[0].id,
        side_m=n / 10 - 2,
    ).apply(s, work(s)),
    "run evenly": lambda s, n: edits.RunRail(
        camera_id=s.cameras[0].id, first=1001, last=1020 + n, pace=("even", "ease", "abreast")[n % 3]
    ).apply(s, work(s)),
    "bake": lambda s, n: edits.BakeCamera(
        camera_id=s.cameras[0].id, first=1001, last=1030 + n, error_px=0.5 if n % 2 else None
    ).apply(s, work(s)),
    "dolly zoom": lambda s, n: edits.SolveDollyZoom(
        camera_id=s.cameras[0].id,
        wanted=DollyZoom(
            Subject("body", s.characters[0].id), 1005, 1030 + n, "lens" if n % 2 else "move", ease="slow in"
        ),
    ).apply(s, work(s)),
    "orbit instead": lambda s, n: orbited(
        edits.MountCamera(camera_id=s.cameras[0].id, mount=Free(), frame=1001 + n).apply(s, work(s)), n
    ),
    "eyes": lambda s, n: edits.MakePointOfView(
        camera_id=fresh(), character_id=s.characters[n % 2].id, frame=1001 + n
    ).apply(s, work(s)),
    "shoulder": lambda s, n: edits.MakeOverTheShoulder(
        camera_id=fresh(), character_id=s.characters[n % 2].id, other_id=s.characters[1 - n % 2].id, frame=1001 + n
    ).apply(s, work(s)),
    "aim": lambda s, n: edits.AimCamera(
        camera_id=s.cameras[0].id,
        aim=Aim((Target((head(s, n),)), Target((head(s, n + 1),), 1002 + n, 1010 + n))),
        frame=1001,
    ).apply(s, work(s)),
    "release": lambda s, n: edits.AimCamera(camera_id=s.cameras[0].id, aim=None, frame=1001 + n).apply(s, work(s)),
    "hold": lambda s, n: edits.FrameCamera(
        camera_id=s.cameras[0].id, framing=Framing((head(s, n),), 0.4, n / 40, size=SizeHold("zoom", 0.2)), frame=1001
    ).apply(s, work(s)),
    "focus": lambda s, n: edits.FocusCamera(
        camera_id=s.cameras[0].id, focus=Focus((Target((head(s, n),)),)), frame=1001
    ).apply(s, work(s)),
    "lens": lambda s, n: edits.SetCameraLens(
        camera_id=s.cameras[0].id,
        back=FilmBack(24, 18, "reach", 1 + n / 40),
        glass=Glass(shift_x=n / 100, far_m=n + 1.5),
    ).apply(s),
    "delivery": lambda s, n: edits.SetDelivery(delivery=DeliveryFrame(1000 + n, 2000, 1.5)).apply(s),
    "save view": lambda s, n: edits.SaveView(
        camera_id=s.cameras[0].id, view_id=fresh(), name=f"view {n % 3}", time=Fraction(1001 + n)
    ).apply(s),
    "recall view": lambda s, n: edits.RecallView(camera_id=s.cameras[0].id, view_id=s.cameras[0].views[0].id).apply(s),
    "drop view": lambda s, n: edits.DeleteView(camera_id=s.cameras[0].id, view_id=s.cameras[0].views[n % 2].id).apply(
        s
    ),
    "copy": lambda s, n: edits.CopyCamera(camera_id=s.cameras[0].id, new_id=fresh()).apply(s),
    "delete": lambda s, n: edits.DeleteCamera(camera_id=s.cameras[0].id, replace_by=s.cameras[-1].id).apply(s),
    "cut to": lambda s, n: cut_to_another(s, n),
    "split": lambda s, n: SplitShot(frame=1051 + n).apply(s),
    "join": lambda s, n: JoinShots(first=s.cut.entries[-1].first).apply(s),
    "roll": lambda s, n: RollCut(first=s.cut.entries[-1].first, to=1003 + 2 * n).apply(s),
    "shot": lambda s, n: SetShot(
        first=s.cut.entries[n % len(s.cut.entries)].first, name=f"“{n}”", note="ümlaut\n" * n, locked=n % 5 == 4
    ).apply(s),
    "live": lambda s, n: CutLive(
        takes=(Take(1010 + n, s.cameras[-1].id), Take(1020 + n, s.cameras[0].id)), last=1030 + n
    ).apply(s),
    "transition": lambda s, n: replace(
        s,
        cut=Cut(
            tuple(replace(e, transition=Transition("dip", n + 1, n, "slow in", f"#00ff{n:02x}")) for e in s.cut.entries)
        ),
    ),
    "timing": lambda s, n: TimeThing(
        thing_id=s.things[n % len(s.things)].id,
        timing=Timing(Fraction(990 + n), Fraction(n + 1, 3), Fraction(n), Fraction(n + 9, 1), "loop", n % 2 == 0),
    ).apply(s),
    "sound": lambda s, n: replace(
        s,
        sounds=(*s.sounds[-2:], Sound(str(uuid.uuid4()), "Steps", f"{n:064x}", n, n / 3, n + 1.0, -n / 7, n % 2 == 0)),
    ),
    "mark": lambda s, n: MarkFrames(marks=(Mark(990 + n, MARK_KINDS[n % 4], f"{n}"),)).apply(s),
    "shift": lambda s, n: edits.RetimeCameraKeys(keys=edits.ChosenKeys(s.cameras[0].id), by=Fraction(n - 9, 2)).apply(
        s
    ),
    "order": lambda s, n: edits.OrderCamera(camera_id=s.cameras[-1].id, index=n % 3).apply(s),
}


def correction(number: int) -> Correction:
    moments = tuple(Moment(at / 24, (number / 7, at / 3, 0.1), at / number) for at in range(1, number + 2))
    changes = (JointChange("joint", (number / 3, 0.0, -1e-9)), JointChange("tip", shift_m=(0.0, 1 / 3, 0.0)))
    return Correction("tip", changes, moments, (0.0, 1 / 7, 2e-9))


def cut_to_another(scene: Scene, number: int) -> Scene:
    scene = scene if len(scene.cameras) > 1 else CHANGES["face"](scene, number)
    return CutTo(frame=1002 + number, camera_id=scene.cameras[-1].id).apply(scene)


BEFORE = {
    "correct no more": "correct",
    "join": "cut to",
    "take up cut": "keep cut",
    "drop cut": "keep cut",
    "accept no more": "accept",
    "roll": "cut to",
    "release": "aim",
    "delete": "face",
    "dolly zoom": "bake",
    "run evenly": "lay rail",
}
