"""Edits of the cut against a list of cameras, one a frame: no gap, no overlap, lengths and order kept."""

from __future__ import annotations

import uuid
from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.cut import cutting
from eddyfield.core.cut.cut import Cut, CutEntry, Handles
from eddyfield.core.cut.shots import shots_of
from eddyfield.core.edits.cuts import (
    CutLive,
    CutTo,
    FitCut,
    JoinShots,
    RollCut,
    SetShot,
    SlideShot,
    SlipShot,
    SplitShot,
    SwapShotCameras,
    Take,
)
from eddyfield.core.edits.other_cuts import DropCut, KeepCut, RenameCut, TakeUpCut
from eddyfield.core.errors import DomainError
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameRange, FrameTime

from .scenery import SCENE

FRAMES = FrameRange(1, 40)
inside = st.integers(FRAMES.first, FRAMES.last)
cuts = st.lists(
    st.tuples(st.integers(-5, 48), st.sampled_from("abcd")), min_size=1, max_size=9, unique_by=lambda e: e[0]
).map(lambda entries: Cut.of(*sorted(entries)))


def shown(cut: Cut, frames: FrameRange = FRAMES) -> list[str]:
    """The camera of every frame."""
    return [cut.camera_id_at(frame) for frame in range(frames.first, frames.last + 1)]


def begins(cut: Cut) -> list[int]:
    """The frames on which shots begin within the scene."""
    return [span.first for span in cut.spans(FRAMES)]


def later_shots(cut: Cut) -> list[int]:
    """Entries that begin a shot after the first frame of the scene."""
    return [cut.entries[span.entry].first for span in cut.spans(FRAMES) if span.first > FRAMES.first]


@given(cuts, inside, st.sampled_from("abcdx"))
def test_a_cut_to_a_camera_changes_the_rest_of_one_shot_alone(cut: Cut, frame: int, camera: str) -> None:
    after = cutting.cut_to(cut, frame, camera, FRAMES)
    end = next((b for b in begins(cut) if b > frame), FRAMES.last + 1)
    wanted = shown(cut)
    wanted[frame - FRAMES.first : end - FRAMES.first] = [camera] * (end - frame)
    assert shown(after) == wanted


@given(cuts, inside)
def test_splitting_and_joining_undo_each_other(cut: Cut, frame: int) -> None:
    assume(frame not in begins(cut))
    halves = cutting.split(cut, frame, FRAMES)
    assert shown(halves) == shown(cut)
    assert begins(halves) == sorted([*begins(cut), frame])
    assert shown(cutting.joined(halves, frame)) == shown(cut)
    assert begins(cutting.joined(halves, frame)) == begins(cut)


@given(cuts, st.data())
def test_joined_the_shot_before_goes_on(cut: Cut, data: st.DataObject) -> None:
    assume(later_shots(cut))
    first = data.draw(st.sampled_from(later_shots(cut)))
    end = next((b for b in begins(cut) if b > first), FRAMES.last + 1)
    wanted = shown(cut)
    wanted[first - FRAMES.first : end - FRAMES.first] = [cut.camera_id_at(first - 1)] * (end - first)
    assert shown(cutting.joined(cut, first)) == wanted


@given(cuts, st.integers(-10, 60), st.data())
def test_a_cut_that_moves_takes_from_the_one_what_it_gives_to_the_other(cut: Cut, to: int, data: st.DataObject) -> None:
    assume(later_shots(cut))
    first = data.draw(st.sampled_from(later_shots(cut)))
    after = cutting.rolled(cut, first, to, FRAMES)
    own = begins(cut).index(first)
    others = [b for at, b in enumerate(begins(cut)) if at != own]
    assert [b for at, b in enumerate(begins(after)) if at != own] == others, "no other cut moves, and none is lost"
    assert [e.camera_id for e in after.entries] == [e.camera_id for e in cut.entries]
    moved = begins(after)[own]
    low, high = begins(cut)[own - 1] + 1, (begins(cut) + [FRAMES.last + 1])[own + 1] - 1
    assert moved == min(max(to, low), high)
    assert shown(cutting.rolled(after, moved, first, FRAMES)) == shown(cut)


@given(cuts, st.integers(-60, 60), st.data())
def test_a_shot_that_slides_keeps_its_length(cut: Cut, by: int, data: st.DataObject) -> None:
    between = begins(cut)[1:-1]
    assume(between)
    first = data.draw(st.sampled_from(between))
    own = begins(cut).index(first)
    after = cutting.slid(cut, first, by, FRAMES)
    lengths, before = ([span.count for span in c.spans(FRAMES)] for c in (after, cut))
    assert lengths[own] == before[own]
    assert sum(lengths) == sum(before) == FRAMES.count
    assert [s.camera_id for s in after.spans(FRAMES)] == [s.camera_id for s in cut.spans(FRAMES)]
    assert shown(cutting.slid(after, begins(after)[own], first - begins(after)[own], FRAMES)) == shown(cut)


@given(cuts, st.data())
def test_cameras_that_are_swapped_twice_are_where_they_were(cut: Cut, data: st.DataObject) -> None:
    one, other = (data.draw(st.sampled_from([e.first for e in cut.entries])) for _ in range(2))
    once = cutting.cameras_swapped(cut, one, other)
    assert cutting.cameras_swapped(once, one, other) == cut
    assert [e.first for e in once.entries] == [e.first for e in cut.entries]


@given(
    cuts, st.lists(st.tuples(inside, st.sampled_from("abcx")), min_size=1, max_size=6, unique_by=lambda t: t[0]), inside
)
def test_what_is_cut_live_rules_what_was_played_and_nothing_else(
    cut: Cut, takes: list[tuple[int, str]], last: int
) -> None:
    takes = sorted(takes)
    assume(last >= takes[-1][0])
    after = cutting.taken_live(cut, [CutEntry(*take) for take in takes], last, FRAMES)
    live = Cut.of(*takes)
    for frame in range(FRAMES.first, FRAMES.last + 1):
        ruling = live if takes[0][0] <= frame <= last else cut
        assert after.camera_id_at(frame) == ruling.camera_id_at(frame), frame


@given(cuts, inside, inside, st.sampled_from("xy"))
def test_edits_of_shots_that_do_not_touch_can_come_in_any_order(cut: Cut, one: int, other: int, camera: str) -> None:
    at = [max(b for b in begins(cut) if b <= frame) for frame in (one, other)]
    assume(at[0] != at[1])
    first = cutting.split(cutting.cut_to(cut, one, camera, FRAMES), other, FRAMES) if other not in begins(cut) else None
    assume(first is not None)
    second = cutting.cut_to(cutting.split(cut, other, FRAMES), one, camera, FRAMES)
    assert first == second


@given(cuts)
def test_what_the_scene_does_not_reach_can_go(cut: Cut) -> None:
    fitting = cutting.within(cut, FRAMES)
    assert shown(fitting) == shown(cut)
    assert [e.first for e in fitting.entries] == begins(cut)
    assert cutting.within(fitting, FRAMES) is fitting


def test_a_locked_shot_keeps_its_frames_and_its_camera() -> None:
    cut = Cut((CutEntry(1, "a"), CutEntry(10, "b", name="B", locked=True), CutEntry(20, "c"), CutEntry(30, "d")))
    for change in (
        lambda: cutting.cut_to(cut, 12, "d", FRAMES), lambda: cutting.split(cut, 12, FRAMES), lambda: cutting.joined(cut, 10),
        lambda: cutting.joined(cut, 20), lambda: cutting.rolled(cut, 10, 5, FRAMES), lambda: cutting.rolled(cut, 20, 25, FRAMES),
        lambda: cutting.slid(cut, 20, 2, FRAMES), lambda: cutting.cameras_swapped(cut, 1, 10),
        lambda: cutting.shot_changed(cut, 10, camera_id="a"),
        lambda: cutting.taken_live(cut, [CutEntry(5, "x")], 12, FRAMES),
    ):  # fmt: skip
        with pytest.raises(DomainError, match=r"Shot (B|2) is locked"):
            change()
    assert cutting.shot_changed(cut, 10, note="wait").entries[1].note == "wait"
    assert not cutting.shot_changed(cut, 10, locked=False).entries[1].locked


def test_shots_have_numbers_names_and_lengths() -> None:
    cut = Cut((CutEntry(-3, "a"), CutEntry(11, "b", name="heron"), CutEntry(21, "a"), CutEntry(99, "c")))
    shots = shots_of(cut, FRAMES)
    assert [(s.number, s.title, s.begins, s.first, s.last, s.count) for s in shots] == [
        (1, "010", -3, 1, 10, 10), (2, "heron", 11, 11, 20, 10), (3, "030", 21, 21, 40, 20),
    ]  # fmt: skip
    assert shots[1].seconds(SCENE.rate) == pytest.approx(10 / 24)


def test_edits_say_what_cannot_be_done() -> None:
    bank, other = (c.id for c in SCENE.cameras[:2])
    scene = CutTo(frame=1030, camera_id=other).apply(SCENE)
    assert [e.first for e in scene.cut.entries] == [1001, 1030]
    for edit, said in (
        (CutTo(frame=1040, camera_id=other), "already"), (CutTo(frame=900, camera_id=bank), "not in the scene"),
        (SplitShot(frame=1030), "begins on 1030 already"), (JoinShots(first=1001), "none to join"),
        (JoinShots(first=1002), "No shot begins on 1002"), (RollCut(first=1001, to=1005), "begins where the scene begins"),
        (SlideShot(first=1030, by=2), "between two others"), (SetShot(first=1030, name="x" * 121), "too long"),
    ):  # fmt: skip
        with pytest.raises(DomainError, match=said):
            edit.apply(scene)
    assert RollCut(first=1030, to=1030).apply(scene) is scene
    assert FitCut().apply(scene) is scene


def test_edits_do_what_they_say() -> None:
    ids = [c.id for c in SCENE.cameras[:3]]

    def cameras(scene: Scene) -> list[tuple[int, str]]:
        return [(e.first, e.camera_id) for e in scene.cut.entries]

    scene = CutLive(takes=(Take(1020, ids[1]), Take(1040, ids[2])), last=1060).apply(SCENE)
    assert cameras(scene) == [(1001, ids[0]), (1020, ids[1]), (1040, ids[2]), (1061, ids[0])]
    scene = SlideShot(first=1040, by=5).apply(scene)
    scene = SwapShotCameras(first=1020, other=1045).apply(scene)
    assert cameras(scene) == [(1001, ids[0]), (1020, ids[2]), (1045, ids[1]), (1066, ids[0])]
    named = SetShot(first=1020, name=" heron ", note="waits", state="done", camera_id=ids[1]).apply(scene)
    assert named.cut.entries[1] == CutEntry(1020, ids[1], "heron", "waits", "done")
    shorter = replace(named, frames=FrameRange(1001, 1050))
    assert cameras(FitCut().apply(shorter)) == cameras(named)[:3]
    assert edits.BY_KIND["cut to"] is CutTo


def test_a_slipped_shot_keeps_its_frames_and_its_cameras_move_comes_later() -> None:
    zoom = next(c for c in SCENE.cameras if c.name == "Dolly zoom Oda")
    scene = CutTo(frame=1046, camera_id=zoom.id).apply(SCENE)
    slipped = SlipShot(first=1046, by=FrameTime(5)).apply(scene)
    assert slipped.cut == scene.cut
    for name, channel in zoom.channels.items():
        assert [k.time for k in slipped.camera(zoom.id).channels[name].keys] == [k.time + 5 for k in channel.keys]
    assert slipped.cameras[0] == scene.cameras[0]
    assert SlipShot(first=1046, by=FrameTime(-5)).apply(slipped) == scene
    again = CutTo(frame=1070, camera_id=scene.cameras[1].id).apply(scene)
    again = CutTo(frame=1080, camera_id=zoom.id).apply(again)
    locked = SetShot(first=1046, locked=True).apply(scene)
    for refused, first, why in (
        (again, 1046, "020|040"),
        (locked, 1046, "locked"),
        (scene, 1001, "lock"),
        (scene, 1002, "No shot"),
    ):
        with pytest.raises(DomainError, match=why):
            SlipShot(first=first, by=FrameTime(5)).apply(refused)


def test_handles_are_said_of_a_shot_and_kept_within_bounds() -> None:
    scene = SetShot(first=1001, handles=Handles(8, 12)).apply(SCENE)
    assert shots_of(scene.cut, scene.frames)[0].handles == Handles(8, 12)
    assert scene.cut.content == SCENE.cut.content, "nothing else is shown"
    with pytest.raises(DomainError):
        Handles(-1, 0)


def test_a_cut_is_kept_changed_and_taken_up_again() -> None:
    one, other = str(uuid.uuid4()), str(uuid.uuid4())
    kept = KeepCut(cut_id=one, name="B").apply(SCENE)
    assert (kept.cut, kept.cut_name, kept.other_cuts[0].name) == (SCENE.cut, "B", "A")
    tried = CutTo(frame=1040, camera_id=SCENE.cameras[1].id).apply(kept)
    back = TakeUpCut(cut_id=one).apply(tried)
    assert (back.cut, back.cut_name) == (SCENE.cut, "A")
    assert (back.other_cuts[0].cut, back.other_cuts[0].name) == (tried.cut, "B")
    assert TakeUpCut(cut_id=one).apply(back) == tried, "the two change places"
    assert RenameCut(cut_id=one, name="slow").apply(back).other_cuts[0].name == "slow"
    assert RenameCut(name="fast").apply(back).cut_name == "fast"
    assert DropCut(cut_id=one).apply(back).other_cuts == ()
    for refused in (TakeUpCut(cut_id=other), DropCut(cut_id=other), RenameCut(name=" ")):
        with pytest.raises(DomainError):
            refused.apply(back)


def test_a_camera_that_only_another_cut_shows_is_not_lost_with_it() -> None:
    face = SCENE.cameras[1].id
    kept = KeepCut(cut_id=str(uuid.uuid4()), name="B").apply(CutTo(frame=1040, camera_id=face).apply(SCENE))
    without = JoinShots(first=1040).apply(kept)
    with pytest.raises(DomainError, match="“A” uses"):
        edits.DeleteCamera(camera_id=face).apply(without)
    gone = edits.DeleteCamera(camera_id=face, replace_by=SCENE.cameras[2].id).apply(without)
    assert gone.other_cuts[0].cut.camera_ids == (SCENE.cameras[0].id, SCENE.cameras[2].id)
