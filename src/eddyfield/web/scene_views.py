"""A scene and its parts as the browser gets them: what is named, what is new to it, and nothing else."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial
from typing import Any

import numpy as np
from pydantic import BaseModel

from eddyfield.core import readings as reading_rules
from eddyfield.core.bake import Baker
from eddyfield.core.channels import KeyShape
from eddyfield.core.content import content_name
from eddyfield.core.exposure import lost_key_poses
from eddyfield.core.ride import Ride
from eddyfield.core.rig import Rig
from eddyfield.core.scene import Camera, Character, RigSource, Scene
from eddyfield.core.strobing import Strobing
from eddyfield.core.transforms import Floats
from eddyfield.formats.table import format_named
from eddyfield.store.scenes import Standing

from . import answers
from .requests import View
from .rigs import PartMemory, Rigs


class SceneViews:
    """Makes answers about scenes; baked parts are kept between them."""

    def __init__(self, rigs: Rigs, memory: PartMemory) -> None:
        self._rigs = rigs
        self._memory = memory

    def baker(self, scene: Scene) -> Baker:
        return Baker(scene, self._rigs, self._memory)

    def answer(self, standing: Standing, view: View) -> answers.SceneAnswer:
        """The scene with the parts of this view that the browser does not hold."""
        scene = standing.scene
        baker = self.baker(scene)
        held = set(view.held)
        parts: dict[str, Any] = {}

        def offer(name: str, make: Callable[[], BaseModel]) -> str:
            if name not in held:
                answer = self._memory.get(f"answer {name}")
                if answer is None:
                    answer = self._memory[f"answer {name}"] = make()
                parts[name] = answer
            return name

        cameras = [self._camera(baker, c, offer) for c in scene.cameras]
        characters = [self._character(baker, c, offer) for c in scene.characters]
        set_pieces = [
            answers.SetPieceView(
                id=p.id, name=p.name, rig=offer(content_name("rig", p.source), partial(self._rig_part, p.source))
            )
            for p in scene.set_pieces
        ]
        arc_name, readings = self._judged(baker, view, offer)
        return answers.SceneAnswer(
            scene=answers.SceneView(
                id=scene.id, name=scene.name, revision=standing.revision, undo=standing.undo, redo=standing.redo,
                rate=str(scene.rate), rate_float=float(scene.rate), first=scene.frames.first, last=scene.frames.last,
                width=scene.delivery.width, height=scene.delivery.height, pixel_aspect=scene.delivery.pixel_aspect,
                cameras=cameras, characters=characters, set_pieces=set_pieces,
                cut=[answers.CutEntryView(first=e.first, camera_id=e.camera_id) for e in scene.cut],
                arc=arc_name, readings=readings,
            ),
            parts=parts,
        )  # fmt: skip

    def _camera(self, baker: Baker, camera: Camera, offer: Callable[..., str]) -> answers.CameraView:
        shapes: dict[Any, KeyShape] = {}
        for channel in camera.channels.by_name().values():
            for key in channel.keys:
                shapes.setdefault(key.time, key.shape)
        keys = [answers.CameraKeyView(time=str(t), frame=float(t), shape=shapes[t]) for t in sorted(shapes)]
        back = camera.back
        return answers.CameraView(
            id=camera.id, name=camera.name, role=camera.role, locked=camera.locked, unkeyed=camera.unkeyed is not None,
            keys=keys, back_width_mm=back.width_mm, back_height_mm=back.height_mm, gate=back.gate, near_m=camera.near_m,
            path=offer(baker.camera_name(camera), lambda: _camera_part(baker, camera)),
        )  # fmt: skip

    def _character(self, baker: Baker, character: Character, offer: Callable[..., str]) -> answers.CharacterView:
        rig = self._rigs(character.source)
        return answers.CharacterView(
            id=character.id, name=character.name, step=character.stepping.step, offset=character.stepping.offset,
            keep_key_poses=character.stepping.keep_key_poses, ride_way=character.ride.way,
            ride_weight=character.ride.weight, ride_anchor=character.ride.anchor,
            anchor=rig.names[baker.anchor_node(character)],
            feet=[rig.joint_names.index(name) for name in character.feet if name in rig.joint_names],
            front=[float(v) for v in baker.front(character, format_named(character.source.format).faces_z)],
            rig=self._rig(character.source, offer),
            motion=offer(baker.motion_name(character), lambda: _motion_part(baker, character, rig)),
            shown=offer(baker.shown_name(character), lambda: _shown_part(baker, character)),
            strobing=offer(baker.strobing_name(character), lambda: _strobing_part(baker, character)),
        )  # fmt: skip

    def _judged(
        self, baker: Baker, view: View, offer: Callable[..., str]
    ) -> tuple[str | None, list[answers.ReadingView]]:
        scene, frames = baker.scene, baker.scene.frames
        found: list[reading_rules.Reading] = []
        for character in scene.characters:
            strobing = baker.strobing(character)
            found += reading_rules.strobing_readings(character, strobing, frames, scene.delivery.height)
            lost = lost_key_poses(baker.exposure_starts(character), frames, baker.key_poses(character))
            found += reading_rules.lost_pose_readings(character, tuple(round(float(p)) for p in lost))
            price = baker.contact_price(character)
            if price:
                found += reading_rules.slide_readings(character, price.after_m, frames)
        arc_name = None
        chosen = next((c for c in scene.characters if c.id == view.character_id), None)
        if chosen is not None and view.joint is not None:
            joint = view.joint
            node = self._rigs(chosen.source).find(joint)
            frozen = None if view.frozen_frame is None else view.frozen_frame - frames.first
            if frozen is not None and not 0 <= frozen < frames.count:
                frozen = None
            name = baker.arc_name(chosen, node, None, frozen)
            arc_name = offer(name, lambda: _arc_part(baker, chosen, node, frozen, joint))
            found += reading_rules.arc_readings(joint, baker.arc(chosen, node, None).judgement, frames)
        return arc_name, [_reading_view(reading) for reading in found]

    def _rig(self, source: RigSource, offer: Callable[..., str]) -> str:
        return offer(content_name("rig", source), partial(self._rig_part, source))

    def _rig_part(self, source: RigSource) -> answers.RigPart:
        rig = self._rigs(source)
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
            rest_matrices=_columns(rest[0, skinning.nodes] @ skinning.joint_from_mesh) if skinning else empty,
            notes=list(rig.notes),
        )


def _reading_view(r: reading_rules.Reading) -> answers.ReadingView:
    return answers.ReadingView(
        kind=r.kind, subject=r.subject, first=r.first, last=r.last, size=r.size, unit=r.unit,
        threshold=r.threshold, fix=r.fix,
    )  # fmt: skip


def _joint_parent(rig: Rig, joint: int, slot: dict[int, int]) -> int:
    parent = int(rig.parents[joint])
    while parent >= 0 and parent not in slot:
        parent = int(rig.parents[parent])
    return slot.get(parent, -1)


def _columns(matrices: Floats) -> Any:
    """Matrices (..., 4, 4) as float32 (..., 16), column by column, as graphics takes them."""
    return np.swapaxes(matrices, -1, -2).reshape(*matrices.shape[:-2], 16).astype(np.float32)


def _motion_part(baker: Baker, character: Character, rig: Rig) -> answers.MotionPart:
    world = baker.world(character)
    skin = np.zeros((len(world), 0, 16), dtype=np.float32)
    if rig.skinning is not None:
        skin = _columns(np.matmul(world[:, rig.skinning.nodes], rig.skinning.joint_from_mesh))
    return answers.MotionPart(skin=skin, joints=baker.joint_positions(character).astype(np.float32))


def _shown_part(baker: Baker, character: Character) -> answers.ShownPart:
    poses = baker.key_poses(character)
    starts = baker.exposure_starts(character)
    lost = lost_key_poses(starts, baker.scene.frames, poses)
    return answers.ShownPart(
        exposure_start=starts.astype(np.int32),
        carried=_columns(baker.ride_transforms(character)),
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


def _camera_part(baker: Baker, camera: Camera) -> answers.CameraPart:
    path = baker.camera_path(camera)
    count = path.count
    slopes = np.stack([np.broadcast_to(s, count) for s in path.lens.pixels_per_slope(path.delivery)], axis=-1)
    return answers.CameraPart(
        world_from_camera=_columns(path.world_from_camera),
        channels=baker.camera_values(camera).astype(np.float32),
        pixels_per_slope=slopes.astype(np.float32),
    )


def _arc_part(baker: Baker, character: Character, node: int, frozen: int | None, joint: str) -> answers.ArcPart:
    figures = baker.arc(character, node, None, frozen)
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
        faults=[
            answers.ArcFaultView(frame=first + f.row, kind=f.kind, size_px=f.size_px, least_px=f.least_px)
            for f in judged.faults
        ],
    )
