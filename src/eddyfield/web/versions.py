"""The next version of a performance: whose it is, and what it would make better and worse."""

from __future__ import annotations

from datetime import UTC, datetime

from eddyfield.core.edits import BringNextVersion, version_of
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.compared import Change, compared, readings_to_compare
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import last_frame_of
from eddyfield.formats.table import format_named

from . import answers
from .requests import NextVersion
from .scene_views import SceneViews, reading_view, write_down


def next_version(request: NextVersion, scene: Scene, views: SceneViews) -> answers.NextVersionView:
    """Both states are judged through the cut; nothing is stored. Raises ``DomainError`` for what could not be brought in."""
    before = views.baker(scene)
    character = scene.character(request.character_id) if request.character_id else None
    kind = format_named(request.format)
    if character is None:
        character = version_of(scene, before, before.rig_of(RigSource(request.digest, kind.name)))
    if character is None:
        return answers.NextVersionView(character_id=None, changes=[], edit=None)
    own = character.performance.source
    is_alike = own.format == kind.name
    source = RigSource(
        request.digest, kind.name, own.scale if is_alike else kind.default_scale, own.animation if is_alike else None,
        own.offsets,
    )  # fmt: skip
    now = datetime.now(UTC).isoformat(timespec="seconds")
    edit = BringNextVersion(character_id=character.id, source=source, name=request.file_name, brought_at=now)
    after_scene = edit.apply(scene, before)
    if after_scene is scene:
        raise DomainError(f"That is what {character.name} performs already.", "Export the next version first.")
    after = views.baker(after_scene)
    told = [readings_to_compare(baker, write_down) for baker in (before, after)]
    changes = [_change_view(change) for change in compared(*told) if change.status != "same"]
    rigs = [before.rig(character), after.rig(after_scene.character(character.id))]
    names = [set(rig.joint_names) for rig in rigs]
    ends = [last_frame_of(rig.motion.duration_seconds, character.performance.start, scene.rate) for rig in rigs]
    return answers.NextVersionView(
        character_id=character.id, changes=changes, edit=edit, last_before=ends[0], last_after=ends[1],
        joints_added=[n for n in rigs[1].joint_names if n not in names[0]],
        joints_lost=[n for n in rigs[0].joint_names if n not in names[1]],
    )  # fmt: skip


def _change_view(change: Change) -> answers.ChangeView:
    was = change.before if change.after else None
    return answers.ChangeView(
        status=change.status, reading=reading_view(change.reading), was=reading_view(was) if was else None
    )
