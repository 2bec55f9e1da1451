"""Which joint makes a fault of an arc: what the fault displaces of a whole body and of what it holds, and the changes of joints
that leave least of it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from ..arrays import Bools, Floats, Ints
from ..bake import Baker
from ..cameras.camera import Camera
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..performance.character import Character
from ..performance.piece import Piece
from ..rig import transforms
from ..rig.hanging import all_hanging_on, ancestors
from ..rig.joint_change import JointChange, bending, change_to, changed, limb_above
from ..rig.rig import Rig
from ..scene import Thing
from .arcs import NOISE_FLOOR_PX_AT_1080
from .fault_shapes import FaultShape
from .faults import AtCentre, at_centre
from .thresholds import SURE_ERRORS
from .window import Window

AS_GOOD_PX = 0.3
"""At 1080 lines: so much less has to be left by a change that is tried later."""
MENDED = 0.5
"""Of a fault: where more is left by what mends all of a body best, it is made by more than one thing."""
SURE_OF = 1e-4
"""Of the greatest: turns that move the points by less are not told by them."""


class BroughtPoint(NamedTuple):
    """A point that a joint of a character carries, and its ``place`` (3,) in the world."""

    character: Character
    joint: str
    place: Floats


def brought_point(baker: Baker, thing_id: str, joint: str, frame: int) -> BroughtPoint:
    """Of a character its joint; of a prop the hand that holds it on that frame. Raises ``DomainError`` where nobody does."""
    thing, row = baker.scene.thing(thing_id), baker.row_of(frame)
    place: Floats = baker.world(thing)[row, baker.rig(thing).find(joint), :3, 3]
    if isinstance(thing, Character):
        return BroughtPoint(thing, joint, place)
    assert isinstance(thing, Piece)
    hold = thing.held_on(frame)
    if hold is None or hold.character_id is None or hold.joint is None:
        raise DomainError(f"Nobody holds “{thing.name}” on {frame}.", "Place it otherwise, or key it.")
    return BroughtPoint(baker.scene.character(hold.character_id), hold.joint, place)


def window_about(baker: Baker, row: int, camera: Camera | None) -> Window | None:
    """In which a fault is told on a row of a camera, or (None) of the cut, of which only the span counts that the row lies in;
    None too near an end."""
    starts = (0,) if camera else baker.value(baker.span_starts_part)
    first = max(start for start in starts if start <= row)
    end = min((start for start in starts if start > row), default=baker.frames.count)
    window = Window.at(baker.rate).within(end - first)
    return window if window and first <= row - window.half and row + window.half < end else None


@dataclass(frozen=True, eq=False)
class Displaced:
    """Points (n,) of a body and of what it holds around a fault: on which node each hangs and where in its axes; what the fault
    displaces it by, in metres of the world (n, 3), and in square px, with how it moves a frame. The body's ``pose``
    (nodes, 4, 4) and the camera are those of the middle frame."""

    rig: Rig
    pose: Floats
    path: CameraPath
    nodes: Ints
    beside: Floats
    metres: Floats
    px: AtCentre

    def places(self, pose: Floats) -> Floats:
        """Where a pose has the points, (n, 3)."""
        return transforms.apply(pose[self.nodes], self.beside)

    def left_px(self, pose: Floats) -> float:
        """The most that is seen of the fault, on whichever point, once the middle frame has another pose."""
        left = self._left_px(pose)
        # What is no sure fault, as near a contact, may stay as it is, and get no worse.
        return float(np.nanmax(np.where(self.sure, left, left - np.linalg.norm(self.px.size, axis=1)), initial=0.0))

    def _left_px(self, pose: Floats) -> Floats:
        """Of each point, (n,)."""
        seen = (self.path.delivery.square(self.path.project(self.places(p)[None]).pixels)[0] for p in (self.pose, pose))
        before, after = seen
        return np.asarray(np.linalg.norm(self.px.size + after - before, axis=1))

    def is_mended(self, changes: Sequence[JointChange]) -> bool:
        """Whether changes of joints take most of the fault away from the first point."""
        left = self._left_px(changed(self.rig, self.pose[None], changes, np.ones(1))[0])[0]
        return bool(left < MENDED * np.linalg.norm(self.px.size[0]))

    def hanging_on(self, node: int) -> Displaced:
        """Of the points those alone that hang on a node."""
        own = np.isin(self.nodes, all_hanging_on(self.rig, node))
        px = AtCentre(*(part[own] for part in self.px))
        return replace(self, nodes=self.nodes[own], beside=self.beside[own], metres=self.metres[own], px=px)

    @property
    def mend_px(self) -> tuple[float, float]:
        """What takes the fault away from the first point, px right and down."""
        x, y = (-self.px.size[0]).tolist()
        return x / self.path.delivery.pixel_aspect, y

    @property
    def sure(self) -> Bools:
        """Which points the fault shows in, (n,)."""
        return np.asarray(np.linalg.norm(self.px.size, axis=1) > SURE_ERRORS * self.px.error)


def displaced(
    baker: Baker, told: tuple[Thing, int], brought: BroughtPoint, frame: int, camera: Camera | None, shape: FaultShape
) -> Displaced | None:
    """What a fault of that shape displaces, seen through a camera, or (None) through the cut; the point that is ``told`` of, a
    node of a thing, comes first. None too near an end."""
    row = baker.row_of(frame)
    window = window_about(baker, row, camera)
    if window is None:
        return None
    half = window.half
    rows: Ints = np.arange(row - half, row + half + 1)
    rig, world = baker.rig(brought.character), baker.world(brought.character)[rows]
    thing, node = told
    places = [baker.world(thing)[rows][..., :3, 3][:, [node]], world[..., :3, 3][:, rig.joints]]
    nodes = [np.array([rig.index_of[brought.joint]]), rig.joints]
    for piece in baker.scene.pieces:
        hold = piece.held_on(frame)
        if hold is not None and hold.character_id == brought.character.id and hold.joint in rig.index_of:
            held = baker.world(piece)[rows][..., :3, 3][:, baker.rig(piece).joints]
            places.append(held)
            nodes.append(np.full(held.shape[1], rig.index_of[hold.joint]))
    points, on = np.ascontiguousarray(np.concatenate(places, axis=1)), np.concatenate(nodes)
    path = baker.value(baker.path_part(camera)).at_rows(rows)
    noise_px = NOISE_FLOOR_PX_AT_1080 * path.delivery.height / 1080
    px = at_centre(path.delivery.square(path.project(points).pixels), shape, noise_px)
    metres = at_centre(points, shape, 0.0).size
    beside = transforms.apply(np.linalg.inv(world[half, on]), points[half])
    middle = path.at_rows(np.array([half]))
    return Displaced(rig, world[half], middle, on, beside, metres, px)


def source_changes(found: Displaced, joint: str) -> tuple[JointChange, ...]:
    """The changes of joints, of one that is above ``joint`` or of a limb, that leave least to be seen of a fault; of such that
    are alike the simplest. Where other parts of the body have a fault of their own, which no one joint makes together with this
    one, what hangs on fewer and fewer of the joints above is looked at alone."""
    line = ancestors(found.rig, found.rig.index_of[joint])
    changes = _leaving_least(found, line)
    for top in reversed(range(len(line))):
        if found.is_mended(changes):
            return changes
        changes = _leaving_least(found.hanging_on(line[top]), line[: top + 1])
    return changes


def _leaving_least(found: Displaced, line: Sequence[int]) -> tuple[JointChange, ...]:
    best: tuple[JointChange, ...] = ()
    least = found.left_px(found.pose)
    for changes in _tried(found, [found.rig.names[node] for node in line]):
        left = found.left_px(changed(found.rig, found.pose[None], changes, np.ones(1))[0])
        if left < least - AS_GOOD_PX * found.path.delivery.height / 1080:
            best, least = changes, left
    return best


def _tried(found: Displaced, line: Sequence[str]) -> Iterator[tuple[JointChange, ...]]:
    """A joint of some turned, moved, or both; a limb bent, and what it ends in turned as well."""
    rig = found.rig
    for turns, moves in ((True, False), (False, True)):
        for name in line:
            yield (_fitted(found, found.pose, name, turns, moves),)
    for end in line:
        limb = limb_above(rig, end)
        if limb is None:
            continue
        at = rig.index_of[end]
        own = np.flatnonzero(found.nodes == at)
        here = found.pose[at, :3, 3]
        wanted = here - found.metres[own[0]] if len(own) else here
        bent = bending(rig, found.pose, end, limb, wanted)
        yield bent
        after = changed(rig, found.pose[None], bent, np.ones(1))[0]
        yield (*bent, _fitted(found, after, end, True, False))
    for name in line:
        yield (_fitted(found, found.pose, name, True, True),)


def _fitted(found: Displaced, pose: Floats, joint: str, turns: bool, moves: bool) -> JointChange:
    """The turn of a joint, its move, or both that take most of the fault away from what hangs on it, in the world: by least
    squares, twice, of small turns, the smallest where the points do not tell."""
    rig, node = found.rig, found.rig.index_of[joint]
    hanging = np.isin(found.nodes, all_hanging_on(rig, node))
    wanted = (found.places(found.pose) - found.metres)[hanging]
    pivot, carried = pose[node, :3, 3], np.eye(4)
    for _ in range(2):
        arms = transforms.apply(carried, found.places(pose)[hanging])
        columns = []
        if turns:
            columns.append(-_crossing(arms - transforms.apply(carried, pivot)))
        if moves:
            columns.append(np.broadcast_to(np.eye(3), (len(arms), 3, 3)))
        solved = np.linalg.pinv(np.concatenate(columns, axis=2).reshape(len(arms) * 3, -1), rcond=SURE_OF) @ (
            (wanted - arms).ravel()
        )
        turn = transforms.matrix_from_rotation_vector(solved[None, :3])[0] if turns else np.eye(3)
        about = transforms.apply(carried, pivot)
        shift = solved[-3:] if moves else np.zeros(3)
        carried = transforms.rigid(turn, about + shift - turn @ about) @ carried
    return change_to(rig, pose, joint, carried)


def _crossing(vectors: Floats) -> Floats:
    """Matrices (n, 3, 3) that take a vector to its cross product with vectors (n, 3) before it."""
    x, y, z = vectors.T
    none = np.zeros_like(x)
    return np.stack([np.stack([none, -z, y], -1), np.stack([z, none, -x], -1), np.stack([-y, x, none], -1)], axis=1)
