"""Edits that let a reading stand, and take that back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from ..acceptance import Acceptance
from ..bake import Baker
from ..errors import DomainError
from ..scene import Scene
from .edit import Edit

LONGEST_REASON = 400
LONGEST_WORD = 120
MOST_ACCEPTED = 2000


@dataclass(frozen=True, kw_only=True)
class AcceptReading(Edit):
    """Let a reading stand for a reason, until what it tells changes."""

    edit: Literal["accept reading"] = "accept reading"
    title: ClassVar[str] = "accept a reading"
    of_scene: ClassVar[tuple[str, ...]] = ("accepted",)
    accepted: Acceptance

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        made = replace(self.accepted, reason=self.accepted.reason.strip())
        if not made.reason:
            raise DomainError("Nothing says why it may stand.", "Give a reason: who sees it next will ask.")
        if len(made.reason) > LONGEST_REASON or any(len(part) > LONGEST_WORD for part in made.about):
            raise DomainError("The reason is too long.", f"Keep it within {LONGEST_REASON} letters.")
        others = tuple(a for a in scene.accepted if (a.about, a.first) != (made.about, made.first))
        if len(others) >= MOST_ACCEPTED:
            raise DomainError(f"The scene would have more than {MOST_ACCEPTED:,} accepted readings.", "Take some back.")
        return replace(scene, accepted=tuple(sorted((*others, made))))


@dataclass(frozen=True, kw_only=True)
class TakeAcceptanceBack(Edit):
    """Have a reading told again that was let stand."""

    edit: Literal["take acceptance back"] = "take acceptance back"
    title: ClassVar[str] = "take an acceptance back"
    of_scene: ClassVar[tuple[str, ...]] = ("accepted",)
    kind: str
    character_id: str
    camera_id: str
    joint: str
    first: int

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        about = (self.kind, self.character_id, self.camera_id, self.joint)
        left = tuple(a for a in scene.accepted if (a.about, a.first) != (about, self.first))
        if len(left) == len(scene.accepted):
            raise DomainError("That reading is not accepted.", "Choose one in the list.")
        return replace(scene, accepted=left)
