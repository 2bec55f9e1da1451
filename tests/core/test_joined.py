"""Readings of a long range that was judged block by block."""

from __future__ import annotations

from eddyfield.core.readings.joined import joined
from eddyfield.core.readings.reading import Reading
from eddyfield.core.time.frames import FrameRange

ONE, TWO, THREE = FrameRange(1, 100), FrameRange(101, 200), FrameRange(201, 300)


def slip(first: int, last: int, size: float = 2.0, joint: str | None = None) -> Reading:
    return Reading("strobes", "Oda", first, last, size, "px", 1.0, joint=joint, frame=first)


def test_what_goes_on_over_an_edge_is_one_by_its_worse_part() -> None:
    found = joined([(ONE, [slip(80, 124)]), (TWO, [slip(77, 224, 5.0)]), (THREE, [slip(177, 210)])])
    assert [(r.first, r.last, r.size) for r in found] == [(77, 224, 5.0)]


def test_what_lies_beside_a_block_is_told_by_the_next_alone() -> None:
    found = joined([(ONE, [slip(30, 40), slip(104, 104)]), (TWO, [slip(96, 97), slip(104, 104)])])
    assert [(r.first, r.last) for r in found] == [(30, 40), (104, 104)]


def test_what_is_about_something_else_stays_apart() -> None:
    found = joined(
        [(ONE, [slip(90, 110, joint="hand")]), (TWO, [slip(90, 110, joint="foot"), slip(120, 130, joint="hand")])]
    )
    assert [(r.joint, r.first) for r in found] == [("hand", 90), ("foot", 90), ("hand", 120)]
