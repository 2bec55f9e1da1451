"""``read``: everything that can be told of a file through one camera."""

from __future__ import annotations

import json
from typing import Any

import pytest

from eddyfield.cli import read as module
from eddyfield.cli.main import main
from eddyfield.core.readings.published_kinds import PUBLISHED
from eddyfield.core.readings.reading import READING_TITLES
from eddyfield.demo.oda_crossing import KINK_ROW

CAMERA = ["--at", "-4,1.5,1", "--look", "0,1,2", "--focal", "50"]
KEYS = {"kind", "owner", "joint", "first", "last", "frame", "size", "unit", "least", "threshold", "cause"}


def read(words: list[str], capsys: pytest.CaptureFixture[str]) -> list[dict[str, Any]]:
    assert main(["read", *words, "--json"]) == 0
    return json.loads(capsys.readouterr().out)


def test_the_planted_kink_is_told_on_its_frame_of_its_joint(oda: str, capsys: pytest.CaptureFixture[str]) -> None:
    found = read([oda, *CAMERA, "--start", "1001"], capsys)
    assert all(set(reading) >= KEYS for reading in found)
    kinks = [r for r in found if r["kind"] == "off_arc"]
    assert {r["frame"] for r in kinks} == {1001 + KINK_ROW}
    hand = next(r for r in kinks if r["joint"] == "hand_r")
    assert (hand["owner"], hand["cause"], hand["unit"]) == ("oda", "subject", "px")
    assert abs(hand["size"]) > hand["least"] > 1.6
    assert {"feet_lost", "head_lost", "lead_room"} <= {r["kind"] for r in found}
    assert [r["first"] for r in found] == sorted(r["first"] for r in found)
    only = read([oda, *CAMERA, "--joints", "hips"], capsys)
    assert not [r for r in only if r["kind"] == "off_arc"], "only the joints that were asked for"


def test_stepping_strobes_until_it_rides(shot: str, capsys: pytest.CaptureFixture[str]) -> None:
    strobes = next(r for r in read([shot, "--camera", "Shot", "--step", "2"], capsys) if r["kind"] == "strobes")
    assert (strobes["owner"], strobes["joint"], strobes["unit"]) == ("walker", None, "px")
    assert strobes["first"] < strobes["frame"] <= strobes["last"], "the frame on which it slips farthest"
    ridden = read([shot, "--camera", "Shot", "--step", "2", "--ride", "rigid", "--anchor", "hips"], capsys)
    assert not [r for r in ridden if r["kind"] == "strobes"]


@pytest.mark.parametrize("fps", [24, 120])
def test_a_long_range_is_read_block_by_block_and_told_as_one(
    fps: int, oda: str, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    words = [oda, *CAMERA, "--joints", "hand_r", "--step", str(fps // 8), "--fps", str(fps)]
    whole = read(words, capsys)
    monkeypatch.setattr(module, "BLOCK_FRAMES", fps)
    monkeypatch.setattr(module, "BESIDE_S", 1.25)
    parts = read(words, capsys)

    def told(found: list[dict[str, Any]], *kinds: str) -> list[tuple[str, int, int]]:
        return [(r["kind"], r["first"], r["last"]) for r in found if r["kind"] in kinds]

    kinds = ("off_arc", "head_lost", "strobes")
    assert len(told(whole, *kinds)) >= 2
    assert told(parts, *kinds) == told(whole, *kinds)


def test_people_get_a_table(oda: str, shot: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["read", oda, *CAMERA]) == 0
    said = capsys.readouterr().out
    assert "off the arc: oda hand_r (the subject's)" in said
    assert main(["read", shot, "--camera", "Shot"]) == 0
    assert capsys.readouterr().out == "nothing is out of bounds\n"


@pytest.mark.parametrize(
    "words",
    [["--step", "0"], ["--ride", "x"], ["--anchor", "nobody"], ["--contacts", "nobody"], ["--joints", "nobody"]],
)
def test_bad_usage_is_one_line(words: list[str], shot: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["read", shot, "--camera", "Shot", *words]) == 2
    assert capsys.readouterr().err.count("\n") == 1


def test_other_programs_are_told_kinds_of_ours_by_other_names_only_where_they_tell_less_apart() -> None:
    assert set(PUBLISHED) <= set(READING_TITLES)
    assert not {name for name in PUBLISHED.values() if name in READING_TITLES}
