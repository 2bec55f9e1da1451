"""How much held poses ride over time: keyed, and only where they strobe."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

from eddyfield.core.edits.bend_time import BendSceneTime
from eddyfield.core.edits.performances import RideCharacter
from eddyfield.core.edits.ride_weights import KeyRide, RideWhereItStrobes
from eddyfield.core.edits.scene_time import SetRate
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.own_exposures import OwnExposures
from eddyfield.core.performance.ride import Ride
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameTime, Rate
from eddyfield.core.time.keys import Key

from .scenery import SCENE, baker

ODA = SCENE.characters[0]
WORK = baker()
RIDING = RideCharacter(character_id=ODA.id, ride=Ride("rigid")).apply(SCENE, WORK)


def test_a_keyed_weight_turns_and_moves_in_proportion() -> None:
    scene = KeyRide(character_id=ODA.id, time=FrameTime(1020), weight=0.0).apply(RIDING)
    scene = KeyRide(character_id=ODA.id, time=FrameTime(1060), weight=1.0).apply(scene)
    oda = scene.character(ODA.id)
    weights = oda.ride.weight_on(SCENE.frames)
    t = (np.arange(1020, 1061) - 1020) / 40
    assert weights[19:60] == pytest.approx(3 * t**2 - 2 * t**3), "eased in"
    assert (weights[:19].tolist(), weights[60:].tolist()) == (19 * [0.0], 36 * [1.0])
    keyed, whole = (WORK.of(s).carried(s.character(ODA.id)).whole for s in (scene, RIDING))
    assert np.array_equal(keyed[:19], np.broadcast_to(np.eye(4), (19, 4, 4)))
    assert np.allclose(keyed[60:], whole[60:])
    turns = [np.linalg.norm(Rotation.from_matrix(w[:, :3, :3]).as_rotvec(), axis=1) for w in (keyed, whole)]
    assert turns[0] == pytest.approx(weights * turns[1], abs=1e-9)


def test_keys_come_and_go_and_what_is_no_weight_is_refused() -> None:
    one = KeyRide(character_id=ODA.id, time=FrameTime(1020), weight=0.5).apply(RIDING)
    assert KeyRide(character_id=ODA.id, time=FrameTime(1020), weight=None).apply(one) == RIDING
    slid = RideCharacter(character_id=ODA.id, ride=Ride("picture"), keeps_keys=True).apply(one, WORK)
    assert slid.character(ODA.id).ride == replace(one.character(ODA.id).ride, way="picture")
    assert (
        RideCharacter(character_id=ODA.id, ride=Ride("picture")).apply(one, WORK).character(ODA.id).ride.weights is None
    )
    with pytest.raises(DomainError, match="no key of Ride there"):
        KeyRide(character_id=ODA.id, time=FrameTime(1021), weight=None).apply(one)
    with pytest.raises(DomainError, match="not usable"):
        KeyRide(character_id=ODA.id, time=FrameTime(1021), weight=1.5).apply(one)
    with pytest.raises(DomainError, match="does not ride"):
        KeyRide(character_id=ODA.id, time=FrameTime(1021), weight=0.5).apply(SCENE)


def test_it_rides_where_it_strobes_alone_and_nothing_strobes_then() -> None:
    bank = SCENE.camera(SCENE.cut.camera_id_at(1001))
    still = bank.channels.having(
        **{
            n: Channel(c.default, tuple(k for k in c.keys if k.time <= 1048))
            for n, c in bank.channels.items()
            if c.keys
        }
    )
    scene = SCENE.with_camera(replace(bank, channels=still))  # the camera comes to rest on 1048
    work = WORK.of(scene)
    (stretch,) = work.strobing(ODA, Ride()).stretches
    assert stretch.last < 1060
    after = RideWhereItStrobes(character_id=ODA.id, eases=5).apply(scene, work)
    oda = after.character(ODA.id)
    weights = oda.ride.weight_on(scene.frames)
    rows = np.arange(stretch.first, stretch.last + 1) - scene.frames.first
    assert (weights[rows] == 1).all()
    assert weights[rows[-1] + 1 + 5 :].max() == 0
    assert WORK.of(after).strobing(oda).stretches == ()
    assert WORK.of(after).carried(oda).whole[-1] == pytest.approx(np.eye(4))
    again = RideWhereItStrobes(character_id=ODA.id, eases=5).apply(after, WORK.of(after))
    assert again == after, "it goes by what strobes without Ride"


def test_where_nothing_strobes_there_is_nothing_to_ride() -> None:
    ones = SCENE.with_character(replace(ODA, stepping=Stepping(1)))
    with pytest.raises(DomainError, match="Nothing of Oda strobes"):
        RideWhereItStrobes(character_id=ODA.id).apply(ones, WORK.of(ones))
    with pytest.raises(DomainError, match="cannot ease"):
        RideWhereItStrobes(character_id=ODA.id, eases=0).apply(SCENE, WORK)


def test_weights_and_exposures_of_parts_go_along_as_time_is_bent_and_counted_otherwise() -> None:
    keys = (Key(FrameTime(1020), 0.0, "ease"), Key(FrameTime(1060), 1.0, "ease"))
    oda = replace(
        ODA, ride=Ride("rigid", weights=Channel(0.0, keys)),
        parts=(OwnExposures("scarf_1", Stepping(starts=(1001, 1050))), OwnExposures("hand_l", Stepping(3))),
    )  # fmt: skip
    scene = SCENE.with_character(oda)
    slow = BendSceneTime(first=1030, last=1040, speed=0.5).apply(scene).character(ODA.id)
    assert slow.ride.weights is not None
    assert [slow.ride.weights.keys[at].time for at in (0, -1)] == [1020, 1065]
    assert slow.ride.weights.at(1065.0) == pytest.approx(1.0)
    assert slow.parts[0].stepping.starts == (1001, 1055)
    half = SetRate(rate=str(Rate(Fraction(12))), keeps="times").apply(scene, WORK.of(scene)).character(ODA.id)
    assert half.ride.weights is not None
    assert [key.time for key in half.ride.weights.keys] == [FrameTime(2021, 2), FrameTime(2061, 2)]
    assert half.parts[1].stepping.step == 2, "as long as before, as nearly as frames allow"
