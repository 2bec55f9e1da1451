"""Readings: what a trained eye would flag, on which frames, by how much, and the fix where one exists."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..acceptance import Acceptance
from ..arrays import Floats
from ..edits.edit import Edit
from ..time.frames import FrameRange
from ..time.stretches import runs
from .faults import FaultOf
from .hurting import hurts

ReadingKind = Literal[
    "strobes", "lens_moves_in_holds", "off_arc", "off_spacing", "hitch", "pop", "corner", "camera_jolts",
    "nothing_can_be_told", "key_pose_not_shown", "key_poses_between_frames", "feet_slide", "sinks", "hovers",
    "entrance", "exit", "head_out_of_action_safe", "head_out_of_frame", "no_head_in_frame",
    "feet_out_of_action_safe", "feet_out_of_frame", "cut_at_neck", "cut_at_wrist", "cut_at_knee",
    "cut_at_ankle", "little_headroom", "much_headroom", "little_lead_room", "size_drifts", "size_hitches",
    "head_hidden", "body_hidden", "near_plane_cuts_in", "far_plane_cuts_off", "soft", "lock_cannot_reach",
    "size_cannot_be_held", "aims_at_still_joint", "carried_by_still_joint", "aim_bobs", "carrier_bobs",
    "joint_is_lost", "straight_chord", "pans_too_fast", "short_shot", "jump_cut", "line_crossed", "cut_jolts",
    "place_jumps", "cut_after_mark", "cut_outside_scene", "cannot_be_judged",
]  # fmt: skip
READING_TITLES: dict[ReadingKind, str] = {
    "strobes": "strobes",
    "lens_moves_in_holds": "lens moves in holds",
    "off_arc": "off the arc",
    "off_spacing": "off the spacing",
    "hitch": "hitch",
    "pop": "pop",
    "corner": "corner",
    "camera_jolts": "camera jolts",
    "nothing_can_be_told": "nothing can be told",
    "key_pose_not_shown": "key pose not shown",
    "key_poses_between_frames": "key poses between frames",
    "feet_slide": "feet slide",
    "sinks": "foot sinks",
    "hovers": "foot hovers",
    "entrance": "entrance",
    "exit": "exit",
    "head_out_of_action_safe": "head out of action safe",
    "head_out_of_frame": "head out of the frame",
    "no_head_in_frame": "nobody’s head in the frame",
    "feet_out_of_action_safe": "feet out of action safe",
    "feet_out_of_frame": "feet out of the frame",
    "cut_at_neck": "cut at the neck",
    "cut_at_wrist": "cut at the wrist",
    "cut_at_knee": "cut at the knee",
    "cut_at_ankle": "cut at the ankle",
    "little_headroom": "little headroom",
    "much_headroom": "much headroom",
    "little_lead_room": "little lead room",
    "size_drifts": "size drifts",
    "size_hitches": "size hitches",
    "head_hidden": "head hidden",
    "body_hidden": "body hidden",
    "near_plane_cuts_in": "near plane cuts in",
    "far_plane_cuts_off": "far plane cuts off",
    "soft": "soft",
    "lock_cannot_reach": "lock cannot reach",
    "size_cannot_be_held": "size cannot be held",
    "aims_at_still_joint": "aims at a still joint",
    "carried_by_still_joint": "carried by a still joint",
    "aim_bobs": "aim bobs",
    "carrier_bobs": "carrier bobs",
    "joint_is_lost": "joint is lost",
    "straight_chord": "straight chord",
    "pans_too_fast": "pans too fast",
    "short_shot": "short shot",
    "cut_after_mark": "cut after a mark",
    "jump_cut": "jump cut",
    "line_crossed": "line crossed",
    "cut_jolts": "cut jolts",
    "place_jumps": "place jumps",
    "cut_outside_scene": "shots outside the scene",
    "cannot_be_judged": "cannot be judged",
}
"""What people call them."""
LESS_IS_WORSE: tuple[ReadingKind, ...] = ("little_headroom", "little_lead_room", "short_shot", "jump_cut")
"""Told where something is below its threshold."""
Unit = Literal["px", "m", "frames", "share", "degrees", ""]


@dataclass(frozen=True)
class Figure:
    """A further number of a reading."""

    title: str
    value: float
    unit: Unit


@dataclass(frozen=True)
class Fix:
    """An edit that mends what a reading tells, under a short title, and what it does."""

    title: str
    does: str
    edit: Edit


@dataclass(frozen=True)
class Reading:
    """One measured judgement. ``first`` to ``last`` are the frames it speaks of, both included. ``subject`` is for people; the
    ids say what it is about. A ``remark`` is no fault."""

    kind: ReadingKind
    subject: str
    first: int
    last: int
    size: float
    unit: Unit
    threshold: float
    character_id: str | None = None
    camera_id: str | None = None
    fixes: tuple[Fix, ...] = ()
    joint: str | None = None
    """Of the character: the one that it is about, where it is about one."""
    better_joint: str | None = None
    """The joint that would be better to go by."""
    frame: int | None = None
    """The one on which it is worst; None where none is worse than another."""
    least: float | None = None
    """What could have been told there at the least, where that is known."""
    fault_of: FaultOf | None = None
    """Whether the subject makes it or the camera, where that was looked at."""
    accepted: Acceptance | None = None
    """By which somebody lets it stand, where somebody does."""
    as_seen: ReadingKind | None = None
    """Of a camera's own fault: as what it shows in the arcs that are seen through it."""
    figures: tuple[Figure, ...] = ()
    remark: bool = False
    note: str = ""
    """What it goes by, where that is an estimate."""
    shot: int | None = None
    """Which one of the cut it is in, counted from 1; None where it is in no single one."""

    @property
    def weight(self) -> float:
        """How much it hurts; below nothing what is no fault, and what somebody lets stand."""
        if self.accepted is not None:
            return -2.0
        if self.remark:
            return -1.0
        return hurts(self)

    @property
    def less_is_worse(self) -> bool:
        return self.kind in LESS_IS_WORSE


def over_spans(
    kind: ReadingKind,
    subject: str,
    frames: FrameRange,
    mask: NDArray[np.bool_],
    sizes: Floats,
    unit: Unit,
    threshold: float,
    least_frames: int = 1,
) -> list[Reading]:
    """A reading for every stretch of frames on which something is so, with its greatest size there."""
    out = []
    for first, last in runs(mask):
        if last - first + 1 < least_frames:
            continue
        worst = first + int(np.argmax(np.abs(sizes[first : last + 1])))
        begin = frames.first
        told = Reading(kind, subject, begin + first, begin + last, float(sizes[worst]), unit, threshold)
        out.append(replace(told, frame=begin + worst))
    return out
