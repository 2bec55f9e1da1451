"""BVH in: a text file of joints with offsets and channels, and rows of samples at an even time."""

from __future__ import annotations

import re
import warnings
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms
from eddyfield.core.rig.motion import Curve, Motion
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import OffsetReading, RigSource
from eddyfield.core.time.frames import meant_frame_seconds

from .errors import DamagedFile, FileError, OfOtherKind
from .format import Format, Resolver
from .limits import DEEPEST_JOINTS, check_depth
from .names import unique_names

MOST_JOINTS, MOST_CHANNELS = 10_000, 60
_CHANNEL = re.compile(r"^([xyz])(position|rotation)$", re.IGNORECASE)


@dataclass
class _Joint:
    name: str
    parent: int
    offset: list[float] = field(default_factory=list)
    channels: list[tuple[int, str]] = field(default_factory=list)  # (axis, position or rotation), in file order
    first_column: int = 0
    is_end: bool = False


def read(data: bytes, *, scale: float = 0.01, offsets: OffsetReading = "auto") -> Rig:
    """Read a BVH. ``scale`` is metres per unit of the file. ``offsets`` says whether position channels add to the
    joint's OFFSET or replace it; ``auto`` decides by evidence and says so in the rig's notes.

    Raises ``FileError`` on anything that is not a BVH.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    if "\r" in text:
        text = text.replace("\r\n", "\n").replace("\r", "\n")
    split = re.search(r"^[ \t]*MOTION\b[ \t]*$", text, re.MULTILINE | re.IGNORECASE)
    if not re.match(r"\s*HIERARCHY\b", text, re.IGNORECASE):
        raise OfOtherKind("BVH", "It does not begin with HIERARCHY.")
    if not split:
        raise DamagedFile("There is no MOTION part.")
    joints = _hierarchy(text[: split.start()])
    notes: list[str] = []
    text = text[split.end() :]
    rows, frame_seconds = _samples(text, joints, notes)
    del text, data  # they may be large
    adds = _positions_add(joints, rows, offsets, notes)
    return _rig(joints, rows, frame_seconds, adds, scale, tuple(notes))


def _hierarchy(text: str) -> list[_Joint]:
    joints: list[_Joint] = []
    stack: list[int] = []
    pending: _Joint | None = None
    column = 0
    body = re.sub(r"^\s*HIERARCHY", "", text, flags=re.IGNORECASE)
    for line in re.sub(r"([{}])", r"\n\1\n", body).split("\n"):
        words = line.split()
        if not words:
            continue
        keyword = words[0].upper()
        if keyword in ("ROOT", "JOINT") or (keyword == "END" and len(words) > 1 and words[1].upper() == "SITE"):
            if pending is not None:
                raise DamagedFile(f"“{pending.name}” is not opened by a brace.")
            if keyword == "ROOT" and stack:
                raise DamagedFile("A ROOT stands inside another joint.")
            if keyword != "ROOT" and not stack:
                raise DamagedFile(f"{line.strip()[:60]} stands outside any root.")
            name = line.strip()[len(keyword) :].strip() or f"joint_{len(joints)}"
            pending = _Joint(name, stack[-1] if stack else -1, is_end=keyword == "END")
            if len(joints) >= MOST_JOINTS:
                raise FileError(f"The file has more than {MOST_JOINTS:,} joints.", "Bring in a simpler one.")
        elif keyword == "{":
            if pending is None:
                raise DamagedFile("A brace opens nothing.")
            check_depth(len(stack) + 1, DEEPEST_JOINTS)
            joints.append(pending)
            stack.append(len(joints) - 1)
            pending = None
        elif keyword == "}":
            if not stack:
                raise DamagedFile("A brace closes nothing.")
            closed = joints[stack.pop()]
            if not closed.offset:
                raise DamagedFile(f"“{closed.name}” has no OFFSET.")
        elif keyword == "OFFSET" and stack:
            joints[stack[-1]].offset = _numbers(words[1:], 3, f"The OFFSET of “{joints[stack[-1]].name}”")
        elif keyword == "CHANNELS" and stack:
            joint = joints[stack[-1]]
            joint.channels = _channels(words[1:], joint.name)
            joint.first_column = column
            column += len(joint.channels)
        else:
            raise DamagedFile(f"“{line.strip()[:60]}” does not belong in a BVH hierarchy.")
    if stack or pending is not None:
        raise DamagedFile("The hierarchy is not closed.")
    if not joints:
        raise FileError("The file has no joints.", "Bring in a rigged character.")
    return joints


def _numbers(words: list[str], count: int, what: str) -> list[float]:
    try:
        numbers = [float(w) for w in words]
    except ValueError:
        numbers = []
    if len(numbers) != count or not np.isfinite(numbers).all():
        raise DamagedFile(f"{what} should be {count} numbers.")
    return numbers


def _channels(words: list[str], name: str) -> list[tuple[int, str]]:
    if not words or not words[0].isdigit() or int(words[0]) > MOST_CHANNELS or len(words) - 1 != int(words[0]):
        raise DamagedFile(f"The CHANNELS of “{name}” do not match their number.")
    out = []
    for word in words[1:]:
        match = _CHANNEL.match(word)
        if not match:
            raise DamagedFile(f"“{name}” has the unknown channel “{word[:40]}”.")
        out.append(("xyz".index(match[1].lower()), match[2].lower()))
    return out


def _samples(text: str, joints: list[_Joint], notes: list[str]) -> tuple[Floats, float]:
    head = re.match(r"\s*Frames\s*:\s*(\S+)\s+Frame\s+Time\s*:\s*(\S+)", text, re.IGNORECASE)
    if not head:
        raise DamagedFile("The MOTION part does not say its frames and frame time.")
    try:
        declared, seconds = int(float(head[1])), float(head[2].replace(",", "."))
    except (ValueError, OverflowError):
        raise DamagedFile("The frames or the frame time of the BVH cannot be read.") from None
    if declared < 0:
        raise DamagedFile(f"The BVH says that it has {declared} frames.")
    if not (np.isfinite(seconds) and 0 < seconds <= 3600):
        raise FileError(f"The frame time of {head[2][:20]} is not usable.", "It has to be above 0 seconds.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            values = np.fromstring(text[head.end() :], sep=" ")
    except (DeprecationWarning, ValueError):
        raise DamagedFile("The samples of the BVH hold something that is no number.") from None
    if not np.isfinite(values).all():
        raise DamagedFile("The samples of the BVH hold values that are no numbers.")
    width = sum(len(j.channels) for j in joints)
    if not width:
        raise FileError("Nothing moves in the file: none of its joints has a channel.", "Export it with its motion.")
    count, rest = divmod(len(values), width)
    if not count:
        raise DamagedFile("There is no full row of samples.")
    if rest:
        notes.append(f"The last row has {rest} of {width} numbers and was left out.")
    if count != declared:
        notes.append(f"The file says {declared} frames and holds {count}; {count} were read.")
    return values[: count * width].reshape(count, width), meant_frame_seconds(seconds)


def _local(joint: _Joint, rows: Floats, adds: bool) -> tuple[Floats, Floats]:
    """Translations (rows, 3) in units of the file and quaternions (rows, 4) of a joint."""
    translation = np.tile(joint.offset, (len(rows), 1))
    quaternion = np.tile([0.0, 0.0, 0.0, 1.0], (len(rows), 1))
    for column, (axis, kind) in enumerate(joint.channels, joint.first_column):
        if kind == "position":
            translation[:, axis] = rows[:, column] + (joint.offset[axis] if adds else 0.0)
        else:
            half = np.radians(rows[:, column]) / 2
            turn = np.zeros((len(rows), 4))
            turn[:, axis], turn[:, 3] = np.sin(half), np.cos(half)
            quaternion = transforms.quaternion_product(quaternion, turn)
    return translation, quaternion


def _positions_add(joints: list[_Joint], rows: Floats, offsets: OffsetReading, notes: list[str]) -> bool:
    """Whether position channels add to the OFFSET. Evidence: does the first row already hold the offset (or nothing
    beside it), and which reading lets the lowest point come down at height 0?"""
    if offsets != "auto":
        return offsets == "add"
    affected = []
    for joint in joints:
        axes = [(c, a) for c, (a, kind) in enumerate(joint.channels, joint.first_column) if kind == "position"]
        if any(joint.offset[a] != 0 for _, a in axes):
            affected.append((joint, axes))
    if not affected:
        return True
    replacing_cost = adding_cost = 0.0
    for joint, axes in affected:
        if joint.parent >= 0:
            replacing_cost += sum(abs(rows[0, c] - joint.offset[a]) for c, a in axes)
            adding_cost += sum(abs(rows[0, c]) for c, _ in axes)
    if replacing_cost + adding_cost > 0 and (
        replacing_cost < 0.25 * adding_cost or adding_cost < 0.25 * replacing_cost
    ):
        adds = adding_cost < replacing_cost
        why = "beside the offset the first row is empty" if adds else "the first row already holds the offset"
    else:
        adding, replacing = _lowest(joints, rows, True), _lowest(joints, rows, False)
        if abs(abs(adding) - abs(replacing)) < 1e-6:
            adds, why = _first_row_is_empty(affected, rows), "by the first row"
        else:
            adds, why = abs(adding) < abs(replacing), "so the feet come down nearest to the ground"
    notes.append(f"Position channels {'add to' if adds else 'replace'} the OFFSET ({why}); --offsets overrules.")
    return adds


def _first_row_is_empty(affected: list[tuple[_Joint, list[tuple[int, int]]]], rows: Floats) -> bool:
    replacing_cost = sum(abs(rows[0, c] - j.offset[a]) for j, axes in affected for c, a in axes)
    return bool(sum(abs(rows[0, c]) for _, axes in affected for c, _ in axes) < replacing_cost)


def _lowest(joints: list[_Joint], rows: Floats, adds: bool) -> float:
    """Height, in units of the file, that the lowest joint or end site comes down to (5 % of frames lie lower)."""
    some = rows[:: max(1, len(rows) // 200)]
    world = np.zeros((len(some), len(joints), 4, 4))
    for index, joint in enumerate(joints):
        translation, quaternion = _local(joint, some, adds)
        local = transforms.compose(translation, quaternion, np.ones((len(some), 3)))
        world[:, index] = local if joint.parent < 0 else world[:, joint.parent] @ local
    return float(np.quantile(world[..., 1, 3].min(axis=1), 0.05))


def _rig(
    joints: list[_Joint], rows: Floats, frame_seconds: float, adds: bool, scale: float, notes: tuple[str, ...]
) -> Rig:
    seconds: Floats = np.arange(len(rows), dtype=np.float64) * frame_seconds
    curves = []
    for index, joint in enumerate(joints):
        if joint.channels:
            translation, quaternion = _local(joint, rows, adds)
            kinds = {kind for _, kind in joint.channels}
            if "position" in kinds:
                curves.append(Curve(index, "translation", "linear", seconds, translation))
            if "rotation" in kinds:
                curves.append(Curve(index, "rotation", "linear", seconds, quaternion))
    count = len(joints)
    offsets = np.array([j.offset for j in joints])
    quaternions, ones = np.tile([0.0, 0.0, 0.0, 1.0], (count, 1)), np.ones((count, 3))
    real: list[int] = [i for i, j in enumerate(joints) if not j.is_end]
    parents: NDArray[np.int64] = np.array([j.parent for j in joints], dtype=np.int64)
    return Rig(
        unique_names([j.name if not j.is_end else f"{joints[j.parent].name} end" for j in joints], real),
        parents,
        offsets,
        quaternions,
        ones,
        transforms.compose(offsets, quaternions, ones),
        np.array(real, dtype=np.int64),
        Motion(tuple(curves), float(seconds[-1]), "motion"),
        scale=scale,
        notes=notes,
    )


def _read(data: bytes, source: RigSource, resolve: Resolver | None, with_mesh: bool) -> Rig:
    if source.animation is not None:
        raise FileError("A BVH holds one motion without a name.", "Leave the animation away.")
    return read(data, scale=source.scale, offsets=source.offsets)


FORMAT = Format("bvh", "BVH motion", (".bvh",), 0.01, _read, has_surfaces=False)
