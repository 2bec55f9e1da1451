"""What would be best for a character that strobes: ways to step, ride and move the camera, each tried and measured."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..arrays import Ints
from ..bake import Baker
from ..edits.bend_time import BendCameraTime
from ..edits.edit import Edit
from ..edits.exposures import ExposeStretch
from ..edits.held_cameras import HoldCamera
from ..edits.performances import RideCharacter, StepAndRide, StepCharacter
from ..edits.ride_weights import RideWhereItStrobes
from ..errors import DomainError
from ..optics.camera_speed import camera_speed
from ..performance.character import Character
from ..performance.exposure import lost_key_poses, nearest_frame
from ..performance.ride import Ride
from .strobing import Strobing

CandidateKind = Literal[
    "as it is", "ride whole", "ride scaled", "ride carried", "ride in picture", "ride half", "ride eased", "feet planted",
    "no ride", "offset", "key poses", "ones here", "shorter holds", "slower camera", "held camera", "together",
]  # fmt: skip
Term = Literal["slip", "feet_slide", "poses_lost", "other_look", "background_jumps"]
TERM_TITLES: dict[Term, str] = {
    "slip": "slip",
    "feet_slide": "sliding feet",
    "poses_lost": "lost key poses",
    "other_look": "another look",
    "background_jumps": "a background that jumps",
}
"""What people call them."""
MOST_OFFSETS = 3
ALL_SHOWN = "all key poses"
BEST_RIDES, BEST_STEPPINGS = 3, 4
"""So many of each, the best by themselves, are tried together."""
LOST_POSE_PX = 4.0
"""What a key pose that nobody sees weighs, as slip does."""
OTHER_LOOK_PX = 8.0
"""What it weighs to have other poses on all frames than now: somebody has chosen them."""
SLOWER = 0.5
MOSTLY = 0.8
"""Of what is held: where more of it strobes, to ride in stretches is to ride throughout."""
SEEN_ZOOM_MM, LEAST_MOVE_PX = 0.01, 0.05


@dataclass(frozen=True)
class Candidate:
    """One way, the edit that brings it (None: as it is), and what it leaves: slip over the held frames (root mean square) and at
    most, px; pose changes that jump back; frames of key poses that are not shown; slide of the feet in metres and pixels as seen
    (None: no feet are known); how much a planted leg is stretched, as a share (None: nothing is planted). ``cost_px`` is what
    they are put in order by: slip over all frames, slide, lost poses, and how much of the look they change."""

    kind: CandidateKind
    title: str
    edit: Edit | None
    slip_px: float
    slip_max_px: float
    reversals: int
    lost: tuple[int, ...]
    feet_slide_m: float | None
    feet_slide_px: float | None
    legs_stretch: float | None
    cost_px: float
    terms_px: tuple[tuple[Term, float], ...]
    """What the cost is made of."""
    loses_by: Term | None = None
    """Of what it has most more than the best one; None of the best."""


@dataclass(frozen=True)
class Tried:
    """All ways, the best first; ``refused`` says what could not be tried, and why. The frames ``first`` to ``last`` are those
    around the worst moment as it is now."""

    candidates: tuple[Candidate, ...]
    refused: tuple[str, ...]
    first: int
    last: int


def candidates(baker: Baker, character: Character) -> Tried:
    """Try every way that there is for a character of the scene, as seen through the cut."""
    now = baker.strobing(character)
    starts = baker.exposure_starts(character)
    found, refused = [_measured(baker, character, "as it is", "as it is", None, starts)], []
    for kind, title, edit in _ways(baker, character, now):
        try:
            after = edit.apply(baker.scene, baker)
        except DomainError as error:
            refused.append(f"{title}: {error}")
            continue
        work = baker.of(after)
        found.append(_measured(work, after.character(character.id), kind, title, edit, starts))
    for title, both in _together(character, found):
        work = baker.of(both.apply(baker.scene, baker))
        found.append(_measured(work, work.scene.character(character.id), "together", title, both, starts))
    found.sort(key=lambda c: c.cost_px)
    worst = baker.frames.first if now.max_frame is None else now.max_frame
    around = round(float(baker.rate) / 2)
    first = max(baker.frames.first, worst - around)
    return Tried(
        (found[0], *(replace(c, loses_by=_most_more(c, found[0])) for c in found[1:])),
        tuple(dict.fromkeys(refused)),
        first,
        min(baker.frames.last, first + 2 * around - 1),
    )


def _together(character: Character, found: Sequence[Candidate]) -> Iterator[tuple[str, StepAndRide]]:
    """The best ways to ride with the best ways to step: neither makes up for the other. With every key pose shown as well."""
    by_cost = sorted(found, key=lambda c: c.cost_px)
    rides = [(c.title, c.edit.ride) for c in by_cost if isinstance(c.edit, RideCharacter) and c.edit.ride.way != "off"]
    if character.ride.way != "off":
        rides.insert(0, ("", character.ride))
    steppings = [(c.title, c.edit.stepping) for c in by_cost if isinstance(c.edit, StepCharacter)]
    if any(stepping.keep_key_poses for _, stepping in steppings):
        steppings += [
            (f"{title}, {ALL_SHOWN}", replace(stepping, keep_key_poses=True))
            for title, stepping in steppings if not stepping.keep_key_poses
        ]  # fmt: skip
    for with_ride, ride in rides[:BEST_RIDES]:
        for title, stepping in steppings[: 2 * BEST_STEPPINGS]:
            if not with_ride and not stepping.keep_key_poses:
                continue  # that is the stepping by itself
            together = StepAndRide(character_id=character.id, stepping=stepping, ride=ride)
            yield (f"{with_ride}, {title}" if with_ride else title), together


def _most_more(candidate: Candidate, best: Candidate) -> Term | None:
    """Of what a way has most more than the best one."""
    least = dict(best.terms_px)
    more = {term: px - least.get(term, 0.0) for term, px in candidate.terms_px}
    term = max(more, key=lambda name: more[name])
    return term if more[term] > 0 else None


def _ways(baker: Baker, character: Character, now: Strobing) -> Iterator[tuple[CandidateKind, str, Edit]]:
    whole = character.offered_ride
    rides: dict[CandidateKind, tuple[str, Ride]] = {
        "no ride": ("no Ride", Ride(anchor=whole.anchor)),
        "ride whole": ("Ride", whole),
        "ride half": ("Ride at half weight", replace(whole, weight=0.5)),
        "ride carried": ("Ride, not turned", replace(whole, way="position")),
        "ride in picture": ("Ride along the picture", replace(whole, way="picture")),
    }
    if np.ptp(np.asarray(baker.cut_path().lens.focal_mm)) > SEEN_ZOOM_MM:
        rides["ride scaled"] = ("Ride, scaled with the zoom", replace(whole, way="scaled"))
    if character.ride.way != "off" and not character.ride.plants and whole.plants:
        rides["feet planted"] = ("its feet planted", replace(character.ride, plants=True))
    plain = baker.strobing(character, Ride())
    slips = sum(stretch.last - stretch.first + 1 for stretch in plain.stretches)
    if 0 < slips < MOSTLY * np.ptp(np.flatnonzero(plain.held)):
        yield "ride eased", "Ride where it strobes", RideWhereItStrobes(character_id=character.id)
    for kind, (title, ride) in rides.items():
        if ride != character.ride and (ride.way != "off" or character.ride.way != "off"):
            yield kind, title, RideCharacter(character_id=character.id, ride=ride)
    stepping = character.stepping
    if stepping.starts is None:
        for offset in range(min(stepping.step, MOST_OFFSETS + 1)):
            if offset != stepping.offset % stepping.step:
                moved = replace(stepping, offset=offset)
                title = f"grid moved by {offset}" if offset else "grid not moved"
                yield "offset", title, StepCharacter(character_id=character.id, stepping=moved)
        if stepping.step > 2:
            fewer = replace(stepping, step=stepping.step - 1, offset=min(stepping.offset, stepping.step - 2))
            yield "shorter holds", f"held on {fewer.step}", StepCharacter(character_id=character.id, stepping=fewer)
    if not stepping.keep_key_poses and baker.key_poses(character):
        kept = replace(stepping, keep_key_poses=True)
        yield "key poses", ALL_SHOWN, StepCharacter(character_id=character.id, stepping=kept)
    if now.stretches:
        worst = max(now.stretches, key=lambda s: s.rms_px * (s.last - s.first + 1))
        first, last = max(baker.frames.first, worst.first), min(baker.frames.last, worst.last)
        ones = ExposeStretch(character_id=character.id, first=first, last=last, step=1)
        yield "ones here", f"ones from {first} to {last}", ones
        for camera in baker.scene.cameras_of_cut:
            spans = [(a, b) for a, b in baker.scene.frames_of_cut(camera) if a <= last and b >= first]
            if not spans:
                continue
            if camera.steps_with != character.id:
                held = HoldCamera(camera_id=camera.id, character_id=character.id)
                yield "held camera", f"{camera.name} held with the poses", held
            if camera.keyed:
                begins = max(first, spans[0][0])
                ends = max(begins + 1, min(last, spans[0][1]))
                slower = BendCameraTime(camera_id=camera.id, first=begins, last=ends, speed=SLOWER)
                yield "slower camera", f"{camera.name} half as fast", slower


def _measured(
    baker: Baker, character: Character, kind: CandidateKind, title: str, edit: Edit | None, starts_now: Ints
) -> Candidate:
    found, price, carried = baker.strobing(character), baker.contact_price(character), baker.carried(character)
    starts = baker.exposure_starts(character)
    slip = np.nan_to_num(found.slip_px)
    over_all = float(np.sqrt(np.mean(slip**2)))
    lost = tuple(map(nearest_frame, lost_key_poses(starts, baker.frames, baker.key_poses(character))))
    slides = price.after_px if price and not np.isnan(price.after_px) else 0.0
    others = float(np.mean(starts != starts_now))
    terms: dict[Term, float] = {
        "slip": over_all, "feet_slide": slides, "poses_lost": LOST_POSE_PX * len(lost),
        "other_look": OTHER_LOOK_PX * others,
    }  # fmt: skip
    if kind in ("slower camera", "held camera"):
        terms["background_jumps"] = _background_px(baker)
    return Candidate(
        kind, title, edit, float(np.nan_to_num(found.rms_px)), float(slip.max()), len(found.reversals), lost,
        price.after_m if price else None, slides if price else None,
        float(carried.stretch.max()) if carried.plants else None, sum(terms.values()), tuple(terms.items()),
    )  # fmt: skip


def _background_px(baker: Baker) -> float:
    """How far the background moves from frame to frame where it does, px: a camera that was made slower or is held still has
    the move that was asked for, and all of it at once on each new pose."""
    camera = baker.scene.cameras_of_cut[0]
    speed = camera_speed(baker.cut_path(), baker.camera(camera).focus_m, float(baker.rate))
    moves = speed.background_px[speed.background_px > LEAST_MOVE_PX]
    return float(np.median(moves)) if len(moves) else 0.0
