"""Time code against the written rule, counted through a whole day."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.errors import DomainError
from eddyfield.core.time.frames import Rate
from eddyfield.core.time.timecode import Timecode, TimecodeCount, timecode_from_text


@pytest.mark.parametrize(("numbers", "dropped"), [(30, 2), (60, 4), (24, 0), (25, 0)])
def test_a_day_is_numbered_by_the_written_rule(numbers: int, dropped: int) -> None:
    """“Frame numbers 00 and 01 (00 to 03) are omitted from the first second of each minute, except of every tenth minute”: all
    numbers of a day are written down, the omitted ones struck out, and the rest counted."""
    second, frame = np.divmod(np.arange(24 * 3600 * numbers), numbers)
    minute = second // 60
    omitted = (second % 60 == 0) & (minute % 10 != 0) & (frame < dropped)
    written = np.stack([second // 3600, minute % 60, second % 60, frame], axis=-1)[~omitted]
    count = TimecodeCount(numbers, dropped)
    assert count.a_day == len(written)
    np.testing.assert_array_equal(count.parts(np.arange(len(written))), written)
    np.testing.assert_array_equal(count.parts(np.array([len(written), -1])), written[[0, -1]])


def test_drop_frame_keeps_up_with_the_clock() -> None:
    rate, count = Rate.parse("29.97"), TimecodeCount(30, 2)
    hours = np.arange(1, 24)
    behind_s = np.array([count.of(int(h), 0, 0, 0) / float(rate) - 3600 * h for h in hours])
    assert np.abs(behind_s).max() < 0.09, "86 ms a day, as the rule has it"


@given(st.sampled_from([(24, 0), (30, 2), (60, 4), (120, 0)]), st.integers(0, 5_000_000))
def test_what_is_written_is_read_as_it_was(kind: tuple[int, int], frame: int) -> None:
    count = TimecodeCount(*kind)
    rate = Rate.parse({2: "29.97", 4: "59.94"}.get(count.dropped, str(count.numbers)))
    assert timecode_from_text(count.text(frame), rate) == Timecode(frame % count.a_day, count.dropped > 0)


@pytest.mark.parametrize(
    ("text", "rate", "why"),
    [
        ("01:00:00", "24", "cannot be read"),
        ("24:00:00:00", "24", "no such"),
        ("00:61:00:00", "24", "no such"),
        ("00:00:00:24", "24", "no such"),
        ("00:01:00;01", "29.97", "leaves out"),
        ("00:00:00;00", "24", "no drop-frame"),
        ("00:00:00;00", "30", "no drop-frame"),
    ],
)
def test_time_code_that_there_is_not_is_refused(text: str, rate: str, why: str) -> None:
    with pytest.raises(DomainError, match=why):
        timecode_from_text(text, Rate.parse(rate))
