"""Ways to change a cut. Whatever is done, every frame keeps exactly one camera; shots are named by the frame they begin on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..errors import DomainError
from ..time.frames import FrameRange
from .cut import Cut, CutEntry
from .transition import Transition


def cut_to(cut: Cut, frame: int, camera_id: str, frames: FrameRange) -> Cut:
    """From ``frame`` on another camera, until the next shot begins; the very same cut where it is that camera's already."""
    _check_inside(frame, frames)
    cut = _from_the_start(cut, frames)
    index = _index_at(cut, frame)
    ruling = cut.entries[index]
    begins = max(ruling.first, frames.first) == frame
    if ruling.camera_id == camera_id:
        return cut
    _check_unlocked(ruling, index)
    if begins:
        return _with(cut, index, replace(ruling, camera_id=camera_id))
    return _inserted(cut, CutEntry(frame, camera_id))


def split(cut: Cut, frame: int, frames: FrameRange) -> Cut:
    """Two shots of one: the same camera goes on in a shot of its own."""
    _check_inside(frame, frames)
    cut = _from_the_start(cut, frames)
    index = _index_at(cut, frame)
    ruling = cut.entries[index]
    if max(ruling.first, frames.first) == frame:
        raise DomainError(f"A shot begins on {frame} already.", "Go to a frame within it.")
    _check_unlocked(ruling, index)
    return _inserted(cut, CutEntry(frame, ruling.camera_id))


def joined(cut: Cut, first: int) -> Cut:
    """The shot before goes on over the shot that begins on ``first``."""
    index = _index_of(cut, first)
    if index == 0:
        raise DomainError("Before the first shot there is none to join it to.", "Choose a later one.")
    _check_unlocked(cut.entries[index], index)
    _check_unlocked(cut.entries[index - 1], index - 1)
    return Cut(cut.entries[:index] + cut.entries[index + 1 :])


def rolled(cut: Cut, first: int, to: int, frames: FrameRange) -> Cut:
    """The cut on ``first`` lies on ``to``: what the one shot loses the other gains. It stops a frame before a neighbour ends."""
    cut = _from_the_start(cut, frames)
    index = _index_of(cut, first)
    if index == 0:
        raise DomainError("The first shot begins where the scene begins.", "Move the scene's first frame.")
    _check_unlocked(cut.entries[index], index)
    _check_unlocked(cut.entries[index - 1], index - 1)
    low, high = _room(cut, index, index, frames)
    return _with(cut, index, replace(cut.entries[index], first=min(max(to, low), high)))


def slid(cut: Cut, first: int, by: int, frames: FrameRange) -> Cut:
    """The shot that begins on ``first`` comes ``by`` frames later, as long as it is: the one before gains what the one after
    loses."""
    cut = _from_the_start(cut, frames)
    index = _index_of(cut, first)
    if index == 0 or index + 1 == len(cut.entries):
        raise DomainError("A shot slides between two others.", "The first and the last one have an end that stays.")
    for at in (index - 1, index, index + 1):
        _check_unlocked(cut.entries[at], at)
    low, high = _room(cut, index, index + 1, frames)
    length = cut.entries[index + 1].first - first
    by = min(max(first + by, low), high - length) - first
    moved = [replace(cut.entries[at], first=cut.entries[at].first + by) for at in (index, index + 1)]
    return Cut((*cut.entries[:index], *moved, *cut.entries[index + 2 :]))


def cameras_swapped(cut: Cut, first: int, other_first: int) -> Cut:
    """Two shots show each other's camera."""
    one, other = _index_of(cut, first), _index_of(cut, other_first)
    for index in (one, other):
        _check_unlocked(cut.entries[index], index)
    ids = cut.entries[one].camera_id, cut.entries[other].camera_id
    swapped = _with(cut, one, replace(cut.entries[one], camera_id=ids[1]))
    return _with(swapped, other, replace(cut.entries[other], camera_id=ids[0]))


def shot_changed(cut: Cut, first: int, **changes: object) -> Cut:
    """What is said of the shot that begins on ``first``; its camera only while it is not locked."""
    index = _index_of(cut, first)
    entry = cut.entries[index]
    if changes.get("camera_id", entry.camera_id) != entry.camera_id:
        _check_unlocked(entry, index)
    changed = replace(entry, **changes)  # type: ignore[arg-type]
    return cut if changed == entry else _with(cut, index, changed)


def with_transition(cut: Cut, first: int, transition: Transition, frames: FrameRange) -> Cut:
    """The shot that begins on ``first`` takes over from the one before in that way."""
    index = _index_of(cut, first)
    if index == 0 or first <= frames.first:
        raise DomainError("Before the first shot there is none to come from.", "Choose a later one.")
    _check_unlocked(cut.entries[index], index)
    _check_unlocked(cut.entries[index - 1], index - 1)
    changed = replace(cut.entries[index], transition=transition)
    return cut if changed == cut.entries[index] else _with(cut, index, changed)


def taken_live(cut: Cut, takes: Sequence[CutEntry], last: int, frames: FrameRange) -> Cut:
    """From the first of ``takes`` to ``last`` the cut is theirs; after that it goes on as it was."""
    if not takes:
        return cut
    first = takes[0].first
    _check_inside(first, frames)
    _check_inside(last, frames)
    if any(take.first < first or take.first > last for take in takes):
        raise DomainError("A cut lies outside what was played.", "Play it again.")
    cut = _from_the_start(cut, frames)
    covered = range(_index_at(cut, first), _index_at(cut, last) + 1)
    for index in covered:
        _check_unlocked(cut.entries[index], index)
    after = cut.entries[covered[-1]]
    kept = [e for e in cut.entries if e.first < first or e.first > last]
    resumes = (
        [replace(after, first=last + 1)] if last < frames.last and not any(e.first == last + 1 for e in kept) else []
    )
    own = {take.first: take for take in takes}
    entries = sorted([*kept, *own.values(), *resumes], key=lambda e: e.first)
    out = [entries[0]]
    for entry in entries[1:]:
        # A camera that goes on is no new shot, unless that was one before.
        if entry.camera_id != out[-1].camera_id or entry in kept:
            out.append(entry)
    return Cut(tuple(out))


def within(cut: Cut, frames: FrameRange) -> Cut:
    """The cut without the shots that the scene does not reach; the first one begins with it."""
    spans = cut.spans(frames)
    entries = [replace(cut.entries[span.entry], first=span.first) for span in spans]
    return Cut(tuple(entries)) if entries != list(cut.entries) else cut


def _from_the_start(cut: Cut, frames: FrameRange) -> Cut:
    """The same cut, whose first entry, which rules what lies before it as well, begins no later than the scene."""
    first = cut.entries[0]
    return cut if first.first <= frames.first else _with(cut, 0, replace(first, first=frames.first))


def _index_at(cut: Cut, frame: int) -> int:
    """The entry that rules a frame."""
    return max((i for i, e in enumerate(cut.entries) if e.first <= frame), default=0)


def _index_of(cut: Cut, first: int) -> int:
    """The entry of the shot that begins on a frame."""
    found = next((i for i, e in enumerate(cut.entries) if e.first == first), None)
    if found is None:
        raise DomainError(f"No shot begins on {first}.", "Choose one in the Sheet or in the list of shots.")
    return found


def _with(cut: Cut, index: int, entry: CutEntry) -> Cut:
    return Cut((*cut.entries[:index], entry, *cut.entries[index + 1 :]))


def _inserted(cut: Cut, entry: CutEntry) -> Cut:
    return Cut(tuple(sorted((*cut.entries, entry), key=lambda e: e.first)))


def _room(cut: Cut, index: int, last_index: int, frames: FrameRange) -> tuple[int, int]:
    """The least and greatest frame for the entries from ``index`` to ``last_index``: a frame is left to each neighbour."""
    low = max(cut.entries[index - 1].first, frames.first) + 1
    after = cut.entries[last_index + 1].first if last_index + 1 < len(cut.entries) else frames.last + 1
    return low, min(after, frames.last + 1) - 1


def _check_inside(frame: int, frames: FrameRange) -> None:
    if not frames.first <= frame <= frames.last:
        raise DomainError(f"Frame {frame} is not in the scene.", f"It goes from {frames.first} to {frames.last}.")


def _check_unlocked(entry: CutEntry, index: int) -> None:
    if entry.locked:
        raise DomainError(f"Shot {entry.name or index + 1} is locked.", "Unlock it in the list of shots.")
