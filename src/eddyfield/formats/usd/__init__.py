"""USD (.usd, .usda, .usdc, .usdz): UsdSkel characters, meshes and cameras. The library runs in a process of its own."""

from ..format import Format
from .read import read

FORMAT = Format("usd", "USD", (".usdz", ".usd", ".usda", ".usdc"), 1.0, read)

__all__ = ["FORMAT", "read"]
