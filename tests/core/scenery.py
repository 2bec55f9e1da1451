"""Cameras and figures made for tests, and the demo scene with its rigs."""

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.lens import DeliveryFrame, Lens
from eddyfield.core.rig import transforms
from eddyfield.core.scene import Scene
from eddyfield.demo import mill_race

DIGESTS = {"a" * 64: "oda", "b" * 64: "quill", "c" * 64: "set", "d" * 64: "pole"}
SCENE = mill_race.scene(*DIGESTS)


def baker(scene: Scene = SCENE, names: dict[str, str] = DIGESTS) -> Baker:
    """A baker of a scene with the demo's rigs, that remembers nothing."""
    return Baker(scene, lambda source: mill_race.demo_rig(names[source.digest]), {})


def wandering_camera(
    count: int, seed: int = 0, focal: float | Floats = 35.0, delivery: DeliveryFrame | None = None
) -> CameraPath:
    """A camera about five metres before the origin that drifts, turns and rolls smoothly."""
    rng = np.random.default_rng(seed)
    t = np.linspace(0, 2 * np.pi, count)
    wave = [a * np.sin(f * t + p) for a, f, p in rng.uniform([0.1, 0.3, 0], [1, 1.5, 6], (6, 3))]
    rotation = transforms.rotation_from_angles(8 * wave[0], 5 * wave[1], 6 * wave[2])
    place = np.stack([wave[3], 1 + 0.4 * wave[4], 5 + 0.8 * wave[5]], axis=-1)
    return CameraPath(transforms.rigid(rotation, place), Lens(focal), delivery or DeliveryFrame())


def moving_points(count: int, points: int, seed: int = 1) -> Floats:
    """Points near the origin that move smoothly, (count, points, 3)."""
    rng = np.random.default_rng(seed)
    t = np.linspace(0, 2 * np.pi, count)[:, None, None]
    base = rng.uniform(-0.6, 0.6, (1, points, 3)) + [0, 1, 0]
    return np.asarray(base + 0.3 * np.sin(rng.uniform(0.5, 2, (1, points, 3)) * t + rng.uniform(0, 6, (1, points, 3))))


def fail(subject: str, error: Exception) -> None:
    """What judges is told to do where a reading cannot be worked out."""
    raise AssertionError(f"{subject} could not be judged") from error
