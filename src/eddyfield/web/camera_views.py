"""A camera and what is worked out from it, as the browser gets them."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.cameras.aim import target_places
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_channels import CAMERA_CHANNELS, POSE_NAMES
from eddyfield.core.cameras.coming_along import coming_along
from eddyfield.core.cameras.framing import seen_size_px
from eddyfield.core.cameras.mounts import Rail
from eddyfield.core.cameras.mounts.carried import Attachment
from eddyfield.core.cameras.subjects import group_of, place_of
from eddyfield.core.cut.blends import blended_moves
from eddyfield.core.cut.cut_path import passage
from eddyfield.core.optics.camera_speed import camera_speed, pan_limit_px
from eddyfield.core.optics.depth_of_field import circle_of_confusion_mm, sharp_range
from eddyfield.core.readings.subject_figures import circle_px, subject_figures
from eddyfield.core.time.channel_tables import Channels
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.keys import KeyMark

from . import answers, parts

RAIL_POINTS = 200
FARTHEST_M = 1e9
"""Stands for infinity in numbers that are sent."""


def camera_view(
    camera: Camera, path: str, channels_part: str, views: list[answers.SavedViewView]
) -> answers.CameraView:
    """A camera's settings."""
    channels = camera.channels
    return answers.CameraView(
        id=camera.id, name=camera.name, role=camera.role, tint=camera.tint, pattern=camera.pattern,
        locks=list(camera.locks), locked=camera.locked, unkeyed=[name for name, _ in camera.unkeyed],
        keyed_channels=[name for name, channel in channels.items() if channel.keys],
        keys=_key_times(channels),
        back=camera.back, glass=camera.glass, mount=camera.mount,
        mounts_left=[left.mount.kind for left in camera.left], aim=camera.aim, focus=camera.focus, framing=camera.framing,
        steps_with=camera.steps_with, path=path, channels=channels_part, views=views,
    )  # fmt: skip


def channels_part(channels: Channels) -> parts.ChannelsPart:
    """The channels that have keys."""
    return parts.ChannelsPart(keyed={name: _keys(c) for name, c in channels.items() if c.keys})


def speed_part(baker: Baker, camera: Camera) -> parts.SpeedPart:
    """How fast a camera moves."""
    found, rate = baker.camera(camera), float(baker.rate)
    speed = camera_speed(found.path, found.focus_m, rate)
    limit_px = pan_limit_px(found.path, rate, camera.glass.shutter_deg, baker.limits.crossing_seconds)
    return parts.SpeedPart(
        place_m_per_s=floats(speed.place_m_per_s), turn_deg_per_s=floats(speed.turn_deg_per_s),
        background_px=floats(speed.background_px), limit_px=limit_px,
    )  # fmt: skip


def blend_part(baker: Baker) -> parts.BlendPart:
    """The blended moves of the cut."""
    scene = baker.scene
    cameras = scene.cameras_of_cut
    found = [baker.camera(camera) for camera in cameras]
    moves = blended_moves(baker.cut_path(), cameras, found, passage(scene.cut, scene.frames))
    path, count = moves.path, len(moves.rows)
    lens, sharp = path.lens, moves.sharp

    def each(*numbers: Any) -> Floats:
        return np.stack([np.broadcast_to(n, count) for n in numbers], axis=-1)

    heights = np.zeros(0) if lens.orthographic_height_m is None else lens.orthographic_height_m
    return parts.BlendPart(
        frames=(moves.rows + scene.frames.first).astype(np.int32),
        world_from_camera=columns(path.world_from_camera),
        pose=floats(moves.pose),
        pixels_per_slope=floats(each(*lens.pixels_per_slope(path.delivery))),
        shifts=floats(each(lens.shift_x, lens.shift_y)),
        near_m=floats(each(lens.near_m)),
        view_height_m=floats(np.nan_to_num(heights)),
        depths=floats(each(moves.focus_m, sharp.near, np.minimum(sharp.far, FARTHEST_M), sharp.hyperfocal)),
        disc_px=floats(moves.disc_px),
    )


def _key_times(channels: Channels) -> list[KeyMark]:
    """The times at which any channel has a key, each with the shape of the first that has one there."""
    keyed: list[Channel] = []
    for channel in channels.values():
        if channel.keys and not any(np.array_equal(channel.times, other.times) for other in keyed):
            keyed.append(channel)  # most have their keys where another one has them
    if len(keyed) < 2:
        return keyed[0].marks if keyed else []
    found = {mark["frame"]: mark for channel in reversed(keyed) for mark in channel.marks}
    return [found[frame] for frame in sorted(found)]


def _keys(channel: Channel) -> parts.ChannelKeys:
    keys = channel.keys
    handles = np.full((len(keys), 4), math.nan)
    if len(keys) > 1:
        s = channel.segments
        handles[1:, :2] = np.column_stack([s.in_frames, s.in_value])
        handles[:-1, 2:] = np.column_stack([s.out_frames, s.out_value])
    return parts.ChannelKeys(
        times=channel.times_as_text,
        beyond=channel.beyond,
        frames=channel.times,
        values=channel.values,
        shapes=channel.shape_codes,
        handles=handles,
    )


def camera_part(baker: Baker, camera: Camera) -> parts.CameraPart:
    """A camera over all frames."""
    found = baker.camera(camera)
    path, count = found.path, found.path.count
    slopes = np.stack([np.broadcast_to(s, count) for s in path.lens.pixels_per_slope(path.delivery)], axis=-1)
    circle = circle_of_confusion_mm(camera.lens(), path.delivery, camera.glass.circle_mm)
    sharp = sharp_range(found.pose[:, 6], found.aperture, found.focus_m, circle)
    depths = np.stack([found.focus_m, sharp.near, np.minimum(sharp.far, FARTHEST_M), sharp.hyperfocal], axis=-1)
    nothing = np.zeros((0, 3))
    mounted = [place_of(s, baker, getattr(camera.mount, "follows", "motion")) for s in camera.mount.subjects]
    rail, rail_length_m, rail_speed = nothing, 0.0, nothing
    if isinstance(camera.mount, Rail):
        rail = camera.mount.at(np.linspace(0, 1, RAIL_POINTS, endpoint=not camera.mount.closed))[0]
        rail_length_m = camera.mount.length_m
        rail_speed = camera.mount.speed(found.values["rail"], float(baker.scene.rate))
    along = along_px = nothing
    if isinstance(camera.mount, Attachment):
        along, along_px = coming_along(camera.mount, path, baker)
    aim, framing = camera.aim, camera.framing
    held = held_px = away_px = held_size_px = nothing
    if framing and found.wanted_px is not None:
        held = group_of(framing.subjects, baker, framing.follows).place
        held_px = path.project(held).pixels
        away = path.delivery.square(held_px - found.wanted_px)
        away_px, held_size_px = np.hypot(away[:, 0], away[:, 1]), seen_size_px(framing, path, baker)
    reached = found.aim_reached + 2 * found.place_reached + 4 * found.size_reached
    return parts.CameraPart(
        world_from_camera=columns(path.world_from_camera),
        pose=floats(found.pose),
        pixels_per_slope=floats(slopes),
        depths=floats(depths),
        view_height_m=floats(np.zeros(0) if found.view_height_m is None else found.view_height_m),
        values={n: floats(found.values[n]) for n in CAMERA_CHANNELS if n not in POSE_NAMES},
        reached=reached.astype(np.uint8),
        wanted_px=floats(nothing if found.wanted_px is None else found.wanted_px),
        aim_places=floats(target_places(aim.targets, aim.follows, baker) if aim else nothing),
        mount_places=floats(mounted[0] if mounted else nothing),
        framing_places=floats(held),
        held_px=floats(held_px),
        away_px=floats(away_px),
        held_size_px=floats(held_size_px),
        along=floats(along),
        along_px=floats(along_px),
        rail=floats(rail),
        rail_length_m=rail_length_m,
        rail_speed=floats(rail_speed),
    )


def subjects_part(baker: Baker, camera: Camera) -> parts.SubjectsPart:
    """The figures of every character in a camera."""
    return parts.SubjectsPart(
        circle_px=circle_px(baker, camera),
        characters=[
            parts.SubjectFigures(
                name=figures.name, distance_m=floats(figures.distance_m), above_m=floats(figures.above_m),
                angle_deg=floats(figures.angle_deg), size_px=floats(figures.size_px),
                height_px=floats(figures.height_px), blur_px=floats(figures.blur_px),
            )
            for figures in subject_figures(baker, camera)
        ],
    )  # fmt: skip


def floats(values: Floats) -> Any:
    """As they travel: 32 bits."""
    return np.ascontiguousarray(values, dtype=np.float32)


def columns(matrices: Floats) -> Any:
    """Matrices (..., 4, 4) as float32 (..., 16), column by column, as graphics takes them."""
    return np.swapaxes(matrices, -1, -2).reshape(*matrices.shape[:-2], 16).astype(np.float32)
