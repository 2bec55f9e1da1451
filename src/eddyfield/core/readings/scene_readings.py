"""Which readings apply to what is looked at, the one that hurts most first."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from ..bake import Baker
from ..cameras.camera import Camera
from ..errors import DomainError
from ..rig.mesh_points import followed_on
from ..scene import Scene, Thing
from ..time.frames import FrameRange
from .accepted import if_accepted
from .all_arcs import body_arc_readings, same_place, worst_at_each_place
from .arc_mends import with_mends
from .arc_readings import arc_readings, unframed_readings
from .camera_readings import camera_readings
from .causes import told_once
from .cut_readings import cut_readings
from .performance_readings import performance_readings
from .reading import Reading

OnFault = Callable[[str, Exception], None]
"""Told of a subject that could not be judged, and why."""


def scene_readings(
    baker: Baker, joint: tuple[Thing, str] | None, through: Camera | None, on_fault: OnFault
) -> list[Reading]:
    """Of the performances, of the arcs of all joints, that of a joint which is looked at in full, and of the camera that is
    looked through, or (None) of those of the cut, where it shows them."""
    scene, frames = baker.scene, baker.scene.frames
    out: list[Reading] = []
    for character in scene.characters:
        found = _judged(character.name, frames, partial(performance_readings, baker, character), on_fault)
        out += [replace(reading, character_id=character.id) for reading in found]
    camera = seen_through(baker, through)
    arcs = [
        reading
        for character in scene.characters
        for reading in _judged(character.name, frames, partial(body_arc_readings, baker, character, camera), on_fault)
    ]
    own = [] if joint is None else [_as_its_body(r, arcs) for r in arc_readings_of(baker, *joint, camera)]
    told = [r for r in own if not r.remark and r.kind != "camera_jolts"]
    out += own
    out += [r for r in arcs if r.kind != "camera_jolts" and not any(same_place(r, other) for other in told)]
    jolts = worst_at_each_place([r for r in (*own, *arcs) if r.kind == "camera_jolts"])
    out = [*(r for r in out if r.kind != "camera_jolts"), *jolts]
    for camera in [through] if through else scene.cameras_of_cut:
        shown = scene.frames_of_cut(camera) if through is None else [(frames.first, frames.last)]
        found = _judged(camera.name, frames, partial(camera_readings, baker, camera), on_fault)
        out += [
            replace(reading, camera_id=camera.id)
            for reading in found
            if any(reading.first <= last and reading.last >= first for first, last in shown)
        ]
    if through is None:
        out += _judged("the cut", frames, partial(cut_readings, baker), on_fault)
        out = [_in_its_shot(reading, scene) for reading in out]
    out = [_mended_here(r if r.accepted else if_accepted(r, scene.accepted), scene) for r in told_once(out)]
    return sorted(out, key=lambda reading: -reading.weight)


def _mended_here(reading: Reading, scene: Scene) -> Reading:
    """What comes with a block is not changed here, but the cameras that go by it are."""
    if not scene.blocks or not reading.fixes:
        return reading
    nested = {thing.id for thing in scene.things if thing.nested}
    own = (
        f for f in reading.fixes if hasattr(f.edit, "camera_id") or getattr(f.edit, "character_id", None) not in nested
    )
    return replace(reading, fixes=tuple(own))


def _as_its_body(reading: Reading, arcs: list[Reading]) -> Reading:
    """A fault goes through many joints: let stand of one, it is of all."""
    met = (r.accepted for r in arcs if r.accepted and same_place(r, reading) and not reading.remark)
    return replace(reading, accepted=next(met, None))


def _in_its_shot(reading: Reading, scene: Scene) -> Reading:
    """With the number of the shot of the cut it is in: the first of its camera, where it is of one; else the only one."""
    met = [
        number
        for number, span in enumerate(scene.cut.spans(scene.frames), 1)
        if span.first <= reading.last and span.last >= reading.first and reading.camera_id in (None, span.camera_id)
    ]
    return replace(reading, shot=met[0] if len(met) == 1 or (met and reading.camera_id) else None)


def seen_through(baker: Baker, through: Camera | None) -> Camera | None:
    """Through the cut (None) where the camera is all of it: then it is the same arc."""
    return None if through is None or baker.scene.is_all_of_cut(through) else through


def arc_readings_of(baker: Baker, thing: Thing, joint: str, camera: Camera | None) -> list[Reading]:
    """Of the arc of a joint, or of a point on the mesh, through a camera, or (None) through the cut."""
    frames, height = baker.scene.frames, baker.scene.delivery.height
    arc = baker.judged_arc(thing, followed_on(baker.rig(thing), joint), camera)

    def camera_at(row: int) -> Camera:
        return camera or baker.scene.camera(baker.scene.cut.camera_id_at(frames.first + row))

    found = arc_readings(joint, arc.judgement, frames, camera_at)
    found += unframed_readings(joint, arc.unframed, frames, height)
    return [with_mends(baker, replace(reading, character_id=thing.id), camera) for reading in found]


def _judged(subject: str, frames: FrameRange, judge: Callable[[], list[Reading]], on_fault: OnFault) -> list[Reading]:
    """Readings, or one that says that they could not be worked out: that stops nothing else."""
    try:
        return judge()
    except Exception as error:
        on_fault(subject, error)
        note = str(error) if isinstance(error, DomainError) else "The log of Eddyfield tells why."
        return [Reading("cannot_be_judged", subject, frames.first, frames.last, 0, "", 0, remark=True, note=note)]
