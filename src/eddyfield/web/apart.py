"""Edits of several people in one scene: those of different things are no conflict."""

from __future__ import annotations

from collections.abc import Iterable

from eddyfield.core.edits import Edit
from eddyfield.core.errors import DomainError
from eddyfield.core.scene import Scene

from .requests import edit_of_text


def is_apart(edit: Edit, scene: Scene, others: Iterable[str]) -> bool:
    """Whether an edit changes nothing of what ``others``, as the journal has them, have changed of a scene as it stands now."""
    try:
        own = edit.reach(scene)
        for text in others:
            other = edit_of_text(text)
            if other is None or other.owners_by_scene or not own.is_apart_from(other.reach(scene)):
                return False
    except DomainError:  # what it is about is there no more
        return False
    return True
