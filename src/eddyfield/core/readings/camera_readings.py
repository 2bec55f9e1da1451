"""All readings of one camera: its framing, its lens, and how it is carried and held."""

from __future__ import annotations

from dataclasses import replace

from ..bake import Baker
from ..cameras.camera import Camera
from ..content import content_key
from .framing_readings import framing_readings
from .lens_readings import focus_readings, plane_readings
from .reading import Reading
from .rigging_readings import chord_readings, lock_readings, wrong_joint_readings


def camera_readings(baker: Baker, camera: Camera) -> list[Reading]:
    """Kept under the names of the camera and of what it sees. A parallel review camera is asked only for its lock."""
    # Names, as readings speak of characters by them: twins from one file are two.
    shown = [(c.id, c.name, baker.shown_key(c)) for c in baker.scene.characters]
    sets = tuple(p.source for p in baker.scene.set_pieces)
    spans = tuple(baker.scene.frames_of_cut(camera))
    name = content_key(
        "camera readings",
        camera.id,
        camera.locked,
        baker.camera_part(camera).key,
        camera.role,
        spans,
        baker.scene.room,
        sets,
        *shown,
    )
    return baker.part(name, lambda: _all(baker, camera))


def _all(baker: Baker, camera: Camera) -> list[Reading]:
    out = lock_readings(baker, camera)
    if camera.glass.orthographic_height_m is None:
        out += wrong_joint_readings(baker, camera) + focus_readings(baker, camera)
        for character in baker.scene.characters:
            of_character = framing_readings(baker, camera, character) + plane_readings(baker, camera, character)
            of_character += chord_readings(baker, camera, character)
            out += [replace(reading, character_id=character.id) for reading in of_character]
    return [replace(reading, camera_id=camera.id) for reading in out]
