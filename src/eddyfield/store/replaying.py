"""Undo and redo: which entries of the journal are taken back or done again for a window, and the rows that makes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from pymysql.cursors import DictCursor

from . import journal
from .journal import Entry, Heading
from .key_rows import Row, RowKey
from .rows import Difference


class NothingToUndo(Exception):
    """The journal has no entry in that direction."""


class OthersStandOnIt(Exception):
    """What other windows did would be taken back as well, or alone: ``headings`` of that, the newest first. ``edit`` is the
    window's own, None where it has changed nothing."""

    def __init__(self, edit: str | None, headings: Sequence[Heading]) -> None:
        super().__init__(edit or "")
        self.edit = edit
        self.headings = tuple(headings)


class CannotRedo(Exception):
    """What was undone cannot be done again: ``heading`` was done, or undone, on the same things since."""

    def __init__(self, edit: str, heading: Heading) -> None:
        super().__init__(edit)
        self.edit = edit
        self.heading = heading


def taken_back(
    cursor: DictCursor, scene_id: str, window_id: str | None, of_others: bool, revision: int
) -> tuple[str, Difference]:
    """The newest edit of a window, with all that stands on it where ``of_others`` says so, marked as undone by ``revision``:
    its name, and the rows to write. Raises ``NothingToUndo`` and ``OthersStandOnIt``."""
    own = journal.to_undo(cursor, scene_id, window_id, of_others)
    if own is None:
        newest = journal.to_undo(cursor, scene_id, None, of_others)
        if newest is None:
            raise NothingToUndo
        raise OthersStandOnIt(None, [newest])
    going = [(own, _entry(cursor, scene_id, own))]
    for heading in journal.newer(cursor, scene_id, own.number):
        entry = _entry(cursor, scene_id, heading)
        if any(entry.touches(other) for _, other in going):
            going.append((heading, entry))
    going.reverse()
    others = [heading for heading, _ in going if heading is not own]
    if others and not of_others:
        raise OthersStandOnIt(own.edit, others)
    journal.mark_undone(cursor, scene_id, [heading.number for heading, _ in going], window_id, revision)
    return own.edit, _folded([(entry.after, entry.before) for _, entry in going])


def done_again(cursor: DictCursor, scene_id: str, window_id: str | None) -> tuple[str, Difference]:
    """The edit that a window took back last, marked as done: its name, and the rows to write. Raises ``NothingToUndo`` and
    ``CannotRedo``."""
    own = journal.to_redo(cursor, scene_id, window_id)
    if own is None:
        raise NothingToUndo
    entry = _entry(cursor, scene_id, own)
    since = [
        *reversed(journal.newer(cursor, scene_id, own.number)),
        *journal.older_undone_since(cursor, scene_id, own),
    ]
    for heading in since:
        if _entry(cursor, scene_id, heading).touches(entry):
            raise CannotRedo(own.edit, heading)
    journal.mark_done_again(cursor, scene_id, own.number)
    return own.edit, _folded([(entry.before, entry.after)])


def _entry(cursor: DictCursor, scene_id: str, heading: Heading) -> Entry:
    entry = journal.read_entry(cursor, scene_id, heading.number)
    if entry is None:
        raise NothingToUndo
    return entry


def _folded(steps: Sequence[tuple[Mapping[RowKey, Row], Mapping[RowKey, Row]]]) -> Difference:
    """One difference for steps from rows to rows that follow each other."""
    present: dict[RowKey, Row | None] = {}
    wanted: dict[RowKey, Row | None] = {}
    for source, target in steps:
        for key in dict.fromkeys([*source, *target]):
            present.setdefault(key, source.get(key))
            wanted[key] = target.get(key)
    return [(key, present[key], row) for key, row in wanted.items()]
