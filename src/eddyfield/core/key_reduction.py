"""As few keys as keep a motion within a given error."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from .channels import Channel, Key, KeyShape
from .time import FrameTime
from .transforms import Floats


def keys_on_every_frame(frames: Floats, values: Mapping[str, Floats]) -> dict[str, Channel]:
    """Channels with a linear key on every frame."""
    return {name: _channel(frames, v, np.arange(len(frames)), "linear") for name, v in values.items()}


def fewest_keys(
    frames: Floats,
    values: Mapping[str, Floats],
    error: Callable[[Mapping[str, Floats]], Floats],
    tolerance: float,
) -> dict[str, Channel]:
    """Channels with smooth keys on as few shared frames as a greedy search finds.

    ``error`` gives, for approximate values (frames,) each, the error on every frame. Starting from both ends, each
    stretch between keys that is out of tolerance gets a key where it is worst, until none is; in the end every frame may
    have one.
    """
    rows = np.array(sorted({0, len(frames) - 1}))
    while True:
        channels = {name: _channel(frames, v, rows, "smooth") for name, v in values.items()}
        off = np.asarray(error({name: channel.at(frames) for name, channel in channels.items()}))
        off = np.where(np.isnan(off), np.inf, off)
        off[rows] = 0.0
        worst = [int(a + 1 + np.argmax(off[a + 1 : b])) for a, b in pairwise(rows) if b > a + 1]
        added = [row for row in worst if off[row] > tolerance]
        if not added:
            return channels
        rows = np.union1d(rows, added)


def _channel(frames: Floats, values: Floats, rows: NDArray[np.int64], shape: KeyShape) -> Channel:
    keys = tuple(Key(FrameTime(int(frames[r])), float(values[r]), shape) for r in rows)
    return Channel(float(values[0]), keys)
