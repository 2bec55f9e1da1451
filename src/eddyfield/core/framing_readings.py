"""Readings of the framing: what leaves the frame, is cut at a joint, has too little room, or is hidden behind the set.

A part of the body counts as meant to be seen where it is inside the frame on most frames; a close-up has no feet to lose.
"""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from .bake import Baker
from .camera_path import CameraPath
from .content import content_name
from .face import Face
from .placement import ACTION_SAFE
from .readings import Reading, ReadingKind, over_spans
from .scene import Character
from .shots import face_of
from .sight_lines import hidden_rows, sight_origins
from .transforms import Floats

Bools = NDArray[np.bool_]
MEANT_SHARE = 0.5
CUT_WITHIN = 0.012
"""Of the frame's height: how near to the edge a joint has to lie for the edge to cut at it."""
CUT_FRAMES = 12
DRIFT_RATIO = 1.15
_CUT_JOINTS: dict[ReadingKind, re.Pattern[str]] = {
    "cut at the neck": re.compile(r"neck", re.IGNORECASE),
    "cut at the wrist": re.compile(r"(wrist|(^|[^a-z])(left|right)?hand([^a-z]|$))", re.IGNORECASE),
    "cut at the knee": re.compile(r"(knee|shin|calf|lower[ _]?leg|(left|right)leg$)", re.IGNORECASE),
    "cut at the ankle": re.compile(r"(ankle|(^|[^a-z])(left|right)?foot([^a-z]|$))", re.IGNORECASE),
}


def framing_readings(
    baker: Baker, character: Character, path: CameraPath, path_name: str, holds_size: bool
) -> list[Reading]:
    """All framing readings of a character as shown through a camera, kept under the path's name."""
    sets = tuple(p.source for p in baker.scene.set_pieces)
    own = character.id, character.name, character.feet, baker.shown_name(character)
    name = content_name("framing", path_name, own, sets, holds_size, baker.scene.room)
    return baker.part(name, lambda: _Framed(baker, character, path).readings(holds_size))


class _Framed:
    """One character through one camera, projected once."""

    def __init__(self, baker: Baker, character: Character, path: CameraPath) -> None:
        self.baker, self.character, self.path, self.room = baker, character, path, baker.scene.room
        self.frames, self.delivery = baker.scene.frames, baker.scene.delivery
        self.rig = baker.rig_of(character.source)
        self.face = face_of(baker, character)
        self.world = baker.shown_points(character, baker.joint_positions(character))
        seen = path.project(self.world)
        self.pixels, self.in_front = seen.pixels, seen.in_front
        self.head = self._head_points(self.face)

    def _head_points(self, face: Face) -> Floats:
        """Top, middle and bottom of the face on the screen, (frames, 3, 2)."""
        joint = self.baker.joint_frames(self.character.id, face.joint, "motion")
        up = face.axes[:, 1] * face.height_m / 2
        local = np.stack([face.centre + up, face.centre, face.centre - up])
        scale = np.linalg.norm(joint[:, :3, 1], axis=-1)[:, None, None]
        turned = np.einsum("fij,pj->fpi", joint[:, :3, :3], local) / scale + joint[:, None, :3, 3]
        return self.path.project(self.baker.shown_points(self.character, turned)).pixels

    def readings(self, holds_size: bool) -> list[Reading]:
        with np.errstate(invalid="ignore"):
            out = self._leaves("head", self.head[:, 0])
            feet = [self.rig.joint_names.index(f) for f in self.character.feet if f in self.rig.joint_names]
            if feet:
                out += self._leaves("feet", self._lowest(feet))
            return out + self._cuts() + self._rooms() + self._drift(holds_size) + self._hidden()

    def _lowest(self, joints: Sequence[int]) -> Floats:
        pixels = self.pixels[:, joints]
        known = np.where(np.isnan(pixels[..., 1]), -np.inf, pixels[..., 1])
        return np.asarray(pixels[np.arange(len(pixels)), known.argmax(axis=1)])

    def _outside(self, pixels: Floats, safe: float) -> Floats:
        """How far outside the safe share of the frame, px; 0 inside, NaN unknown."""
        size = np.array([self.delivery.width, self.delivery.height])
        low, high = size * (1 - safe) / 2, size * (1 + safe) / 2
        return np.asarray(np.maximum(np.maximum(low - pixels, pixels - high), 0).max(axis=-1))

    def _leaves(self, part: str, pixels: Floats) -> list[Reading]:
        beyond = self._outside(pixels, 1.0)
        meant = (beyond == 0).mean() > MEANT_SHARE
        if not meant:
            return []
        unsafe = self._outside(pixels, ACTION_SAFE)
        out_of_frame: ReadingKind = "head out of the frame" if part == "head" else "feet out of the frame"
        out_of_safe: ReadingKind = "head out of action safe" if part == "head" else "feet out of action safe"
        name = self.character.name
        return [
            *over_spans(out_of_frame, name, self.frames, beyond > 0, beyond, "px", 0.0),
            *over_spans(out_of_safe, name, self.frames, (unsafe > 0) & (beyond == 0), unsafe, "px", 0.0),
        ]

    def _cuts(self) -> list[Reading]:
        """The lower edge, or for a wrist any edge, runs through a joint for half a second or more."""
        out: list[Reading] = []
        near = CUT_WITHIN * self.delivery.height
        for kind, pattern in _CUT_JOINTS.items():
            for index, joint in enumerate(self.rig.joint_names):
                if not pattern.search(joint) or self.rig.names[self.face.node] == joint:
                    continue
                x, y = self.pixels[:, index, 0], self.pixels[:, index, 1]
                away = np.abs(y - self.delivery.height)
                if kind == "cut at the wrist":
                    away = np.minimum(away, np.minimum(np.abs(x), np.abs(x - self.delivery.width)))
                level = (x > -near) & (x < self.delivery.width + near) & (y > 0) & (y < self.delivery.height + near)
                cut = (away < near) & level
                out += over_spans(
                    kind, f"{self.character.name} {joint}", self.frames, cut, away, "px", near, CUT_FRAMES
                )
        return out

    def _rooms(self) -> list[Reading]:
        top, middle = self.head[:, 0], self.head[:, 1]
        shown = (self._outside(top, 1.0) == 0) & (self._outside(middle, 1.0) == 0)
        headroom = top[:, 1] / self.delivery.height
        room, name = self.room, self.character.name
        lowest = np.where(np.isnan(self.pixels[..., 1]), -np.inf, self.pixels[..., 1]).max(axis=1)
        tall = (lowest - top[:, 1]) / self.delivery.height
        # A figure that is small in a wide picture has sky above it by intent.
        large = tall > 0.55
        out = [
            *over_spans(
                "little headroom", name, self.frames, shown & (headroom < room.headroom_least), headroom, "share",
                room.headroom_least, CUT_FRAMES,
            ),
            *over_spans(
                "much headroom", name, self.frames, shown & large & (headroom > room.headroom_most), headroom, "share",
                room.headroom_most, CUT_FRAMES,
            ),
        ]  # fmt: skip
        joint = self.baker.joint_frames(self.character.id, self.face.joint, "motion")
        ahead = -np.einsum("fij,j->fi", joint[:, :3, :3], self.face.axes[:, 2])
        ahead = ahead / np.maximum(np.linalg.norm(ahead, axis=-1, keepdims=True), 1e-12)
        sideways = np.einsum("fi,fi->f", ahead, self.path.world_from_camera[:, :3, 0])
        lead = np.where(sideways > 0, self.delivery.width - middle[:, 0], middle[:, 0]) / self.delivery.width
        looks = shown & (np.abs(sideways) > 0.7)
        out += over_spans(
            "little lead room", name, self.frames, looks & (lead < room.lead_least), lead, "share", room.lead_least,
            CUT_FRAMES,
        )  # fmt: skip
        return out

    def _drift(self, holds_size: bool) -> list[Reading]:
        """A held subject that grows or shrinks although nobody asked for it."""
        if not holds_size:
            return []
        top, bottom = self.head[:, 0, 1], self.head[:, 2, 1]
        tall = np.abs(bottom - top)
        known = np.flatnonzero(np.isfinite(tall) & (tall > 0))
        if len(known) < 2:
            return []
        size = tall[known]
        ratio = float(size.max() / size.min())
        if ratio <= DRIFT_RATIO:
            return []
        first, last = sorted((int(known[size.argmin()]), int(known[size.argmax()])))
        begin = self.frames.first
        return [
            Reading(
                "size drifts", self.character.name, begin + first, begin + last, ratio - 1, "share", DRIFT_RATIO - 1
            )
        ]

    def _hidden(self) -> list[Reading]:
        pieces = [self.baker.set_triangles(p) for p in self.baker.scene.set_pieces]
        if not pieces:
            return []
        triangles = np.concatenate(pieces)
        middle = self.baker.joint_frames(self.character.id, self.face.joint, "motion")[:, None, :3, 3]
        marks = self.baker.shown_points(self.character, middle)
        anchor = self.rig.joint_names.index(self.rig.names[self.rig.default_anchor()])
        points = np.concatenate([marks, self.world[:, anchor : anchor + 1]], axis=1)
        rows = (self._outside(self.head[:, 1], 1.0) == 0) | (self._outside(self.pixels[:, anchor], 1.0) == 0)
        hidden = hidden_rows(sight_origins(self.path, points), points, triangles, rows)
        share = hidden.mean(axis=1)
        return over_spans("hidden behind the set", self.character.name, self.frames, share == 1.0, share, "share", 0.0)
