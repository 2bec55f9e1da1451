"""Readings of the framing: what leaves the frame, is cut at a joint, has too little room, changes its size, or is hidden.

Judged span by span of the cut, by stretches. A part counts as lost where it was in the frame before, or while most of the
body still is; a close-up has no feet to lose, and a body that walks out of the frame by itself is no fault.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np

from ..arrays import Bools, Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.placement import ACTION_SAFE
from ..optics.screen import track
from ..parts import BakerOf, Part
from ..performance.character import Character
from ..rig import transforms
from ..shots import face_of
from ..time.stretches import BRIDGED, Spans, mostly, stretches, was_before
from .body_marks import body_marks
from .crossings import Crossing, crossings
from .hidden_parts import hidden_points
from .judged_scenes import for_camera
from .judges import judges_characters
from .reading import LESS_IS_WORSE, Reading, ReadingKind, Unit
from .size_drift import unasked_growth
from .thresholds import (
    HARDLY_INSIDE,
    LARGE_FIGURE,
    MOST_OF_THE_BODY,
    TRAVELS_A_SECOND,
)

_CUT_JOINTS: dict[ReadingKind, re.Pattern[str]] = {
    "cut_at_neck": re.compile(r"neck", re.IGNORECASE),
    "cut_at_wrist": re.compile(r"(wrist|(^|[^a-z])(left|right)?hand([^a-z]|$))", re.IGNORECASE),
    "cut_at_knee": re.compile(r"(knee|shin|calf|lower[ _]?leg|(left|right)leg$)", re.IGNORECASE),
    "cut_at_ankle": re.compile(r"(ankle|(^|[^a-z])(left|right)?foot([^a-z]|$))", re.IGNORECASE),
}


@judges_characters
def framing_readings(baker: Baker, camera: Camera, character: Character) -> list[Reading]:
    """All framing readings of a character as shown through a camera, on the camera's spans of the cut, or on the whole
    range where the cut does not use it."""
    judged = for_camera(baker.scene, replace(camera.look, id=camera.id))
    return baker.value(Part("framing readings", _framed, (BakerOf(judged, baker.production), camera.id, character.id)))


def _framed(baker: Baker, camera_id: str, character_id: str) -> list[Reading]:
    scene = baker.scene
    camera, character = scene.camera(camera_id), scene.character(character_id)
    if not character.showing.seen_by(camera.id):
        return []
    spans = tuple(scene.frames_of_cut(camera)) or ((scene.frames.first, scene.frames.last),)
    spans = tuple(there for span in spans for there in character.showing.within(*span))
    return _Framed(baker, camera, character, spans).readings()


class _Framed:
    """One character through one camera, projected once."""

    def __init__(self, baker: Baker, camera: Camera, character: Character, spans: Spans) -> None:
        self.baker, self.camera, self.character = baker, camera, character
        self.path, self.room = baker.camera_path(camera), baker.scene.room
        self.frames, self.delivery = baker.scene.frames, baker.scene.delivery
        first, last = self.frames.first, self.frames.last
        self.spans = [(max(a, first) - first, min(b, last) - first) for a, b in spans if a <= last and b >= first]
        self.rig = baker.rig(character)
        self.face = face_of(baker, character)
        self.half_second = max(1, round(float(baker.rate) / 2))
        self.world = baker.shown_joints(character)
        self.pixels = track(self.path, self.world).pixels
        marks = body_marks(baker, character)
        self.estimate = marks.estimate
        self.head_points = baker.shown_points(character, marks.head)
        self.head = track(self.path, self.head_points).pixels
        head_joint = baker.joint_frames(character.id, self.face.joint, "motion")
        eyes = transforms.apply(head_joint, self.face.eyes)[:, None]
        self.eyes = track(self.path, baker.shown_points(character, eyes)).pixels[:, 0]
        self.soles = track(self.path, baker.shown_points(character, marks.soles, marks.sole_nodes)).pixels

    def readings(self) -> list[Reading]:
        with np.errstate(invalid="ignore"):
            out = [self._crossing(c) for c in self.crossings]
            out += self._lost("head", _extreme(self.head, lowest=False))
            if self.soles.shape[1]:
                out += self._lost("feet", _extreme(self.soles, lowest=True))
            return out + self._cuts() + self._rooms() + self._drift() + self._hidden()

    # --- what all of them go by ---

    @cached_property
    def inside(self) -> Bools:
        """Which joints are in the frame, (frames, joints)."""
        return np.asarray(self._beyond(self.pixels, 1.0) == 0, dtype=bool)

    @cached_property
    def share_inside(self) -> Floats:
        """How much of the body is in the frame, (frames,): of its height, and of its joints from side to side."""
        x, y = self.pixels[..., 0], np.concatenate([self.pixels[..., 1], self.head[..., 1], self.soles[..., 1]], axis=1)
        highest, lowest = np.nanmin(y, axis=1, initial=np.inf), np.nanmax(y, axis=1, initial=-np.inf)
        seen = np.minimum(lowest, self.delivery.height) - np.maximum(highest, 0)
        height = np.clip(seen / np.maximum(lowest - highest, 1e-9), 0, 1)
        return np.asarray(np.nan_to_num(height) * ((x >= 0) & (x < self.delivery.width)).mean(axis=1))

    @cached_property
    def crossings(self) -> list[Crossing]:
        return crossings(self.path, self.world, self.inside, self.spans, self.half_second)

    @cached_property
    def crossing_rows(self) -> Bools:
        out = np.zeros(self.frames.count, dtype=bool)
        for crossing in self.crossings:
            out[crossing.first : crossing.last + 1] = True
        return out

    def _beyond(self, pixels: Floats, safe: float) -> Floats:
        """How far outside the safe share of the frame, px; 0 inside, infinite where it is not in front."""
        size = np.array([self.delivery.width, self.delivery.height])
        low, high = size * (1 - safe) / 2, size * (1 + safe) / 2
        away = np.maximum(np.maximum(low - pixels, pixels - high), 0).max(axis=-1)
        return np.asarray(np.where(np.isnan(away), np.inf, away))

    def _span_first(self, row: int) -> int:
        return next(a for a, b in self.spans if a <= row <= b)

    def _over(
        self, kind: ReadingKind, rows: list[tuple[int, int]], sizes: Floats, unit: Unit, threshold: float,
        joint: str | None = None, note: str = "",
    ) -> list[Reading]:  # fmt: skip
        """A reading for each stretch of rows, with its greatest size there."""
        out = []
        for first, last in rows:
            known = np.abs(np.where(np.isfinite(sizes[first : last + 1]), sizes[first : last + 1], 0.0))
            if kind in LESS_IS_WORSE:
                known = -sizes[first : last + 1]
            worst = first + int(np.nanargmax(known))
            size = float(sizes[worst]) if np.isfinite(sizes[worst]) else float(self.delivery.height)
            subject = f"{self.character.name} {joint}" if joint else self.character.name
            begin = self.frames.first
            told = Reading(kind, subject, begin + first, begin + last, size, unit, threshold, note=note, joint=joint)
            out.append(replace(told, frame=begin + worst))
        return out

    # --- the readings ---

    def _crossing(self, crossing: Crossing) -> Reading:
        first, last = self.frames.first + crossing.first, self.frames.first + crossing.last
        return Reading(crossing.way, self.character.name, first, last, last - first + 1, "frames", 0.0, remark=True)

    def _lost(self, part: str, pixels: Floats) -> list[Reading]:
        beyond, unsafe = self._beyond(pixels, 1.0), self._beyond(pixels, ACTION_SAFE)
        out_of_frame: ReadingKind = "head_out_of_frame" if part == "head" else "feet_out_of_frame"
        out_of_safe: ReadingKind = "head_out_of_action_safe" if part == "head" else "feet_out_of_action_safe"
        note = f"Measured by {self.estimate}." if part == "head" and self.estimate else ""
        lost = self._stretches_lost(part, beyond > 0)
        at_edge = [
            (first, last)
            for first, last in self._stretches_lost(part, (unsafe > 0) & (beyond == 0))
            if not self.crossing_rows[
                max(0, first - BRIDGED - 1) : last + BRIDGED + 2
            ].any()  # just come in, or going out
        ]
        return [
            *self._over(out_of_frame, lost, beyond, "px", 0.0, note=note),
            *self._over(out_of_safe, at_edge, unsafe, "px", 0.0, note=note),
        ]

    def _stretches_lost(self, part: str, outside: Bools) -> list[tuple[int, int]]:
        out = []
        for first, last in stretches(outside & ~self.crossing_rows, self.spans):
            share = float(np.median(self.share_inside[first : last + 1]))
            gone = share <= HARDLY_INSIDE and any(c.way == "exit" and c.last < first for c in self.crossings)
            was_inside = was_before(~outside, first, self._span_first(first))
            if (was_inside or share > MOST_OF_THE_BODY[part]) and not gone:
                out.append((first, last))
        return out

    def _cuts(self) -> list[Reading]:
        """The lower edge, or for a wrist any edge, runs through a joint on most frames of half a second."""
        out: list[Reading] = []
        near = self.baker.limits.joint_cut_share * self.delivery.height
        for kind, pattern in _CUT_JOINTS.items():
            for index, joint in enumerate(self.rig.joint_names):
                if not pattern.search(joint) or self.rig.names[self.face.node] == joint:
                    continue
                x, y = self.pixels[:, index, 0], self.pixels[:, index, 1]
                away = np.abs(y - self.delivery.height)
                if kind == "cut_at_wrist":
                    away = np.minimum(away, np.minimum(np.abs(x), np.abs(x - self.delivery.width)))
                level = (x > -near) & (x < self.delivery.width + near) & (y > 0) & (y < self.delivery.height + near)
                rows = mostly((away < near) & level & ~self.crossing_rows, self.spans)
                out += self._over(kind, rows, away, "px", near, joint)
        return out

    def _rooms(self) -> list[Reading]:
        # Room is ahead of the eyes: a hood or a plait behind the head is no reason for more.
        top, middle = _extreme(self.head, lowest=False), self.eyes
        whole = (self._beyond(top, 1.0) == 0) & (self._beyond(middle, 1.0) == 0) & ~self.crossing_rows
        headroom = top[:, 1] / self.delivery.height
        room = self.room
        lowest = np.where(np.isnan(self.pixels[..., 1]), -np.inf, self.pixels[..., 1]).max(axis=1)
        large = (lowest - top[:, 1]) / self.delivery.height > LARGE_FIGURE
        little = stretches(whole & (headroom < room.headroom_least), self.spans)
        much = stretches(whole & large & (headroom > room.headroom_most), self.spans)
        sideways = self._heading()
        ahead = np.where(sideways > 0, self.delivery.width - middle[:, 0], middle[:, 0]) / self.delivery.width
        short = stretches(whole & (sideways != 0) & (ahead < room.lead_least), self.spans)
        return [
            *self._over("little_headroom", little, headroom, "share", room.headroom_least),
            *self._over("much_headroom", much, headroom, "share", room.headroom_most),
            *self._over("little_lead_room", short, ahead, "share", room.lead_least),
        ]

    def _heading(self) -> Floats:
        """To which side of the picture it goes, where it goes fast enough, else looks: 1 right, -1 left, 0 neither."""
        joint = self.baker.joint_frames(self.character.id, self.face.joint, "motion")
        ahead = -np.einsum("fij,j->fi", transforms.orthonormal(joint)[:, :3, :3], self.face.axes[:, 2])
        rows = self.baker.exposure_starts(self.character) - self.frames.first
        looks = np.einsum("fi,fi->f", ahead[rows], self.path.world_from_camera[:, :3, 0])
        out = np.where(np.abs(looks) > 0.7, np.sign(looks), 0.0)
        middle = self.pixels[..., 0].mean(axis=1)
        for first, last in self.spans:
            at = np.arange(first, last + 1)
            before, after = np.maximum(at - self.half_second, first), np.minimum(at + self.half_second, last)
            seconds = np.maximum(after - before, 1) / float(self.baker.rate)
            travel = (middle[after] - middle[before]) / seconds
            fast = np.abs(travel) > TRAVELS_A_SECOND * self.delivery.width
            out[at] = np.where(fast, np.sign(travel), out[at])
        return out

    def _drift(self) -> list[Reading]:
        """A held subject that grows or shrinks although neither lens nor distance is keyed to do so."""
        framing = self.camera.framing
        if framing is None or framing.size is not None:
            return []
        if not any(s.owner_id == self.character.id for s in framing.subjects):
            return []
        out = []
        for first, last in self.spans:
            growth = unasked_growth(self.camera, self.baker.camera(self.camera), self.world, first, last)
            ratio = float(np.exp(np.ptp(growth)))
            if ratio - 1 > self.baker.limits.drift_share:
                a, b = sorted((int(growth.argmin()), int(growth.argmax())))
                begin = self.frames.first + first
                size, least = ratio - 1, self.baker.limits.drift_share
                out.append(Reading("size_drifts", self.character.name, begin + a, begin + b, size, "share", least))
        return out

    def _hidden(self) -> list[Reading]:
        head = self.head_points[:, :: max(1, self.head_points.shape[1] // 6)]
        body = self.world[:, :: max(1, self.world.shape[1] // 8)]
        points = np.concatenate([head, body], axis=1)
        visible = self._beyond(track(self.path, points).pixels, 1.0) == 0
        hidden = hidden_points(self.baker, self.camera, self.character, points, visible)
        if hidden is None:
            return []
        out: list[Reading] = []
        parts: Sequence[tuple[ReadingKind, slice, float]] = (
            ("head_hidden", slice(0, head.shape[1]), self.baker.limits.head_hidden_share),
            ("body_hidden", slice(head.shape[1], None), self.baker.limits.body_hidden_share),
        )
        for kind, part, least in parts:
            seen, away = visible[:, part], hidden[:, part]
            count = seen.sum(axis=1)
            share = away.sum(axis=1) / np.maximum(count, 1)
            # What is mostly out of the frame is not judged by the little that is in it.
            rows = stretches((share >= least) & (count >= seen.shape[1] / 4), self.spans)
            out += self._over(kind, rows, share, "share", least)
        return out


def _extreme(pixels: Floats, lowest: bool) -> Floats:
    """The highest or lowest of points (frames, points, 2) in the picture, (frames, 2); NaN where none is in front."""
    known = np.where(np.isnan(pixels[..., 1]), -np.inf if lowest else np.inf, pixels[..., 1])
    at = known.argmax(axis=1) if lowest else known.argmin(axis=1)
    return np.asarray(pixels[np.arange(len(pixels)), at])
