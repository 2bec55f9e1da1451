"""Characters, props and set pieces as the browser gets them: their rigs, where they stand, and how pieces are carried."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.between import shape_weights as weights_of_shapes
from eddyfield.core.content import content_key
from eddyfield.core.parts import Part, RigOf
from eddyfield.core.performance.at_source import ChangeAtSource, changes_at_source
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.nested import block_id_of, ground_of
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.placing import PLACING, is_keyed
from eddyfield.core.performance.ride import Ride
from eddyfield.core.performance.timing import Timing
from eddyfield.core.readings.changed_poses import changed_poses, joint_pairs, version_before
from eddyfield.core.rig.levels import levels_of
from eddyfield.core.rig.rig import Mesh, Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Thing
from eddyfield.core.time.frames import FrameRange

from . import parts, thing_answers
from .camera_views import columns
from .images import reduced

IMAGES_AT_ONCE = 2
_NONE = np.zeros((0, 3), dtype=np.float32)
NO_MESH = Mesh(
    _NONE, _NONE, _NONE, np.zeros((0, 4), dtype=np.uint16), np.zeros((0, 4), dtype=np.float32),
    np.zeros((0, 3), dtype=np.uint32),
)  # fmt: skip
Offer = Callable[..., str]
"""Offers a part by its name and what makes it, and answers the name."""


def piece_view(baker: Baker, piece: Piece, offer: Offer) -> thing_answers.PieceView:
    source, motion = piece.performance.source, None
    if baker.rig(piece).motion.moves_anything:
        key = content_key("piece motion", baker.piece_in_file_part(piece).key, baker.shown_rows_part(piece).key)
        motion = offer(key, lambda: _piece_motion_part(baker, piece))
    return thing_answers.PieceView(
        id=piece.id, name=piece.name, block_id=block_id_of(piece.nested),
        kind=piece.kind, source=source, timing=piece.performance.timing,
        file_frames=baker.rig(piece).motion.duration_seconds * float(baker.rate),
        time=offer_time(piece, baker.frames, offer),
        placing=offer_placing(piece, baker.frames, offer), showing=piece.showing,
        file_cameras=[c.name for c in baker.rig(piece).cameras], holds=list(piece.holds), stepping=piece.stepping,
        gone_by=list(baker.scene.going_by(piece.id)),
        rig=offer_rig(baker, source, offer), motion=motion,
        placed=offer(baker.shown_piece_part(piece).key, lambda: _carried_part(baker, piece)),
    )  # fmt: skip


def offer_corrections(baker: Baker, character: Character, offer: Offer) -> str | None:
    """The part that says what is laid over a performance."""
    if not character.performance.corrections:
        return None
    part = at_source_part(baker, character)
    return offer(part.key, lambda: parts.CorrectionsPart(corrections=[*baker.value(part)]))


def at_source_part(baker: Baker, character: Character) -> Part[tuple[ChangeAtSource, ...]]:
    """What would have to change in its file, for its corrections not to be needed."""
    given = character.performance
    inputs = (
        RigOf(given.source), given.corrections, given.timing, baker.frames, baker.rate, character.placing,
        ground_of(character.nested),
    )  # fmt: skip
    return Part("at source", changes_at_source, inputs)


def offer_changed(baker: Baker, character: Character, offer: Offer, now: bool) -> str | None:
    """The part that says what the version changed; where its file is not read yet, that can wait."""
    source = version_before(character)
    if source is None:
        return None
    before = replace(character, performance=replace(character.performance, source=source))
    key = content_key("changed", source, baker.motion_part(character).key, baker.path_part(None).key)
    return offer(key, lambda: _changed_part(baker, character, before), now)


def _changed_part(baker: Baker, character: Character, before: Character) -> parts.ChangedPart:
    pairs = joint_pairs(baker, character, before)
    inputs = (baker.path_part(None), baker.joints_part(character), baker.joints_part(before), pairs)
    changed = baker.value(Part("changed poses", changed_poses, inputs))
    return parts.ChangedPart(
        px=changed.px.astype(np.float32), joints=changed.joints.astype(np.int32), frames=len(changed.rows)
    )


def ride_keys(ride: Ride) -> list[thing_answers.RideKey]:
    """The weight over time."""
    keys = ride.weights.keys if ride.weights else ()
    return [thing_answers.RideKey(time=key.time_as_text, weight=key.value) for key in keys]


def offer_time(thing: Thing, frames: FrameRange, offer: Offer) -> str:
    """The part that says how the time of a thing runs."""
    timing = thing.performance.timing
    make = partial(_time_part, timing, frames)
    return offer(content_key("time", timing.start, timing.stretch, timing.curve and timing.curve.content, frames), make)


def _time_part(timing: Timing, frames: FrameRange) -> parts.TimePart:
    return parts.TimePart(passed=timing.passed(frames.frames().astype(np.float64)))


def offer_placing(thing: Thing, frames: FrameRange, offer: Offer) -> str:
    placed = thing.placing
    return offer(
        content_key("placing", placed.content, frames if is_keyed(placed) else None),
        lambda: _placing_part(thing, frames),
    )


def _placing_part(thing: Thing, frames: FrameRange) -> parts.PlacingPart:
    placed = thing.placing
    at = frames.frames().astype(np.float64) if is_keyed(placed) else np.array([float(frames.first)])
    times = sorted({float(key.time) for channel in placed.in_order for key in channel.keys})
    values: Floats = np.stack([placed[name].at(at) for name in PLACING], axis=-1)
    return parts.PlacingPart(values=values.astype(np.float32), key_frames=np.array(times, dtype=np.float64))


def _carried_part(baker: Baker, piece: Piece) -> parts.CarriedPart:
    return parts.CarriedPart(world_from_file=columns(baker.shown_piece(piece).carried))


def _piece_motion_part(baker: Baker, piece: Piece) -> parts.PieceMotionPart:
    rig, in_file = baker.rig(piece), baker.value(baker.piece_in_file_part(piece))
    rows = baker.shown_piece(piece).rows
    assert rig.skinning is not None
    at = rows if len(in_file) > 1 else np.zeros_like(rows)  # a file may move nothing but shapes
    skin = in_file[at][:, rig.skinning.nodes] @ rig.skinning.joint_from_mesh
    return parts.PieceMotionPart(
        skin=columns(skin), joints=in_file[at][:, rig.joints][..., :3, 3].astype(np.float32),
        shapes=shape_weights(rig, piece, baker)[rows], exposure_start=(rows + baker.frames.first).astype(np.int32),
    )  # fmt: skip


def shape_weights(rig: Rig, thing: Thing, baker: Baker) -> NDArray[np.float32]:
    """Weights of the shapes of a thing, on ones, (frames, shapes)."""
    return weights_of_shapes(rig, thing.performance.timing, baker.frames, baker.rate).astype(np.float32)


def offer_rig(baker: Baker, source: RigSource, offer: Offer) -> str:
    return offer(content_key("rig", source), lambda: _rig_part(baker.rig_of(source)))


def _rig_part(rig: Rig) -> parts.RigPart:
    mesh, skinning = rig.mesh, rig.skinning
    slot = {int(j): i for i, j in enumerate(rig.joints)}
    rest: Floats = np.zeros((0, 4, 4))
    if skinning is not None:
        rest = rig.world_matrices(np.zeros(1))[0, skinning.nodes] @ skinning.joint_from_mesh
    return parts.RigPart(
        **_surface(mesh or NO_MESH),
        joints=list(rig.joint_names),
        joint_parents=np.array([_joint_parent(rig, int(j), slot) for j in rig.joints], dtype=np.int32),
        looks=list(mesh.looks) if mesh else [],
        images=_reduced(mesh.images) if mesh else [],
        levels=[
            parts.SurfaceLevel(cell_m=level.cell_m, **_surface(level.mesh))
            for level in (levels_of(mesh, rest) if mesh else ())
        ],
        slot_count=len(rest),
        rest_matrices=columns(rest),
        notes=list(rig.notes),
    )


def _surface(mesh: Mesh) -> dict[str, Any]:
    return {
        "positions": mesh.positions, "normals": mesh.normals, "colors": mesh.colors, "slots": mesh.slots,
        "weights": mesh.weights, "triangles": mesh.triangles, "uvs": mesh.uvs, "mesh_parts": list(mesh.parts),
        "shapes": [
            parts.ShapeView(name=s.name, vertices=s.vertices, moves=s.moves, turns=s.turns) for s in mesh.shapes
        ],
    }  # fmt: skip


def _reduced(images: tuple[bytes, ...]) -> list[NDArray[np.uint8]]:
    """They are unpacked beside each other, as that keeps nobody from working."""
    with ThreadPoolExecutor(IMAGES_AT_ONCE) as hands:
        return list(hands.map(reduced, images))


def _joint_parent(rig: Rig, joint: int, slot: dict[int, int]) -> int:
    parent = int(rig.parents[joint])
    while parent >= 0 and parent not in slot:
        parent = int(rig.parents[parent])
    return slot.get(parent, -1)
