"""Sounds, marks, and lines found in a sound."""

from __future__ import annotations

import uuid
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core.cut.cut import Cut, CutEntry
from eddyfield.core.cut.lines import Line, hop_edges, lines_in, loudness_db, marks_of
from eddyfield.core.cut.sound import MARK_KINDS, Mark, Sound, with_marks
from eddyfield.core.edits.sounds import BringSound, MarkFrames, SetSound, TakeOutSound, UnmarkFrame
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.cut_readings import cut_readings
from eddyfield.core.time.frames import Rate
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

ID, RATE = str(uuid.uuid4()), Rate.parse("24")


def tone(*spoken: tuple[float, float], rate: int = 8000, seconds: float = 4.0, level: float = 0.5) -> np.ndarray:
    time = np.arange(int(rate * seconds)) / rate
    on = np.zeros(len(time))
    for first, last in spoken:
        on[(time >= first) & (time < last)] = level
    return on * np.sin(2 * np.pi * 440 * time)


@pytest.mark.parametrize("rate", [8000, 11025, 22050, 44100, 48000])
def test_loudness_is_that_of_the_samples(rate: int) -> None:
    loudness = loudness_db(tone((0.0, 4.0), rate=rate), rate)
    assert len(loudness) == 400
    assert np.allclose(loudness[1:-1], 20 * np.log10(0.5 / np.sqrt(2)), atol=0.25)
    assert (loudness_db(np.zeros(rate), rate) == -120).all()
    edges = hop_edges(rate * 600, rate)
    assert len(edges) == 60_000
    assert abs(edges[-1] / rate - 599.99) < 1 / rate, "nothing drifts over ten minutes"


def test_lines_begin_after_silence_and_short_gaps_belong_to_them() -> None:
    loudness = loudness_db(tone((0.5, 0.9), (1.1, 1.6), (2.5, 3.0), (3.6, 3.63)), 8000)
    assert lines_in(loudness, -40.0, 0.3) == [Line(0.5, 1.6), Line(2.5, 3.0)], "a click is no line"
    assert [line.first_s for line in lines_in(loudness, -40.0, 0.15)] == [0.5, 1.1, 2.5]
    assert lines_in(loudness, -5.0, 0.3) == []
    assert lines_in(np.zeros(0), -40.0, 0.3) == []
    for threshold, silence in ((3.0, 0.3), (-40.0, -1.0), (float("nan"), 0.3), (-40.0, float("inf"))):
        with pytest.raises(DomainError):
            lines_in(loudness, threshold, silence)


def test_lines_are_marked_on_the_frame_during_which_they_begin() -> None:
    sound = Sound(ID, "Oda", "", start=1001, first_s=0.25, last_s=2.75)
    marks = marks_of([Line(0.1, 0.2), Line(0.5, 1.6), Line(2.5, 3.0)], sound, RATE)
    assert [(m.frame, m.kind) for m in marks] == [
        (1007, "line begins"), (1033, "line ends"), (1055, "line begins"), (1061, "line ends"),
    ]  # fmt: skip


@given(st.lists(st.builds(Mark, st.integers(1, 20), st.sampled_from(MARK_KINDS), st.sampled_from("abc")), max_size=20))
def test_marks_are_in_order_and_one_of_a_kind_a_frame(marks: list[Mark]) -> None:
    kept = with_marks((), tuple(marks))
    assert list(kept) == sorted(kept)
    last = {(m.frame, m.kind): m.text for m in marks}
    assert {(m.frame, m.kind): m.text for m in kept} == last
    assert with_marks(kept, kept) == kept


def test_sounds_and_marks_come_change_and_go() -> None:
    brought = BringSound(sound_id=ID, name=" Oda  speaks ", digest="a" * 64, start=1010).apply(SCENE)
    assert brought.sounds == (Sound(ID, "Oda speaks", "a" * 64, 1010),)
    set_to = SetSound(sound_id=ID, name="Oda", start=1012, first_s=0.5, last_s=2.0, gain_db=-6.0, muted=True)
    assert set_to.apply(brought).sounds == (Sound(ID, "Oda", "a" * 64, 1012, 0.5, 2.0, -6.0, True),)
    assert TakeOutSound(sound_id=ID).apply(brought) == SCENE
    marked = MarkFrames(marks=(Mark(1020), Mark(1010, "accent", "now"))).apply(SCENE)
    assert [m.frame for m in marked.marks] == [1010, 1020]
    assert MarkFrames(marks=(Mark(1020),)).apply(marked) is marked
    assert UnmarkFrame(frame=1010, kind="accent").apply(marked).marks == (Mark(1020),)
    for refused in (
        lambda: BringSound(sound_id=ID, name="x", digest="", start=1).apply(brought),
        lambda: SetSound(sound_id=ID, name="x", start=1, first_s=2.0, last_s=1.0).apply(brought),
        lambda: SetSound(sound_id=ID, name="x", start=1, gain_db=90.0).apply(brought),
        lambda: TakeOutSound(sound_id=ID).apply(SCENE),
        lambda: UnmarkFrame(frame=1, kind="action").apply(marked),
        lambda: MarkFrames(marks=(Mark(1, "action", "x" * 300),)).apply(SCENE),
        lambda: Mark(1, "shout"),  # type: ignore[arg-type]
    ):
        with pytest.raises(DomainError):
            refused()


def test_a_cut_after_a_line_began_is_told_and_moved_onto_it() -> None:
    cut = Cut((CutEntry(1001, mill_race.BANK), CutEntry(1049, mill_race.TWO)))
    scene = replace(SCENE, cut=cut, marks=(Mark(1030), Mark(1044, "line begins", "Oda"), Mark(1045, "accent")))
    (told,) = [r for r in cut_readings(baker(scene)) if r.kind == "cut_after_mark"]
    assert (told.first, told.size, told.subject) == (1044, 5, "Oda")
    mended = told.fixes[0].edit.apply(scene, baker(scene))
    assert mended.cut.entries[1].first == 1044
    assert not [r for r in cut_readings(baker(mended)) if r.kind == "cut_after_mark"]
