"""What riding costs on the ground."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Floats, Ints
from ..optics.camera_path import CameraPath
from ..rig.rig import Rig
from ..time.frames import Rate
from . import contacts
from .carried import Carried


@dataclass(frozen=True, eq=False)
class ContactPrice:
    """Slide of the feet on the ground, with Ride off and as shown: in metres, and in pixels as it is seen (NaN where
    every frame shows a pose of its own)."""

    before_m: float
    after_m: float
    before_px: float
    after_px: float
    shown_per_row_m: Floats


def contact_price(
    rig: Rig, feet: tuple[str, ...], world: Floats, rows: Ints, carried_by: Carried, rate: Rate,
    camera: CameraPath | None,
) -> ContactPrice:  # fmt: skip
    """Of a performance ``world`` (frames, nodes, 4, 4) of which each frame shows the pose of ``rows`` (frames,), carried by
    ``carried_by``, as seen through ``camera``; without one, pixels are NaN."""
    nodes = np.array([rig.index_of[name] for name in feet if name in rig.index_of], dtype=np.int64)
    points = world[..., :3, 3][:, nodes]
    found = contacts.find_contacts(points, rate, size=rig.size)
    before, after = points[rows], carried_by.shown(points, rows, nodes)
    return ContactPrice(
        contacts.slide_m(found, before, rows),
        contacts.slide_m(found, after, rows),
        contacts.slide_px(found, before, rows, camera) if camera else np.nan,
        contacts.slide_px(found, after, rows, camera) if camera else np.nan,
        contacts.slide_per_row(found, after, rows),
    )
