"""The cut against a plain loop over frames, and what it refuses."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.cut.cut import Cut, CutEntry
from eddyfield.core.errors import DomainError
from eddyfield.core.time.frames import FrameRange

from .scenery import SCENE

firsts = st.lists(st.integers(-50, 150), min_size=1, max_size=8, unique=True).map(sorted)


@given(firsts, st.lists(st.sampled_from("abc"), min_size=8, max_size=8), st.integers(-60, 60), st.integers(0, 120))
def test_spans_rows_and_cameras_agree_with_a_plain_loop(
    starts: list[int], cameras: list[str], first: int, more: int
) -> None:
    cut, frames = Cut.of(*zip(starts, cameras, strict=False)), FrameRange(first, first + more)
    ruling = []
    for frame in range(frames.first, frames.last + 1):
        index = 0
        for number, start in enumerate(starts):
            if start <= frame:
                index = number
        ruling.append(index)
        assert cut.camera_id_at(frame) == cameras[index]
    rows, begins = cut.entry_rows(frames)
    assert rows.tolist() == ruling
    assert [b == f for b, f in zip(begins, frames.frames(), strict=True)] == [
        row == 0 or ruling[row] != ruling[row - 1] for row in range(len(ruling))
    ]
    spans = cut.spans(frames)
    covered = [span.camera_id for span in spans for _ in range(span.first, span.last + 1)]
    assert covered == [cameras[i] for i in ruling], "every frame once, and none beside"
    assert all(later.first == earlier.last + 1 for earlier, later in pairwise(spans))


def test_a_cut_is_never_empty_nor_out_of_order() -> None:
    with pytest.raises(DomainError, match="no camera"):
        Cut(())
    for wrong in (((5, "a"), (5, "b")), ((9, "a"), (5, "b"))):
        with pytest.raises(DomainError, match="out of order"):
            Cut.of(*wrong)


def test_a_scene_refuses_a_cut_to_a_camera_that_it_has_not() -> None:
    with pytest.raises(DomainError, match="not in the scene"):
        replace(SCENE, cut=Cut((CutEntry(1001, "nobody"),)))


def test_cameras_of_a_cut_come_once_in_their_order() -> None:
    cut = Cut.of((1, "b"), (5, "a"), (9, "b"))
    assert cut.camera_ids == ("b", "a")
    assert cut.with_camera_replaced("b", "c").camera_ids == ("c", "a")
