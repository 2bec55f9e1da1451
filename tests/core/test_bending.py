"""Time that is bent over a stretch: what is keyed in it is shown when it should be."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from eddyfield.core.cameras.camera_frames import channel_values
from eddyfield.core.cameras.mounts import Trailing
from eddyfield.core.cut.cut import Cut, CutEntry
from eddyfield.core.cut.sound import Mark
from eddyfield.core.edits.bend_time import BendCameraTime, BendSceneTime, BendTime
from eddyfield.core.edits.contents import TimeThing
from eddyfield.core.edits.sounds import MarkFrames
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.showing import Showing
from eddyfield.core.time.bending import Bend
from eddyfield.core.time.channels import Beyond, Channel
from eddyfield.core.time.keys import Handle, Key
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

FRAMES = np.arange(-20, 140) + 0.37
"""Between frames, where nothing that is held jumps."""


@st.composite
def keys(draw: st.DrawFn) -> tuple[Key, ...]:
    times = sorted(draw(st.sets(st.integers(0, 80), min_size=2, max_size=9)))
    made = []
    for time in times:
        shape = draw(st.sampled_from(["smooth", "linear", "ease", "curve"]))
        handles = [None, None]
        if shape == "curve":
            handles = [
                draw(st.none() | st.builds(Handle, st.floats(0, 12), st.floats(-9, 9))) for _ in range(2)
            ]  # fmt: skip
        made.append(Key(Fraction(time), draw(st.floats(-50, 50)), shape, *handles))
    return tuple(made)


@given(
    keys(),
    st.integers(-5, 80),
    st.integers(1, 40),
    st.sampled_from([0.25, 0.5, 0.7, 1.0, 2.0, 3.0, 0.0, -1.0, -0.5, -2.0]),
)
@settings(max_examples=300)
def test_what_is_keyed_is_shown_at_the_moments_of_the_bend(
    own: tuple[Key, ...], first: int, length: int, speed: float
) -> None:
    channel, bend = Channel(0.0, own), Bend.at(first, first + length, speed)
    bent = bend.channel(channel)
    np.testing.assert_allclose(bent.at(FRAMES), channel.at(bend.moments(FRAMES)), atol=1e-7)


@given(keys(), st.integers(5, 60), st.integers(1, 40), st.sampled_from([0.5, 2.0, 0.0, -1.0]))
@settings(max_examples=100)
def test_a_held_value_is_held_for_as_long_as_its_moments_last(
    own: tuple[Key, ...], first: int, length: int, speed: float
) -> None:
    channel = Channel(0.0, tuple(Key(key.time, key.value, "hold") for key in own))
    bend = Bend.at(first, first + length, speed)
    moments = bend.moments(FRAMES)
    edges = np.abs(moments[:, None] - channel.times).min(axis=1) < 1e-6
    np.testing.assert_array_equal(bend.channel(channel).at(FRAMES)[~edges], channel.at(moments)[~edges])


@given(keys(), st.integers(0, 60))
def test_time_that_runs_as_it_did_changes_no_key(own: tuple[Key, ...], first: int) -> None:
    channel = Channel(0.0, own)
    assume(all(key.handle_in is None or key.handle_in.frames <= 1 for key in own))
    bent = Bend.at(first, first + 10, 1.0).channel(channel)
    assert {key.time for key in channel.keys} <= {key.time for key in bent.keys}
    np.testing.assert_allclose(bent.at(FRAMES), channel.at(FRAMES), atol=1e-9)


def test_keys_away_from_the_stretch_keep_their_shapes() -> None:
    channel = Channel(0.0, tuple(Key(Fraction(t), float(t * t % 7), "smooth") for t in range(0, 80, 8)))
    bent = Bend.at(32, 48, 0.5).channel(channel)
    shapes = {int(key.time): key.shape for key in bent.keys}
    assert [shapes[t] for t in (0, 8, 16, 24)] == ["smooth"] * 4
    assert [shapes[t] for t in (64, 72, 80)] == ["smooth"] * 3
    assert max(shapes) == 72 + 8, "all that comes after comes later"


def test_moments_come_where_they_are_shown_last() -> None:
    assert [Bend.at(10, 30, 0.5).of(Fraction(t)) for t in (5, 10, 15, 20, 25)] == [5, 10, 20, 30, 35]
    assert [Bend.at(10, 20, 2.0).of(Fraction(t)) for t in (5, 20, 30, 40)] == [5, 15, 20, 30]
    assert [Bend.at(10, 20, 0.0).of(Fraction(t)) for t in (10, 11)] == [10, 21]


def test_what_cannot_be_bent_is_said() -> None:
    with pytest.raises(DomainError, match="ends before"):
        Bend.at(10, 10, 0.5)
    with pytest.raises(DomainError, match="times as fast"):
        Bend.at(10, 20, 101)
    cycles = Channel(0.0, (Key(Fraction(0), 0.0), Key(Fraction(8), 1.0)), Beyond(after="cycle"))
    with pytest.raises(DomainError, match="run through again"):
        Bend.at(10, 20, 0.5).channel(cycles)


SPEEDS = pytest.mark.parametrize("speed", [0.5, 2.0, 0.0])


@pytest.mark.parametrize("speed", [0.5, 2.0, 0.0, -1.0, -0.5])
def test_a_bent_scene_shows_its_moments_when_the_bend_says(speed: float) -> None:
    first, last = 1024, 1040
    scene = BendSceneTime(first=first, last=last, speed=speed).apply(SCENE)
    bend = Bend.at(first, last, speed)
    assert scene.frames.last == SCENE.frames.last + bend.later
    frames = scene.frames.frames().astype(float)
    moments = bend.moments(frames)
    whole = moments == np.round(moments)
    rows, was = np.flatnonzero(whole), (moments[whole] - SCENE.frames.first).astype(int)
    now, before = baker(scene), baker()
    for one, other in zip(scene.characters, SCENE.characters, strict=True):
        assert now.world(one)[rows] == pytest.approx(before.world(other)[was], abs=1e-5)
    for camera, other_camera in zip(scene.cameras, SCENE.cameras, strict=True):
        if camera.framing is None and not isinstance(camera.mount, Trailing):  # those remember what was before
            paths = now.camera_path(camera), before.camera_path(other_camera)
            assert paths[0].world_from_camera[rows] == pytest.approx(paths[1].world_from_camera[was], abs=1e-5), (
                camera.name
            )
    cuts = now.cut_rows()[0][rows], before.cut_rows()[0][was]
    edges = np.isin(was + SCENE.frames.first, [entry.first for entry in SCENE.cut.entries])
    assert (cuts[0] == cuts[1])[~edges].all()


@SPEEDS
def test_what_comes_with_a_moment_comes_when_it_does(speed: float) -> None:
    marked = MarkFrames(marks=(Mark(1020, "action"), Mark(1060, "action"))).apply(SCENE)
    later = int(Bend.at(1024, 1040, speed).later)
    scene = BendSceneTime(first=1024, last=1040, speed=speed).apply(marked)
    assert [mark.frame for mark in scene.marks] == [1020, 1060 + later]
    entries = [(e.camera_id, e.first) for e in marked.cut.entries]
    assert [(e.camera_id, e.first) for e in scene.cut.entries if not 1024 < e.first - later < 1056] == [
        (camera_id, first + (later if first > 1024 else 0)) for camera_id, first in entries if not 1024 < first < 1056
    ]


def test_a_camera_runs_backwards_while_all_else_runs_on() -> None:
    zoom = next(c for c in SCENE.cameras if c.name == "Dolly zoom Oda")
    scene = BendCameraTime(camera_id=zoom.id, first=1060, last=1070, speed=-1.0).apply(SCENE)
    values = [channel_values(s.camera(zoom.id), baker(s)) for s in (scene, SCENE)]
    for name in zoom.channels:
        assert values[0][name][59:70] == pytest.approx(values[1][name][59:48:-1], abs=1e-9)
    assert scene.characters == SCENE.characters
    assert scene.frames == SCENE.frames


@pytest.mark.parametrize(
    ("edit", "why"),
    [
        (BendSceneTime(first=1024, last=1060, speed=-1.0), "before the scene's first frame"),
        (BendSceneTime(first=1060, last=1075, speed=-1.0), "hands its focus over"),
        (BendSceneTime(first=900, last=1040, speed=0.5), "outside"),
        (BendCameraTime(camera_id=mill_race.FACE, first=1024, last=1040, speed=0.5), "no keys"),
        (BendCameraTime(camera_id=mill_race.BANK, first=1024, last=1040, speed=0.5), "locked"),
    ],
)
def test_time_that_cannot_be_bent_is_said(edit: BendSceneTime | BendCameraTime, why: str) -> None:
    with pytest.raises(DomainError, match=why):
        edit.apply(SCENE)


@pytest.mark.parametrize("speed", [-1.0, -0.5, -2.0])
def test_a_scene_that_runs_backwards_goes_through_all_of_it_again(speed: float) -> None:
    first, last = 1050, 1070
    shown = Showing(((1035, 1040), (1048, 1052), (1080, 1090)))
    oda, quill = SCENE.characters[:2]
    listed = replace(oda, showing=shown, stepping=Stepping(starts=(1001, 1030, 1033, 1045, 1049, 1058, 1080)))
    held = replace(
        SCENE.pieces[1], kind="prop", holds=(Hold(1032, oda.id, "hand_l"), Hold(1046), Hold(1055, quill.id, "head"))
    )
    cameras = [c.id for c in SCENE.cameras[:3]]
    before = replace(
        SCENE,
        characters=(listed, quill),
        pieces=(held,),
        cameras=tuple(replace(c, aim=None, focus=None) for c in SCENE.cameras),
        cut=Cut(tuple(CutEntry(f, cameras[n % 3], f"shot {n}") for n, f in enumerate((1001, 1034, 1044, 1049, 1062)))),
        marks=(Mark(1020, "action"), Mark(1047, "accent"), Mark(1090, "action")),
    )
    bend = Bend.at(first, last, speed)
    after = BendSceneTime(first=first, last=last, speed=speed).apply(before)
    frames = after.frames.frames()
    moments = bend.moments(frames.astype(float))
    for frame, moment in zip(frames.tolist(), np.floor(moments + 1e-9).astype(int).tolist(), strict=True):
        assert after.cut.camera_id_at(frame) == before.cut.camera_id_at(moment)
        hidden = [
            any(a <= at <= b for a, b in s.characters[0].showing.hidden) for s, at in ((after, frame), (before, moment))
        ]
        assert hidden[0] == hidden[1], frame
        holders = [
            next((h.character_id for h in reversed(s.pieces[0].holds) if h.first <= at), None)
            for s, at in ((after, frame), (before, moment))
        ]
        assert holders[0] == holders[1], frame
    starts = baker(after).exposure_starts(after.characters[0])
    group = np.searchsorted(listed.stepping.starts, np.floor(moments + 1e-9), side="right")
    np.testing.assert_array_equal(np.diff(starts) != 0, np.diff(group) != 0)
    assert [m.frame for m in after.marks if m.kind == "accent"] == [1047, 1047 + int(bend.later)]
    names = [entry.name for entry in after.cut.entries]
    assert [name for name in names if name] == [f"shot {n}" for n in range(5)], "each name once"


def test_a_motion_that_begins_elsewhere_takes_its_bent_time_along() -> None:
    oda = SCENE.characters[0]
    bent_scene = BendTime(thing_id=oda.id, first=1020, last=1030, speed=0.5).apply(SCENE)
    timing = bent_scene.characters[0].performance.timing
    later = TimeThing(thing_id=oda.id, timing=replace(timing, start=timing.start + 7)).apply(bent_scene)
    worlds = [baker(s).world(s.characters[0]) for s in (bent_scene, later)]
    assert worlds[1][7:] == pytest.approx(worlds[0][:-7], abs=1e-9)
