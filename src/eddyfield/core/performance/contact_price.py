"""What riding costs on the ground."""

from __future__ import annotations

from dataclasses import dataclass

from ..arrays import Floats, Ints
from ..rig.rig import Rig
from ..time.frames import Rate
from . import contacts
from .shown import shown_points


@dataclass(frozen=True, eq=False)
class ContactPrice:
    """Slide of the feet on the ground in metres, with Ride off and as shown."""

    before_m: float
    after_m: float
    shown_per_row_m: Floats


def contact_price(
    rig: Rig, feet: tuple[str, ...], world: Floats, rows: Ints, carried_by: Floats, rate: Rate
) -> ContactPrice:
    """Of a performance ``world`` (frames, nodes, 4, 4) of which each frame shows the pose of ``rows`` (frames,), carried by
    ``carried_by`` (frames, 4, 4)."""
    nodes = [rig.index_of[name] for name in feet if name in rig.index_of]
    points = world[..., :3, 3][:, nodes]
    found = contacts.find_contacts(points, rate)
    before, after = points[rows], shown_points(points, rows, carried_by)
    return ContactPrice(
        contacts.slide_m(found, before, rows),
        contacts.slide_m(found, after, rows),
        contacts.slide_per_row(found, after, rows),
    )
