"""glTF 2.0, as .glb or .gltf (Khronos Group, glTF 2.0 specification)."""

from .read import read
from .write import GltfWriter

__all__ = ["GltfWriter", "read"]
