"""Edits of the cuts that are kept beside the one that is shown."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..bake import Baker
from ..cut.other_cut import MOST_OTHER_CUTS, OtherCut
from ..errors import DomainError
from ..scene import Scene
from .edit import Edit, check_new_id
from .names import usable_name


@dataclass(frozen=True, kw_only=True)
class KeepCut(Edit):
    """Keep the cut as it is now beside the one that is worked on, under the name that it had; the one that is worked on is called
    ``name`` from now on."""

    edit: Literal["keep cut"] = "keep cut"
    title: ClassVar[str] = "keep the cut"
    of_scene: ClassVar[tuple[str, ...]] = ("other_cuts", "cut_name")
    cut_id: str
    name: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        check_new_id(self.cut_id)
        if len(scene.other_cuts) >= MOST_OTHER_CUTS:
            raise DomainError(f"{MOST_OTHER_CUTS} other cuts are kept already.", "Take one out first.")
        kept = OtherCut(self.cut_id, scene.cut_name or FIRST_NAME, scene.cut)
        return replace(scene, other_cuts=(*scene.other_cuts, kept), cut_name=usable_name(self.name, "cut"))


FIRST_NAME = "A"


@dataclass(frozen=True, kw_only=True)
class TakeUpCut(Edit):
    """Show another cut; the one that was shown is kept in its place."""

    edit: Literal["take up cut"] = "take up cut"
    title: ClassVar[str] = "take up another cut"
    of_scene: ClassVar[tuple[str, ...]] = ("cut", "other_cuts", "cut_name")
    cut_id: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        other = _other(scene, self.cut_id)
        left = OtherCut(other.id, scene.cut_name or FIRST_NAME, scene.cut)
        others = tuple(left if one is other else one for one in scene.other_cuts)
        return replace(scene, cut=other.cut, cut_name=other.name, other_cuts=others)


@dataclass(frozen=True, kw_only=True)
class RenameCut(Edit):
    """Call the cut that is shown (``cut_id`` None), or another, something else."""

    edit: Literal["rename cut"] = "rename cut"
    title: ClassVar[str] = "rename cut"
    of_scene: ClassVar[tuple[str, ...]] = ("other_cuts", "cut_name")
    cut_id: str | None = None
    name: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        name = usable_name(self.name, "cut")
        if self.cut_id is None:
            return replace(scene, cut_name=name)
        other = _other(scene, self.cut_id)
        others = tuple(replace(one, name=name) if one is other else one for one in scene.other_cuts)
        return replace(scene, other_cuts=others)


@dataclass(frozen=True, kw_only=True)
class DropCut(Edit):
    """Take another cut out."""

    edit: Literal["drop cut"] = "drop cut"
    title: ClassVar[str] = "take a cut out"
    of_scene: ClassVar[tuple[str, ...]] = ("other_cuts", "cut_name")
    cut_id: str

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        other = _other(scene, self.cut_id)
        return replace(scene, other_cuts=tuple(one for one in scene.other_cuts if one is not other))


def _other(scene: Scene, cut_id: str) -> OtherCut:
    found = next((one for one in scene.other_cuts if one.id == cut_id), None)
    if found is None:
        raise DomainError("That cut is not kept any more.", "Choose another one.")
    return found
