"""Small records: what was written comes back, older ones are brought forward, and nothing is dropped."""

from __future__ import annotations

from dataclasses import dataclass

import orjson
import pytest
from pydantic import ValidationError

from eddyfield.core.cameras.framing import Framing, SizeHold
from eddyfield.core.cameras.mounts import Carried, Free, Orbit, Rail, Trailing
from eddyfield.core.cameras.subjects import Subject
from eddyfield.store.records import FRAMING, MOUNT, Record, read_if_any

HEAD = Subject("joint", "a", "head", (0.0, 0.1, 0.0), "joint", radius_m=0.2)


@pytest.mark.parametrize(
    "mount",
    [
        Free(),
        Rail(points=((0.0, 1.0, 2.0), (1 / 3, 1e-9, 2.0), (3.0, 1.0, -2.0)), closed=True),
        Orbit(pivot=HEAD),
        Trailing(subject=HEAD, half_life_s=0.25, through=(1.0, 0.25, 1.0, 1.0, 1.0, 0.0)),
    ],
)
def test_a_mount_comes_back_with_its_version_beside_it(mount: object) -> None:
    text = MOUNT.write(mount)  # type: ignore[arg-type]
    assert text is not None
    assert orjson.loads(text)["version"] == 2
    assert MOUNT.read(text) == mount


def test_what_was_written_before_there_were_versions_is_read() -> None:
    assert MOUNT.read('{"kind":"free"}') == Free()
    framing = Framing((HEAD,), 0.4, 0.3, size=SizeHold("zoom", 0.2))
    written = orjson.loads(FRAMING.write(framing) or "")
    del written["version"]
    assert FRAMING.read(orjson.dumps(written).decode()) == framing


def test_rectangles_and_wholes_of_the_first_version_are_read() -> None:
    framing = FRAMING.read('{"version":1,"subjects":[{"kind":"point"}],"zone_x":0.4,"zone_y":0.2}')
    assert framing.slack == ((-0.2, -0.1), (0.2, -0.1), (0.2, 0.1), (-0.2, 0.1))
    assert FRAMING.read('{"version":1,"subjects":[{"kind":"point"}],"zone_x":0.0,"zone_y":0.0}').slack == ()
    carried = MOUNT.read(
        '{"version":1,"kind":"carried","subject":{"kind":"point"},"through":[true,false,true,true,true,false]}'
    )
    assert carried == Carried(Subject(), (1.0, 0.0, 1.0, 1.0, 1.0, 0.0))


def test_there_may_be_none() -> None:
    assert FRAMING.write(None) is None
    assert read_if_any(FRAMING, None) is None


@pytest.mark.parametrize(
    "text", ['{"kind":"free","sway":1}', '{"version":1,"kind":"free","sway":1}', '{"kind":"lift"}']
)
def test_an_unknown_field_or_kind_is_an_error_and_never_dropped(text: str) -> None:
    with pytest.raises(ValidationError):
        MOUNT.read(text)


@dataclass(frozen=True)
class Bow:
    """A record in its third form: at first it had a length in centimetres, then no tension."""

    length_m: float
    tension: float


BOW: Record[Bow] = Record(
    Bow,
    (lambda fields: {"length_m": fields["length_cm"] / 100}, lambda fields: {**fields, "tension": 1.0}),
)


@pytest.mark.parametrize(
    "text", ['{"length_cm":150}', '{"version":2,"length_m":1.5}', '{"version":3,"length_m":1.5,"tension":1.0}']
)
def test_older_records_are_brought_forward_step_by_step(text: str) -> None:
    assert BOW.version == 3
    assert BOW.read(text) == Bow(1.5, 1.0)


def test_a_record_of_a_later_version_is_not_guessed_at() -> None:
    with pytest.raises(ValueError, match="brought up to date"):
        BOW.read('{"version":4,"length_m":1.5,"tension":1.0}')
