"""Edits that make a stretch of a camera's keys better as a whole: fewer keys, smoother ones, an even speed, and what comes beyond
them."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from ..arrays import Floats
from ..bake import Baker
from ..cameras.camera import Camera
from ..cameras.key_groups import GROUP_OF, KeyGroup
from ..errors import DomainError
from ..picture_error import what_is_seen
from ..scene import Scene
from ..time.channels import Beyond, BeyondKeys, Channel
from ..time.frames import FrameTime
from ..time.key_reduction import fewest_keys
from ..time.keys import Handle, Key
from ..time.retiming import spliced
from ..time.smoothing import smoothed
from .camera_keys import ChosenKeys, having_channels
from .cameras import refuse_locked_channels
from .edit import Edit

GREATEST_ERROR_PX = 200.0
GREATEST_STRENGTH = 48.0
EVEN_ERROR_PX = 0.25
"""What an even speed may cost at any point of the picture against the very path."""
PLACE = ("x", "y", "z")


@dataclass(frozen=True, kw_only=True)
class ReduceCameraKeys(Edit):
    """As few keys in the place of the chosen ones as keep what is in the picture within ``error_px`` of where it is."""

    edit: Literal["reduce camera keys"] = "reduce camera keys"
    title: ClassVar[str] = "fewer keys"
    keys: ChosenKeys
    error_px: float

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        if not 0 < self.error_px <= GREATEST_ERROR_PX:
            raise DomainError(
                f"An error of {self.error_px:g} px is not usable.", f"Give up to {GREATEST_ERROR_PX:g} px."
            )
        camera = scene.camera(self.keys.camera_id)
        chosen = self.keys.of(camera)
        first, last = _stretch(camera, chosen, scene)
        frames = np.arange(first, last + 1, dtype=np.float64)
        values = {name: camera.channels[name].at(frames) for name in chosen}
        channels = fewest_keys(frames, values, _error(baker, camera, first, last), self.error_px)
        return _within_stretch(scene, camera, channels, first, last)


@dataclass(frozen=True, kw_only=True)
class SmoothCameraKeys(Edit):
    """Even out the values of the chosen keys, each channel by itself, over about ``strength`` frames; the first and the last of
    them stay."""

    edit: Literal["smooth camera keys"] = "smooth camera keys"
    title: ClassVar[str] = "smooth keys"
    keys: ChosenKeys
    strength: float

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        if not 0 < self.strength <= GREATEST_STRENGTH:
            raise DomainError(
                f"Smoothing over {self.strength:g} frames is not usable.", f"Give up to {GREATEST_STRENGTH:g}."
            )
        camera = scene.camera(self.keys.camera_id)
        changed = {}
        for name, indices in self.keys.of(camera).items():
            channel = camera.channels[name]
            if len(indices) < 3:
                continue
            keys = list(channel.keys)
            values = np.array([keys[index].value for index in indices])
            times = channel.times[indices]
            even = smoothed(times, values, self.strength)
            slopes = np.gradient(even, times)
            for index, value, slope in zip(indices[1:-1], even[1:-1].tolist(), slopes[1:-1].tolist(), strict=True):
                keys[index] = _with_slope(replace(keys[index], value=value), slope)
            changed[name] = replace(channel, keys=tuple(keys))
        if not changed:
            raise DomainError("Between two keys there is nothing to smooth.", "Choose three keys or more.")
        return having_channels(scene, camera, changed)


@dataclass(frozen=True, kw_only=True)
class EvenSpeed(Edit):
    """Let the camera go along its way at one speed between the first and the last chosen key. All that it does on that way, it
    does at the same places."""

    edit: Literal["even speed"] = "even speed"
    title: ClassVar[str] = "even speed"
    keys: ChosenKeys

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.keys.camera_id)
        chosen = self.keys.of(camera)
        first, last = _stretch(camera, chosen, scene)
        names = [name for name, channel in camera.channels.items() if channel.keys]
        refuse_locked_channels(camera, set(names), "changed")
        rows = slice(first - scene.frames.first, last - scene.frames.first + 1)
        way = baker.camera(camera).pose[rows, :3]
        gone = np.append(0.0, np.cumsum(np.linalg.norm(np.diff(way, axis=0), axis=1)))
        if gone[-1] < 1e-6:
            raise DomainError(f"“{camera.name}” stands still there.", "Choose keys between which it goes somewhere.")
        frames = np.arange(first, last + 1, dtype=np.float64)
        # Where it stands still for a while, the way has no time of its own.
        moves = np.append(True, np.diff(gone) > 0)
        at = np.interp(np.linspace(0, gone[-1], len(frames)), gone[moves], frames[moves])
        values = {name: camera.channels[name].at(at) for name in names}
        evened = replace(camera, channels=camera.channels.having(**_sampled(camera, frames, values)))
        error = _error(baker, evened, first, last)
        return _within_stretch(scene, camera, fewest_keys(frames, values, error, EVEN_ERROR_PX), first, last)


@dataclass(frozen=True, kw_only=True)
class GoOnBeyondKeys(Edit):
    """Say how the channels of some ``groups`` (None: all that have keys) go on before their first key and after their last."""

    edit: Literal["go on beyond keys"] = "go on beyond keys"
    title: ClassVar[str] = "what comes beyond the keys"
    camera_id: str
    groups: tuple[KeyGroup, ...] | None = None
    before: BeyondKeys = "hold"
    after: BeyondKeys = "hold"

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        camera = scene.camera(self.camera_id)
        names = {
            name for name, channel in camera.channels.items()
            if len(channel.keys) > 1 and (self.groups is None or GROUP_OF[name] in self.groups)
        }  # fmt: skip
        if not names:
            raise DomainError(
                f"“{camera.name}” has no move that could be run through again.", "Key it twice first (K)."
            )
        refuse_locked_channels(camera, names, "changed")
        beyond = Beyond(self.before, self.after)
        return having_channels(scene, camera, {name: replace(camera.channels[name], beyond=beyond) for name in names})


def _stretch(camera: Camera, chosen: Mapping[str, list[int]], scene: Scene) -> tuple[int, int]:
    """The whole frames from the first to the last chosen key, within the scene. Raises ``DomainError`` where there are few."""
    times = [camera.channels[name].keys[index].time for name, indices in chosen.items() for index in indices]
    first, last = math.ceil(min(times)), math.floor(max(times))
    first, last = max(first, scene.frames.first), min(last, scene.frames.last)
    if last - first < 2:
        raise DomainError("There is no stretch between the chosen keys.", "Choose keys some frames apart.")
    return first, last


def _sampled(camera: Camera, frames: Floats, values: Mapping[str, Floats]) -> dict[str, Channel]:
    """Channels with a key on every frame, and the camera's own keys before and after them."""
    out = {}
    for name, numbers in values.items():
        keys = [Key(FrameTime(int(f)), float(v), "linear") for f, v in zip(frames, numbers, strict=True)]
        out[name] = spliced(camera.channels[name], keys)
    return out


def _error(baker: Baker, camera: Camera, first: int, last: int) -> Callable[[Mapping[str, Floats]], Floats]:
    """How far the picture is off where the camera has approximate values of some channels from ``first`` to ``last``, px."""
    rows = slice(first - baker.frames.first, last - baker.frames.first + 1)
    seen, at = what_is_seen(baker, camera, rows), np.arange(rows.start, rows.stop)
    frames = np.arange(first, last + 1, dtype=np.float64)

    def error(values: Mapping[str, Floats]) -> Floats:
        near = replace(camera, channels=camera.channels.having(**_sampled(camera, frames, values)))
        return seen.error_px(baker.camera_path(near).at_rows(at))

    return error


def _within_stretch(scene: Scene, camera: Camera, channels: Mapping[str, Channel], first: int, last: int) -> Scene:
    """The scene with new keys between two frames, and the camera's own before and after; curves arrive and leave as before."""
    changed = {}
    for name, channel in channels.items():
        own, keys = camera.channels[name], list(channel.keys)
        arriving, leaving = _ways(own, first)[0], _ways(own, last)[1]
        keys[0] = replace(keys[0], handle_in=arriving)
        keys[-1] = replace(keys[-1], handle_out=leaving)
        changed[name] = spliced(own, keys)
    unkeyed = tuple((name, value) for name, value in camera.unkeyed if name not in changed)
    return having_channels(scene, replace(camera, unkeyed=unkeyed), changed)


def _ways(channel: Channel, frame: int) -> tuple[Handle | None, Handle | None]:
    """How a curve arrives at the key on a frame and leaves it; nothing where there is none."""
    index = channel.index_at(FrameTime(frame))
    return (None, None) if index is None else channel.handles(index)


def _with_slope(key: Key, slope: float) -> Key:
    """A key with handles of its own follows what it stands in; others do by themselves."""
    if key.shape != "curve":
        return key
    into, out = key.handle_in, key.handle_out
    return replace(
        key,
        handle_in=into and Handle(into.frames, -slope * into.frames),
        handle_out=out and Handle(out.frames, slope * out.frames),
    )
