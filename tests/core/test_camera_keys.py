"""Keys as many at once as are chosen: in time, in shape, copied, and while one moves the camera."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_channels import CAMERA_CHANNELS
from eddyfield.core.cameras.key_groups import GROUP_OF, KEY_GROUPS
from eddyfield.core.cameras.mounts import Free
from eddyfield.core.edits import ChosenKeys
from eddyfield.core.errors import DomainError
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.keys import Handle, Key, KeyShape
from eddyfield.core.time.retiming import Retiming, mirrored, retimed
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

BANK = mill_race.BANK

SHAPES: tuple[KeyShape, ...] = ("linear", "smooth", "ease", "curve")
handles = st.builds(Handle, st.floats(0.0, 30.0), st.floats(-5.0, 5.0))
keyed = st.builds(
    lambda times, values, shapes, own: Channel(
        0.0,
        tuple(
            Key(Fraction(t, 4), v, s, *h) for t, v, s, h in zip(sorted(times), values, shapes, own, strict=True)
        ),
    ),
    st.sets(st.integers(0, 400), min_size=5, max_size=5),
    st.lists(st.floats(-10, 10), min_size=5, max_size=5),
    st.lists(st.sampled_from(SHAPES), min_size=5, max_size=5),
    st.lists(st.tuples(handles, handles), min_size=5, max_size=5),
)  # fmt: skip
SPREAD = np.linspace(-5.0, 105.0, 331)


def free(*names: str) -> Scene:
    """The bank rail, unlocked and free, with keys on 1010, 1020, 1030 and 1040 on some channels."""
    keys = tuple(Key(Fraction(t), float(v), "smooth") for t, v in ((1010, 1), (1020, 4), (1030, 2), (1040, 3)))
    camera = replace(SCENE.camera(BANK), locks=(), mount=Free(), aim=None, framing=None, unkeyed=())
    channels = CAMERA_CHANNELS.plain.having(**{name: Channel(0.0, keys) for name in names})
    return SCENE.with_camera(replace(camera, channels=channels))


def of(scene: Scene) -> Camera:
    return scene.camera(BANK)


def times(scene: Scene, name: str) -> list[int]:
    return [int(key.time) for key in of(scene).channels[name].keys]


def test_every_channel_has_a_group() -> None:
    assert set(GROUP_OF) == set(CAMERA_CHANNELS)
    assert set(GROUP_OF.values()) == set(KEY_GROUPS)
    assert [GROUP_OF[n] for n in ("x", "pan", "focal_mm", "focus_m", "rail", "aim_weight")] == list(KEY_GROUPS)


@given(keyed, st.fractions(Fraction(1, 8), Fraction(8), max_denominator=16), st.integers(-50, 50))
def test_a_stretched_curve_is_the_same_curve_in_other_time(channel: Channel, stretch: Fraction, by: int) -> None:
    retiming = Retiming(stretch, Fraction(20), Fraction(by))
    moved = retimed(channel, range(5), retiming)
    at = np.array([float(retiming.of(Fraction(t))) for t in SPREAD])
    assert np.allclose(moved.at(at), channel.at(SPREAD), atol=1e-6)


@given(keyed)
def test_a_mirrored_curve_is_the_same_curve_backwards(channel: Channel) -> None:
    first, last = channel.keys[0].time, channel.keys[-1].time
    turned = mirrored(channel, first, last)
    assert np.allclose(turned.at(float(first + last) - SPREAD), channel.at(SPREAD), atol=1e-6)
    twice = mirrored(turned, first, last)
    assert [key.time for key in twice.keys] == [key.time for key in channel.keys]
    assert np.allclose(twice.at(SPREAD), channel.at(SPREAD), atol=1e-6)


def test_what_is_held_stays_held_when_mirrored() -> None:
    held = Channel(
        0.0, (Key(Fraction(0), 1.0, "hold"), Key(Fraction(10), 3.0, "linear"), Key(Fraction(20), 5.0, "linear"))
    )
    turned = mirrored(held, Fraction(0), Fraction(20))
    assert np.allclose(turned.at(np.array([0.0, 5.0, 10.0, 15.0, 20.0])), [5.0, 4.0, 3.0, 1.0, 1.0])
    assert np.allclose(mirrored(turned, Fraction(0), Fraction(20)).at(np.arange(21.0)), held.at(np.arange(21.0)))


def test_only_chosen_keys_of_chosen_groups_move_and_none_is_overwritten() -> None:
    scene = free("x", "pan")
    chosen = ChosenKeys(BANK, (Fraction(1020), Fraction(1030)), ("place",))
    moved = edits.RetimeCameraKeys(keys=chosen, by=Fraction(5)).apply(scene)
    assert (times(moved, "x"), times(moved, "pan")) == ([1010, 1025, 1035, 1040], [1010, 1020, 1030, 1040])
    back = ChosenKeys(BANK, (Fraction(1025), Fraction(1035)), ("place",))
    assert edits.RetimeCameraKeys(keys=back, by=Fraction(-5)).apply(moved) == scene
    with pytest.raises(DomainError, match="key at frame 1040 already"):
        edits.RetimeCameraKeys(keys=chosen, by=Fraction(10)).apply(scene)
    turned = edits.RetimeCameraKeys(keys=ChosenKeys(BANK), stretch=Fraction(-1), about=Fraction(1025)).apply(scene)
    assert [key.value for key in of(turned).channels["x"].keys] == [3.0, 2.0, 4.0, 1.0]
    with pytest.raises(DomainError, match="stretched to nothing"):
        edits.RetimeCameraKeys(keys=chosen, stretch=Fraction(0)).apply(scene)


def test_a_group_that_is_locked_is_not_changed_but_the_others_are() -> None:
    scene = edits.LockCamera(camera_id=BANK, locks=("angles",)).apply(free("x", "pan"))
    with pytest.raises(DomainError, match=r"angles of .* are locked"):
        edits.DeleteCameraKeys(keys=ChosenKeys(BANK)).apply(scene)
    gone = edits.DeleteCameraKeys(keys=ChosenKeys(BANK, groups=("place",))).apply(scene)
    assert (times(gone, "x"), times(gone, "pan")) == ([], [1010, 1020, 1030, 1040])
    assert of(gone).channels["x"].default == 1.0
    shaped = edits.ShapeCameraKeys(keys=ChosenKeys(BANK, groups=("place",)), shape="hold").apply(scene)
    assert {key.shape for key in of(shaped).channels["x"].keys} == {"hold"}
    with pytest.raises(DomainError, match="no key at frame 1011"):
        edits.DeleteCameraKeys(keys=ChosenKeys(BANK, (Fraction(1011),))).apply(free("x"))


def test_copied_keys_are_merged_or_take_the_place_of_what_was_there() -> None:
    scene = free("x", "pan")
    copied = {name: of(scene).channels[name].keys[:3] for name in ("x", "pan")}
    merged = edits.PasteCameraKeys(camera_id=BANK, keys=copied, at=Fraction(1025)).apply(scene)
    assert times(merged, "x") == [1010, 1020, 1025, 1030, 1035, 1040, 1045]
    cleared = edits.PasteCameraKeys(camera_id=BANK, keys=copied, at=Fraction(1025), clears=True).apply(scene)
    assert times(cleared, "x") == [1010, 1020, 1025, 1035, 1045]
    turned = edits.PasteCameraKeys(camera_id=BANK, keys=copied, at=Fraction(1010), mirrors=True, clears=True).apply(
        scene
    )
    assert [key.value for key in of(turned).channels["pan"].keys] == [2.0, 4.0, 1.0, 3.0]
    same = edits.PasteCameraKeys(camera_id=BANK, keys=copied, at=Fraction(1010)).apply(scene)
    assert same == scene
    with pytest.raises(DomainError, match="None of the copied keys"):
        edits.PasteCameraKeys(camera_id=BANK, keys={"rail": copied["x"]}, at=Fraction(1010)).apply(scene)
    with pytest.raises(DomainError, match="ocal length"):
        edits.PasteCameraKeys(camera_id=BANK, keys={"focal_mm": (Key(Fraction(1), -4.0),)}, at=Fraction(1)).apply(scene)


def test_standing_on_a_key_moving_the_camera_changes_that_key() -> None:
    scene = free("x", "pan")
    pose = replace(baker(scene).camera(of(scene)).pose_at(19), x=7.0, y=2.0)
    moved = edits.PlaceCamera(camera_id=BANK, pose=pose, frame=1020).apply(scene, baker(scene))
    assert of(moved).channels["x"].key_at(Fraction(1020)) == Key(Fraction(1020), 7.0, "smooth")
    assert dict(of(moved).unkeyed) == {"y": 2.0}, "what has no key there is not keyed by it"
    assert of(moved).channels["pan"] == of(scene).channels["pan"]


def test_recording_keys_only_what_was_moved_and_nothing_that_is_locked() -> None:
    scene = edits.LockCamera(camera_id=BANK, locks=("lens",)).apply(free("x", "pan"))
    pose = replace(baker(scene).camera(of(scene)).pose_at(24), x=7.0, y=2.0)
    moved = edits.PlaceCamera(camera_id=BANK, pose=pose, frame=1025, records=True).apply(scene, baker(scene))
    assert (times(moved, "x"), times(moved, "pan")) == ([1010, 1020, 1025, 1030, 1040], [1010, 1020, 1030, 1040])
    assert (times(moved, "y"), of(moved).unkeyed) == ([1025], ())
    pushed = edits.SetCameraValues(camera_id=BANK, values={"pan": 9.0}, frame=1026, records=True).apply(moved)
    assert of(pushed).channels["pan"].key_at(Fraction(1026)) == Key(Fraction(1026), 9.0, "smooth")
    with pytest.raises(DomainError, match=r"lens of .* is locked"):
        edits.SetCameraValues(camera_id=BANK, values={"focal_mm": 50.0}, frame=1026, records=True).apply(moved)
