"""Pictures of frames as PNG, drawn without a graphics card: flat triangles, of each pixel the nearest."""

from __future__ import annotations

import io
from collections.abc import Iterator
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from eddyfield.core.arrays import Bools, Floats
from eddyfield.core.bake import Baker
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.rig import transforms
from eddyfield.core.rig.rig import Rig

SKY, MARK = (221, 221, 208), (176, 98, 0)
LIGHT = np.array([-0.4, 0.8, 0.45])
DARKEST = 0.45
RING_PX = 9
MOST_TRIANGLES = 60_000
"""Of one thing: of a finer one every second, or every third and so on is drawn."""
LEAST_AREA_PX = 0.5
"""Of a triangle, in pixels of the delivery frame."""
FINER = 2
"""Times as many pixels are drawn each way as are shown."""


def draw_frame(baker: Baker, frame: int, width: int = 480, mark: tuple[float, float] | None = None) -> bytes:
    """What the cut shows on a frame, as PNG of a width; ``mark`` is ringed, in pixels of the delivery frame."""
    row, delivery = baker.row_of(frame), baker.scene.delivery
    path = baker.cut_path().at_rows(np.array([row]))
    scale = width / (delivery.width * delivery.pixel_aspect)
    size = width, max(1, round(delivery.height * scale))
    canvas = _Canvas(size[0] * FINER, size[1] * FINER)
    to_canvas = np.array([delivery.pixel_aspect * scale, scale]) * FINER
    for triangles, colours in _things(baker, row, frame):
        for corners, depths, shade in _before_camera(path, triangles, colours):
            canvas.fill(corners * to_canvas, depths, shade)
    image = Image.fromarray(canvas.pixels).resize(size, Image.Resampling.BOX)
    if mark is not None:
        x, y = (np.array(mark) * to_canvas / FINER).tolist()
        ring = (x - RING_PX, y - RING_PX, x + RING_PX, y + RING_PX)
        ImageDraw.Draw(image).ellipse(ring, outline=MARK, width=2)
    out = io.BytesIO()
    image.save(out, "PNG", optimize=True)
    return out.getvalue()


class _Canvas:
    """Pixels, each of what is nearest."""

    def __init__(self, width: int, height: int) -> None:
        self.pixels = np.full((height, width, 3), SKY, dtype=np.uint8)
        self._nearness = np.zeros((height, width))
        """One over the depth, which is linear over the picture."""

    def fill(self, corners: Floats, depths: Floats, shade: NDArray[np.uint8]) -> None:
        """A triangle of corners (3, 2) at depths (3,)."""
        height, width = self._nearness.shape
        left, top = np.maximum(np.floor(corners.min(axis=0)), 0).astype(int)
        right, bottom = np.minimum(np.ceil(corners.max(axis=0)), [width, height]).astype(int)
        (x0, y0), (x1, y1), (x2, y2) = corners.tolist()
        area = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)
        if left >= right or top >= bottom or abs(area) < 1e-9:
            return
        x, y = np.arange(left, right) + 0.5, np.arange(top, bottom)[:, None] + 0.5
        of_second = ((x - x0) * (y2 - y0) - (x2 - x0) * (y - y0)) / area
        of_third = ((x1 - x0) * (y - y0) - (x - x0) * (y1 - y0)) / area
        near = 1 / depths
        nearness = near[0] + of_second * (near[1] - near[0]) + of_third * (near[2] - near[0])
        there = self._nearness[top:bottom, left:right]
        shows = (of_second >= 0) & (of_third >= 0) & (of_second + of_third <= 1) & (nearness > there)
        there[shows] = nearness[shows]
        self.pixels[top:bottom, left:right][shows] = shade


def _before_camera(
    path: CameraPath, triangles: Floats, colours: Floats
) -> Iterator[tuple[Floats, Floats, NDArray[np.uint8]]]:
    """Corners (3, 2) in pixels of the delivery frame, depths (3,) and shade of what lies before the near plane."""
    shades = _shaded(triangles, colours)
    seen = path.project(triangles.reshape(1, -1, 3))
    pixels, depths = seen.pixels.reshape(-1, 3, 2), seen.depth.reshape(-1, 3)
    before = seen.in_front.reshape(-1, 3)
    whole = before.all(axis=1)
    for index in np.flatnonzero(whole & _seen(pixels, path)).tolist():
        yield pixels[index], depths[index], shades[index]
    near = float(np.max(path.lens.near_m)) * 1.01
    for index in np.flatnonzero(before.any(axis=1) & ~whole).tolist():
        corners = path.project(_cut_at(near, triangles[index], depths[index])[None])
        for last in range(2, corners.pixels.shape[1]):
            fan = [0, last - 1, last]
            yield corners.pixels[0][fan], corners.depth[0][fan], shades[index]


def _seen(pixels: Floats, path: CameraPath) -> Bools:
    """Which triangles of corners (T, 3, 2) lie in the frame, and are large enough to be seen in it, (T,)."""
    size = [path.delivery.width, path.delivery.height]
    with np.errstate(invalid="ignore"):
        inside = ((pixels.max(axis=1) >= 0) & (pixels.min(axis=1) <= size)).all(axis=1)
        one, other = pixels[:, 1] - pixels[:, 0], pixels[:, 2] - pixels[:, 0]
        area = np.abs(one[:, 0] * other[:, 1] - one[:, 1] * other[:, 0]) / 2
    return np.asarray(inside & (area > LEAST_AREA_PX))


def _cut_at(near_m: float, corners: Floats, depths: Floats) -> Floats:
    """The part of a triangle that lies beyond a depth, (3 or 4, 3)."""
    out = []
    for (one, at), (other, there) in pairwise([*zip(corners, depths, strict=True), (corners[0], depths[0])]):
        if at > near_m:
            out.append(one)
        if (at > near_m) != (there > near_m):
            out.append(one + (other - one) * (near_m - at) / (there - at))
    return np.array(out)


def _things(baker: Baker, row: int, frame: int) -> Iterator[tuple[Floats, Floats]]:
    """World corners (T, 3, 3) and colours (T, 3) of all that the camera of the cut sees on a row."""
    camera_id = baker.scene.cut.camera_id_at(frame)
    for character in baker.scene.characters:
        if character.showing.seen_by(camera_id) and character.showing.there(baker.frames)[row]:
            pose = int(baker.exposure_starts(character)[row]) - baker.frames.first
            rig, at = baker.rig(character), slice(row, row + 1)
            carried_by = baker.carried(character).of_nodes(np.arange(len(rig.names)), at)[0]
            yield from _skinned(rig, carried_by @ baker.world(character)[pose])
    for piece in baker.scene.pieces:
        if piece.showing.seen_by(camera_id) and piece.showing.there(baker.frames)[row]:
            shown, in_file = baker.shown_piece(piece), baker.value(baker.piece_in_file_part(piece))
            carried = shown.carried[row if len(shown.carried) > 1 else 0]
            yield from _skinned(baker.rig(piece), carried @ in_file[shown.rows[row] if len(in_file) > 1 else 0])


def _skinned(rig: Rig, world: Floats) -> Iterator[tuple[Floats, Floats]]:
    if rig.mesh is None or rig.skinning is None:
        return
    mesh = rig.mesh
    triangles = mesh.triangles[:: 1 + len(mesh.triangles) // MOST_TRIANGLES]
    skin = world[rig.skinning.nodes] @ rig.skinning.joint_from_mesh
    blended = np.einsum("vs,vsij->vij", mesh.weights.astype(np.float64), skin[mesh.slots])
    places = transforms.apply(blended, mesh.positions.astype(np.float64))
    yield places[triangles], mesh.colors[triangles].mean(axis=1).astype(np.float64)


def _shaded(triangles: Floats, colours: Floats) -> NDArray[np.uint8]:
    """Colours (T, 3) as they are seen, by which way each triangle faces; both sides alike."""
    normals = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    lengths = np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-12)
    facing = np.abs((normals / lengths) @ (LIGHT / np.linalg.norm(LIGHT)))[:, None]
    seen = np.clip(colours, 0, 1) ** (1 / 2.2) * (DARKEST + (1 - DARKEST) * facing)
    return np.asarray(255 * np.clip(seen, 0, 1), dtype=np.uint8)
