"""What the core projects, written down for the browser's own projection to be tested against.

``python -m tests.core.test_browser_projection`` writes it anew.
"""

from __future__ import annotations

from dataclasses import asdict, replace
from itertools import product
from pathlib import Path
from typing import Any

import numpy as np
import orjson

from eddyfield.core.cameras.camera import Camera, CameraPose, FilmBack, Glass
from eddyfield.core.optics.camera_path import still_camera
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.rig import transforms

FILE = Path(__file__).resolve().parent / "projected_by_the_core.json"
FRAMES = (DeliveryFrame(1920, 1080), DeliveryFrame(1080, 1920), DeliveryFrame(1440, 1080, 1.3333))
BACKS = (
    FilmBack(),
    FilmBack(24.89, 18.66, "reach"),
    FilmBack(21.95, 18.6, "width", 2.0),
    FilmBack(12.52, 7.41, "height"),
)
GLASSES = (Glass(), Glass(shift_x=0.12, shift_y=-0.2), Glass(near_m=3.0), Glass(shift_y=0.1, orthographic_height_m=3.5))


def cases() -> list[dict[str, Any]]:
    """Cameras of every kind, each with points in the world and where they land: px of the delivery frame, None unseen."""
    random = np.random.default_rng(7)
    out = []
    for frame, back, glass in product(FRAMES, BACKS, GLASSES):
        low, high = (-5, -5, -5, -180, -60, -40, 14), (5, 5, 5, 180, 60, 40, 200)
        pose = CameraPose(*random.uniform(low, high).round(3).tolist())
        local = random.uniform((-1, -1, -8), (1, 1, 1), (4, 3))
        rotation = transforms.rotation_from_angles(pose.pan, pose.tilt, pose.roll)
        world = transforms.rigid(rotation, np.array([pose.x, pose.y, pose.z]))
        points = transforms.apply(world, local).round(4)
        lens = replace(Camera("", "", back=back, glass=glass).lens(), focal_mm=pose.focal_mm)
        found = still_camera(world, lens, frame, 1).project(points[None])
        pixels = [
            [round(float(x), 5), round(float(y), 5)] if seen else None
            for (x, y), seen in zip(found.pixels[0], found.in_front[0], strict=True)
        ]
        size = {"width": frame.width, "height": frame.height, "pixel_aspect": frame.pixel_aspect}
        out.append(
            {
                "scene": size, "back": asdict(back), "glass": asdict(glass), "pose": asdict(pose),
                "points": points.tolist(), "pixels": pixels,
            }
        )  # fmt: skip
    return out


def written() -> bytes:
    return b"[\n" + b",\n".join(orjson.dumps(case) for case in cases()) + b"\n]\n"


def test_what_the_browser_is_tested_against_is_what_the_core_projects() -> None:
    assert orjson.loads(FILE.read_bytes()) == orjson.loads(written())
    seen = [p is not None for case in cases() for p in case["pixels"]]
    assert 0.3 < np.mean(seen) < 0.95, "some are in front and some are not"


if __name__ == "__main__":
    FILE.write_bytes(written())
