"""What kinds of readings are called where other programs read them: by the command line and in files."""

from __future__ import annotations

from .reading import Reading, ReadingKind

PUBLISHED: dict[ReadingKind, str] = {
    "head_out_of_frame": "head_lost",
    "no_head_in_frame": "head_lost",
    "feet_out_of_frame": "feet_lost",
    "cut_at_neck": "cut_at_joint",
    "cut_at_wrist": "cut_at_joint",
    "cut_at_knee": "cut_at_joint",
    "cut_at_ankle": "cut_at_joint",
    "little_headroom": "headroom",
    "much_headroom": "headroom",
    "little_lead_room": "lead_room",
    "size_drifts": "size_drift",
    "size_hitches": "size_hitch",
    "head_hidden": "hidden",
    "body_hidden": "hidden",
    "straight_chord": "chord",
    "aim_bobs": "bob",
    "carrier_bobs": "bob",
    "aims_at_still_joint": "still_aim",
    "carried_by_still_joint": "still_aim",
    "pans_too_fast": "pan_speed",
    "soft": "out_of_focus",
    "near_plane_cuts_in": "near_cut",
    "far_plane_cuts_off": "far_cut",
}
"""Where that is another name than ours, which tells more apart."""


def published_kind(reading: Reading) -> str:
    """A fault that the camera makes is called as what it is seen as; that it is the camera's is told beside it."""
    kind = reading.as_seen or reading.kind
    return PUBLISHED.get(kind, kind)
