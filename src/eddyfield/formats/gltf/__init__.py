"""glTF 2.0, as .glb or .gltf (Khronos Group, glTF 2.0 specification)."""

from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource

from ..format import Format, Resolver
from .read import read
from .write import GltfWriter


def _read(data: bytes, source: RigSource, resolve: Resolver | None, with_mesh: bool) -> Rig:
    return read(
        data, scale=source.scale, animation=source.animation, rig=source.rig, resolve=resolve, with_mesh=with_mesh
    )


FORMAT = Format("gltf", "glTF 2.0", (".glb", ".gltf"), 1.0, _read)

__all__ = ["FORMAT", "GltfWriter", "read"]
