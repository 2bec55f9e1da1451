"""glTF in: nodes, skins, animations and cameras become a ``Rig``."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms
from eddyfield.core.rig.motion import Motion, ShapeCurve
from eddyfield.core.rig.rig import FileCamera, Rig

from ..errors import DamagedFile
from ..format import Resolver
from ..limits import DEEPEST_NODES, check_depth
from ..names import unique_names
from ..rigs import chosen_rig
from .accessors import Accessors
from .animations import animation_names_of, chosen_animations, fov_curves, read_motion, shape_curves
from .container import load_buffers, open_document
from .document import Document, Node
from .looks import Looks
from .mesh import check_meshes, read_mesh
from .rigs import rigs_of
from .shapes import Shapes


def read(
    data: bytes,
    *,
    scale: float = 1.0,
    animation: str | None = None,
    rig: str | None = None,
    resolve: Resolver | None = None,
    with_mesh: bool = False,
) -> Rig:
    """Read a .glb or .gltf. ``scale`` is metres per unit of the file; ``resolve`` fetches external buffers.

    Without ``animation`` the first is played; where the file has several that drive different nodes, all together. Without
    ``rig`` it is all that the default scene shows.
    Raises ``FileError`` on anything that cannot be read safely.
    """
    document, binary = open_document(data)
    accessors = Accessors(document, load_buffers(document, binary, resolve))
    check_meshes(document, accessors)
    parents = _parents(document)
    reachable = _reachable(document, parents)
    chosen = chosen_animations(document, animation)
    motion = read_motion(document, accessors, chosen)
    rigs = rigs_of(document, parents)
    if rig is not None:
        chosen_nodes = chosen_rig(rigs, rig)
        reachable = set(chosen_nodes.nodes)
        moved = reachable | chosen_nodes.above
        motion = replace(motion, curves=tuple(curve for curve in motion.curves if curve.node in moved))
        joints = sorted(chosen_nodes.joints)
    else:
        joints = _joints(document, motion, reachable)
    names = unique_names([node.name or f"node_{i}" for i, node in enumerate(document.nodes)], joints)
    translation, quaternion, node_scale, matrices = _rest(document.nodes)
    notes: list[str] = []
    mesh, skinning = None, None
    if with_mesh:
        shapes = Shapes(document, accessors)
        mesh, skinning = read_mesh(document, accessors, reachable, Looks(document, accessors, resolve), shapes)
        curves = shape_curves(accessors, chosen, shapes.columns())
        motion = replace(motion, shape_curves=curves, rest_weights=shapes.rest_weights())
    cameras = _cameras(document, scale, fov_curves(document, accessors, chosen))
    read_rig = Rig(
        names, parents, translation, quaternion, node_scale, matrices, np.array(joints, dtype=np.int64), motion,
        cameras, mesh, skinning, scale, faces_z=True, notes=tuple(notes), alternatives=tuple(rigs),
    )  # fmt: skip
    check_depth(len(read_rig.levels), DEEPEST_NODES)  # also refuses nodes that are their own ancestors
    return read_rig


def animation_names(data: bytes) -> list[str]:
    """The animations of a file by name, as ``read`` takes them."""
    document, _ = open_document(data)
    return list(animation_names_of(document))


def _parents(document: Document) -> NDArray[np.int64]:
    count = len(document.nodes)
    parents = np.full(count, -1, dtype=np.int64)
    for index, node in enumerate(document.nodes):
        for child in node.children:
            if child >= count:
                raise DamagedFile(f"Node {index} has the child {child}, which does not exist.")
            if parents[child] >= 0 and parents[child] != index:
                raise DamagedFile(f"Node {child} hangs below two parents.")
            parents[child] = index
    return parents


def _reachable(document: Document, parents: NDArray[np.int64]) -> set[int]:
    """Nodes of the default scene; all nodes where the file has no scene."""
    if not document.scenes:
        return set(range(len(document.nodes)))
    which = document.scene or 0
    if which >= len(document.scenes):
        raise DamagedFile(f"The default scene {which} does not exist.")
    waiting, seen = list(document.scenes[which].nodes), set[int]()
    while waiting:
        node = waiting.pop()
        if node >= len(document.nodes):
            raise DamagedFile(f"The scene holds node {node}, which does not exist.")
        if node not in seen:
            seen.add(node)
            waiting.extend(document.nodes[node].children)
    return seen


def _joints(document: Document, motion: Motion, reachable: set[int]) -> list[int]:
    joints: set[int] = set()
    for index, skin in enumerate(document.skins):
        for joint in skin.joints:
            if joint >= len(document.nodes):
                raise DamagedFile(f"Skin {index} has the joint {joint}, which does not exist.")
            joints.add(joint)
    for index, node in enumerate(document.nodes):
        # Without a mesh, and where there are no skins at all, it is left over and does no harm.
        if node.skin is not None and node.skin >= len(document.skins) and (node.mesh is not None or document.skins):
            raise DamagedFile(f"Node {index} uses skin {node.skin}, which does not exist.")
    inside = joints & reachable
    if joints and inside:
        return sorted(inside)
    moved = {int(n) for n in motion.nodes if document.nodes[int(n)].camera is None}
    return sorted(moved & reachable or moved or joints)


def _rest(nodes: Sequence[Node]) -> tuple[Floats, Floats, Floats, Floats]:
    count = len(nodes)
    translation, scale = np.zeros((count, 3)), np.ones((count, 3))
    quaternion = np.tile([0.0, 0.0, 0.0, 1.0], (count, 1))
    for index, node in enumerate(nodes):
        if node.translation is not None:
            translation[index] = node.translation
        if node.rotation is not None:
            quaternion[index] = node.rotation
        if node.scale is not None:
            scale[index] = node.scale
    quaternion = transforms.quaternion_normalized(quaternion)
    matrices = transforms.compose(translation, quaternion, scale)
    for index, node in enumerate(nodes):
        if node.matrix is None:
            continue
        matrix = np.array(node.matrix).reshape(4, 4).T
        matrices[index, :3] = matrix[:3]
        if node.translation is None and node.rotation is None and node.scale is None:
            # Only used where such a node is animated all the same, which the format forbids.
            translation[index] = matrix[:3, 3]
            lengths = np.linalg.norm(matrix[:3, :3], axis=0)
            if np.linalg.det(matrix[:3, :3]) < 0:
                lengths[0] = -lengths[0]
            scale[index] = lengths
            if (lengths != 0).all():
                quaternion[index] = transforms.quaternion_from_matrix(matrix[:3, :3] / lengths)
    return translation, quaternion, scale, matrices


def _cameras(document: Document, scale: float, curves: dict[int, ShapeCurve]) -> tuple[FileCamera, ...]:
    out = []
    for index, node in enumerate(document.nodes):
        if node.camera is None:
            continue
        if node.camera >= len(document.cameras):
            raise DamagedFile(f"Node {index} carries camera {node.camera}, which does not exist.")
        camera = document.cameras[node.camera]
        name = camera.name or f"camera_{node.camera}"
        fov = height = near = None
        if camera.perspective is not None and camera.type != "orthographic":
            near = camera.perspective.znear
            if camera.perspective.yfov is not None and 1e-4 < camera.perspective.yfov < np.pi:
                fov = float(np.degrees(camera.perspective.yfov))
        elif camera.orthographic is not None:
            near = camera.orthographic.znear
            if camera.orthographic.ymag:
                height = 2 * abs(camera.orthographic.ymag) * scale
        out.append(
            FileCamera(name, index, fov, height, near * scale if near and near > 0 else 0.01, curves.get(node.camera))
        )
    return tuple(out)
