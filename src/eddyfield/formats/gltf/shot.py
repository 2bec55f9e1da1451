"""A shot as .glb: a baked camera (linear) and performances as they are shown (STEP, so that holds stay holds)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.rig import transforms
from eddyfield.core.rig.rig import Rig
from eddyfield.core.time.frames import Rate

from .write import ARRAY_TARGET, INDEX_TARGET, GltfWriter

FARTHEST_PARALLEL_M = 10_000.0
"""The far plane of a parallel camera that shows all: the format asks for one."""


@dataclass(frozen=True, eq=False)
class ShotCamera:
    """A camera of the shot on every frame, and the frames (first, last) of the cut that are its own; ``far_m`` None shows
    all."""

    name: str
    path: CameraPath
    shown: tuple[tuple[int, int], ...]
    far_m: float | None = None

    @property
    def is_parallel(self) -> bool:
        return self.path.lens.orthographic_height_m is not None


@dataclass(frozen=True, eq=False)
class ShotCharacter:
    """A rig, the motion's time in seconds shown on each frame, the row of the pose that each frame shows, and the world
    transforms (frames, 4, 4) that it rides by (None where it does not)."""

    name: str
    rig: Rig
    seconds: Floats
    pose_rows: NDArray[np.int64]
    carried: Floats | None
    bent: Mapping[int, Floats] = field(default_factory=dict)
    """Local matrices (frames, 4, 4) of nodes that go otherwise than the motion has them, frame by frame."""


Transitions = Mapping[int, Mapping[str, str | int]]
"""How shots begin that do not begin with a cut, by their first frames: kind, frames, before, ease, colour."""


def notes_on(cameras: list[ShotCamera], characters: list[ShotCharacter], transitions: Transitions) -> list[str]:
    """What glTF cannot carry of this shot, for the person who takes it out."""
    notes = ["The film back, the gate and the delivery frame: glTF knows only a field of view and an aspect."]
    for camera in cameras:
        lens = camera.path.lens
        whose = "" if len(cameras) == 1 else f" of {camera.name}"
        if camera.is_parallel:
            if np.ptp(np.asarray(lens.orthographic_height_m)) > 1e-9:
                notes.append(f"The changing height of the view{whose}: the first frame's is written.")
        elif np.ptp(np.asarray(lens.focal_mm)) > 1e-9:
            notes.append(f"The zoom{whose}: a glTF camera has one field of view; the first frame's is written.")
        if np.any(lens.shift_x) or np.any(lens.shift_y):
            notes.append(f"The lens shift{whose}: a glTF camera looks straight ahead.")
    if len(cameras) > 1:
        notes.append("The cut: every camera of it is written, and which is shown when stands in the scene's extras.")
    if transitions:
        notes.append("Transitions: how each shot begins stands beside the cut; whoever only reads the cameras cuts.")
    for character in characters:
        if character.carried is not None:
            notes.append(f"That {character.name} rides: a node above the character carries the result, frame by frame.")
    return notes


def write_shot(
    cameras: list[ShotCamera], characters: list[ShotCharacter], rate: Rate, transitions: Transitions
) -> bytes:
    """The .glb; time 0 is the first frame."""
    writer = GltfWriter("Eddyfield")
    animation = _Animation(writer)
    seconds = np.arange(cameras[0].path.count) / float(rate)
    roots = [_add_camera(writer, animation, camera, seconds) for camera in cameras]
    for character in characters:
        roots += _add_character(writer, animation, character, seconds)
    spans = sorted((first, last, camera.name) for camera in cameras for first, last in camera.shown)
    cut = [
        {"first": first, "last": last, "camera": name}
        | ({"transition": dict(transitions[first])} if first in transitions else {})
        for first, last, name in spans
    ]
    writer.add("scenes", {"nodes": roots, "extras": {"rate": str(rate), "cut": cut}})
    writer.root["scene"] = 0
    animation.finish("shot")
    return writer.to_glb()


class _Animation:
    """Collects samplers; those with the same times share an accessor."""

    def __init__(self, writer: GltfWriter) -> None:
        self._writer = writer
        self._samplers: list[dict[str, Any]] = []
        self._channels: list[dict[str, Any]] = []
        self._times: dict[bytes, int] = {}

    def add(self, node: int, path: str, seconds: Floats, values: Floats, interpolation: str) -> None:
        times = seconds.astype(np.float32)
        # A key that rounding made late would not be there yet on its own frame.
        times = np.where(times > seconds, np.nextafter(times, np.float32(-np.inf)), times)
        if times.tobytes() not in self._times:
            self._times[times.tobytes()] = self._writer.accessor(times, bounds=True)
        sampler = {"input": self._times[times.tobytes()], "output": self._writer.accessor(values)}
        self._samplers.append({**sampler, "interpolation": interpolation})
        self._channels.append({"sampler": len(self._samplers) - 1, "target": {"node": node, "path": path}})

    def finish(self, name: str) -> None:
        self._writer.add("animations", {"name": name, "channels": self._channels, "samplers": self._samplers})


def _add_camera(writer: GltfWriter, animation: _Animation, camera: ShotCamera, seconds: Floats) -> int:
    path = camera.path
    near = float(np.atleast_1d(path.lens.near_m)[0])
    planes = {"znear": near} | ({"zfar": camera.far_m} if camera.far_m is not None else {})
    if path.lens.orthographic_height_m is not None:
        half = float(np.atleast_1d(path.lens.orthographic_height_m)[0]) / 2
        view = {"xmag": half * path.delivery.aspect, "ymag": half, "zfar": FARTHEST_PARALLEL_M} | planes
        index = writer.add("cameras", {"name": camera.name, "type": "orthographic", "orthographic": view})
    else:
        _, vertical = path.lens.field_of_view_deg(path.delivery)
        angle = float(np.radians(np.atleast_1d(vertical)[0]))
        view = {"yfov": angle, "aspectRatio": path.delivery.aspect} | planes
        index = writer.add("cameras", {"name": camera.name, "type": "perspective", "perspective": view})
    node = writer.add("nodes", {"name": camera.name, "camera": index})
    rotation = _continuous(transforms.quaternion_from_matrix(path.world_from_camera[:, :3, :3]))
    animation.add(node, "translation", seconds, path.world_from_camera[:, :3, 3], "LINEAR")
    animation.add(node, "rotation", seconds, rotation, "LINEAR")
    return node


def _add_character(writer: GltfWriter, animation: _Animation, character: ShotCharacter, seconds: Floats) -> list[int]:
    rig = character.rig
    first = len(writer.root.get("nodes", []))
    for node, name in enumerate(rig.names):
        entry: dict[str, Any] = {"name": name}
        if node in rig.moved_nodes or node in character.bent:
            entry["translation"] = rig.rest_translation[node].tolist()
            entry["rotation"] = rig.rest_quaternion[node].tolist()
            entry["scale"] = rig.rest_scale[node].tolist()
        elif not np.array_equal(rig.rest_matrices[node], np.eye(4)):
            entry["matrix"] = rig.rest_matrices[node].T.reshape(-1).tolist()
        children = np.flatnonzero(rig.parents == node)
        if len(children):
            entry["children"] = [first + int(c) for c in children]
        writer.add("nodes", entry)
    _add_held_poses(animation, character, seconds, first)
    for node, local in character.bent.items():
        animation.add(first + node, "translation", seconds, local[:, :3, 3], "STEP")
        turned = transforms.quaternion_from_matrix(transforms.orthonormal(local)[:, :3, :3])
        animation.add(first + node, "rotation", seconds, _continuous(turned), "STEP")
    top: dict[str, Any] = {"name": f"{character.name} ride", "children": [first + int(r) for r in rig.levels[0]]}
    if rig.scale != 1.0:
        scaled = {"name": f"{character.name} scale", "scale": [rig.scale] * 3, "children": top["children"]}
        top["children"] = [writer.add("nodes", scaled)]
    above = writer.add("nodes", top)
    if character.carried is not None:
        above = _add_ride(writer, animation, character, seconds, above)
    return [above, *_add_mesh(writer, character, first)]


def _add_ride(writer: GltfWriter, animation: _Animation, character: ShotCharacter, seconds: Floats, node: int) -> int:
    """Keys for what carries a character; what is scaled as well takes a node above that scales along its axes, and the turn
    into those below (singular values: M = U S V). Answers the topmost node."""
    carried = character.carried
    assert carried is not None
    left, scale, right = np.linalg.svd(carried[:, :3, :3])
    if np.allclose(scale, 1.0, atol=1e-9):
        rotation = _continuous(transforms.quaternion_from_matrix(carried[:, :3, :3]))
        animation.add(node, "translation", seconds, carried[:, :3, 3], "STEP")
        animation.add(node, "rotation", seconds, rotation, "STEP")
        return node
    mirrored = np.where(np.linalg.det(left) < 0, -1.0, 1.0)[:, None]
    left[:, :, 2] *= mirrored
    right[:, 2] *= mirrored
    above = writer.add("nodes", {"name": f"{character.name} zoom", "children": [node]})
    animation.add(node, "rotation", seconds, _continuous(transforms.quaternion_from_matrix(right)), "STEP")
    animation.add(above, "translation", seconds, carried[:, :3, 3], "STEP")
    animation.add(above, "rotation", seconds, _continuous(transforms.quaternion_from_matrix(left)), "STEP")
    animation.add(above, "scale", seconds, scale, "STEP")
    return above


def _add_held_poses(animation: _Animation, character: ShotCharacter, seconds: Floats, first: int) -> None:
    """A key on every new pose, and one on the last frame, so that the hold lasts to the end."""
    rows = character.pose_rows
    new = np.flatnonzero(np.diff(rows, prepend=rows[0] - 1) != 0)
    keyed = np.unique(np.append(new, len(rows) - 1))
    rig = character.rig
    nodes = rig.motion.nodes
    if not len(nodes):
        return
    values = rig.motion.sample(character.seconds[keyed], nodes, rig.rest)
    driven = {(c.node, c.path) for c in rig.motion.curves}
    for path, array in values.items():
        for column, node in enumerate(nodes):
            if (int(node), path) in driven and not (int(node) in character.bent and path != "scale"):
                animation.add(first + int(node), path, seconds[keyed], array[:, column].T, "STEP")


def _add_mesh(writer: GltfWriter, character: ShotCharacter, first: int) -> list[int]:
    rig = character.rig
    if rig.mesh is None or rig.skinning is None:
        return []
    joints, seen = [], set()
    for node in rig.skinning.nodes:
        joint = first + int(node)
        if joint in seen:  # a skin names each joint once: a second use gets a node of its own in the same place
            joint = writer.add("nodes", {"name": f"{rig.names[int(node)]} again"})
            writer.root["nodes"][first + int(node)].setdefault("children", []).append(joint)
        seen.add(joint)
        joints.append(joint)
    inverse = writer.accessor(np.swapaxes(rig.skinning.joint_from_mesh, -1, -2).reshape(-1, 16))
    skin = writer.add("skins", {"joints": joints, "inverseBindMatrices": inverse})
    mesh = rig.mesh
    attributes = {
        "POSITION": writer.accessor(mesh.positions, ARRAY_TARGET, bounds=True),
        "NORMAL": writer.accessor(mesh.normals, ARRAY_TARGET),
        "COLOR_0": writer.accessor(mesh.colors, ARRAY_TARGET),
        "JOINTS_0": writer.accessor(mesh.slots, ARRAY_TARGET),
        "WEIGHTS_0": writer.accessor(mesh.weights, ARRAY_TARGET),
    }
    primitive = {"attributes": attributes, "indices": writer.accessor(mesh.triangles.reshape(-1), INDEX_TARGET)}
    drawn = writer.add("meshes", {"primitives": [primitive]})
    return [writer.add("nodes", {"name": character.name, "mesh": drawn, "skin": skin})]


def _continuous(quaternions: Floats) -> Floats:
    """The same rotations with neighbours on the same side, so that linear interpolation takes the short way."""
    turns = np.einsum("fi,fi->f", quaternions[1:], quaternions[:-1]) < 0
    signs = np.concatenate([[1.0], np.cumprod(np.where(turns, -1.0, 1.0))])
    return np.asarray(quaternions * signs[:, None])
