"""Dolly zoom: a subject keeps its size (or takes another) while the camera moves and the lens makes up for it."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..arrays import Floats
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..rig import transforms
from ..time.ease import Ease, share_between
from .subjects import Group

CLOSE, MOST_STEPS, LEAST_SLOPE = 1e-10, 60, 0.02


def subject_depths(path: CameraPath, places: Floats) -> Floats:
    """Axial depths in metres of world places (frames, 3), (frames,)."""
    return np.asarray(-transforms.apply(transforms.rigid_inverse(path.world_from_camera), places)[:, 2])


def apparent_sizes_px(path: CameraPath, group: Group) -> Floats:
    """Height in px that a group takes, ``2 r f H / (h Z)``, (frames,); NaN where it is not in front."""
    depth = subject_depths(path, group.place)
    per_metre = path.lens.pixels_per_metre(np.where(depth > 0, depth, np.nan), path.delivery)[1]
    return np.asarray(2 * group.radius_m * per_metre)


def wanted_sizes(frames: Floats, first: float, last: float, size_from: float, size_to: float, ease: Ease) -> Floats:
    """Sizes that run from one to the other with an ease, in even ratios: as the eye sees growth."""
    return np.asarray(size_from * (size_to / size_from) ** share_between(frames, first, last, ease))


def solve_ratios(sizes_px: Callable[[Floats], Floats], wanted_px: Floats, rising: bool) -> Floats:
    """Ratios (frames,) of focal length or distance for which the final camera shows the wanted sizes, to 1e-9 of them.

    ``sizes_px`` gives the sizes (frames,) that the camera shows, aim and framing lock included, for ratios; they rise with
    the focal length and fall with the distance, nearly in proportion: secants in the logarithms. Raises ``DomainError``
    with the frames on which none is found.
    """
    sign = 1.0 if rising else -1.0
    ratio = np.zeros(len(wanted_px))
    error = np.log(wanted_px / sizes_px(np.exp(ratio)))
    slope = np.full(len(wanted_px), sign)
    for _ in range(MOST_STEPS):
        missing = ~(np.abs(error) < CLOSE)
        if not missing.any():
            return np.exp(ratio)
        step = np.where(missing, np.clip(error / slope, -1.5, 1.5), 0.0)
        step = np.nan_to_num(step, nan=0.0)
        ratio = ratio + step
        after = np.log(wanted_px / sizes_px(np.exp(ratio)))
        with np.errstate(divide="ignore", invalid="ignore"):
            found = (error - after) / step
        slope = np.where(np.isfinite(found) & (found * sign > LEAST_SLOPE), found, slope)
        error = after
    at = np.flatnonzero(missing)
    raise DomainError(
        f"The wanted size cannot be had on {len(at)} frames, the first of them number {int(at[0]) + 1} of the range.",
        "Choose a smaller change, or other frames.",
    )


def solve_places(path: CameraPath, group: Group, sizes_px: Floats) -> Floats:
    """Places (frames, 3) of the camera, moved along its optical axis, that give a zooming lens's subject these sizes.

    Along the axis the subject's place in the frame scales with its size, so at a constant size it stands still.
    """
    slope = path.lens.pixels_per_slope(path.delivery)[1]
    depth = subject_depths(path, group.place)
    forward = -path.world_from_camera[:, :3, 2]
    advance = depth - 2 * group.radius_m * slope / sizes_px
    return np.asarray(path.world_from_camera[:, :3, 3] + forward * advance[:, None])
