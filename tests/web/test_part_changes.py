"""Parts as what is different in them: what comes of it is the part itself, and little of it travels."""

from __future__ import annotations

import uuid
from typing import Any

import msgpack
import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from numpy.typing import NDArray

from eddyfield.core.time.channels import Beyond
from eddyfield.demo import mill_race
from eddyfield.web.packing import pack
from eddyfield.web.part_changes import change_of, changed_by
from eddyfield.web.parts import ChannelKeys, ChannelsPart, PlacingPart

from .conftest import DTYPES, Api

numbers = st.lists(st.sampled_from([0.0, 1.5, -2.0, float("nan")]), min_size=60, max_size=90)


def unpacked(model: Any) -> Any:
    return msgpack.unpackb(pack(model), ext_hook=lambda code, data: np.frombuffer(data, DTYPES[code]))


def as_text(value: Any) -> str:
    return repr(
        {k: as_text(v) for k, v in value.items()} if isinstance(value, dict)
        else (value.dtype.str, value.tobytes()) if isinstance(value, np.ndarray) else value
    )  # fmt: skip


def keyed(values: list[float], names: list[str], default: float) -> ChannelsPart:
    row = np.array(values)
    handles: NDArray[np.float64] = np.stack([row, row + 1, row, row], axis=-1)
    return ChannelsPart(keyed={
        name: ChannelKeys(times=[str(v + n) for v in values], beyond=Beyond(), frames=row + n, values=row * default,
                          shapes=np.zeros(len(row), np.uint8), handles=handles)
        for n, name in enumerate(names)
    })  # fmt: skip


@given(numbers, numbers, st.integers(0, 60), st.floats(0, 2))
def test_what_a_change_makes_of_its_base_is_the_part(
    one: list[float], other: list[float], at: int, default: float
) -> None:
    before, after = keyed(one, ["x", "y"], 1.0), keyed([*one[:at], *other, *one[at:]], ["x", "y"], default)
    for a, b in ((before, after), (after, before), (before, before), (before, keyed(one, ["x"], 1.0))):
        change = change_of("it", a, b)
        if change is not None:
            sent = unpacked(change)
            assert (sent["kind"], sent["base"]) == ("change", "it")
            assert as_text(changed_by(unpacked(a), sent)) == as_text(unpacked(b))


def test_most_of_a_part_or_another_kind_of_it_is_sent_whole() -> None:
    part = keyed([float(n) for n in range(100)], ["x"], 1.0)
    assert change_of("it", part, keyed([float(-n - 1) for n in range(100)], ["x"], 2.0)) is None
    assert change_of("it", part, PlacingPart(values=np.zeros(4, np.float32), key_frames=np.zeros(0))) is None


def test_a_key_that_moves_in_a_long_scene_brings_the_frames_around_it_alone(api: Api, demo: str) -> None:
    bank = mill_race.BANK

    def ask(way: str, **body: Any) -> Any:
        return api.post(f"/api/scenes/{demo}/{way}", body)

    def edit(revision: int, takes: bool, **what: Any) -> Any:
        view = {"cameras_of_revision": revision, "judged": False, "takes_changes": takes}
        return ask("edits", revision=revision, request_id=str(uuid.uuid4()), edit=what, view=view)

    revision = api.view(demo)["scene"]["revision"]
    keys = {"x": [{"time": str(1001 + 10 * n), "value": n % 3} for n in range(400)]}
    for what in (
        {"edit": "set play range", "first": 1001, "last": 5000},
        {"edit": "lock camera", "camera_id": bank, "locks": []},
        {"edit": "carry camera", "camera_id": bank, "mount": "free", "frame": 1001},
        {"edit": "paste camera keys", "camera_id": bank, "keys": keys, "at": "1001", "clears": True},
    ):
        answer = api.unpacked(edit(revision, False, **what))
        revision = answer["scene"]["revision"]
    held = api.view(demo, judged=False)["parts"]
    moved = {"edit": "retime camera keys", "keys": {"camera_id": bank, "times": ["3001"]}, "by": "1/3"}
    told, now = api.unpacked(edit(revision, True, **moved)), api.view(demo, judged=False)
    changes = {name: part for name, part in told["parts"].items() if part.get("kind") == "change"}
    assert len(changes) == 3
    for name, change in changes.items():
        assert as_text(changed_by(held[change["base"]], change)) == as_text(now["parts"][name])
    whole = {name: now["parts"][name] for name in changes}
    assert len(pack(changes)) < 0.03 * len(pack(whole))
