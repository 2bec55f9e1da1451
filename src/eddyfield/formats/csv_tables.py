"""CSV out: screen tracks and slip, one row a joint and frame."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.optics.lens import DeliveryFrame, Projected, inside_frame

TRACK_COLUMNS = "frame,joint,x_px,y_px,depth_m,in_front,in_frame,world_x_m,world_y_m,world_z_m"


def cell(text: str) -> str:
    """A text as a CSV cell, quoted where it has to be (RFC 4180)."""
    return '"' + text.replace('"', '""') + '"' if any(c in text for c in ',"\n\r') else text


def track_rows(
    frames: NDArray[np.int64], joints: Sequence[str], world: Floats, seen: Projected, delivery: DeliveryFrame
) -> str:
    """Rows of ``TRACK_COLUMNS`` for points of shape (frames, joints, 3); x and y are empty where not in front."""
    count = len(joints)
    inside = inside_frame(seen, delivery)
    numbers = np.empty((len(frames), count, 9))
    numbers[..., 0] = frames[:, None]
    numbers[..., 1:3] = seen.pixels
    numbers[..., 3] = seen.depth
    numbers[..., 4], numbers[..., 5] = seen.in_front, inside
    numbers[..., 6:] = world
    names = [cell(name).replace("%", "%%") for name in joints]
    all_in_front = "".join(f"%d,{n},%.6f,%.6f,%.9f,%d,%d,%.9f,%.9f,%.9f\n" for n in names)
    out = []
    whole = np.asarray(seen.in_front.all(axis=1), dtype=bool)
    for row, visible in enumerate(whole):
        if visible:
            out.append(all_in_front % tuple(numbers[row].ravel().tolist()))
            continue
        for name, values, front in zip(names, numbers[row].tolist(), seen.in_front[row].tolist(), strict=True):
            if front:
                out.append(f"%d,{name},%.6f,%.6f,%.9f,%d,%d,%.9f,%.9f,%.9f\n" % tuple(values))
            else:
                out.append(f"%d,{name},,,%.9f,%d,%d,%.9f,%.9f,%.9f\n" % (values[0], *values[3:]))
    return "".join(out)


def table(columns: dict[str, Sequence[object] | NDArray[np.generic]]) -> str:
    """A CSV of equally long columns; numbers that are unknown (NaN) are empty."""
    lines = [",".join(columns)]
    for row in zip(*columns.values(), strict=True):
        lines.append(",".join(_number(v) for v in row))
    return "\n".join(lines) + "\n"


def _number(value: object) -> str:
    if isinstance(value, str):
        return cell(value)
    if isinstance(value, (bool, np.bool_)):
        return str(int(value))
    if isinstance(value, (float, np.floating)):
        return "" if np.isnan(value) else f"{value:.6f}"
    return str(value)
