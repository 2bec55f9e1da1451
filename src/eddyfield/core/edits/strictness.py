"""How strictly a scene is judged: as rough work, as usual, or before it is final."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..readings.limits import Strictness
from ..scene import Scene
from .edit import Edit


@dataclass(frozen=True, kw_only=True)
class JudgeScene(Edit):
    """Take the production's limits more or less strictly in this scene."""

    edit: Literal["judge scene"] = "judge scene"
    title: ClassVar[str] = "how strictly it is judged"
    of_scene: ClassVar[tuple[str, ...]] = ("strictness",)
    strictness: Strictness

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        return scene if scene.strictness == self.strictness else replace(scene, strictness=self.strictness)
