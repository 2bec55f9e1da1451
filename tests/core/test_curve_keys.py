"""Keys on curves: one more changes nothing, handles and shapes do what they say."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.edits.camera_keys import ChosenKeys, ShapeCameraKeys
from eddyfield.core.edits.curve_keys import AddCurveKey, DeleteCurveKey, SetCurveKey
from eddyfield.core.errors import DomainError
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.dividing import key_within
from eddyfield.core.time.keys import KEY_SHAPES, Handle, Key

from .scenery import SCENE

small = st.floats(-5, 5, allow_nan=False)
handles = st.none() | st.builds(Handle, st.floats(0, 9), small)
keys = st.builds(
    Key, st.integers(0, 400).map(lambda n: Fraction(n, 10)), small, st.sampled_from(KEY_SHAPES), handles, handles
)
channels = st.lists(keys, min_size=2, max_size=7, unique_by=lambda k: k.time).map(
    lambda found: Channel(0.0, tuple(sorted(found, key=lambda k: k.time)))
)


@given(channels, st.fractions(0, 1, max_denominator=97))
def test_a_key_more_leaves_the_curve_as_it_runs(channel: Channel, share: Fraction) -> None:
    first, last = channel.keys[0].time, channel.keys[-1].time
    time = first + share * (last - first)
    if channel.key_at(time):
        with pytest.raises(DomainError, match="no curve"):
            key_within(channel, time)
        return
    more = key_within(channel, time)
    assert len(more.keys) == len(channel.keys) + 1
    at = np.linspace(float(first) - 1, float(last) + 1, 801)
    # Where handles make it nearly upright, the value within a millionth of a frame is all that can be asked.
    around = np.stack([channel.at(at + off) for off in (-1e-6, 0.0, 1e-6)])
    assert (more.at(at) >= around.min(axis=0) - 1e-7).all()
    assert (more.at(at) <= around.max(axis=0) + 1e-7).all()


def test_outside_its_keys_there_is_no_curve() -> None:
    channel = Channel(0.0, (Key(Fraction(5), 1.0), Key(Fraction(9), 2.0)))
    for time in (4, 5, 9, 12):
        with pytest.raises(DomainError, match="no curve"):
            key_within(channel, Fraction(time))


BANK = SCENE.cameras[0].id
UNLOCKED = SCENE.with_camera(replace(SCENE.cameras[0], locks=()))


def pan(scene: object) -> Channel:
    return scene.camera(BANK).channels["pan"]  # type: ignore[attr-defined]


def test_a_key_is_moved_in_time_and_value_and_a_handle_gives_it_a_way_of_its_own() -> None:
    key = pan(UNLOCKED).keys[1]
    moved = SetCurveKey(camera_id=BANK, channel="pan", time=key.time, to=Fraction(1020), value=80.0).apply(UNLOCKED)
    assert pan(moved).keys[1] == replace(key, time=Fraction(1020), value=80.0)
    assert moved.camera(BANK).channels["tilt"] == UNLOCKED.camera(BANK).channels["tilt"], "the others stay"
    arriving, leaving = pan(UNLOCKED).handles(1)
    bent = SetCurveKey(camera_id=BANK, channel="pan", time=key.time, leaving=Handle(6.0, -3.0)).apply(UNLOCKED)
    assert pan(bent).keys[1] == replace(key, shape="curve", handle_in=arriving, handle_out=Handle(6.0, -3.0))
    assert leaving is not None
    slope = np.diff(pan(bent).at([float(key.time), float(key.time) + 1e-4]))[0] / 1e-4
    assert slope == pytest.approx(-3.0 / 6.0, rel=1e-3)
    before = np.linspace(1001, float(key.time), 50)
    assert np.allclose(pan(bent).at(before), pan(UNLOCKED).at(before), atol=1e-9), "on the other side it runs as before"


def test_handles_come_back_with_their_shape() -> None:
    time = pan(UNLOCKED).keys[1].time
    bent = SetCurveKey(camera_id=BANK, channel="pan", time=time, leaving=Handle(6.0, -3.0)).apply(UNLOCKED)
    linear = ShapeCameraKeys(keys=ChosenKeys(BANK, (time,)), shape="linear").apply(bent)
    again = ShapeCameraKeys(keys=ChosenKeys(BANK, (time,)), shape="curve").apply(linear)
    assert pan(again) == pan(bent)


def test_keys_of_one_channel_come_and_go_alone() -> None:
    more = AddCurveKey(camera_id=BANK, channel="pan", time=Fraction(2025, 2)).apply(UNLOCKED)
    assert len(pan(more).keys) == len(pan(UNLOCKED).keys) + 1
    fewer = DeleteCurveKey(camera_id=BANK, channel="pan", time=Fraction(2025, 2)).apply(more)
    assert len(pan(fewer).keys) == len(pan(UNLOCKED).keys)
    for edit, said in (
        (SetCurveKey(camera_id=BANK, channel="pan", time=Fraction(1002), value=1.0), "no key at frame 1002"),
        (SetCurveKey(camera_id=BANK, channel="pan", time=Fraction(1001), to=Fraction(1024)), "at frame 1024 already"),
        (SetCurveKey(camera_id=BANK, channel="focal_mm", time=Fraction(1001), value=1e9), "not usable"),
        (DeleteCurveKey(camera_id=BANK, channel="pan", time=Fraction(1002)), "no key at frame 1002"),
        (AddCurveKey(camera_id=BANK, channel="wings", time=Fraction(1002)), "no channel"),
    ):
        with pytest.raises(DomainError, match=said):
            edit.apply(UNLOCKED)
    with pytest.raises(DomainError, match="locked"):
        AddCurveKey(camera_id=BANK, channel="pan", time=Fraction(1002)).apply(SCENE)
