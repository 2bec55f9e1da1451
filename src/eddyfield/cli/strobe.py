"""``strobe FILE``: how much a stepped performance strobes under a camera, and what riding does about it."""

from __future__ import annotations

import argparse
import json
import math
import sys
from dataclasses import asdict

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.errors import DomainError
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.performance.carried import Carried, carried_whole
from eddyfield.core.performance.contacts import find_contacts, slide_m
from eddyfield.core.performance.exposure import exposure_starts
from eddyfield.core.performance.planting import planted
from eddyfield.core.performance.ride import Ride, ride_transforms
from eddyfield.core.readings.strobing import Strobing, strobing

from .arguments import OneLineParser, add_file_options, add_stepping_options, checked, finite, stepping_of
from .shot import Shot, joints_named, open_shot

Rows = NDArray[np.int64]


def parser() -> OneLineParser:
    out = OneLineParser(prog="eddyfield strobe", description="Slip and reversals of a stepped performance.")
    add_file_options(out)
    stepping = add_stepping_options(out, always_stepped=True)
    stepping.add_argument(
        "--threshold", metavar="PERMILLE", type=checked(finite), default=1.0, help="of the height (1)"
    )
    out.add_argument("--json", action="store_true", help="print JSON instead of a table")
    return out


def run(words: list[str]) -> None:
    options = parser().parse(words)
    shot = open_shot(options)
    for note in shot.rig.notes:
        print(f"note: {note}", file=sys.stderr)
    result = measure(shot, options)
    if options.json:
        print(json.dumps(result, allow_nan=False))
    else:
        print(as_table(result))


def measure(shot: Shot, options: argparse.Namespace) -> dict[str, object]:
    """The reading as an object: arrays over frames and figures."""
    frames = shot.frames.frames()
    first = shot.frames.first
    camera = shot.camera(frames)
    starts = exposure_starts(stepping_of(options), shot.frames)
    rows = starts - first
    seconds = shot.seconds(frames)
    carried = _carried(shot, options, camera, rows, seconds)
    points = shot.rig.world_positions(seconds, shot.joints)
    half_second = round(float(options.fps) / 2)
    shown = carried.shown(points, rows, shot.joints)
    reading = strobing(camera, shown, starts, first, options.threshold, (0,), half_second)
    result: dict[str, object] = {
        "frames": frames.tolist(),
        "exposure_start": starts.tolist(),
        "slip_px": _numbers(reading.slip_px),
        "slip_permille": _numbers(reading.slip_permille),
        **_figures(reading),
    }
    if options.contacts:
        nodes = joints_named(shot.rig, options.contacts)
        feet = shot.rig.world_positions(seconds, nodes)
        found = find_contacts(feet, options.fps, size=shot.rig.size)
        result["contact_slide_m"] = {
            "before": slide_m(found, feet[rows], rows),
            "after": slide_m(found, carried.shown(feet, rows, nodes), rows),
        }
    if not carried.is_whole:
        result["legs"] = {"stretch": float(carried.stretch.max()), "missed_m": float(carried.missed_m.max())}
    return result


def _carried(shot: Shot, options: argparse.Namespace, camera: CameraPath, rows: Rows, seconds: Floats) -> Carried:
    if options.ride == "off":
        return carried_whole(np.broadcast_to(np.eye(4), (camera.count, 4, 4)))
    anchor = shot.rig.find(options.anchor) if options.anchor is not None else shot.rig.default_anchor()
    places = shot.rig.world_positions(seconds, np.array([anchor], dtype=np.int64))[:, 0]
    whole = ride_transforms(Ride(options.ride), camera, places[rows], rows)
    if not options.plant:
        return carried_whole(whole)
    if not options.contacts:
        raise DomainError("No feet are named that could stay where they stand.", "Name them: --contacts JOINTS.")
    return planted(shot.rig, tuple(options.contacts), shot.rig.world_matrices(seconds), rows, whole, options.fps)


def _figures(reading: Strobing) -> dict[str, object]:
    return {
        "slip_rms_px": _number(reading.rms_px),
        "slip_max_px": _number(reading.max_px),
        "slip_max_frame": reading.max_frame,
        "reversals": list(reading.reversals),
        "stretches": [asdict(stretch) for stretch in reading.stretches],
    }


def _number(value: float) -> float | None:
    return None if math.isnan(value) else value


def _numbers(values: Floats) -> list[float | None]:
    return [_number(v) for v in values.tolist()]


def as_table(result: dict[str, object]) -> str:
    """The reading for people: a row a frame, then the figures."""
    lines = ["frame   pose of   slip px   slip per mille"]
    columns = (result["frames"], result["exposure_start"], result["slip_px"], result["slip_permille"])
    for frame, start, px, permille in zip(*columns, strict=True):  # type: ignore[call-overload]
        shown = "         .                .  " if frame == start else f"{_short(px)}{_short(permille, 17)}"
        lines.append(f"{frame:>5}   {start:>7}{shown}")
    reversals = result["reversals"]
    assert isinstance(reversals, list)
    lines.append("")
    lines.append(f"slip rms    {_short(result['slip_rms_px'])} px over held frames")
    lines.append(f"slip max    {_short(result['slip_max_px'])} px at frame {result['slip_max_frame'] or 'none'}")
    lines.append(f"reversals   {len(reversals):>10}" + (f" at {', '.join(map(str, reversals))}" if reversals else ""))
    stretches = result["stretches"]
    assert isinstance(stretches, list)
    for stretch in stretches:
        lines.append(
            f"strobes     {stretch['first']}-{stretch['last']}: {stretch['rms_px']:.3f} px rms, at most"
            f" {stretch['max_px']:.3f} px, {stretch['reversals']} of {stretch['pose_changes']} pose changes jump back"
        )
    slide = result.get("contact_slide_m")
    if isinstance(slide, dict):
        lines.append(
            f"feet slide  {1000 * slide['before']:>10.1f} mm with Ride off, {1000 * slide['after']:.1f} mm as shown"
        )
    return "\n".join(lines)


def _short(value: object, width: int = 10) -> str:
    return f"{value:>{width}.3f}" if isinstance(value, float) else "unseen".rjust(width)
