"""Why a reading is told: the frames that it was worked out from, as a track with the curve that was fitted, or as a series."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..optics.camera_speed import background_px, pan_limit_px
from ..performance.character import Character
from ..performance.contacts import find_contacts, slides
from ..rig.mesh_points import followed_on
from .arc_sources import window_about
from .fault_shapes import FaultShape, column
from .reading import ReadingKind, Unit
from .source_samples import source_samples
from .window import NINE, Window

BESIDE = 3
"""Frames to each side of what was fitted that are shown as well."""
FINE = 8
"""Points of a curve from frame to frame."""
AROUND = 6
"""Frames to each side of a series."""


@dataclass(frozen=True, eq=False)
class WhyArc:
    """A track on the screen around a fault: ``places`` (n, 2) on frames from ``first`` on, in square pixels of the picture, y
    down. The motion that was fitted without the fault is drawn by ``before`` and ``after`` (m, 2): of a displaced frame one
    curve in two halves, of a step on both sides of it. ``wanted`` (2,) is where the frame would lie; ``left_px`` (window,) is
    what the fit with the fault leaves on each of its frames."""

    first: int
    places: Floats
    before: Floats
    after: Floats
    wanted: Floats
    left_px: Floats


@dataclass(frozen=True, eq=False)
class WhySeries:
    """``values`` (n,) on frames from ``first`` on, NaN where there is none, in ``unit``, and the ``limit`` for them."""

    first: int
    values: Floats
    unit: Unit
    limit: float


@dataclass(frozen=True)
class Told:
    """Which reading it is about, as it was told; ``seen_through`` is the camera of its arc, None for the cut."""

    kind: ReadingKind
    first: int
    last: int
    frame: int
    character_id: str | None = None
    camera_id: str | None = None
    joint: str | None = None
    seen_through: str | None = None
    as_seen: ReadingKind | None = None


Why = WhyArc | WhySeries
STEPS: frozenset[str] = frozenset({"hitch", "pop"})
ARCS: frozenset[str] = frozenset({"off_arc", "off_spacing", "hitch", "pop", "corner"})


def why(baker: Baker, told: Told) -> Why | None:
    """What a reading was worked out from; None for kinds of which the frame itself shows it."""
    if told.kind in ARCS or told.kind == "camera_jolts":
        return _of_track(baker, told)
    of = _SERIES.get(told.kind)
    return None if of is None else of(baker, told)


def _of_track(baker: Baker, told: Told) -> WhyArc | None:
    row, scene = told.frame - baker.frames.first, baker.scene
    thing = next((thing for thing in scene.things if thing.id == told.character_id), None)
    if thing is not None and source_samples(baker, thing):
        return None  # it was fitted to samples that are no frames
    camera_id = told.seen_through or (told.camera_id if told.kind == "camera_jolts" else None)
    path = baker.camera_path(scene.camera(camera_id)) if camera_id else baker.cut_path()
    window = window_about(baker, row, scene.camera(camera_id) if camera_id else None)
    if window is None:
        return None
    half = window.half
    first, last = max(0, row - half - BESIDE), min(baker.frames.count - 1, row + half + BESIDE)
    rows = np.arange(first, last + 1)
    places = path.delivery.square(path.at_rows(rows).project(_points(baker, told, path, row)[rows]).pixels)
    if not np.isfinite(places[row - half - first : row + half + 1 - first]).all():
        return None
    shape: FaultShape = "step" if (told.as_seen or told.kind) in STEPS else "displaced"
    return fitted(places, row - first, shape, baker.frames.first + first, window)


def fitted(places: Floats, centre: int, shape: FaultShape, first: int, window: Window = NINE) -> WhyArc:
    """The motion and the fault that explain a window of places around the one with index ``centre`` of (n, 2), by least
    squares."""
    half = window.half
    seen = places[centre - half : centre + half + 1]
    model = np.column_stack([window.motion, column(shape, window.offsets)])
    terms, *_ = np.linalg.lstsq(model, seen, rcond=None)
    left = seen - model @ terms

    def curve(at: Floats, step: float) -> Floats:
        moved = np.polynomial.legendre.legvander(at / half, window.degree) @ terms[:-1]
        return np.asarray(moved + (step * terms[-1] if shape == "step" else 0.0))

    earlier, later = (np.linspace(a, b, half * FINE + 1) for a, b in ((-half, 0), (0, half)))
    wanted = curve(np.zeros(1), 0.5)[0] if shape == "displaced" else curve(np.zeros(1), -0.5)[0]
    return WhyArc(first, places, curve(earlier, -0.5), curve(later, 0.5), wanted, np.linalg.norm(left, axis=1))


def _points(baker: Baker, told: Told, path: CameraPath, row: int) -> Floats:
    """World places (frames, 3) of the joint, or of a point that stands still where the camera is sharp on a row."""
    if told.joint is None or told.character_id is None:
        camera = baker.scene.camera(told.camera_id or baker.scene.cut.camera_id_at(told.frame))
        eye = path.world_from_camera[row]
        still = eye[:3, 3] - eye[:3, 2] * float(baker.camera(camera).focus_m[row])
        return np.broadcast_to(still, (baker.frames.count, 3))
    thing = baker.scene.thing(told.character_id)
    return baker.tracked_places(thing, followed_on(baker.rig(thing), told.joint))


def _character(baker: Baker, told: Told) -> Character:
    if told.character_id is None:
        raise DomainError("The reading is of nobody.", "Choose it anew in the list.")
    return baker.scene.character(told.character_id)


def _camera(baker: Baker, told: Told) -> Camera:
    return baker.scene.camera(told.camera_id or "")


def _around(baker: Baker, told: Told, values: Floats, unit: Unit, limit: float) -> WhySeries:
    first = max(baker.frames.first, told.first - AROUND)
    last = min(baker.frames.last, told.last + AROUND)
    begin = baker.frames.first
    return WhySeries(first, values[first - begin : last + 1 - begin], unit, limit)


def _slip(baker: Baker, told: Told) -> Why:
    character = _character(baker, told)
    found = baker.strobing(character, None if told.kind == "strobes" else character.offered_ride)
    return _around(baker, told, found.slip_px, "px", baker.limits.slip_permille * baker.scene.delivery.height / 1000)


def _slide(baker: Baker, told: Told) -> Why:
    character = _character(baker, told)
    node, size = np.array([baker.rig(character).find(told.joint or "")]), baker.rig(character).size
    points = np.ascontiguousarray(baker.world(character)[:, node][..., :3, 3])
    rows = baker.exposure_starts(character) - baker.frames.first
    contacts = find_contacts(points, baker.rate, size=size)
    values = np.full(baker.frames.count, np.nan)
    for held, away in slides(contacts, baker.shown_points(character, points, node), rows):
        values[held] = away
    return _around(baker, told, values, "m", baker.limits.slide_m * size)


def _height(baker: Baker, told: Told) -> Why:
    character = _character(baker, told)
    node = baker.rig(character).find(told.joint or "")
    return _around(baker, told, np.ascontiguousarray(baker.world(character)[:, node, 1, 3]), "m", np.nan)


def _pan(baker: Baker, told: Told) -> Why:
    camera, path = _camera(baker, told), baker.camera_path(_camera(baker, told))
    focus = np.maximum(baker.camera(camera).focus_m, camera.glass.near_m)
    speed = np.append(np.nan, background_px(path, np.arange(path.count - 1), focus[:-1]))
    return _around(
        baker,
        told,
        speed,
        "px",
        pan_limit_px(path, float(baker.rate), camera.glass.shutter_deg, baker.limits.crossing_seconds),
    )


_SERIES: dict[str, Callable[[Baker, Told], Why]] = {
    "strobes": _slip,
    "lens_moves_in_holds": _slip,
    "feet_slide": _slide,
    "sinks": _height,
    "hovers": _height,
    "pans_too_fast": _pan,
}
