"""What readings come from: those with one cause are one matter, and what a graver one implies is not told beside it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from typing import Literal

from .reading import Reading, ReadingKind

Cause = Literal[
    "framing", "hiding", "arc", "camera_move", "holds", "contacts", "lens", "lock", "carriage", "cut", "judging"
]
CAUSE_TITLES: dict[Cause, str] = {
    "framing": "framing",
    "hiding": "hidden",
    "arc": "arc",
    "camera_move": "camera move",
    "holds": "held poses",
    "contacts": "contacts",
    "lens": "lens",
    "lock": "framing lock",
    "carriage": "how it is carried and aimed",
    "cut": "the cut",
    "judging": "judging",
}
CAUSES: dict[ReadingKind, Cause] = {
    "strobes": "holds",
    "lens_moves_in_holds": "holds",
    "key_pose_not_shown": "holds",
    "key_poses_between_frames": "holds",
    "feet_slide": "contacts",
    "sinks": "contacts",
    "hovers": "contacts",
    "off_arc": "arc",
    "off_spacing": "arc",
    "hitch": "arc",
    "pop": "arc",
    "corner": "arc",
    "nothing_can_be_told": "arc",
    "camera_jolts": "camera_move",
    "straight_chord": "camera_move",
    "pans_too_fast": "camera_move",
    "entrance": "framing",
    "exit": "framing",
    "head_out_of_action_safe": "framing",
    "head_out_of_frame": "framing",
    "no_head_in_frame": "framing",
    "feet_out_of_action_safe": "framing",
    "feet_out_of_frame": "framing",
    "cut_at_neck": "framing",
    "cut_at_wrist": "framing",
    "cut_at_knee": "framing",
    "cut_at_ankle": "framing",
    "little_headroom": "framing",
    "much_headroom": "framing",
    "little_lead_room": "framing",
    "size_drifts": "framing",
    "size_hitches": "camera_move",
    "head_hidden": "hiding",
    "body_hidden": "hiding",
    "near_plane_cuts_in": "lens",
    "far_plane_cuts_off": "lens",
    "soft": "lens",
    "lock_cannot_reach": "lock",
    "size_cannot_be_held": "lock",
    "aims_at_still_joint": "carriage",
    "carried_by_still_joint": "carriage",
    "aim_bobs": "carriage",
    "carrier_bobs": "carriage",
    "joint_is_lost": "carriage",
    "short_shot": "cut",
    "cut_after_mark": "cut",
    "jump_cut": "cut",
    "line_crossed": "cut",
    "cut_jolts": "cut",
    "place_jumps": "cut",
    "cut_outside_scene": "cut",
    "cannot_be_judged": "judging",
}
_OF_A_HEAD: tuple[ReadingKind, ...] = (
    "head_out_of_action_safe", "little_headroom", "much_headroom", "little_lead_room", "cut_at_neck", "head_hidden",
)  # fmt: skip
IMPLIED: dict[ReadingKind, tuple[ReadingKind, ...]] = {
    "head_out_of_frame": _OF_A_HEAD,
    "no_head_in_frame": (*_OF_A_HEAD, "head_out_of_frame"),
    "feet_out_of_frame": ("feet_out_of_action_safe",),
    "body_hidden": ("head_hidden",),
}
"""What a graver reading says as well, of the same character in the same camera on the same frames."""


def cause_key(reading: Reading) -> str:
    """The same for all readings that one thing is the cause of: one kind of trouble, of one character in one camera."""
    return " ".join([CAUSES[reading.kind], reading.camera_id or "", reading.character_id or ""])


def told_once(readings: Sequence[Reading]) -> list[Reading]:
    """The readings without those that a graver one implies on all of their frames."""
    spans: dict[tuple[ReadingKind, str | None, str | None], list[tuple[int, int]]] = defaultdict(list)
    for reading in readings:
        for lesser in IMPLIED.get(reading.kind, ()):
            spans[lesser, reading.camera_id, reading.character_id].append((reading.first, reading.last))
    return [
        reading
        for reading in readings
        if not any(
            first <= reading.first and reading.last <= last
            for first, last in spans.get((reading.kind, reading.camera_id, reading.character_id), ())
        )
    ]
