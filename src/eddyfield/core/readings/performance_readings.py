"""Readings of how a character is shown: strobing, key poses that no exposure shows, feet that slide."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ..bake import Baker
from ..edits.performances import RideCharacter
from ..parts import BakerOf, Part
from ..performance.character import Character
from ..performance.exposure import LEAST_COST, lost_key_poses, nearest_frame, shown_beside_key_poses
from ..time.frames import FrameTime
from .contact_readings import contact_readings
from .judged_scenes import for_performance
from .reading import Figure, Fix, Reading
from .strobing import Stretch, Strobing

NO_MORE = 1.01
"""Times the slip that no Ride can take away: as good as the same."""


def performance_readings(baker: Baker, character: Character) -> list[Reading]:
    """All of a character."""
    return baker.value(performance_readings_part(baker, character))


def performance_readings_part(baker: Baker, character: Character) -> Part[list[Reading]]:
    judged = for_performance(baker.scene, character, baker.holds_poses(character))
    return Part("performance readings", _all, (BakerOf(judged, baker.production), character.id))


def _all(baker: Baker, character_id: str) -> list[Reading]:
    character = baker.scene.character(character_id)
    frames, height = baker.scene.frames, baker.scene.delivery.height
    ridden = baker.strobing(character, character.offered_ride)
    found = strobing_readings(
        character, baker.strobing(character), ridden, baker.limits.slip_permille * height / 1000, frames.first
    )
    starts, poses = baker.exposure_starts(character), baker.key_poses(character)
    beside = shown_beside_key_poses(starts, frames, poses)
    found += key_pose_readings(character, lost_key_poses(starts, frames, poses), beside)
    found += contact_readings(baker, character)
    return [replace(reading, character_id=character.id) for reading in found]


def strobing_readings(
    character: Character, found: Strobing, ridden: Strobing, threshold: float, first: int
) -> list[Reading]:
    """Stretches on which held poses strobe, and what no rigid Ride can take away of that (``ridden``: under one): there the
    lens moves during the holds. ``threshold`` is a slip, px."""
    out = []
    of_lens = [s for s in ridden.stretches if s.rms_px > threshold and character.ride.way != "scaled"]
    left = of_lens if character.ride.way != "off" else []
    for s in found.stretches:
        if any(r.first <= s.first and s.last <= r.last and s.rms_px <= NO_MORE * r.rms_px for r in left):
            continue  # all of it comes from the lens, which is told below
        share = s.reversals / s.pose_changes if s.pose_changes else 0.0
        figures = (
            Figure("at most", s.max_px, "px"),
            Figure("jump back", s.reversals, ""),
            Figure("of all pose changes", share, "share"),
        )
        out.append(
            Reading(
                "strobes",
                character.name,
                s.first,
                s.last,
                s.rms_px,
                "px",
                threshold,
                fixes=_riding(character, s, of_lens),
                figures=figures,
                frame=_worst(found, s, first),
            )
        )
    for s in of_lens:
        out.append(
            Reading(
                "lens_moves_in_holds", character.name, s.first, s.last, s.rms_px, "px", threshold,
                figures=(Figure("at most", s.max_px, "px"),), frame=_worst(ridden, s, first), fixes=(_scaling(character),),
                note="What rides whole still grows or shrinks: let it be scaled with the zoom, or hold the lens with the pose.",
            )
        )  # fmt: skip
    return out


def _worst(found: Strobing, stretch: Stretch, first: int) -> int:
    """The frame of a stretch on which the pose has slipped farthest; ``first`` is that of the scene."""
    return stretch.first + int(np.nan_to_num(found.slip_px[stretch.first - first : stretch.last - first + 1]).argmax())


def _riding(character: Character, strobes: Stretch, of_lens: Sequence[Stretch]) -> tuple[Fix, ...]:
    """What takes a stretch away: none where it rides already."""
    if character.ride.way != "off":
        return ()
    if any(s.first <= strobes.last and strobes.first <= s.last for s in of_lens):
        return (_scaling(character),)
    ride = RideCharacter(character_id=character.id, ride=character.offered_ride)
    return (Fix("Ride", "Carry the held poses along with the camera", ride),)


def _scaling(character: Character) -> Fix:
    ride = replace(character.offered_ride, way="scaled")
    does = "Carry the held poses along with the camera, scaled as much as the lens draws them larger or smaller"
    return Fix("Ride, scaled", does, RideCharacter(character_id=character.id, ride=ride))


def key_pose_readings(
    character: Character, lost: Sequence[FrameTime], beside: Sequence[tuple[FrameTime, FrameTime]]
) -> list[Reading]:
    """Key poses that no exposure shows, and what it costs where they are shown ``beside`` their time."""
    out = [Reading("key_pose_not_shown", character.name, frame, frame, 1, "", 0) for frame in map(nearest_frame, lost)]
    if beside:
        most = max(beside, key=lambda b: abs(b[1]))[1]
        first, last = nearest_frame(beside[0][0]), nearest_frame(beside[-1][0])
        figures = (Figure("key poses", len(beside), ""),)
        out.append(
            Reading(
                "key_poses_between_frames", character.name, first, last, float(most), "frames", float(LEAST_COST),
                figures=figures, remark=True,
            )
        )  # fmt: skip
    return out
