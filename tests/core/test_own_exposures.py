"""Parts of a body, and props, that show new poses on frames of their own."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.edits.own_exposures import ChangePieceExposures, StepPart, StepPiece
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.own_exposures import MOST_PARTS, OwnExposures
from eddyfield.core.performance.placing import placing
from eddyfield.core.performance.ride import Ride
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameTime
from eddyfield.core.time.keys import Key

from .scenery import SCENE, baker

ODA = SCENE.characters[0]
POLE = next(piece for piece in SCENE.pieces if piece.kind == "prop")
WORK = baker()
RIG = WORK.rig(ODA)
WORLD = WORK.world(ODA)
SCARF = [RIG.index_of[name] for name in ("scarf_1", "scarf_2")]
ABOVE = int(RIG.parents[SCARF[0]])


def _stepped(step: int, joint: str = "scarf_1", scene: Scene = SCENE) -> Baker:
    edit = StepPart(character_id=ODA.id, joint=joint, stepping=Stepping(step))
    return WORK.of(edit.apply(scene, WORK))


def _shown(work: Baker) -> Floats:
    character = work.scene.character(ODA.id)
    rows = work.exposure_starts(character) - work.frames.first
    return work.carried(character).of_nodes(np.arange(len(RIG.names))) @ work.world(character)[rows]


def _locals(world: Floats, node: int) -> Floats:
    return np.linalg.inv(world[:, RIG.parents[node]]) @ world[:, node]


@pytest.mark.parametrize("ride", [Ride(), Ride("rigid"), Ride("rigid", plants=True)])
@pytest.mark.parametrize("step", [1, 3])
def test_a_part_is_stepped_below_the_body_as_that_is_shown(ride: Ride, step: int) -> None:
    ridden = SCENE.with_character(replace(ODA, ride=ride))
    body, both = _shown(WORK.of(ridden)), _shown(_stepped(step, scene=ridden))
    others = np.setdiff1d(np.arange(len(RIG.names)), SCARF)
    assert np.allclose(both[:, others], body[:, others], atol=1e-12), "the body is as it was"
    rows = step * (np.arange(len(WORLD)) // step)
    for node in SCARF:
        assert np.allclose(_locals(both, node), _locals(WORLD[rows], node), atol=1e-9)
    assert not np.allclose(both[:, SCARF], body[:, SCARF], atol=1e-4)


def test_a_part_of_a_part_keeps_its_own_and_the_body_may_be_on_ones() -> None:
    ones = SCENE.with_character(replace(ODA, stepping=Stepping(1)))
    outer = StepPart(character_id=ODA.id, joint="scarf_1", stepping=Stepping(4)).apply(ones, WORK)
    inner = StepPart(character_id=ODA.id, joint="scarf_2", stepping=Stepping(2)).apply(outer, WORK)
    shown = _shown(WORK.of(inner))
    at = np.arange(len(WORLD))
    assert np.allclose(_locals(shown, SCARF[0]), _locals(WORLD[4 * (at // 4)], SCARF[0]), atol=1e-9)
    assert np.allclose(
        _locals(shown, SCARF[1]),
        np.linalg.inv(WORLD[2 * (at // 2), SCARF[0]]) @ WORLD[2 * (at // 2), SCARF[1]], atol=1e-9,
    )  # fmt: skip
    back = StepPart(character_id=ODA.id, joint="scarf_2", stepping=None).apply(inner, WORK)
    assert back == outer
    assert StepPart(character_id=ODA.id, joint="scarf_2", stepping=None).apply(outer, WORK) is outer


def test_what_is_no_part_is_refused() -> None:
    with pytest.raises(DomainError, match="no joint"):
        _stepped(2, "tail")
    with pytest.raises(DomainError, match="All of Oda hangs"):
        _stepped(2, RIG.names[int(RIG.levels[0][0])])
    too_many = tuple(OwnExposures(f"joint {n}", Stepping(2)) for n in range(MOST_PARTS + 1))
    with pytest.raises(DomainError, match="too many"):
        replace(ODA, parts=too_many)
    with pytest.raises(DomainError, match="twice"):
        replace(ODA, parts=2 * too_many[:1])
    lost = WORK.of(SCENE.with_character(replace(ODA, parts=too_many[:1])))
    assert np.array_equal(_shown(lost), _shown(WORK)), "one that the file lacks is passed over"


def test_a_held_prop_swings_on_ones_in_a_hand_on_twos() -> None:
    after = WORK.of(StepPiece(piece_id=POLE.id, stepping=Stepping(1)).apply(SCENE))
    before, now = (work.shown_piece(work.scene.piece(POLE.id)) for work in (WORK, after))
    assert np.array_equal(now.carried, before.carried), "the hand has it as before"
    assert now.rows.tolist() == list(range(96))
    assert before.rows[:4].tolist() == [0, 0, 2, 2]
    assert StepPiece(piece_id=POLE.id, stepping=None).apply(after.scene) == SCENE


def test_a_prop_that_nobody_holds_moves_on_its_own_exposures() -> None:
    keys = (Key(FrameTime(1001), 0.0, "linear"), Key(FrameTime(1096), 9.5, "linear"))
    loose = replace(POLE, holds=(), placing=placing(x=Channel(0.0, keys)), stepping=Stepping(3))
    shown = WORK.of(SCENE.with_thing(loose)).shown_piece(loose)
    assert shown.rows[:7].tolist() == [0, 0, 0, 3, 3, 3, 6]
    assert shown.carried[:7, 0, 3] == pytest.approx([0, 0, 0, 0.3, 0.3, 0.3, 0.6])


def test_a_prop_gets_an_exposure_list_of_its_own() -> None:
    change = ChangePieceExposures(piece_id=POLE.id, add=(1004,), remove=(1003, 1005))
    after = change.apply(SCENE, WORK)
    pole = after.piece(POLE.id)
    assert pole.stepping is not None
    assert pole.stepping.starts is not None
    assert pole.stepping.starts[:4] == (1001, 1004, 1007, 1009), "as held, but for these"
    assert (WORK.of(after).shown_piece(pole).rows[:7] + 1001).tolist() == [1001, 1001, 1001, 1004, 1004, 1004, 1007]
    assert ChangePieceExposures(piece_id=POLE.id, add=(1004,)).apply(after, WORK.of(after)) is after
    for wrong, said in (({"remove": (1001,)}, "first frame"), ({"add": (5,)}, "not in the scene")):
        with pytest.raises(DomainError, match=said):
            replace(change, **wrong).apply(SCENE, WORK)  # type: ignore[arg-type]
