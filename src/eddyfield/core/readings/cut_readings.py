"""Readings of the cut: shots too short to be read, and what jars between the last picture before a cut and the first after it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import combinations, pairwise

import numpy as np
from numpy.typing import NDArray

from ..arrays import Floats, Ints
from ..bake import Baker
from ..cut.shots import Shot
from ..edits.camera_keys import ChosenKeys, RetimeCameraKeys
from ..edits.cuts import FitCut, JoinShots, RollCut
from ..edits.match_place import MatchPlace, turn_to_match
from ..errors import DomainError
from ..optics.camera_path import CameraPath
from ..optics.camera_speed import USUAL_DISTANCE_M, background_px
from ..optics.lens import inside_frame
from ..optics.two_sights import degrees_aside, pixels_per_metre, times_as_large
from ..performance.character import Character
from ..shots import shown_face
from ..time.frames import FrameTime
from .reading import Figure, Fix, Reading
from .thresholds import (
    AFTER_MARK_FRAMES,
    ALIKE_SIZES,
    MOVING_PERMILLE,
    NEAR_THE_LINE_M,
    SMALL_TURN_DEG,
    STILL_PERMILLE,
    UNDER_WAY_FRAMES,
)


def cut_readings(baker: Baker) -> list[Reading]:
    """All that is told of the cut as a whole."""
    shots = baker.shots
    out = [*_short(shots, baker.limits.short_shot_frames), *_after_marks(baker, shots), *_outside(baker, shots)]
    # A shot that was split goes on in the same picture: there is no cut to be seen.
    incoming = tuple(
        after for before, after in pairwise(shots) if after.camera_id != before.camera_id and after.mix is None
    )
    if incoming:
        cuts = _cuts(baker, incoming)
        out += [
            *_jump_cuts(baker, cuts),
            *_place_jumps(baker, cuts),
            *_lines_crossed(baker, cuts),
            *_jolts(baker, cuts),
        ]
    return out


@dataclass(frozen=True, eq=False)
class _Cuts:
    """The cuts that are seen: the shots that come in, the rows on which they begin, the camera of the last picture before each
    and of the first after it; of each character the middle of its body in both, (cuts, 3), and whether it is in both, (cuts,)."""

    incoming: tuple[Shot, ...]
    rows: Ints
    before: CameraPath
    after: CameraPath
    bodies: dict[str, tuple[Floats, Floats]]
    inside: dict[str, NDArray[np.bool_]]


def _cuts(baker: Baker, incoming: tuple[Shot, ...]) -> _Cuts:
    rows = np.array([shot.first - baker.frames.first for shot in incoming], dtype=np.int64)
    path = baker.cut_path()
    before, after = path.at_rows(rows - 1), path.at_rows(rows)
    points = {c.id: baker.shown_joints(c) for c in baker.scene.characters}
    bodies = {who: (p[rows - 1].mean(axis=1), p[rows].mean(axis=1)) for who, p in points.items()}
    inside = {who: _both_inside(before, after, *body) for who, body in bodies.items()}
    return _Cuts(incoming, rows, before, after, bodies, inside)


def _short(shots: tuple[Shot, ...], least: float) -> Iterable[Reading]:
    for at, shot in enumerate(shots):
        if shot.count >= least or len(shots) == 1:
            continue
        gone, stays = (shot, shots[at - 1]) if at else (shots[1], shot)
        does = f"Shot {stays.title} goes on over the frames of {gone.title}."
        fix = () if gone.locked or stays.locked else (Fix("Join it", does, JoinShots(first=gone.begins)),)
        yield Reading(
            "short_shot", f"shot {shot.title}", shot.first, shot.last, shot.count, "frames", least,
            camera_id=shot.camera_id, fixes=fix,
        )  # fmt: skip


def _after_marks(baker: Baker, shots: tuple[Shot, ...]) -> Iterable[Reading]:
    """A line or an action begins in the last frames of a shot, and the cut comes after it."""
    begins = [mark for mark in baker.scene.marks if mark.kind in ("action", "line begins")]
    for before, shot in pairwise(shots):
        late = [m for m in begins if max(before.first, shot.first - AFTER_MARK_FRAMES) < m.frame < shot.first]
        if not late:
            continue
        mark = late[-1]
        fix = Fix(
            "Cut on it",
            f"The cut comes on {mark.frame}, with its {mark.kind}.",
            RollCut(first=shot.begins, to=mark.frame),
        )
        yield Reading(
            "cut_after_mark", mark.text or mark.kind, mark.frame, shot.first, shot.first - mark.frame, "frames", 0.0,
            camera_id=shot.camera_id, fixes=() if before.locked or shot.locked else (fix,),
        )  # fmt: skip


def _outside(baker: Baker, shots: tuple[Shot, ...]) -> Iterable[Reading]:
    lost = len(baker.scene.cut.entries) - len(shots)
    if lost:
        frames = baker.frames
        does = "The shots that no frame of the scene shows are taken out of the cut."
        fix = Fix("Fit the cut", does, FitCut())
        yield Reading("cut_outside_scene", f"{lost} of the cut", frames.first, frames.last, lost, "", 0.0, fixes=(fix,))


def _both_inside(before: CameraPath, after: CameraPath, then: Floats, now: Floats) -> NDArray[np.bool_]:
    """Whether the middle of a body is in the last picture before and in the first after, (cuts,)."""
    pictures = ((before, then), (after, now))
    seen = [inside_frame(path.project(body[:, None]), path.delivery)[:, 0] for path, body in pictures]
    return np.asarray(seen[0] & seen[1])


def _jump_cuts(baker: Baker, cuts: _Cuts) -> Iterable[Reading]:
    """The same subject, seen from less than 30 degrees aside and at nearly the same size: the picture hops instead of cutting.
    Of several characters it goes by the one that is largest."""
    angles, ratios, sizes = [], [], []
    for character in baker.scene.characters:
        then, now = cuts.bodies[character.id]
        sides = (cuts.before, then), (cuts.after, now)
        angles.append(degrees_aside(*sides))
        ratios.append(times_as_large(*sides))
        sizes.append(np.where(cuts.inside[character.id], pixels_per_metre(cuts.before, then), 0.0))
    if not sizes:
        return
    largest = np.argmax(sizes, axis=0)
    for at, shot in enumerate(cuts.incoming):
        who = int(largest[at])
        angle, ratio = float(angles[who][at]), float(ratios[who][at])
        if sizes[who][at] > 0 and hops(angle, ratio, baker.limits.jump_cut_deg):
            figures = (Figure("size", ratio, "share"),)
            yield Reading(
                "jump_cut", baker.scene.characters[who].name, shot.first, shot.first, angle, "degrees", baker.limits.jump_cut_deg,
                character_id=baker.scene.characters[who].id, camera_id=shot.camera_id, figures=figures,
            )  # fmt: skip


def hops(aside_deg: float | Floats, ratio: float | Floats, least_deg: float) -> NDArray[np.bool_]:
    """Whether a cut between two pictures of a subject hops: seen from hardly aside and nearly as large, elementwise."""
    alike = np.abs(np.log(ratio)) < np.log(ALIKE_SIZES)
    return np.asarray(alike & (np.asarray(aside_deg) < least_deg))


def _place_jumps(baker: Baker, cuts: _Cuts) -> Iterable[Reading]:
    """The only subject that goes on over a cut is somewhere else in the frame: the eye has to look for it."""
    most = baker.limits.place_jump_share * baker.scene.delivery.width
    faces = {c.id: shown_face(baker, c) for c in baker.scene.characters}
    sides = {who: (face[cuts.rows - 1], face[cuts.rows]) for who, face in faces.items()}
    inside = {who: _both_inside(cuts.before, cuts.after, *side) for who, side in sides.items()}
    for at, shot in enumerate(cuts.incoming):
        going_on = [c for c in baker.scene.characters if inside[c.id][at]]
        if len(going_on) != 1:
            continue
        (character,) = going_on
        jump = _apart_px(cuts, sides[character.id], at)
        if jump > most:
            yield Reading(
                "place_jumps", character.name, shot.first, shot.first, jump, "px", most,
                character_id=character.id, camera_id=shot.camera_id, fixes=_matched(baker, shot, character),
            )  # fmt: skip


def _apart_px(cuts: _Cuts, sides: tuple[Floats, Floats], at: int) -> float:
    """How far apart on the screen two points (cuts, 3) are, of the last picture before a cut and of the first after it."""
    row, (then, now) = np.array([at]), sides
    pixels = [
        path.at_rows(row).project(points[at][None, None]).pixels[0, 0]
        for path, points in ((cuts.before, then), (cuts.after, now))
    ]
    return float(np.linalg.norm(cuts.after.delivery.square(pixels[1] - pixels[0])))


def _matched(baker: Baker, shot: Shot, character: Character) -> tuple[Fix, ...]:
    """Turn the incoming camera, where little does it and nothing else turns it."""
    camera = baker.scene.camera(shot.camera_id)
    if camera.aim or camera.framing or "angles" in camera.locks:
        return ()
    try:
        _, more = turn_to_match(baker, shot.first, character.id)
    except DomainError:
        return ()
    if max(map(abs, more.values())) > SMALL_TURN_DEG:
        return ()
    turns = f"pans by {more['pan']:+.1f}° and tilts by {more['tilt']:+.1f}°"
    does = f"{camera.name} {turns}, so that {character.name} comes in where it went out."
    return (Fix("Match its place", does, MatchPlace(first=shot.first, character_id=character.id)),)


def _lines_crossed(baker: Baker, cuts: _Cuts) -> Iterable[Reading]:
    """Two characters change sides on the screen: the cameras stand on different sides of the line through both."""
    told: set[int] = set()
    for one, other in combinations(baker.scene.characters, 2):
        both = cuts.inside[one.id] & cuts.inside[other.id]
        sides = [
            _beside_line(path, cuts.bodies[one.id][at], cuts.bodies[other.id][at])
            for at, path in enumerate((cuts.before, cuts.after))
        ]
        crossed = both & (sides[0] * sides[1] < 0) & (np.minimum(*np.abs(sides)) > NEAR_THE_LINE_M)
        for at in np.flatnonzero(crossed):
            if at not in told:
                told.add(int(at))
                shot = cuts.incoming[at]
                yield Reading(
                    "line_crossed", f"{one.name}, {other.name}", shot.first, shot.first, float(abs(sides[1][at])), "m", 0.0,
                    camera_id=shot.camera_id,
                )  # fmt: skip


def _beside_line(path: CameraPath, one: Floats, other: Floats) -> Floats:
    """How far a camera stands beside the level line from one body to the other, metres, positive on its right, (cuts,)."""
    along = (other - one)[:, [0, 2]]
    along = along / np.maximum(np.linalg.norm(along, axis=1, keepdims=True), 1e-9)
    to_camera = (path.world_from_camera[:, :3, 3] - one)[:, [0, 2]]
    return np.asarray(along[:, 0] * to_camera[:, 1] - along[:, 1] * to_camera[:, 0])


def _jolts(baker: Baker, cuts: _Cuts) -> Iterable[Reading]:
    """A still picture is cut against a moving one. Where the move that comes in is about to begin, it can begin earlier."""
    path, rows = baker.cut_path(), cuts.rows
    count, height = path.count, path.delivery.height
    # Within a shot of one frame nothing moves.
    starts = np.zeros(count + 1, dtype=bool)
    starts[rows] = True
    near = np.min([np.linalg.norm(path.world_from_camera[rows, :3, 3] - now, axis=1) for _, now in cuts.bodies.values()] or
                  [np.full(len(rows), USUAL_DISTANCE_M)], axis=0)  # fmt: skip
    leaving = np.where((rows >= 2) & ~starts[rows - 1], background_px(path, np.maximum(rows - 2, 0), near), 0.0)
    arriving = np.where(
        ~starts[rows + 1] & (rows + 1 < count), background_px(path, np.minimum(rows, count - 2), near), 0.0
    )
    still, moving = STILL_PERMILLE * height / 1000, MOVING_PERMILLE * height / 1000
    for at, shot in enumerate(cuts.incoming):
        slow, fast = sorted((float(leaving[at]), float(arriving[at])))
        if slow >= still or fast <= moving:
            continue
        fixes = _under_way(baker, shot, moving, float(near[at])) if arriving[at] < still else ()
        figures = (Figure("before", float(leaving[at]), "px"), Figure("after", float(arriving[at]), "px"))
        yield Reading(
            "cut_jolts", f"shot {shot.title}", shot.first, shot.first, fast - slow, "px", moving, camera_id=shot.camera_id,
            fixes=fixes, figures=figures,
        )  # fmt: skip


def _under_way(baker: Baker, shot: Shot, moving: float, near_m: float) -> tuple[Fix, ...]:
    """Begin the incoming move so much earlier that it is under way at the cut."""
    camera = baker.scene.camera(shot.camera_id)
    last = min(shot.first + UNDER_WAY_FRAMES, shot.last - 1)
    if camera.locks or not camera.keyed or last <= shot.first:
        return ()
    rows = np.arange(shot.first, last + 1) - baker.frames.first
    fast = background_px(baker.camera_path(camera), rows, np.full(len(rows), near_m)) > moving
    if not fast.any():
        return ()
    by = int(np.argmax(fast))
    does = f"All keys of {camera.name} come {by} frames earlier, so that it moves already on {shot.first}."
    return (Fix("Begin earlier", does, RetimeCameraKeys(keys=ChosenKeys(camera.id), by=FrameTime(-by))),)
