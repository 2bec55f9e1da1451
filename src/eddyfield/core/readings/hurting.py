"""How much what a reading tells hurts the picture: how far it is out of bounds, for how long, and what it is."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from .reading import Reading, ReadingKind

TEN_PX = 10.0
A_GLANCE = 24
"""Frames: what lasts longer is seen as well, but no longer noticed anew."""
PER_FRAME: dict[ReadingKind, float] = {
    # All of the picture, or all of a figure, on every frame of it.
    "strobes": 1.0, "lens_moves_in_holds": 1.0, "pans_too_fast": 1.0, "near_plane_cuts_in": 2.0, "far_plane_cuts_off": 2.0,
    "head_out_of_frame": 0.8, "no_head_in_frame": 1.2, "head_hidden": 0.8, "body_hidden": 0.8, "soft": 0.5,
    "head_out_of_action_safe": 0.3, "feet_out_of_frame": 0.3, "feet_out_of_action_safe": 0.15,
    "cut_at_neck": 0.4, "cut_at_wrist": 0.3, "cut_at_knee": 0.4, "cut_at_ankle": 0.4,
    "little_headroom": 0.15, "much_headroom": 0.15, "little_lead_room": 0.15, "size_drifts": 0.3,
    # A foot, for as long as it should stand.
    "feet_slide": 2.0, "sinks": 1.0, "hovers": 1.0,
    # An instant that the eye catches: it is told of one frame, and hurts more than that one does.
    "off_arc": 5.0, "off_spacing": 5.0, "hitch": 6.0, "pop": 8.0, "camera_jolts": 10.0, "size_hitches": 5.0, "corner": 1.0,
    "key_pose_not_shown": 8.0, "jump_cut": 12.0, "line_crossed": 12.0, "cut_jolts": 8.0, "place_jumps": 8.0, "short_shot": 1.0,
    "cut_after_mark": 1.0,
    # What it comes from, rather than what is seen.
    "lock_cannot_reach": 0.3, "size_cannot_be_held": 0.3, "aims_at_still_joint": 0.3, "carried_by_still_joint": 0.3,
    "aim_bobs": 0.3, "carrier_bobs": 0.3, "joint_is_lost": 0.5, "straight_chord": 0.5, "cut_outside_scene": 1.0,
    "nothing_can_be_told": 0.1, "key_poses_between_frames": 0.1, "entrance": 0.1, "exit": 0.1, "cannot_be_judged": 0.1,
}  # fmt: skip
"""A kind's share of one limit's worth on one frame."""


def hurts(reading: Reading) -> float:
    """Limits exceeded, times frames (of long stretches less and less), times what it is; what may be out of bounds by nothing
    at all goes by tens of pixels, or counts as one."""
    frames: int = reading.last - reading.first + 1
    felt: float = min(frames, A_GLANCE) + max(0, frames - A_GLANCE) ** 0.5
    return over(reading) * felt * PER_FRAME[reading.kind]


def over(reading: Reading) -> float:
    """How many times its limit it is."""
    if reading.less_is_worse:
        return 2.0 - reading.size / reading.threshold
    if reading.threshold > 0:
        return abs(reading.size) / reading.threshold
    return abs(reading.size) / TEN_PX if reading.unit == "px" else 1.0
