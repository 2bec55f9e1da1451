"""How shots give way to each other: on which frames, how much of each, and the move from one camera to the next."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation, Slerp

from eddyfield.core import edits
from eddyfield.core.cut.blends import blended_moves
from eddyfield.core.cut.cut import Cut, CutEntry
from eddyfield.core.cut.cut_path import passage
from eddyfield.core.cut.mixes import mixes_of
from eddyfield.core.cut.shots import shots_of
from eddyfield.core.cut.transition import TRANSITION_KINDS, Transition
from eddyfield.core.edits.cuts import RollCut, SetTransition
from eddyfield.core.errors import DomainError
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameRange
from eddyfield.demo import mill_race

from .scenery import SCENE, baker

BANK, TWO = mill_race.BANK, mill_race.TWO
FRAMES = FrameRange(1001, 1096)
CUT_FRAME = 1049


def cut_scene(transition: Transition = Transition(), first: int = CUT_FRAME) -> Scene:
    cut = Cut((CutEntry(1001, BANK), CutEntry(first, TWO, transition=transition)))
    return replace(SCENE, cut=cut)


transitions = st.builds(
    lambda kind, count, before, ease: (
        Transition() if kind == "cut" else Transition(kind, count, min(before, count), ease)
    ),
    st.sampled_from(TRANSITION_KINDS),
    st.integers(1, 60),
    st.integers(0, 60),
    st.sampled_from(("even", "slow in", "slow out", "slow in and out")),
)
cuts = st.lists(st.tuples(st.integers(990, 1110), transitions), min_size=1, max_size=8, unique_by=lambda e: e[0]).map(
    lambda entries: Cut(
        tuple(
            CutEntry(first, BANK if at % 2 else TWO, transition=transition)
            for at, (first, transition) in enumerate(sorted(entries, key=lambda e: e[0]))
        )
    )
)


@given(cuts)
def test_transitions_neither_overlap_nor_reach_beyond_their_shots(cut: Cut) -> None:
    spans, taken = cut.spans(FRAMES), set[int]()
    of_entry = {span.entry: at for at, span in enumerate(spans)}
    for mix in mixes_of(cut, FRAMES):
        at = of_entry[mix.entry]
        assert spans[at - 1].first <= mix.first <= mix.last <= spans[at].last
        frames = set(range(mix.first, mix.last + 1))
        assert not frames & taken
        taken |= frames
        shares = np.array(mix.shares)
        assert len(shares) == len(frames)
        assert (np.diff(shares) > 0).all()
        assert 0 < shares[0] <= shares[-1] < 1


@given(cuts)
def test_what_a_blended_move_joins_is_compared_as_one(cut: Cut) -> None:
    entry, starts = cut.entry_rows(FRAMES)
    for row, at in enumerate(entry.tolist()):
        while at > 0 and cut.entries[at].transition.kind == "blend":
            at -= 1
        assert starts[row] == (1001 if at == 0 else max(1001, cut.entries[at].first))
    firsts = cut.run_firsts(FRAMES)
    assert firsts[0] == 1001
    assert set(firsts) <= {span.first for span in cut.spans(FRAMES)}


def test_a_dissolve_by_hand() -> None:
    (mix,) = mixes_of(cut_scene(Transition("dissolve", 4, 1)).cut, FRAMES)
    assert (mix.first, mix.last, mix.shares) == (1048, 1051, (0.2, 0.4, 0.6, 0.8))
    shots = shots_of(cut_scene(Transition("dip", 3, 3, "slow out")).cut, FRAMES)
    assert shots[0].mix is None
    assert shots[1].mix is not None
    assert shots[1].mix.shares == (1 / 32, 1 / 8, 9 / 32), "to black, and a cut out of it"
    assert (shots[1].mix.first, shots[1].first) == (1046, 1049)
    (through,) = mixes_of(cut_scene(Transition("dip", 4, 2)).cut, FRAMES)
    assert np.allclose(through.shares, (1 / 6, 1 / 3, 1 / 2, 3 / 4)), "all black on the frame of the cut"


def test_a_blended_move_goes_from_the_one_camera_to_the_other() -> None:
    scene = cut_scene(Transition("blend", 7, 3, "slow in and out"))
    work = baker(scene)
    path, way = work.cut_path(), passage(scene.cut, scene.frames)
    one, other = (work.camera(scene.camera(who)) for who in (BANK, TWO))
    k = np.arange(1, 8) / 8
    shares = 3 * k**2 - 2 * k**3
    for at, share in enumerate(shares):
        row = 1046 - 1001 + at
        ends = [np.asarray(c.path.world_from_camera[row]) for c in (one, other)]
        place = (1 - share) * ends[0][:3, 3] + share * ends[1][:3, 3]
        turn = Slerp([0, 1], Rotation.from_matrix([e[:3, :3] for e in ends]))(share).as_matrix()
        assert np.allclose(path.world_from_camera[row, :3, 3], place, atol=1e-12)
        assert np.allclose(path.world_from_camera[row, :3, :3], turn, atol=1e-12)
        slopes = [
            float(np.broadcast_to(c.path.lens.pixels_per_slope(c.path.delivery)[0], 96)[row]) for c in (one, other)
        ]
        now = path.lens.pixels_per_slope(path.delivery)[0][row]
        assert now == pytest.approx(slopes[0] ** (1 - share) * slopes[1] ** share)
    for row, whole in ((44, one), (52, other)):
        assert np.array_equal(path.world_from_camera[row], whole.path.world_from_camera[row])
    moves = blended_moves(path, [scene.camera(BANK), scene.camera(TWO)], [one, other], way)
    assert moves.rows.tolist() == list(range(45, 52))
    assert np.allclose(moves.focus_m, one.focus_m[45:52] ** (1 - shares) * other.focus_m[45:52] ** shares)
    assert (moves.sharp.near < moves.focus_m).all()


def test_nothing_strobes_by_a_blended_move_that_is_ridden() -> None:
    scene = cut_scene(Transition("blend", 24, 12, "slow in and out"))
    oda = scene.character(mill_race.ODA)
    ridden = edits.RideCharacter(character_id=oda.id, ride=replace(oda.ride, way="rigid", weight=1.0))
    slips = [baker(s).strobing(s.character(oda.id)).slip_px for s in (scene, ridden.apply(scene, baker(scene)))]
    rows = slice(1037 - 1001, 1061 - 1001)
    # The focal length changes as well, which no rigid ride makes up for.
    assert np.nanmax(slips[1][rows]) < 0.6 * np.nanmax(slips[0][rows])


def test_transitions_go_with_their_shot_and_are_refused_where_there_is_nothing_to_come_from() -> None:
    dissolve = Transition("dissolve", 8, 4)
    scene = SetTransition(first=CUT_FRAME, transition=dissolve).apply(cut_scene())
    rolled = RollCut(first=CUT_FRAME, to=1060).apply(scene)
    assert rolled.cut.entries[1] == CutEntry(1060, TWO, transition=dissolve)
    assert SetTransition(first=CUT_FRAME, transition=dissolve).apply(scene) is scene
    with pytest.raises(DomainError, match="none to come from"):
        SetTransition(first=1001, transition=dissolve).apply(scene)
    locked = replace(scene, cut=Cut((CutEntry(1001, BANK, locked=True), scene.cut.entries[1])))
    with pytest.raises(DomainError, match="is locked"):
        SetTransition(first=CUT_FRAME, transition=Transition()).apply(locked)
    two = scene.camera(TWO)
    parallel = scene.with_camera(replace(two, glass=replace(two.glass, orthographic_height_m=3.0)))
    with pytest.raises(DomainError, match="only one of them is a parallel view"):
        SetTransition(first=CUT_FRAME, transition=Transition("blend", 8)).apply(parallel)


@pytest.mark.parametrize(
    ("make", "why"),
    [
        (lambda: Transition("wipe", 3), "not known"),  # type: ignore[arg-type]
        (lambda: Transition("dissolve", 0), "cannot take 0 frames"),
        (lambda: Transition("cut", 3), "cannot take 3 frames"),
        (lambda: Transition("dissolve", 3, 4), "cannot lie before"),
        (lambda: Transition("dip", 3, 0, "even", "black"), "not a colour"),
        (lambda: Transition("dip", 3, 0, "odd"), "ease"),  # type: ignore[arg-type]
    ],
)
def test_what_is_no_transition_is_refused(make: object, why: str) -> None:
    with pytest.raises(DomainError, match=why):
        make()  # type: ignore[operator]
