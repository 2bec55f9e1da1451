"""Bake: what the parts of a scene come to, and what cameras go by in it.

Frames are those of ``scene.frames``; row i is frame ``first + i``.
"""

from __future__ import annotations

from fractions import Fraction

import numpy as np

from .arrays import Floats, Ints
from .cameras.camera import Camera
from .cameras.camera_frames import CameraFrames
from .cameras.placement import body_points
from .cameras.surroundings import ByThing, FollowedCharacter, FollowedPiece
from .optics.camera_path import CameraPath
from .parts import Part, RigOf
from .performance import shown
from .performance.carried import Carried
from .performance.character import Character
from .performance.contact_price import ContactPrice
from .performance.nested import ground_of
from .performance.piece import Piece
from .performance.piece_frames import ShownPiece
from .performance.placing import world_from_file
from .performance.ride import Ride
from .readings.arc_figures import ArcTrack, JudgedArc
from .readings.source_samples import source_samples
from .readings.strobing import Strobing
from .rig import transforms
from .rig.mesh_points import MeshPoint
from .rig.rig import Rig
from .scene import Thing
from .scene_parts import SceneParts


class Baker(SceneParts, ByThing):
    """The parts of one scene worked out, and what cameras go by in it (``Surroundings``)."""

    # --- characters ---

    def world(self, thing: Thing) -> Floats:
        """The unstepped motion: ``world_from_node`` (frames, nodes, 4, 4)."""
        return self.value(self.motion_part(thing))

    def joint_positions(self, character: Character) -> Floats:
        """Places of the joints, unstepped, (frames, joints, 3)."""
        return self.value(self.joints_part(character))

    def front(self, character: Character) -> Floats:
        """Level unit vector that the character faces, (3,)."""
        if character.front_deg is not None:
            return self.followed(character.id).front
        return self.value(self.front_part(character))

    def key_poses(self, character: Character) -> tuple[Fraction, ...]:
        """Key poses as exact frames."""
        return self.value(self.key_poses_part(character))

    def exposure_starts(self, character: Character) -> Ints:
        """The frame whose pose each frame shows, (frames,)."""
        return self.value(self.starts_part(character))

    def comparison(self, character: Character) -> Ints:
        """The frame that each frame should look like, (frames,)."""
        return self.value(self.compared_part(character))

    def anchor_node(self, character: Character) -> int:
        return shown.anchor_node(self.rig(character), character.ride.anchor)

    def carried(self, character: Character, ride: Ride | None = None) -> Carried:
        """What carries its poses: the shown performance is ``T(f) W(e(f))``."""
        return self.value(self.carried_part(character, ride or character.ride))

    def shown_points(
        self, character: Character, points: Floats, nodes: Ints | None = None, ride: Ride | None = None
    ) -> Floats:
        """Points of the unstepped motion (frames, points, 3) as they are shown: stepped and ridden. Points that may be part of
        a leg say on which ``nodes`` (points,) they hang."""
        return self.carried(character, ride).shown(points, self.value(self.rows_part(character)), nodes)

    def shown_joints(self, character: Character) -> Floats:
        """Places of the joints as they are shown, (frames, joints, 3)."""
        return self.shown_points(character, self.joint_positions(character), self.rig(character).joints)

    def strobing(self, character: Character, ride: Ride | None = None) -> Strobing:
        """Slip and reversals through the cut, as shown (or with another ride)."""
        return self.value(self.strobing_part(character, ride or character.ride))

    def contact_price(self, character: Character, ride: Ride | None = None) -> ContactPrice | None:
        """What riding costs on the ground; None where the character's feet are not known."""
        if not any(name in self.rig(character).index_of for name in character.feet):
            return None
        return self.value(self.price_part(character, ride or character.ride))

    def body_blocks(self, character: Character) -> list[Floats]:
        """Points that hold the body over the whole scene, in blocks (frames, points, 3)."""
        rig = self.rig(character)
        timing, duration = character.performance.timing, rig.motion.duration_seconds
        seconds = timing.file_seconds(self.frames.frames(), self.rate, duration)
        size = max(1, 2_000_000 // max(1, 8 * len(rig.names)))
        placed = world_from_file(character.placing, self.frames, ground_of(character.nested))
        carrier = np.broadcast_to(placed, (len(seconds), 4, 4))
        return [
            transforms.apply(carrier[at : at + size, None], body_points(rig, seconds[at : at + size]))
            for at in range(0, len(seconds), size)
        ]

    def piece_triangles(self, piece: Piece) -> Floats:
        """Corners of a piece's triangles at rest, in the axes of its file, (T, 3, 3)."""
        return self.value(Part("triangles", _triangles, (RigOf(piece.performance.source),)))

    def shown_piece(self, piece: Piece) -> ShownPiece:
        """How a prop or set piece is shown."""
        return self.value(self.shown_piece_part(piece))

    # --- what cameras go by (``Surroundings``) ---

    def followed(self, character_id: str) -> FollowedCharacter:
        return self.value(self.followed_part(self.scene.character(character_id), ("motion", "shown")))

    def followed_piece(self, piece_id: str) -> FollowedPiece | None:
        for piece in self.scene.pieces:
            if piece.id == piece_id:
                return self.value(self.followed_piece_part(piece))
        return None

    def front_of_character(self, owner_id: str) -> Floats:
        character = next((c for c in self.scene.characters if c.id == owner_id), None)
        return super().front_of_character(owner_id) if character is None else self.front(character)

    # --- cameras, the cut, arcs ---

    def camera(self, camera: Camera) -> CameraFrames:
        """A camera worked out over all frames."""
        return self.value(self.camera_part(camera))

    def camera_path(self, camera: Camera) -> CameraPath:
        return self.camera(camera).path

    def cut_rows(self) -> tuple[Ints, Ints]:
        """Per frame: the index of the cut's entry that rules it, and the frame on which its span begins in this range."""
        return self.scene.cut.entry_rows(self.frames)

    def cut_path(self) -> CameraPath:
        """The camera of the cut at each frame."""
        return self.value(self.path_part(None))

    def arc(
        self, thing: Thing, node: int | MeshPoint, camera: Camera | None, frozen_row: int | None = None
    ) -> ArcTrack:
        """The track of the unstepped motion of a node, or of a point on the mesh, through a camera (None: the cut), or frozen on
        one row's camera."""
        return self.value(self.arc_part(thing, node, camera, frozen_row))

    def tracked_places(self, thing: Thing, node: int | MeshPoint) -> Floats:
        """Where a node, or a point on the mesh, is in the unstepped motion, (frames, 3)."""
        world, row, _ = self._tracked(thing, node)
        return np.ascontiguousarray(self.value(world)[:, row, :3, 3])

    def judged_arc(
        self, thing: Thing, node: int | MeshPoint, camera: Camera | None, frozen_row: int | None = None
    ) -> JudgedArc:
        """The judgement of that track: over the samples of its source where these lie farther apart than the frames."""
        samples = None if frozen_row is not None else source_samples(self, thing)
        if samples is None:
            return self.value(self.arc_judgement_part(thing, node, camera, frozen_row))
        there = samples.baker
        return samples.judged(there.value(there.arc_judgement_part(samples.thing, node, samples.camera(camera))))


def _triangles(rig: Rig) -> Floats:
    if rig.mesh is None or rig.skinning is None:
        return np.zeros((0, 3, 3))
    skin = rig.world_matrices(np.zeros(1), rig.skinning.nodes)[0] @ rig.skinning.joint_from_mesh
    blended = np.einsum("vs,vsij->vij", rig.mesh.weights.astype(np.float64), skin[rig.mesh.slots])
    return transforms.apply(blended, rig.mesh.positions.astype(np.float64))[rig.mesh.triangles]
