"""An edit applied to a scene into which others come."""

from __future__ import annotations

from ..bake import Baker
from ..nesting import renewed
from ..scene import Scene
from .edit import Edit


def applied(edit: Edit, scene: Scene, baker: Baker) -> Scene:
    """The whole scene after an edit; ``baker`` is of it. Raises ``DomainError`` for what the edit refuses, and for a change of
    what comes with a block."""
    return renewed(scene, edit.apply(scene, baker))
