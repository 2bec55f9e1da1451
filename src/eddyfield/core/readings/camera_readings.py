"""All readings of one camera: its framing, its lens, and how it is carried and held."""

from __future__ import annotations

from dataclasses import replace

from ..bake import Baker
from ..cameras.camera import Camera
from ..parts import BakerOf, Part
from .judged_scenes import for_camera
from .judges import all_judges
from .reading import Reading


def camera_readings(baker: Baker, camera: Camera) -> list[Reading]:
    """All that judges cameras, and the characters in them; parts that need perspective are left out of a parallel view."""
    return baker.value(camera_readings_part(baker, camera))


def camera_readings_part(baker: Baker, camera: Camera) -> Part[list[Reading]]:
    judged = for_camera(baker.scene, replace(camera, tint=0, pattern=0, views=()))
    return Part("camera readings", _all, (BakerOf(judged, baker.production), camera.id))


def _all(baker: Baker, camera_id: str) -> list[Reading]:
    camera, judges = baker.scene.camera(camera_id), all_judges()
    parallel = camera.glass.orthographic_height_m is not None
    out = [
        reading for judge in (judges.of_parallel if parallel else judges.of_camera) for reading in judge(baker, camera)
    ]
    for character in () if parallel else baker.scene.characters:
        found = [reading for judge in judges.of_character for reading in judge(baker, camera, character)]
        out += [replace(reading, character_id=character.id) for reading in found]
    return [replace(reading, camera_id=camera.id) for reading in out]
