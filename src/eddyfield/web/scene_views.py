"""A scene and its parts as the browser gets them: what is named, what is new to it, and nothing else."""

from __future__ import annotations

import logging
import math
from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
from pydantic import BaseModel

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.placement import calm_joint
from eddyfield.core.content import content_key
from eddyfield.core.performance.exposure import lost_key_poses
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings, seen_through
from eddyfield.core.readings.strobing import Strobing
from eddyfield.core.readings.unframed import untold
from eddyfield.core.rig.rig import Rig
from eddyfield.core.scene import Character, RigSource, Scene
from eddyfield.core.shots import face_of
from eddyfield.store.scenes import Standing

from . import answers
from .camera_names import CameraNames, NamedCamera, NamedCameras
from .camera_views import camera_part, camera_view, columns, subjects_part
from .requests import View
from .rigs import PartMemory, Rigs


class SceneViews:
    """Makes answers about scenes; baked parts are kept between them."""

    def __init__(self, rigs: Rigs, memory: PartMemory) -> None:
        self._rigs = rigs
        self._memory = memory
        self._names = CameraNames()

    def baker(self, scene: Scene) -> Baker:
        return Baker(scene, self._rigs, self._memory)

    def edit_baker(self, standing: Standing) -> Callable[[Scene], Baker]:
        """Bakers for use within a transaction: the rigs of the scene are read before, so that none has to be then."""
        scene = standing.scene
        sources = {c.source for c in scene.characters} | {p.source for p in scene.set_pieces}
        rigs = {source: self._rigs(source) for source in sources}
        # Whoever makes an edit holds the cameras of the revision that it is made on, whichever process answered that.
        self._names.answer(scene.id, standing.revision, self._names.of(self.baker(scene)))
        return lambda current: Baker(current, rigs.__getitem__, self._memory)

    def bake(self, baker: Baker, view: View) -> None:
        """Work out all that an answer about a scene shows, before it is stored; judging it can wait, and refuses nothing.
        Raises ``DomainError`` for what cannot be shown."""
        self._answer(baker, Standing(baker.scene, 0, None, None), view, self._names.of(baker), judged=False)

    def answer(self, standing: Standing, view: View, stored: bool = True) -> answers.SceneAnswer:
        """The scene with the parts of this view that the browser does not hold. Not ``stored``, an edit in the hand: it
        has no readings."""
        baker = self.baker(standing.scene)
        cameras = self._names.of(baker)
        if stored:
            self._names.answer(standing.scene.id, standing.revision, cameras)
        return self._answer(baker, standing, view, cameras, judged=stored)

    def _answer(
        self, baker: Baker, standing: Standing, view: View, cameras: NamedCameras, judged: bool
    ) -> answers.SceneAnswer:
        scene = standing.scene
        held = set(view.held)
        parts: dict[str, Any] = {}

        def offer(name: str, make: Callable[[], BaseModel]) -> str:
            if name not in held:
                answer = self._memory.get(f"answer {name}")
                if answer is None:
                    answer = self._memory[f"answer {name}"] = make()
                parts[name] = answer
            return name

        for named in self._names.unheld(scene.id, cameras, view.cameras_of_revision, held):
            _offer_camera(baker, named, offer)
        place = scene.camera_places.get(view.camera_id or "")
        through = None if place is None else scene.cameras[place]
        if place is not None:
            for shown, name in cameras.named[place].saved:
                offer(name, partial(camera_part, baker, shown))
        characters = [self._character(baker, c, offer) for c in scene.characters]
        set_pieces = [
            answers.SetPieceView(id=p.id, name=p.name, rig=_offer_rig(baker, p.source, offer)) for p in scene.set_pieces
        ]
        fallbacks: list[str] = []
        arc_name = _arc(baker, view, through, offer, fallbacks) if judged else None
        readings = _readings(baker, view, through) if judged and view.judged else None
        subjects = None
        if through is not None:
            subjects = offer(baker.subjects_key(through), partial(subjects_part, baker, through))
        return answers.SceneAnswer(
            scene=answers.SceneSent(
                id=scene.id, name=scene.name, revision=standing.revision, undo=standing.undo, redo=standing.redo,
                rate=str(scene.rate), rate_float=float(scene.rate), first=scene.frames.first, last=scene.frames.last,
                width=scene.delivery.width, height=scene.delivery.height, pixel_aspect=scene.delivery.pixel_aspect,
                room=scene.room,
                cameras=list(cameras.views), characters=characters, set_pieces=set_pieces,
                cut=list(scene.cut.spans(scene.frames)),
                arc=arc_name, subjects=subjects, readings=readings, fallbacks=fallbacks,
            ),
            parts=parts,
        )  # fmt: skip

    def _character(self, baker: Baker, character: Character, offer: Callable[..., str]) -> answers.CharacterView:
        rig, face = baker.rig_of(character.source), face_of(baker, character)
        return answers.CharacterView(
            id=character.id, name=character.name, step=character.stepping.step, offset=character.stepping.offset,
            keep_key_poses=character.stepping.keep_key_poses, ride_way=character.ride.way,
            ride_weight=character.ride.weight, ride_anchor=character.ride.anchor,
            anchor=rig.names[baker.anchor_node(character)],
            feet=[rig.joint_names.index(name) for name in character.feet if name in rig.joint_names],
            face_joint=face.joint, face_centre=[float(v) for v in face.centre], face_height_m=face.height_m,
            calm_joint=calm_joint(rig),
            front=[float(v) for v in baker.front(character)], front_deg=character.front_deg,
            rig=_offer_rig(baker, character.source, offer),
            motion=offer(baker.motion_part(character).key, lambda: _motion_part(baker, character, rig)),
            shown=offer(baker.shown_key(character), lambda: _shown_part(baker, character)),
            strobing=offer(baker.strobing_key(character), lambda: _strobing_part(baker, character)),
        )  # fmt: skip


def _chosen(baker: Baker, view: View) -> tuple[Character, int] | None:
    """The character and the node whose arc is looked at."""
    chosen = next((c for c in baker.scene.characters if c.id == view.character_id), None)
    if chosen is None or view.joint is None:
        return None
    node = baker.rig_of(chosen.source).index_of.get(view.joint)
    return None if node is None else (chosen, node)


def _arc(
    baker: Baker, view: View, through: Camera | None, offer: Callable[..., str], fallbacks: list[str]
) -> str | None:
    """The arc that is looked at, by the name of its part; what of it is not there is told."""
    scene, frames = baker.scene, baker.scene.frames
    character = next((c for c in scene.characters if c.id == view.character_id), None)
    if view.character_id is not None and character is None:
        fallbacks.append("The character that was looked at is not in the scene any more.")
    found = _chosen(baker, view)
    if found is None:
        if character is not None and view.joint is not None:
            fallbacks.append(f"{character.name} has no joint “{view.joint[:80]}”, so no arc is shown.")
        return None
    chosen, node = found
    frozen = None if view.frozen_frame is None else view.frozen_frame - frames.first
    if frozen is not None and not 0 <= frozen < frames.count:
        frozen = None
        fallbacks.append(f"Frame {view.frozen_frame} is not in the scene, so the arc is not frozen on it.")
    camera, joint = seen_through(baker, through), view.joint or ""
    return offer(
        baker.arc_part(chosen, node, camera, frozen).key, lambda: _arc_part(baker, chosen, node, camera, frozen, joint)
    )


def _readings(baker: Baker, view: View, through: Camera | None) -> list[answers.ReadingView]:
    chosen = _chosen(baker, view)
    joint = (chosen[0], view.joint) if chosen and view.joint else None
    return [_reading_view(reading) for reading in scene_readings(baker, joint, through, _write_down)]


def _write_down(subject: str, error: Exception) -> None:
    logging.getLogger("eddyfield").error("readings of %s", subject, exc_info=error)


def _offer_rig(baker: Baker, source: RigSource, offer: Callable[..., str]) -> str:
    return offer(content_key("rig", source), lambda: _rig_part(baker.rig_of(source)))


def _rig_part(rig: Rig) -> answers.RigPart:
    mesh, skinning = rig.mesh, rig.skinning
    slot = {int(j): i for i, j in enumerate(rig.joints)}
    rest = rig.world_matrices(np.zeros(1)) if skinning is not None else np.zeros((1, 0, 4, 4))
    empty = np.zeros((0, 3), dtype=np.float32)
    return answers.RigPart(
        joints=list(rig.joint_names),
        joint_parents=np.array([_joint_parent(rig, int(j), slot) for j in rig.joints], dtype=np.int32),
        positions=mesh.positions if mesh else empty,
        normals=mesh.normals if mesh else empty,
        colors=mesh.colors if mesh else empty,
        slots=mesh.slots if mesh else np.zeros((0, 4), dtype=np.uint16),
        weights=mesh.weights if mesh else np.zeros((0, 4), dtype=np.float32),
        triangles=mesh.triangles if mesh else np.zeros((0, 3), dtype=np.uint32),
        slot_count=len(skinning.nodes) if skinning else 0,
        rest_matrices=columns(rest[0, skinning.nodes] @ skinning.joint_from_mesh) if skinning else empty,
        notes=list(rig.notes),
    )


def _offer_camera(baker: Baker, named: NamedCamera, offer: Callable[..., str]) -> None:
    camera = named.camera
    offer(named.path, partial(camera_part, baker, camera))
    views = [
        answers.SavedViewView(id=saved.id, name=saved.name, path=name)
        for saved, (_, name) in zip(camera.views, named.saved, strict=True)
    ]
    offer(named.view, partial(camera_view, camera, named.path, views))


def _reading_view(r: Reading) -> answers.ReadingView:
    fixes = [answers.FixView(title=fix.title, does=fix.does, edit=fix.edit) for fix in r.fixes]
    return answers.ReadingView(
        kind=r.kind, subject=r.subject, first=r.first, last=r.last, size=r.size, unit=r.unit, threshold=r.threshold,
        fixes=fixes, character_id=r.character_id, camera_id=r.camera_id, figures=list(r.figures), remark=r.remark,
        note=r.note,
    )  # fmt: skip


def _joint_parent(rig: Rig, joint: int, slot: dict[int, int]) -> int:
    parent = int(rig.parents[joint])
    while parent >= 0 and parent not in slot:
        parent = int(rig.parents[parent])
    return slot.get(parent, -1)


def _motion_part(baker: Baker, character: Character, rig: Rig) -> answers.MotionPart:
    world = baker.world(character)
    skin = np.zeros((len(world), 0, 16), dtype=np.float32)
    if rig.skinning is not None:
        skin = columns(np.matmul(world[:, rig.skinning.nodes], rig.skinning.joint_from_mesh))
    return answers.MotionPart(skin=skin, joints=baker.joint_positions(character).astype(np.float32))


def _shown_part(baker: Baker, character: Character) -> answers.ShownPart:
    poses = baker.key_poses(character)
    starts = baker.exposure_starts(character)
    lost = lost_key_poses(starts, baker.scene.frames, poses)
    return answers.ShownPart(
        exposure_start=starts.astype(np.int32),
        carried=columns(baker.ride_transforms(character)),
        key_poses=np.array([float(p) for p in poses], dtype=np.float32),
        lost_key_poses=[float(p) for p in lost],
    )


def _strobing_part(baker: Baker, character: Character) -> answers.StrobingPart:
    shown = baker.strobing(character)
    price = baker.contact_price(character)
    blank = np.full(baker.scene.frames.count, np.nan)
    return answers.StrobingPart(
        slip_px=shown.slip_px.astype(np.float32),
        feet_slide_m=(price.shown_per_row_m if price else blank).astype(np.float32),
        shown=_figures(baker, character, character.ride),
        still=_figures(baker, character, Ride()),
        ridden=_figures(baker, character, Ride("rigid", 1.0, character.ride.anchor)),
    )


def _figures(baker: Baker, character: Character, ride: Ride) -> answers.StrobingFigures:
    found: Strobing = baker.strobing(character, ride)
    price = baker.contact_price(character, ride)
    return answers.StrobingFigures(
        rms_px=_known(found.rms_px), max_px=_known(found.max_px), max_frame=found.max_frame,
        reversals=list(found.reversals), over_threshold=found.over_threshold,
        feet_slide_m=price.after_m if price else None,
    )  # fmt: skip


def _known(value: float) -> float | None:
    return None if math.isnan(value) else value


def _arc_part(
    baker: Baker, character: Character, node: int, camera: Camera | None, frozen: int | None, joint: str
) -> answers.ArcPart:
    figures = baker.arc(character, node, camera, frozen)
    judged = figures.judgement
    first = baker.scene.frames.first

    def numbers(values: Floats) -> Any:
        return values.astype(np.float32)

    return answers.ArcPart(
        joint=joint,
        pixels=numbers(figures.pixels),
        spacing_px=numbers(figures.spacing_px),
        subject_px=numbers(figures.subject_px),
        camera_px=numbers(figures.camera_px),
        off_arc_px=numbers(judged.off_arc),
        off_spacing_px=numbers(judged.off_spacing),
        least_px=numbers(judged.least),
        untold=untold(judged, baker.scene.delivery.height).astype(np.uint8),
        faults=[
            answers.ArcFaultView(frame=first + f.row, kind=f.kind, size_px=f.size_px, least_px=f.least_px)
            for f in judged.faults
        ],
    )
