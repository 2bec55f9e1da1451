"""The next version of a performance: whose it is, and what it would make better and worse."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from math import floor

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.placement import calm_joint
from eddyfield.core.edits import BringNextVersion, Edit, version_of
from eddyfield.core.edits.applying import applied
from eddyfield.core.edits.contents import ReplaceFile
from eddyfield.core.edits.versions import going_by_lost_joints, joints_added_and_lost, performing, read_alike
from eddyfield.core.errors import DomainError
from eddyfield.core.performance.piece import Piece
from eddyfield.core.readings.compared import Change, compared
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.rig.joint_matching import renamed_joints
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.formats.table import format_named

from . import answers
from .reading_answers import ChangeView
from .reading_views import reading_view
from .requests import NextVersion, SeenReading
from .scene_views import SceneViews, write_down


def next_version(request: NextVersion, scene: Scene, views: SceneViews) -> answers.NextVersionView:
    """Both states are judged through the cut; nothing is stored. Raises ``DomainError`` for what could not be brought in."""
    before = views.baker(scene)
    thing = scene.thing(request.thing_id) if request.thing_id else None
    kind = format_named(request.format)
    if thing is None:
        thing = version_of(scene, before, before.rig_of(RigSource(request.digest, kind.name)))
    if thing is None:
        return answers.NextVersionView(thing_id=None, changes=[], edit=None)
    source = read_alike(thing.performance.source, request.digest, kind.name, kind.default_scale)
    rig = before.rig_of(source)
    names: tuple[tuple[str, str], ...] = ()
    edit: Edit
    if isinstance(thing, Piece):
        edit = ReplaceFile(piece_id=thing.id, source=source)
    else:
        now = datetime.now(UTC).isoformat(timespec="seconds")
        names = tuple(pair for pair in renamed_joints(before.rig(thing), rig) if pair[0] not in request.lost)
        edit = BringNextVersion(
            character_id=thing.id, source=source, name=request.file_name, brought_at=now, renamed=names
        )
    after_scene = applied(edit, scene, before)
    if after_scene == scene:
        raise DomainError(f"That is what {thing.name} is already.", "Export the next version first.")
    after = views.baker(after_scene)
    changes = changes_between(before, after)
    rigs = before.rig(thing), after.rig(after_scene.thing(thing.id))
    added, lost = joints_added_and_lost(*rigs)
    timing = thing.performance.timing
    ends = [floor(timing.start) + timing.count(scene.rate, rig.motion.duration_seconds) - 1 for rig in rigs]
    return answers.NextVersionView(
        thing_id=thing.id, changes=changes, edit=edit, last_before=ends[0], last_after=ends[1],
        joints_added=[name for name in added if name not in dict(names).values()],
        joints_lost=[name for name in lost if name not in dict(names)], renamed=list(names),
        goes_by_lost=list(going_by_lost_joints(after_scene, thing.id, rigs[1])),
        stands_in=calm_joint(rigs[1]) if len(rigs[1].joints) else "",
    )  # fmt: skip


def with_version(baker: Baker, character_id: str, source: RigSource) -> Baker:
    """The scene with a known version of a performance in the place of the one that is performed. Raises ``DomainError``."""
    character = baker.scene.character(character_id)
    if all(version.source != source for version in character.versions.all):
        raise DomainError("That version is not known any more.", "Choose another one.")
    return baker.of(baker.scene.with_character(performing(character, source, baker.rig_of(source))))


def changes_between(before: Baker, after: Baker) -> list[ChangeView]:
    """What became better and worse from one state of a scene to another, without what stayed."""
    return changes_of(*(scene_readings(baker, None, None, write_down) for baker in (before, after)))


def changes_since(seen: Sequence[SeenReading], baker: Baker) -> list[ChangeView]:
    """What became better and worse since readings were ``seen``; what somebody lets stand is not told."""
    before = [Reading(**one.model_dump()) for one in seen]
    now = [r for r in scene_readings(baker, None, None, write_down) if r.accepted is None]
    return changes_of(before, now)


def changes_of(before: Sequence[Reading], after: Sequence[Reading]) -> list[ChangeView]:
    """The same of readings."""
    return [_change_view(change) for change in compared(before, after) if change.status != "same"]


def _change_view(change: Change) -> ChangeView:
    was = change.before if change.after else None
    return ChangeView(
        status=change.status, reading=reading_view(change.reading), was=reading_view(was) if was else None
    )
