"""Scenes end to end: no gap, no overlap, one running count, and edits that can be done in any order."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from eddyfield.core.cut.sequence import SceneLength, Sequence, laid_end_to_end, rate_of, usable_timecode
from eddyfield.core.edits.sequences import (
    AddScene,
    MoveScene,
    RenameSequence,
    SequenceEdit,
    StartTimecode,
    TakeSceneOut,
)
from eddyfield.core.errors import DomainError
from eddyfield.core.time.frames import FrameRange, Rate
from eddyfield.core.time.timecode import Timecode

DAY = Rate.parse("24")
lengths = st.lists(
    st.tuples(st.integers(1, 2000), st.integers(1, 500), st.sampled_from(["12", "24", "25", "29.97", "48"])), max_size=8
).map(
    lambda found: [
        SceneLength(str(n), FrameRange(first, first + count - 1), Rate.parse(rate))
        for n, (first, count, rate) in enumerate(found)
    ]
)
orders = st.permutations("abcdef").flatmap(lambda ids: st.integers(0, 6).map(lambda count: tuple(ids[:count])))


@given(lengths)
def test_scenes_lie_end_to_end_whatever_their_rates(scenes: list[SceneLength]) -> None:
    placed = laid_end_to_end(scenes)
    assert [p.scene for p in placed] == scenes
    rate = rate_of(scenes)
    for one, other in pairwise(placed):
        assert one.begins + one.lasts == other.begins
        assert one.running(one.scene.frames.last + 1) == other.begins, (
            "the frame after its last is the next one's first"
        )
    if rate is not None:
        assert placed[0].begins == 0
        seconds = sum(Fraction(s.frames.count) / s.rate.frames_per_second for s in scenes)
        assert sum(p.lasts for p in placed) / rate.frames_per_second == seconds


@given(orders, st.sampled_from("abcdef"), st.integers(-2, 9))
def test_a_scene_is_moved_and_the_others_keep_their_order(ids: tuple[str, ...], scene: str, index: int) -> None:
    sequence = Sequence("s", "One", ids)
    move = MoveScene(scene_id=scene, index=index)
    if scene not in ids:
        with pytest.raises(DomainError):
            move.apply(sequence, DAY)
        return
    moved = move.apply(sequence, DAY).scene_ids
    assert sorted(moved) == sorted(ids)
    assert [one for one in moved if one != scene] == [one for one in ids if one != scene]
    assert moved.index(scene) == max(0, min(index, len(ids) - 1))
    assert MoveScene(scene_id=scene, index=ids.index(scene)).apply(Sequence("s", "One", moved), DAY).scene_ids == ids


@given(orders, st.sampled_from("abcdef"), st.integers(0, 6))
def test_what_is_added_can_be_taken_out_again(ids: tuple[str, ...], scene: str, index: int) -> None:
    assume(scene not in ids)
    sequence = Sequence("s", "One", ids)
    added = AddScene(scene_id=scene, index=index).apply(sequence, DAY)
    assert added.scene_ids.index(scene) == min(index, len(ids))
    assert TakeSceneOut(scene_id=scene).apply(added, DAY) == sequence
    assert AddScene(scene_id=scene).apply(sequence, DAY).scene_ids == (*ids, scene)


@pytest.mark.parametrize(
    ("edit", "why"),
    [
        (AddScene(scene_id="a"), "already"),
        (TakeSceneOut(scene_id="x"), "not in"),
        (RenameSequence(name=" "), "needs a name"),
        (StartTimecode(text="01:00:00;00"), "no drop-frame"),
    ],
)
def test_what_cannot_be_is_refused(edit: SequenceEdit, why: str) -> None:
    with pytest.raises(DomainError, match=why):
        edit.apply(Sequence("s", "One", ("a", "b")), DAY)
    with pytest.raises(DomainError, match="twice"):
        Sequence("s", "One", ("a", "a"))


def test_time_code_begins_where_it_is_wanted_and_leaves_numbers_out_only_where_that_is_defined() -> None:
    sequence = Sequence("s", "One", ("a",))
    with pytest.raises(DomainError, match="no rate"):
        StartTimecode(text="01:00:00:00").apply(Sequence("s", "One"), None)
    assert StartTimecode(text="01:00:00:00").apply(sequence, DAY).timecode == Timecode(86400)
    dropping = StartTimecode(text="00:01:00;02").apply(sequence, Rate.parse("29.97")).timecode
    assert usable_timecode(dropping, Rate.parse("29.97")) == dropping
    assert usable_timecode(dropping, DAY) == Timecode(1800)
