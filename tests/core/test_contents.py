"""Characters, props and set pieces: brought in, placed, hidden, held, doubled, replaced, and taken out again."""

from __future__ import annotations

import uuid
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import Aim
from eddyfield.core.cameras.focus import Focus
from eddyfield.core.cameras.framing import Framing
from eddyfield.core.cameras.mounts import Free
from eddyfield.core.cameras.subjects import Subject, Target, place_of
from eddyfield.core.edits import (
    AimCamera,
    BringNextVersion,
    CarryCamera,
    DeleteCamera,
    FocusCamera,
    FrameCamera,
    SaveView,
)
from eddyfield.core.edits.contents import (
    BringIn,
    DoubleThing,
    RenameThing,
    ReplaceFile,
    ScaleThing,
    SetPieceKind,
    TakeOut,
    ThingKind,
    TimeThing,
)
from eddyfield.core.edits.placing_things import DeleteThingKeys, HoldProp, KeyThing, PlaceThing, ShowThing
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.placing import placing
from eddyfield.core.performance.ride import Ride
from eddyfield.core.performance.showing import Showing
from eddyfield.core.performance.timing import Timing
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.demo import mill_race
from eddyfield.formats import gltf, stand_in
from tests.formats.test_looks_and_shapes import quad

from .scenery import DIGESTS, SCENE, baker, fail

ODA, QUILL = SCENE.characters
MILL = SCENE.pieces[0]
POST = RigSource("e" * 64, "stand-in")
PROP = str(uuid.UUID(int=77))
FIRST = SCENE.frames.first


def working(scene: Scene) -> Baker:
    """A baker that knows a stand-in as well: a box 0.5 m wide, 1 m high and 0.25 m deep."""
    box = stand_in.read(stand_in.write(stand_in.StandIn("box", 0.5, 1.0, 0.25)))

    def rig_of(source: RigSource) -> object:
        return (
            replace(box, scale=source.scale)
            if source.format == "stand-in"
            else mill_race.demo_rig(DIGESTS[source.digest])
        )

    return Baker(scene, rig_of, {})  # type: ignore[arg-type]


def brought(kind: ThingKind = "prop", scene: Scene = SCENE, **values: float) -> Scene:
    edit = BringIn(thing_id=PROP, kind=kind, name="Crate", source=POST, start=FIRST, values=values)
    assert edit.brings(scene) == (POST,)
    return edit.apply(scene, working(scene))


def test_what_comes_in_stands_where_it_is_put() -> None:
    scene = brought(x=2.0, y=0.5, z=-1.0, turn=90.0)
    subject = Subject("object", PROP)
    assert np.allclose(place_of(subject, working(scene)), [2.0, 1.0, -1.0]), "the middle of a box 1 m high"
    shown = working(scene).shown_piece(scene.pieces[-1])
    assert np.allclose(shown.carried[0, :3, 0], [0, 0, -1]), "a turn to its left takes its +X to -Z"


def test_a_name_that_is_taken_gets_a_number_and_what_cannot_be_is_refused() -> None:
    scene = brought()
    again = BringIn(
        thing_id=str(uuid.uuid4()), kind="prop", name="Crate", source=POST, start=1, values={}
    ).apply(scene, working(scene))  # fmt: skip
    assert [p.name for p in again.pieces] == ["Mill race", "Lantern pole", "Crate", "Crate 2"]
    with pytest.raises(DomainError, match="no joints"):
        brought("character")
    with pytest.raises(DomainError, match="already"):
        brought(scene=scene)
    with pytest.raises(DomainError, match="called “Oda”"):
        RenameThing(thing_id=PROP, name="Oda").apply(scene)
    with pytest.raises(DomainError, match="no channel"):
        PlaceThing(thing_id=PROP, values={"pan": 1.0}, time=Fraction(1)).apply(scene)


@given(st.floats(-50, 50), st.floats(-50, 50), st.floats(-400, 400))
def test_a_placed_character_moves_turns_and_faces_as_a_whole(x: float, z: float, turn: float) -> None:
    scene = PlaceThing(thing_id=ODA.id, values={"x": x, "z": z, "turn": turn}, time=Fraction(FIRST)).apply(SCENE)
    before, after = baker(), baker(scene)
    angle = np.radians(turn)
    turned = np.array([[np.cos(angle), 0, np.sin(angle)], [0, 1, 0], [-np.sin(angle), 0, np.cos(angle)]])
    wanted = before.joint_positions(ODA) @ turned.T + [x, 0, z]
    moved = scene.character(ODA.id)
    assert np.allclose(after.joint_positions(moved), wanted, atol=1e-9)
    assert np.allclose(after.front(moved), turned @ before.front(ODA), atol=1e-9)
    low = np.concatenate([b.reshape(-1, 3) for b in after.body_blocks(moved)]).min(axis=0)
    assert (low <= wanted.min(axis=(0, 1)) + 1e-9).all(), "and what frames her whole goes by that"


def test_keys_of_a_place_are_set_and_taken_away() -> None:
    scene = KeyThing(thing_id=PROP, time=Fraction(1010)).apply(brought(x=1.0))
    scene = PlaceThing(thing_id=PROP, values={"x": 3.0}, time=Fraction(1030)).apply(scene)
    x = working(scene).followed_piece(PROP).middle[:, 0]  # type: ignore[union-attr]
    assert (x[9], x[29]) == (1.0, 3.0)
    assert (np.diff(x[9:30]) >= 0).all(), "it drifts from the one to the other"
    assert 1.0 < x[19] < 3.0
    assert x[50] == 3.0
    one = DeleteThingKeys(thing_id=PROP, time=Fraction(1030), frame=1030).apply(scene)
    assert np.allclose(working(one).followed_piece(PROP).middle[:, 0], 1.0)  # type: ignore[union-attr]
    still = DeleteThingKeys(thing_id=PROP, time=None, frame=1030).apply(scene)
    assert np.allclose(working(still).followed_piece(PROP).middle[:, 0], 3.0)  # type: ignore[union-attr]
    with pytest.raises(DomainError, match="no keys"):
        DeleteThingKeys(thing_id=PROP, time=None, frame=1030).apply(still)


def test_a_prop_goes_from_hand_to_hand_to_the_ground_without_a_jump() -> None:
    holds = (
        Hold(1010, ODA.id, "hand_r"), Hold(1030, QUILL.id, "head"), Hold(1050), Hold(1070, ODA.id, "hand_l"),
    )  # fmt: skip
    scene = HoldProp(piece_id=PROP, holds=holds).apply(brought(x=0.3, y=1.0), working(SCENE))
    work = working(scene)
    prop = scene.pieces[-1]
    carrier = work.value(work.carrier_part(prop))
    assert np.allclose(carrier[:9], carrier[0]), "it stands where it was placed until it is taken"
    hand = work.joint_frames(ODA.id, "hand_r", "motion")
    offset = np.linalg.inv(hand[9:29]) @ carrier[9:29]
    assert np.allclose(offset, offset[0], atol=1e-9), "then it goes along rigidly"
    assert np.allclose(carrier[49:69], carrier[49]), "lies still once it is put down"
    shown = work.shown_piece(prop).carried
    for index, hold in enumerate(holds):
        before = HoldProp(piece_id=PROP, holds=holds[:index]).apply(scene, work)
        kept = working(before).shown_piece(before.pieces[-1]).carried
        row = hold.first - FIRST
        assert np.allclose(shown[row], kept[min(row, len(kept) - 1)], atol=1e-9), "seen as who had it would have had it"
    with pytest.raises(DomainError, match="goes by hands"):
        PlaceThing(thing_id=PROP, values={"x": 1.0}, time=Fraction(1040)).apply(scene)
    with pytest.raises(DomainError, match="no joint “tail”"):
        HoldProp(piece_id=PROP, holds=(Hold(1010, ODA.id, "tail"),)).apply(scene, work)
    with pytest.raises(DomainError, match="not held by anybody"):
        HoldProp(piece_id=MILL.id, holds=holds).apply(scene, work)


def test_a_held_prop_steps_and_rides_with_the_hand() -> None:
    scene = HoldProp(piece_id=PROP, holds=(Hold(FIRST, ODA.id, "hand_r"),)).apply(brought(), working(SCENE))
    scene = scene.with_character(replace(ODA, stepping=Stepping(3), ride=Ride("rigid")))
    work = working(scene)
    oda = scene.character(ODA.id)
    shown = work.shown_piece(scene.pieces[-1])
    hand = work.world(oda)[:, work.rig(oda).find("hand_r")]
    rows = work.exposure_starts(oda) - FIRST
    shown_hand = work.carried(oda).whole @ hand[rows]
    offset = np.linalg.inv(shown_hand) @ shown.carried
    assert np.allclose(offset, offset[0], atol=1e-8)
    assert (shown.rows == rows).all()


def test_what_is_hidden_hides_nobody_and_is_not_judged() -> None:
    # A wall before the rail camera, between it and Oda.
    path = working(SCENE).camera_path(SCENE.cameras[0])
    eye, oda = path.world_from_camera[0, :3, 3], working(SCENE).joint_positions(ODA)[0].mean(axis=0)
    x, _, z = eye + (oda - eye) * 0.4
    scene = ScaleThing(thing_id=PROP, scale=6.0).apply(brought("set piece", x=float(x), z=float(z)))

    def kinds(scene: Scene) -> set[str]:
        return {r.kind for r in scene_readings(working(scene), None, None, fail) if r.character_id == ODA.id}

    assert "body_hidden" in kinds(scene)
    for showing in (
        Showing(hidden=((FIRST, SCENE.frames.last),)), Showing(roam_only=True), Showing(cameras=(SCENE.cameras[1].id,)),
    ):  # fmt: skip
        assert "body_hidden" not in kinds(ShowThing(thing_id=PROP, showing=showing).apply(scene)), showing
    moving = KeyThing(thing_id=PROP, time=Fraction(FIRST)).apply(scene)
    moving = PlaceThing(thing_id=PROP, values={"x": float(x) + 1e-9}, time=Fraction(FIRST + 9)).apply(moving)
    assert kinds(moving) == kinds(scene), "one that is keyed hides as one that stands"
    gone = ShowThing(thing_id=ODA.id, showing=Showing(roam_only=True)).apply(SCENE)
    judged = {r.kind for r in scene_readings(baker(gone), None, None, fail) if r.character_id == ODA.id and r.camera_id}
    assert not judged & {"head_lost", "feet_lost", "little_headroom", "body_hidden"}
    with pytest.raises(DomainError, match="overlap"):
        Showing(hidden=((1, 5), (5, 9)))
    with pytest.raises(DomainError, match="not in the scene"):
        ShowThing(thing_id=PROP, showing=Showing(cameras=("nobody",))).apply(scene)


@pytest.mark.parametrize("points", [4, 400])
def test_a_piece_that_its_file_moves_hides_by_its_limbs_if_it_has_any(points: int) -> None:
    g = quad()
    (one,) = g.json["meshes"][0]["primitives"]
    grid = np.stack(np.meshgrid(np.linspace(-2, 2, int(points**0.5)), np.linspace(0, 4, int(points**0.5))), axis=-1)
    places = np.column_stack([grid.reshape(-1, 2), np.zeros(points)])
    one["attributes"] = {"POSITION": g.accessor(places)}
    one["indices"] = g.accessor([n for n in range(points - 2) for n in (n, n + 1, n + 2)], "<u4")
    g.animate((0, "translation", [0, 4], [[0, 0, 0], [0, 0, 1e-6]], "LINEAR"))
    waving = gltf.read(g.glb(), with_mesh=True)
    path = working(SCENE).camera_path(SCENE.cameras[0])
    eye, oda = path.world_from_camera[0, :3, 3], working(SCENE).joint_positions(ODA)[0].mean(axis=0)
    x, _, z = eye + (oda - eye) * 0.4
    scene = brought("set piece", x=float(x), z=float(z), turn=90.0)

    def rig_of(source: RigSource) -> object:
        return waving if source == POST else mill_race.demo_rig(DIGESTS[source.digest])

    judged = scene_readings(Baker(scene, rig_of, {}), None, None, fail)  # type: ignore[arg-type]
    hidden = {r.kind for r in judged if r.character_id == ODA.id}
    assert ("body_hidden" in hidden) == (points > 8)


def test_a_camera_that_goes_is_forgotten_by_what_it_saw_and_a_held_prop_stays_one() -> None:
    gone, kept = SCENE.cameras[-1].id, SCENE.cameras[1].id
    scene = ShowThing(thing_id=QUILL.id, showing=Showing(cameras=(gone, kept))).apply(SCENE)
    after = DeleteCamera(camera_id=gone).apply(scene)
    assert after.character(QUILL.id).showing.cameras == (kept,)
    again = ShowThing(thing_id=QUILL.id, showing=replace(after.character(QUILL.id).showing, roam_only=True))
    assert again.apply(after).character(QUILL.id).showing.roam_only
    held = HoldProp(piece_id=PROP, holds=(Hold(1010, ODA.id, "hand_r"),)).apply(brought(), working(SCENE))
    with pytest.raises(DomainError, match="Take its hand-overs away first"):
        SetPieceKind(piece_id=PROP, kind="set piece").apply(held)
    assert held.going_by(ODA.id)[-1] == "Crate"


def test_a_double_stands_beside_it_and_the_start_moves_the_motion() -> None:
    new = str(uuid.uuid4())
    scene = DoubleThing(thing_id=ODA.id, new_id=new).apply(SCENE)
    double = scene.character(new)
    assert (double.name, double.performance) == ("Oda 2", ODA.performance)
    work = baker(scene)
    assert np.allclose(work.joint_positions(double), work.joint_positions(ODA) + [1, 0, 0])
    late = TimeThing(thing_id=new, timing=Timing(FIRST + 5)).apply(scene)
    assert np.allclose(baker(late).joint_positions(late.character(new))[5:], work.joint_positions(double)[:-5])


def test_it_can_be_larger_and_another_file() -> None:
    scene = ScaleThing(thing_id=PROP, scale=2.0).apply(brought())
    assert np.allclose(working(scene).followed_piece(PROP).middle[0], [0, 1, 0])  # type: ignore[union-attr]
    other = RigSource("a" * 64, "gltf")
    replaced = ReplaceFile(piece_id=MILL.id, source=other).apply(scene, working(scene))
    assert (replaced.pieces[0].performance.source, replaced.pieces[0].name) == (other, "Mill race")


def test_who_is_gone_by_is_not_taken_out_unless_all_let_go() -> None:
    scene = HoldProp(piece_id=PROP, holds=(Hold(1010, ODA.id, "hand_r"), Hold(1040))).apply(brought(), working(SCENE))
    face = next(c for c in scene.cameras if c.role == "face")
    scene = SaveView(camera_id=face.id, view_id=str(uuid.uuid4()), name="Now", time=Fraction(1020)).apply(scene)
    with pytest.raises(DomainError, match="go by Oda"):
        TakeOut(thing_id=ODA.id, frame=1020).apply(scene, working(scene))
    out = TakeOut(thing_id=ODA.id, frame=1020, lets_go=True).apply(scene, working(scene))
    assert [c.name for c in out.characters] == ["Quill"]
    assert not any(s.owner_id == ODA.id for c in out.cameras for s, _ in c.followed())
    before, after = working(scene), working(out)
    for camera in scene.cameras:
        row = before.row_of(1020)
        now = out.camera(camera.id)
        assert now.locks == camera.locks
        seen = [b.camera_path(c).world_from_camera[row] for b, c in ((before, camera), (after, now))]
        assert np.allclose(*seen, atol=1e-6), f"“{camera.name}” stays where it was on that frame"
        for view in now.views:
            assert isinstance(view.mount, Free)
    assert scene_readings(after, None, None, fail), "and it can be judged"


def test_cameras_go_by_a_prop_and_by_a_joint_of_it_as_by_a_characters() -> None:
    """A heron as a prop: aimed at, held, orbited and carried by, and by one of its joints."""
    heron = QUILL.performance.source
    prop = Piece(
        PROP, "Stuffed heron", Performance(heron, Timing(FIRST)), "prop", placing(x=Channel(1.0), turn=Channel(90.0))
    )
    scene = replace(SCENE, pieces=(*SCENE.pieces, prop))
    camera = mill_race.TWO
    for subject in (Subject("joint", PROP, "head"), Subject("object", PROP)):
        for edit in (
            AimCamera(camera_id=camera, aim=Aim((Target((subject,)),)), frame=1020),
            FocusCamera(camera_id=camera, focus=Focus((Target((subject,)),)), frame=1020),
            FrameCamera(camera_id=camera, framing=Framing((subject,)), frame=1020, keep_place=True, keep_size=True),
            CarryCamera(camera_id=camera, mount="carried", frame=1020, subject=subject, afresh=True),
            CarryCamera(camera_id=camera, mount="orbit", frame=1020, subject=subject, afresh=True),
        ):
            changed = edit.apply(scene, working(scene))
            judged = scene_readings(working(changed), None, changed.camera(camera), fail)
            assert judged is not None, edit
    assert np.allclose(working(scene).front_of_character(PROP), [1, 0, 0], atol=1e-9), "its front is turned with it"


def test_what_nobody_goes_by_is_taken_out_at_once() -> None:
    scene = brought()
    assert TakeOut(thing_id=PROP, frame=1020).apply(scene, working(scene)).pieces == SCENE.pieces
    with pytest.raises(DomainError, match="has no “lantern”"):
        ReplaceFile(piece_id=PROP, source=POST).apply(_aimed_at_joint(scene), working(scene))


def _aimed_at_joint(scene: Scene) -> Scene:
    """A camera carried by a joint of the prop that the file does not have."""
    camera = replace(scene.cameras[-1], aim=Aim((Target((Subject("joint", PROP, "lantern"),)),)))
    return scene.with_camera(camera)


def test_a_next_version_stays_where_the_one_before_was_placed() -> None:
    scene = PlaceThing(thing_id=ODA.id, values={"x": 4.0}, time=Fraction(FIRST)).apply(SCENE)
    other = replace(ODA.performance.source, scale=1.1)
    after = BringNextVersion(character_id=ODA.id, source=other).apply(scene, baker(scene))
    assert after.character(ODA.id).placing["x"].default == 4.0
