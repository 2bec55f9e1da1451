"""Scenes in the real MariaDB: differences, the journal, conflicts, and what survives a kill."""

from __future__ import annotations

import contextlib
import os
import random
import signal
import threading
import time
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from fractions import Fraction
from hashlib import sha256
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.acceptance import Acceptance
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.camera import CameraPose, FilmBack, Glass
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.mounts import Trailing
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
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.performance.correction import Correction, Moment
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.own_exposures import OwnExposures
from eddyfield.core.performance.ride import Ride
from eddyfield.core.performance.timing import Timing
from eddyfield.core.rig.joint_change import JointChange
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.keys import Handle, Key
from eddyfield.demo import mill_race
from eddyfield.demo.load import load_demo
from eddyfield.store.blobs import CHUNK_BYTES, Blobs
from eddyfield.store.conflicts import Conflict, NotFound
from eddyfield.store.database import Database, Unavailable
from eddyfield.store.loading import stored_rows
from eddyfield.store.migrate import migrate
from eddyfield.store.replaying import NothingToUndo
from eddyfield.store.rows import all_rows, difference, scene_from_rows
from eddyfield.store.scenes import Scenes, Standing
from eddyfield.store.server import DatabaseServer
from tests.core.scenery import baker

NAMES = {sha256(name.encode()).hexdigest(): name for name in mill_race.OF_CROSSING}
"""Stand-ins for the demo's rigs: by the digest of a few bytes."""


def fresh() -> str:
    return str(uuid.uuid4())


def work(scene: Scene) -> Baker:
    return baker(scene, NAMES)


@pytest.fixture
def standing(database: Database) -> Standing:
    """A scene of its own for every test, like the demo's."""
    for name in NAMES.values():
        Blobs(database).put(name.encode(), f"{name}.glb")
    base = mill_race.scene(*NAMES)
    camera = replace(base.cameras[0], id=fresh(), locks=())
    scene = replace(
        base, id=fresh(), cameras=(camera,), cut=Cut.of((1001, camera.id)),
        characters=tuple(replace(c, id=fresh()) for c in base.characters), pieces=(replace(base.pieces[0], id=fresh()),),
    )  # fmt: skip
    return Scenes(database).create(scene)


def rows_in(database: Database, scene: Scene) -> list[object]:
    with database.transaction() as cursor:
        return sorted(((table, sorted(row.items(), key=str)) for table, row in stored_rows(cursor, scene.id)), key=repr)


def test_one_file_may_come_in_twice_at_once(database: Database) -> None:
    data = [uuid.uuid4().bytes * 200_000 for _ in range(4)]
    with ThreadPoolExecutor(8) as hands:
        digests = list(hands.map(lambda d: Blobs(database).put(d, "walk.bvh"), [d for d in data for _ in range(4)]))
    assert [Blobs(database).get(digest) for digest in digests[::4]] == data
    assert digests == [digest for digest in digests[::4] for _ in range(4)]


def pose(number: float) -> CameraPose:
    return CameraPose(number, 1 / 3, number * 1e-7, 400.123456789, -12, 0.1, 35)


def head(scene: Scene, n: int = 0) -> Subject:
    return Subject("joint", scene.characters[n % 2].id, "head", (0.0, n / 100, 0.0), "joint", radius_m=0.1)


def carried(scene: Scene, n: int) -> Scene:
    mount = Trailing(subject=head(scene, n), half_life_s=n / 10, through=(1.0, n / 10, 1.0, 1.0, 1.0, 0.0))
    return edits.MountCamera(camera_id=scene.cameras[0].id, mount=mount, frame=1001 + n).apply(scene, work(scene))


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
    "orbit instead": lambda s, n: edits.OrbitInstead(
        camera_id=s.cameras[0].id, first=1005, last=1030 + n, subject=head(s)
    ).apply(s, work(s)),
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
        timing=Timing(990 + n, Fraction(n + 1, 3), Fraction(n), Fraction(n + 9, 1), "loop", n % 2 == 0),
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


def test_a_scene_comes_back_as_it_was_stored(database: Database, standing: Standing) -> None:
    camera = standing.scene.cameras[0]
    curve = Key(Fraction(7, 3), 0.1, "curve", Handle(0.25, -1.5), Handle(1 / 3, 2e-9))
    channels = camera.channels.having(x=camera.channels["x"].with_key(curve))
    odd = lambda s: s.with_camera(replace(camera, channels=channels, unkeyed=(("x", 1 / 3), ("focus_m", 0.1))))  # noqa: E731
    Scenes(database).apply(standing.scene.id, 1, "odd", odd, "test")
    found = Scenes(database).get(standing.scene.id)
    assert found.scene == odd(standing.scene)
    assert (found.revision, found.undo, found.redo) == (2, "odd", None)
    assert scene_from_rows((key.table, row) for key, row in all_rows(found.scene).items()) == found.scene


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


@pytest.mark.parametrize("name", sorted(CHANGES))
@pytest.mark.parametrize("number", [2, 3])
def test_each_edit_is_stored_as_it_was_made(database: Database, standing: Standing, name: str, number: int) -> None:
    scene = edits.LockCamera(camera_id=standing.scene.cameras[0].id, locks=()).apply(standing.scene)
    for view in range(4):
        scene = edits.SaveView(
            camera_id=scene.cameras[0].id, view_id=fresh(), name=f"View {view}", time=Fraction(1001 + view)
        ).apply(scene)
    if name in BEFORE:
        scene = CHANGES[BEFORE[name]](scene, 1)
    scenes = Scenes(database)
    scenes.apply(scene.id, 1, "views", lambda _: scene, "test")
    told = scenes.apply(scene.id, 2, name, lambda s: CHANGES[name](s, number), "test")
    assert Scenes(database).get(scene.id).scene == told.scene


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.tuples(st.sampled_from(sorted(CHANGES)), st.integers(0, 40)), min_size=1, max_size=8), st.data())
def test_undo_and_redo_put_back_the_very_same_rows(
    database: Database, standing: Standing, steps: list[tuple[str, int]], data: st.DataObject
) -> None:
    scenes, scene_id = Scenes(database), standing.scene.id
    now = scenes.get(scene_id)
    states = [(rows_in(database, now.scene), now.scene)]
    for name, number in steps:
        try:
            after = scenes.apply(scene_id, now.revision, name, lambda s, n=name, k=number: CHANGES[n](s, k), "test")
        except (DomainError, IndexError):
            assert rows_in(database, now.scene) == states[-1][0], "what is refused changes nothing"
            continue
        if after.revision != now.revision:
            states.append((rows_in(database, after.scene), after.scene))
        now = after
    back = data.draw(st.integers(0, len(states) - 1))
    for state in list(reversed(states))[1 : back + 1]:
        now = scenes.undo(scene_id, now.revision)
        assert (rows_in(database, now.scene), now.scene) == state
    for state in states[len(states) - back :]:
        now = Scenes(database).redo(scene_id, now.revision)
        assert (rows_in(database, now.scene), now.scene) == state


def test_a_new_edit_after_undo_ends_the_redo(database: Database, standing: Standing) -> None:
    scenes, scene_id = Scenes(database), standing.scene.id
    for number in (1, 2):
        scenes.apply(scene_id, number, "rename scene", lambda s, n=number: CHANGES["rename"](s, n), "test")
    undone = scenes.undo(scene_id, 3)
    assert (undone.undo, undone.redo) == ("rename scene", "rename scene")
    after = scenes.apply(scene_id, 4, "step poses", lambda s: CHANGES["step"](s, 2), "test")
    assert (after.undo, after.redo) == ("step poses", None)
    with pytest.raises(NothingToUndo):
        scenes.redo(scene_id, 5)
    scenes.undo(scene_id, 5)
    first = scenes.undo(scene_id, 6)
    assert first.scene == standing.scene
    with pytest.raises(NothingToUndo):
        scenes.undo(scene_id, 7)


def test_a_conflict_is_told_and_nothing_overwritten(database: Database, standing: Standing) -> None:
    scenes, scene_id = Scenes(database), standing.scene.id
    scenes.apply(scene_id, 1, "rename scene", lambda s: CHANGES["rename"](s, 1), "one")
    with pytest.raises(Conflict) as told:
        Scenes(database).apply(scene_id, 1, "step poses", lambda s: CHANGES["step"](s, 2), "two")
    assert (told.value.revision, told.value.edits_since) == (2, ("rename scene",))
    assert scenes.get(scene_id).scene.characters == standing.scene.characters


def test_an_edit_that_is_sent_twice_is_done_once(database: Database, standing: Standing) -> None:
    scenes, scene_id, request = Scenes(database), standing.scene.id, str(uuid.uuid4())
    once = scenes.apply(scene_id, 1, "ride", lambda s: CHANGES["ride"](s, 5), "test", request)
    again = scenes.apply(scene_id, 1, "ride", lambda s: CHANGES["ride"](s, 7), "test", request)
    assert (once.revision, again.revision) == (2, 2)
    assert again.scene == once.scene


def test_two_at_once_one_wins(database: Database, standing: Standing) -> None:
    scenes, results = Scenes(database), []

    def change(number: int) -> None:
        try:
            results.append(
                scenes.apply(standing.scene.id, 1, "x", lambda s: CHANGES["rename"](s, number), "t").revision
            )
        except Conflict:
            results.append("conflict")

    threads = [threading.Thread(target=change, args=(n,)) for n in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(map(str, results)) == ["2"] + ["conflict"] * 5


def test_only_what_changed_is_written(standing: Standing) -> None:
    scene = standing.scene
    keyed = edits.KeyCamera(camera_id=scene.cameras[0].id, time=Fraction(1010)).apply(scene, work(scene))
    changes = difference(scene, keyed)
    assert {key.table for key, *_ in changes} == {"camera_key"}
    assert all(before is None for _, before, _ in changes)
    assert len(changes) == 8, "the pose and the place on the rail"
    assert difference(scene, scene) == []


def test_deleting_and_bringing_back(database: Database, standing: Standing) -> None:
    scenes, scene_id = Scenes(database), standing.scene.id
    scenes.set_deleted(scene_id, True)
    assert scene_id not in {s.id for s in scenes.list()}
    with pytest.raises(NotFound):
        scenes.get(scene_id)
    scenes.set_deleted(scene_id, False)
    assert scenes.get(scene_id).scene == standing.scene
    with pytest.raises(NotFound):
        scenes.set_deleted(str(uuid.uuid4()), True)


def test_blobs_are_kept_by_content(database: Database) -> None:
    blobs, data = Blobs(database), os.urandom(CHUNK_BYTES + 17)
    digest = blobs.put(data, "a.glb")
    assert blobs.put(data, "b.glb") == digest
    assert blobs.get(digest) == data
    assert blobs.get(blobs.put(b"", "empty")) == b""
    with pytest.raises(KeyError):
        blobs.get("0" * 64)


def test_migrations_and_the_demo_are_applied_once(database: Database) -> None:
    assert migrate(database) == []
    first = load_demo(database)
    Scenes(database).set_deleted(first, True)
    assert load_demo(database) == first
    assert Scenes(database).get(first).scene.name


def test_addresses_that_are_none_are_refused() -> None:
    with pytest.raises(ValueError, match="mysql://"):
        Database("sqlite:///x")
    with pytest.raises(Unavailable), Database("mysql://nobody@127.0.0.1:1/none").transaction():
        pass


@pytest.fixture
def own_server(tmp_path_factory: pytest.TempPathFactory, database_server: DatabaseServer) -> Iterator[DatabaseServer]:
    server = DatabaseServer(tmp_path_factory.mktemp("killed"), buffer_pool_mb=32)
    yield server
    server.stop()


def test_a_killed_database_loses_no_acknowledged_edit(own_server: DatabaseServer, tmp_path: Path) -> None:
    instance = own_server.start()
    database = Database(instance.url)
    migrate(database)
    scenes, scene_id = Scenes(database), load_demo(database)
    acknowledged = 1

    enough = threading.Event()

    def killer() -> None:
        enough.wait(60)
        time.sleep(random.uniform(0, 0.2))  # anywhere within an edit
        os.kill(instance.pid, signal.SIGKILL)

    thread = threading.Thread(target=killer)
    thread.start()
    with contextlib.suppress(Unavailable):
        for number in range(1, 100_000):
            rename = edits.RenameScene(name=f"Crossing {number}").apply
            acknowledged = scenes.apply(scene_id, number, "rename scene", rename, "t").revision
            if acknowledged > 5:
                enough.set()
    thread.join()
    os.waitpid(instance.pid, 0)
    assert acknowledged > 5
    found = Scenes(Database(own_server.start().url)).get(scene_id)
    assert found.revision in (acknowledged, acknowledged + 1), "the one under way may have been saved, unacknowledged"
    assert found.scene.name == f"Crossing {found.revision - 1}"


def test_a_database_is_reused_while_it_runs_and_started_again_after(own_server: DatabaseServer) -> None:
    first = own_server.start()
    another = DatabaseServer(own_server._folder, buffer_pool_mb=32)
    assert another.start() == first
    assert (own_server._folder / "password").stat().st_mode & 0o077 == 0, "nobody else reads the password"
    another.stop()
    assert own_server.start() == first, "it goes on for the one that uses it still"
    own_server.stop()
    again = own_server.start()
    assert again.pid != first.pid
    with pytest.raises(Unavailable), Database(again.url.replace(":", ":wrong", 2)).transaction():
        pass
