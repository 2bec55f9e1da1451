"""The parts with two pictures that are looked at together."""

from __future__ import annotations

from eddyfield.core.readings.matching import Match

from .answer import Answer, Float32s, Uint8s


class MatchPart(Answer):
    """Kind ``match``: how the pictures on both sides of a cut go together."""

    kind: str = "match"
    match: Match


class SubjectInTwo(Answer):
    """A character in two pictures of the same frame, (frames, ...) each: where its face is in the one and in the other, px, NaN
    where it is not there; how far apart, px; how many degrees aside the other camera stands, and how many times as large it
    has the body; 1 where a cut between the two would hop."""

    character_id: str
    name: str
    one_px: Float32s
    other_px: Float32s
    apart_px: Float32s
    aside_deg: Float32s
    times_as_large: Float32s
    hops: Uint8s
    nearest_frame: int | None


class TwoCamerasPart(Answer):
    """Kind ``two cameras``: what is looked at and the camera that is laid over it, compared; what stands still goes over their
    screens by so many px a frame, (frames,)."""

    kind: str = "two cameras"
    subjects: list[SubjectInTwo]
    background_one_px: Float32s
    background_other_px: Float32s
