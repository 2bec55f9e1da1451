"""A scene at another rate: what is keyed keeps its time or its frame, what is seen with it, and what that costs is told."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.cut.cut import Cut, CutEntry, Handles
from eddyfield.core.cut.other_cut import OtherCut
from eddyfield.core.cut.sound import Mark, Sound
from eddyfield.core.cut.transition import Transition
from eddyfield.core.edits.scene_time import SetRate, SetTimecode
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.showing import Showing
from eddyfield.core.rate_change import at_rate
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameTime, Rate
from eddyfield.core.time.timecode import Timecode
from eddyfield.demo import crossing_cut
from eddyfield.demo.mill_race import QUILL, ZOOM

from .scenery import DIGESTS, SCENE, baker

CUT = crossing_cut.scene(tuple(DIGESTS), {}, (Mark(1030, "action"), Mark(1075, "accent")))
rates = st.sampled_from(["12", "15", "23.976", "24", "25", "29.97", "30", "48", "50", "59.94", "60"])


def seconds_of_keys(scene: Scene) -> list[Fraction]:
    first, rate = scene.frames.first, scene.rate.frames_per_second
    return [
        (key.time - first) / rate for camera in scene.cameras for channel in camera.channels.values() for key in channel.keys
    ]  # fmt: skip


@given(rates, rates)
def test_every_key_keeps_its_exact_time_over_any_rates(one: str, other: str) -> None:
    there = at_rate(CUT, Rate.parse(one), "times").scene
    back = at_rate(at_rate(there, Rate.parse(other), "times").scene, CUT.rate, "times").scene
    for scene in (there, back):
        assert seconds_of_keys(scene) == seconds_of_keys(CUT)
    values = [k.value for c in back.cameras for ch in c.channels.values() for k in ch.keys]
    assert values == [k.value for c in CUT.cameras for ch in c.channels.values() for k in ch.keys]


def test_at_twice_the_rate_every_second_frame_shows_what_was_there() -> None:
    plain = replace(SCENE, characters=tuple(replace(c, stepping=Stepping()) for c in SCENE.characters))
    twice = at_rate(plain, Rate.parse("48"), "times")
    assert (twice.scene.frames.count, twice.costs) == (192, ())
    for character in plain.characters:
        before, after = baker(plain).world(character), baker(twice.scene).world(twice.scene.character(character.id))
        np.testing.assert_allclose(after[::2], before, atol=1e-9)
    # A held size goes by the sphere around all poses, of which there are more; the other cameras stand where they stood.
    for camera in plain.cameras:
        if not camera.framing:
            paths = [baker(s).camera_path(s.camera(camera.id)).world_from_camera for s in (plain, twice.scene)]
            np.testing.assert_allclose(paths[1][::2], paths[0], atol=1e-6)


@given(rates)
def test_on_its_frames_every_frame_shows_the_pose_and_the_picture_that_it_showed(rate: str) -> None:
    faster = at_rate(SCENE, Rate.parse(rate), "frames").scene
    assert (faster.frames, faster.cut, faster.cameras) == (SCENE.frames, SCENE.cut, SCENE.cameras)
    for character in SCENE.characters:
        before, after = baker().world(character), baker(faster).world(faster.character(character.id))
        np.testing.assert_allclose(after, before, atol=1e-5)


def test_what_does_not_come_out_even_is_told() -> None:
    scene = replace(
        CUT,
        cut=Cut((CUT.cut.entries[0], CutEntry(1030, CUT.cameras[1].id), CutEntry(1031, CUT.cameras[2].id))),
        marks=(Mark(1042, "action"), Mark(1043, "action")),
        sounds=(Sound("s", "Steps", "d" * 64, 1002),),
    )
    changed = at_rate(scene, Rate.parse("12"), "times")
    assert changed.scene.frames.count == 48
    assert [e.first for e in changed.scene.cut.entries] == [1001, 1016]
    assert changed.scene.cut.entries[-1].camera_id == CUT.cameras[2].id, "the one that would have ruled longest"
    assert changed.scene.characters[0].stepping == Stepping(1)
    told = "\n".join(changed.costs)
    assert "1 shot is lost" in told
    assert "1 mark is lost" in told
    assert "1 cut is moved to the nearest frame, by 0.5 of one" in told
    assert "1 beginning of a sound is moved" in told
    assert "Quill shows a new pose on every frame, where one would last 0.5" in told
    assert at_rate(CUT, Rate.parse("48"), "times").costs == ()


def test_all_that_stands_on_frames_goes_along() -> None:
    oda, mill, dissolve = CUT.characters[0], CUT.pieces[0], Transition("dissolve", 8, 4)
    scene = replace(
        CUT,
        cut=Cut((CUT.cut.entries[0], replace(CUT.cut.entries[1], transition=dissolve, handles=Handles(6, 12)))),
        other_cuts=(OtherCut("o", "B", Cut.of((1001, CUT.cameras[0].id), (1021, CUT.cameras[1].id))),),
        pieces=(replace(mill, kind="prop", holds=(Hold(1011, oda.id, "hand_r"), Hold(1041))),),
    )  # fmt: skip
    scene = scene.with_character(replace(oda, showing=Showing(hidden=((1011, 1020),)), stepping=Stepping(2, 1)))
    twice = at_rate(scene, Rate.parse("48"), "times").scene
    entry = twice.cut.entries[1]
    assert (entry.first, entry.transition.frames, entry.transition.before) == (1059, 16, 8)
    assert entry.handles == Handles(12, 24)
    assert [e.first for e in twice.other_cuts[0].cut.entries] == [1001, 1041]
    assert [h.first for h in twice.pieces[0].holds] == [1021, 1081]
    assert twice.character(oda.id).showing.hidden == ((1021, 1040),)
    assert twice.character(oda.id).stepping == Stepping(4, 2)
    assert [m.frame for m in twice.marks] == [1059, 1149]
    shoulder = next(c for c in scene.cameras if c.focus and len(c.focus.targets) > 1)
    assert shoulder.focus is not None
    pulled = twice.camera(shoulder.id).focus
    assert pulled is not None
    assert [(t.first, t.last) for t in pulled.targets] == [(None, None), (1091, 1119)]
    assert at_rate(twice, CUT.rate, "times").scene == scene


def test_sound_lasts_as_long_as_it_did_and_that_is_told() -> None:
    scene = replace(SCENE, sounds=(Sound("s", "Steps", "d" * 64, 1010),))
    costs = at_rate(scene, Rate.parse("12"), "frames").costs
    assert costs == ("Sound lasts as long as it did: it takes 1/2 of the frames from where it begins.",)


def test_time_code_goes_over_to_the_other_rate() -> None:
    scene = SetTimecode(text="01:00:10:12").apply(SCENE)
    assert scene.timecode == Timecode(24 * 3610 + 12)
    at_30 = SetRate(rate="29.97").apply(scene)
    dropping = SetTimecode(text="01:00:10;15").apply(at_30)
    assert dropping.timecode.drops
    back = at_rate(dropping, Rate.parse("24"), "times")
    assert back.scene.timecode == scene.timecode
    assert "no numbers out" in back.costs[0]
    assert SetTimecode(text="01:00:10:12").apply(scene) is scene


def test_a_rate_that_makes_the_scene_too_long_is_refused() -> None:
    long = edits.SetFrames(first=1, last=20_000).apply(SCENE)
    with pytest.raises(DomainError, match="40,000"):
        SetRate(rate="48").apply(long)


def test_a_performance_begins_at_its_exact_time() -> None:
    quill = SCENE.character(QUILL)
    late = replace(
        quill,
        performance=replace(
            quill.performance, timing=replace(quill.performance.timing, start=1004, first=FrameTime(3))
        ),
    )
    changed = at_rate(SCENE.with_character(late), Rate.parse("12"), "times")
    timing = changed.scene.character(QUILL).performance.timing
    assert (timing.start, timing.first) == (Fraction(2005, 2), Fraction(3, 2))
    assert not any("start of a performance" in cost for cost in changed.costs)


def times_finer(scene: Scene, times: int) -> Scene:
    for _ in range(times):
        scene = edits.RetimeCameraKeys(keys=edits.ChosenKeys(ZOOM), stretch=Fraction(1, 7)).apply(scene)
    return scene


def test_times_that_become_too_fine_are_refused_in_words() -> None:
    fine = times_finer(SCENE, 12)
    assert baker(fine).camera(fine.camera(ZOOM)).pose.shape == (96, 7)
    with pytest.raises(DomainError, match="too fine"):
        times_finer(SCENE, 40)
    with pytest.raises(DomainError, match="too fine"):
        SetRate(rate="999999937/100000007").apply(fine)
