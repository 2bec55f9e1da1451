"""Edits that make a stretch of a camera's keys better as a whole: fewer keys, smoother ones, an even speed, and what comes beyond
them."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
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
from ..time.dividing import keeping_ways, replaced_within, ways_about
from ..time.key_reduction import fewest_keys, keys_on_every_frame
from ..time.keys import Handle, Key
from ..time.smoothing import smoothed
from .camera_keys import ChosenKeys, having_channels
from .cameras import refuse_locked_channels
from .edit import Edit
from .keyed_stretches import having_within
from .reach import Reach

GREATEST_ERROR_PX = 200.0
LEAST_STRENGTH, GREATEST_STRENGTH = 0.01, 48.0
EVEN_ERROR_PX = 0.25
"""What an even speed may cost at any point of the picture against the very path."""
EVEN_ENOUGH = 1e-3
"""Of the mean speed: how far the quickest and the slowest frame may be apart."""
MOST_EVENINGS = 24
LEAST_WAY_M = 1e-6


@dataclass(frozen=True, kw_only=True)
class ReduceCameraKeys(Edit):
    """As few keys in the place of the chosen ones as keep what is in the picture within ``error_px`` of where it is."""

    edit: Literal["reduce camera keys"] = "reduce camera keys"
    title: ClassVar[str] = "fewer keys"
    keys: ChosenKeys
    error_px: float

    def reach(self, scene: Scene) -> Reach:
        return self.keys.reach(scene, within=True)

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
        return scene.with_camera(_within_stretch(camera, channels))


@dataclass(frozen=True, kw_only=True)
class SmoothCameraKeys(Edit):
    """Even out the values of the chosen keys, each channel by itself, over about ``strength`` frames; the first and the last of
    them stay."""

    edit: Literal["smooth camera keys"] = "smooth camera keys"
    title: ClassVar[str] = "smooth keys"
    keys: ChosenKeys
    strength: float

    def reach(self, scene: Scene) -> Reach:
        return self.keys.reach(scene, within=True)

    def apply(self, scene: Scene, baker: Baker | None = None) -> Scene:
        if not LEAST_STRENGTH <= self.strength <= GREATEST_STRENGTH:
            raise DomainError(
                f"Smoothing over {self.strength:g} frames is not usable.",
                f"Give from {LEAST_STRENGTH:g} to {GREATEST_STRENGTH:g}.",
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
            # What lies outside of the chosen keys goes as it went, whatever its neighbours are now.
            first, last = (channel.keys[indices[at]].time for at in (0, -1))
            ways = {time: way for time, way in ways_about(channel, first, last).items() if not first < time < last}
            ways |= {first: (ways[first][0], None), last: (None, ways[last][1])}
            changed[name] = keeping_ways(replace(channel, keys=tuple(keys)), ways)
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

    def reach(self, scene: Scene) -> Reach:
        """All that is keyed is done at the same places of the way."""
        chosen = self.keys.reach(scene, within=True)
        assert chosen.stretch is not None
        keyed = {name for name, channel in scene.camera(self.keys.camera_id).channels.items() if channel.keys}
        return replace(chosen, stretch=replace(chosen.stretch, channels=frozenset(keyed)))

    def apply(self, scene: Scene, baker: Baker) -> Scene:
        camera = scene.camera(self.keys.camera_id)
        chosen = self.keys.of(camera)
        first, last = _stretch(camera, chosen, scene)
        names = [name for name, channel in camera.channels.items() if channel.keys]
        refuse_locked_channels(camera, set(names), "changed")
        frames = np.arange(first, last + 1, dtype=np.float64)
        at = _evenly(baker, camera, names, frames)
        values = {name: camera.channels[name].at(at) for name in names}
        evened = replace(camera, channels=camera.channels.having(**_sampled(camera, frames, values)))
        error = _error(baker, evened, first, last)
        return scene.with_camera(_within_stretch(camera, fewest_keys(frames, values, error, EVEN_ERROR_PX)))


def _evenly(baker: Baker, camera: Camera, names: Sequence[str], frames: Floats) -> Floats:
    """The times at which a camera is where it should be on each of the frames, to go along its way at one speed, (frames,). What
    lies between frames may be far: it is looked again where it goes once it does so, until it is even."""
    at, steps = frames, slice(int(frames[0]) - baker.frames.first, int(frames[-1]) - baker.frames.first + 1)
    tried = camera
    for _ in range(MOST_EVENINGS):
        way = baker.camera(tried).pose[steps, :3]
        gone = np.append(0.0, np.cumsum(np.linalg.norm(np.diff(way, axis=0), axis=1)))
        if gone[-1] < LEAST_WAY_M:
            raise DomainError(f"“{camera.name}” stands still there.", "Choose keys between which it goes somewhere.")
        speeds = np.diff(gone)
        if speeds.max() - speeds.min() <= EVEN_ENOUGH * gone[-1] / len(speeds):
            break
        # Where it stands still for a while, the way has no time of its own.
        moves = np.append(True, speeds > 0)
        at = np.interp(np.linspace(0, gone[-1], len(frames)), gone[moves], at[moves])
        values = {name: camera.channels[name].at(at) for name in names}
        tried = replace(camera, channels=camera.channels.having(**_sampled(camera, frames, values)))
    return at


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
    """Channels with a key on every frame, and outside of them what the camera's own do."""
    sampled = keys_on_every_frame(frames, values)
    return {name: replaced_within(camera.channels[name], channel.keys) for name, channel in sampled.items()}


def _error(baker: Baker, camera: Camera, first: int, last: int) -> Callable[[Mapping[str, Floats]], Floats]:
    """How far the picture is off where the camera has approximate values of some channels from ``first`` to ``last``, px."""
    rows = slice(first - baker.frames.first, last - baker.frames.first + 1)
    seen, at = what_is_seen(baker, camera, rows), np.arange(rows.start, rows.stop)
    frames = np.arange(first, last + 1, dtype=np.float64)

    def error(values: Mapping[str, Floats]) -> Floats:
        near = replace(camera, channels=camera.channels.having(**_sampled(camera, frames, values)))
        return seen.error_px(baker.camera_path(near).at_rows(at))

    return error


def _within_stretch(camera: Camera, channels: Mapping[str, Channel]) -> Camera:
    return having_within(camera, {name: channel.keys for name, channel in channels.items()})


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
