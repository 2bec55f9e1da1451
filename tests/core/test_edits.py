"""Edits as data: each kind is found by itself, refuses what is out of bounds, and can be sent elsewhere and written down."""

from __future__ import annotations

import pickle
from fractions import Fraction

import orjson
import pytest
from hypothesis import given
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.cameras.camera import CameraPose
from eddyfield.core.edits.edit import GREATEST_NUMBER, LONGEST_TEXT, check_new_id
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.exposure import Stepping
from eddyfield.web.requests import EditRequest, edit_as_text

from .scenery import SCENE, baker

BANK = SCENE.cameras[0].id


def test_every_kind_is_found_and_named_once() -> None:
    assert len(edits.BY_KIND) == 116
    for kind, made in edits.BY_KIND.items():
        assert made.__dataclass_fields__["edit"].default == kind
        assert made.__doc__, f"“{kind}” says what it does"


@pytest.mark.parametrize(
    ("make", "why"),
    [
        (lambda: edits.RenameScene(name="x" * (LONGEST_TEXT + 1)), "letters"),
        (lambda: edits.SetFrames(first=1, last=GREATEST_NUMBER + 1), "out of bounds"),
        (lambda: edits.SetFrames(first=1, last=10**400), "A number is out of bounds"),
        (lambda: edits.SetCameraValues(camera_id=BANK, values={"focus_m": float("nan")}), "no number"),
        (lambda: edits.DeleteCameraKeys(keys=edits.ChosenKeys(BANK, (Fraction(1, 10**10),))), "out of bounds"),
        (lambda: edits.LayRail(camera_id=BANK, shape="ring", frame=1, side_m=2000.0), "too far"),
        (lambda: edits.LockCamera(camera_id=BANK, locks=("p" * 3000,)), "letters"),  # type: ignore[arg-type]
    ],
)
def test_what_is_out_of_all_bounds_is_refused_before_it_touches_a_scene(make: object, why: str) -> None:
    with pytest.raises(DomainError, match=why):
        make()  # type: ignore[operator]


@pytest.mark.parametrize(
    "new_id", ["", "c" * 36, "12345678-1234-4123-8123-123456789ABC", "{12345678123441238123123456789abc}"]
)
def test_ids_of_what_is_new_are_uuids_in_small_letters(new_id: str) -> None:
    with pytest.raises(DomainError):
        check_new_id(new_id)
    with pytest.raises(DomainError):
        edits.CopyCamera(camera_id=BANK, new_id=new_id).apply(SCENE)


numbers = st.floats(-1000, 1000)


@given(st.builds(CameraPose, *[numbers] * 6, st.floats(1, 500)), st.fractions(-1000, 1000, max_denominator=1001))
def test_an_edit_comes_back_from_the_journal_and_from_another_process(pose: CameraPose, time: Fraction) -> None:
    edit = edits.KeyCamera(camera_id=BANK, time=time, pose=pose)
    assert pickle.loads(pickle.dumps(edit)) == edit
    written = orjson.loads(edit_as_text(edit))
    assert (written.pop("version"), written["time"]) == (1, str(time))
    sent = {"revision": 1, "request_id": "12345678-1234-4123-8123-123456789abc", "edit": written}
    assert EditRequest.model_validate(sent).edit == edit


def test_an_edit_that_changes_nothing_gives_the_same_scene_or_an_equal_one() -> None:
    oda = SCENE.characters[0]
    assert edits.StepCharacter(character_id=oda.id, stepping=oda.stepping).apply(SCENE) == SCENE
    held = edits.StepCharacter(character_id=oda.id, stepping=Stepping(3)).apply(SCENE, baker())
    assert held.character(oda.id).stepping.step == 3
    assert SCENE.character(oda.id).stepping == oda.stepping, "the scene that was given stays as it is"
