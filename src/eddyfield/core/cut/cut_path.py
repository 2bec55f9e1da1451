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
    """Which camera of a cut is seen on each frame, by its place in ``camera_ids``: ``camera`` (frames,); where a blended move is
    under way it goes ``from_camera`` to ``to_camera``, by ``share`` 0..1, on ``rows``, (n,) each."""

    camera: Ints
    rows: Ints
    from_camera: Ints
    to_camera: Ints
    share: Floats

    @cached_property
    def every(self) -> Ints:
        return np.arange(len(self.camera))

    def mixed(self, numbers: Sequence[ArrayLike], logarithmic: bool = False) -> Floats:
        """One number per camera and frame along the cut, (frames,): between two where one moves from one to the other."""
        whole = [np.broadcast_to(np.asarray(n, dtype=np.float64), self.every.shape) for n in numbers]
        out = chosen(whole, self.camera, self.every)
        start, end = (chosen(whole, which, self.rows) for which in (self.from_camera, self.to_camera))
        if logarithmic:
            out[self.rows] = start ** (1 - self.share) * end**self.share
        else:
            out[self.rows] = start + (end - start) * self.share
        return out


def chosen(arrays: Sequence[Floats], which: Ints, rows: Ints) -> Floats:
    """Of each row the array that is meant there, (n, ...); whatever their number, none is copied as a whole."""
    out = np.empty((len(rows), *arrays[0].shape[1:]))
    for index in np.unique(which).tolist():
        there = which == index
        out[there] = arrays[index][rows[there]]
    return out


def passage(cut: Cut, frames: FrameRange) -> Passage:
    """How the cut goes from camera to camera."""
    places = {camera_id: place for place, camera_id in enumerate(cut.camera_ids)}
    of_entry = np.array([places[entry.camera_id] for entry in cut.entries], dtype=np.int64)
    blends = [mix for mix in mixes_of(cut, frames) if mix.transition.kind == "blend"]
    rows = [np.arange(mix.first, mix.last + 1) - frames.first for mix in blends]
    to_entry = [np.full(len(r), mix.entry) for r, mix in zip(rows, blends, strict=True)]
    none = [np.zeros(0, dtype=np.int64)]
    to = np.concatenate(none + to_entry)
    share = np.concatenate([np.zeros(0), *(np.array(mix.shares) for mix in blends)])
    seen = of_entry[cut.entry_rows(frames)[0]]
    return Passage(seen, np.concatenate(none + rows), of_entry[np.maximum(to - 1, 0)], of_entry[to], share)


def cut_path(paths: Sequence[CameraPath], way: Passage) -> CameraPath:
    """The path through ``paths``, one for each camera of the cut, in the order of its ``camera_ids``.

    Different backs are told by focal length alone: the same pixels per slope on the first back. A blended move goes straight
    from place to place, turns the shortest way, and changes focal length by equal ratios.
    """
    world = chosen([p.world_from_camera for p in paths], way.camera, way.every)
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
    worlds = [p.world_from_camera for p in paths]
    start, end = (chosen(worlds, which, way.rows) for which in (way.from_camera, way.to_camera))
    turns = [transforms.quaternion_from_matrix(side[:, :3, :3]) for side in (start, end)]
    turned = transforms.matrix_from_quaternion(transforms.slerp(turns[0], turns[1], way.share))
    place = start[:, :3, 3] + (end[:, :3, 3] - start[:, :3, 3]) * way.share[:, None]
    return transforms.rigid(turned, place)
