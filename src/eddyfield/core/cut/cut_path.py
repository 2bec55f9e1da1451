"""The camera of the cut on every frame, as one path."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike

from ..arrays import Floats, Ints
from ..optics.camera_path import CameraPath
from ..rig import transforms
from ..time.frames import FrameRange
from .cut import Cut
from .mixes import mixes_of


@dataclass(frozen=True, eq=False)
class Passage:
    """Which entries of a cut rule each frame: ``entry`` (frames,); where a blended move is under way it goes ``from_entry`` to
    ``to_entry``, by ``share`` 0..1, on ``rows``, (n,) each."""

    entry: Ints
    rows: Ints
    from_entry: Ints
    to_entry: Ints
    share: Floats

    @cached_property
    def every(self) -> Ints:
        return np.arange(len(self.entry))

    def mixed(self, numbers: Sequence[ArrayLike], logarithmic: bool = False) -> Floats:
        """One number per entry and frame as it is along the cut, (frames,): between two where one moves from one to the other."""
        stacked = np.stack([np.broadcast_to(np.asarray(n, dtype=np.float64), self.every.shape) for n in numbers])
        out = stacked[self.entry, self.every]
        start, end = stacked[self.from_entry, self.rows], stacked[self.to_entry, self.rows]
        if logarithmic:
            out[self.rows] = start ** (1 - self.share) * end**self.share
        else:
            out[self.rows] = start + (end - start) * self.share
        return out


def passage(cut: Cut, frames: FrameRange) -> Passage:
    """How the cut goes from shot to shot."""
    blends = [mix for mix in mixes_of(cut, frames) if mix.transition.kind == "blend"]
    rows = [np.arange(mix.first, mix.last + 1) - frames.first for mix in blends]
    to_entry = [np.full(len(r), mix.entry) for r, mix in zip(rows, blends, strict=True)]
    none = [np.zeros(0, dtype=np.int64)]
    to = np.concatenate(none + to_entry)
    share = np.concatenate([np.zeros(0), *(np.array(mix.shares) for mix in blends)])
    return Passage(cut.entry_rows(frames)[0], np.concatenate(none + rows), to - 1, to, share)


def cut_path(paths: Sequence[CameraPath], way: Passage) -> CameraPath:
    """The path through ``paths``, one for each entry of the cut.

    Different backs are told by focal length alone: the same pixels per slope on the first back. A blended move goes straight
    from place to place, turns the shortest way, and changes focal length by equal ratios.
    """
    world = np.stack([p.world_from_camera for p in paths])[way.entry, way.every]
    if len(way.rows):
        world[way.rows] = _between(paths, way)
    first, delivery = paths[0].lens, paths[0].delivery
    unit = first.with_focal(1.0).pixels_per_slope(delivery)[1]
    lenses = [p.lens for p in paths]
    heights = [np.nan if lens.orthographic_height_m is None else lens.orthographic_height_m for lens in lenses]
    is_parallel = any(lens.orthographic_height_m is not None for lens in lenses)
    lens = replace(
        first,
        focal_mm=way.mixed([lens.pixels_per_slope(delivery)[1] for lens in lenses], logarithmic=True) / unit,
        shift_x=way.mixed([lens.shift_x for lens in lenses]),
        shift_y=way.mixed([lens.shift_y for lens in lenses]),
        near_m=way.mixed([lens.near_m for lens in lenses]),
        orthographic_height_m=way.mixed(heights, logarithmic=True) if is_parallel else None,
    )
    return replace(paths[0], world_from_camera=world, lens=lens)


def _between(paths: Sequence[CameraPath], way: Passage) -> Floats:
    """Where a blended move stands, (n, 4, 4)."""
    stacked = np.stack([p.world_from_camera for p in paths])
    start, end = stacked[way.from_entry, way.rows], stacked[way.to_entry, way.rows]
    turns = [transforms.quaternion_from_matrix(side[:, :3, :3]) for side in (start, end)]
    turned = transforms.matrix_from_quaternion(transforms.slerp(turns[0], turns[1], way.share))
    place = start[:, :3, 3] + (end[:, :3, 3] - start[:, :3, 3]) * way.share[:, None]
    return transforms.rigid(turned, place)
