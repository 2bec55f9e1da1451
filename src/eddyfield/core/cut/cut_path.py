"""The camera of the cut on every frame, as one path."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import ArrayLike

from ..arrays import Floats, Ints
from ..optics.camera_path import CameraPath


def cut_path(paths: Sequence[CameraPath], entry: Ints) -> CameraPath:
    """The path through ``paths``, one for each entry of the cut, by which entry rules each row, (frames,).

    Different backs are told by focal length alone: the same pixels per slope on the first back.
    """
    rows = np.arange(len(entry))

    def of_cut(numbers: Sequence[ArrayLike]) -> Floats:
        return np.stack([np.broadcast_to(np.asarray(n, dtype=np.float64), rows.shape) for n in numbers])[entry, rows]

    world = np.stack([p.world_from_camera for p in paths])[entry, rows]
    first, delivery = paths[0].lens, paths[0].delivery
    unit = first.with_focal(1.0).pixels_per_slope(delivery)[1]
    lenses = [p.lens for p in paths]
    heights = [np.nan if lens.orthographic_height_m is None else lens.orthographic_height_m for lens in lenses]
    lens = replace(
        first,
        focal_mm=of_cut([lens.pixels_per_slope(delivery)[1] for lens in lenses]) / unit,
        shift_x=of_cut([lens.shift_x for lens in lenses]),
        shift_y=of_cut([lens.shift_y for lens in lenses]),
        near_m=of_cut([lens.near_m for lens in lenses]),
        orthographic_height_m=None if all(lens.orthographic_height_m is None for lens in lenses) else of_cut(heights),
    )
    return replace(paths[0], world_from_camera=world, lens=lens)
