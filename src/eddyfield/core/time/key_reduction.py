"""As few keys as keep a motion within a given error."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats
from .channels import Channel
from .frames import FrameTime
from .keys import Handle, Key


def keys_on_every_frame(frames: Floats, values: Mapping[str, Floats]) -> dict[str, Channel]:
    """Channels with a linear key on every frame."""
    return {name: _linear(frames, v) for name, v in values.items()}


def fewest_keys(
    frames: Floats,
    values: Mapping[str, Floats],
    error: Callable[[Mapping[str, Floats]], Floats],
    tolerance: float,
) -> dict[str, Channel]:
    """Channels with ``curve`` keys on as few shared frames as a greedy search finds; their handles follow the motion's slope.

    ``error`` gives, for approximate values (frames,) each, the error on every frame. Starting from both ends, each
    stretch between keys that is out of tolerance gets a key where it is worst, until none is; in the end every frame may
    have one.
    """
    rows = np.array(sorted({0, len(frames) - 1}))
    while True:
        channels = {name: _curved(frames, v, rows) for name, v in values.items()}
        off = np.asarray(error({name: channel.at(frames) for name, channel in channels.items()}))
        off = np.where(np.isnan(off), np.inf, off)
        off[rows] = 0.0
        worst = [int(a + 1 + np.argmax(off[a + 1 : b])) for a, b in pairwise(rows) if b > a + 1]
        added = [row for row in worst if off[row] > tolerance]
        if not added:
            return channels
        rows = np.union1d(rows, added)


def _linear(frames: Floats, values: Floats) -> Channel:
    keys = tuple(Key(_time(f), float(v), "linear") for f, v in zip(frames, values, strict=True))
    return Channel(float(values[0]), keys)


def _curved(frames: Floats, values: Floats, rows: NDArray[np.int64]) -> Channel:
    slopes = np.gradient(values, frames) if len(frames) > 1 else np.zeros(1)
    gaps = np.diff(frames[rows]).tolist()
    keys = []
    for index, row in enumerate(rows):
        into = gaps[index - 1] / 3 if index else 0.0
        out = gaps[index] / 3 if index < len(gaps) else 0.0
        slope = float(slopes[row])
        arriving = Handle(into, -slope * into) if into else None
        leaving = Handle(out, slope * out) if out else None
        keys.append(Key(_time(frames[row]), float(values[row]), "curve", arriving, leaving))
    return Channel(float(values[0]), tuple(keys))


def _time(frame: float) -> FrameTime:
    return FrameTime(int(frame))
