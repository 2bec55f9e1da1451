"""Scenes as rows and back: which table holds what, and the difference between two scenes."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from fractions import Fraction
from functools import lru_cache
from itertools import zip_longest
from typing import Any, NamedTuple

from pydantic import TypeAdapter

from eddyfield.core.cameras.camera import Camera, FilmBack, Glass, LeftMount, SavedView
from eddyfield.core.cameras.camera_channels import CAMERA_CHANNELS, camera_channels
from eddyfield.core.cameras.left_mounts import channels_left
from eddyfield.core.cameras.room import Room
from eddyfield.core.cut.cut import Cut, CutEntry
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.ride import Ride
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene, SetPiece
from eddyfield.core.time.channels import Channel, Handle, Key
from eddyfield.core.time.frames import FrameRange, Rate

from .records import AIM, CARRIED_OVER, FOCUS, FRAMING, MOUNT, RIGGING, read_if_any

Row = dict[str, Any]


_VALUES: TypeAdapter[tuple[tuple[str, float], ...]] = TypeAdapter(tuple[tuple[str, float], ...])


class RowKey(NamedTuple):
    """Names one row: its table and its primary key."""

    table: str
    key: tuple[Any, ...]


# Tables in the order in which rows may be written (what they refer to comes first), with their primary keys.
PRIMARY_KEYS: dict[str, tuple[str, ...]] = {
    "scene": ("id",),
    "camera": ("id",),
    "camera_channel": ("camera_id", "channel"),
    "camera_key": ("camera_id", "channel", "frame_time"),
    "camera_view": ("id",),
    "left_mount": ("camera_id", "kind"),
    "left_channel": ("camera_id", "kind", "channel"),
    "left_key": ("camera_id", "kind", "channel", "frame_time"),
    "scene_character": ("id",),
    "character_foot": ("character_id", "place"),
    "set_piece": ("id",),
    "cut_entry": ("scene_id", "first_frame"),
}

Rows = Mapping[RowKey, Row]
Difference = list[tuple[RowKey, Row | None, Row | None]]
"""Row by row: its name, the row before (None: there was none) and after (None: it goes)."""


def difference(before: Scene, after: Scene) -> Difference:
    """The rows in which two states of a scene differ. Parts that are the same object are passed over unread."""
    out: Difference = []
    old_parts, new_parts = _parts(before, after), _parts(after, before)
    for name in dict.fromkeys([*old_parts, *new_parts]):
        old, new = old_parts.get(name), new_parts.get(name)
        if old is not None and new is not None and old[0] is new[0] and old[1:] == new[1:]:
            continue
        old_rows: Rows = _rows_of(*old, beside=new[0] if new else None) if old else {}
        new_rows: Rows = _rows_of(*new, beside=old[0] if old else None) if new else {}
        for key in dict.fromkeys([*old_rows, *new_rows]):
            if old_rows.get(key) != new_rows.get(key):
                out.append((key, old_rows.get(key), new_rows.get(key)))
    return out


def all_rows(scene: Scene) -> Rows:
    """Every row of a scene."""
    return {key: row for part in _parts(scene, None).values() for key, row in _rows_of(*part).items()}


_Part = tuple[Any, str, int]


def _parts(scene: Scene, beside: Scene | None) -> dict[tuple[str, str], _Part]:
    """The parts of a scene; cameras that are the same object in the same place ``beside`` it are left out."""
    parts: dict[tuple[str, str], _Part] = {("scene", scene.id): (scene, scene.id, 0)}
    others = beside.cameras if beside else ()
    for index, (camera, other) in enumerate(zip_longest(scene.cameras, others[: len(scene.cameras)])):
        if camera is not other:
            parts["camera", camera.id] = (camera, scene.id, index)
    for index, character in enumerate(scene.characters):
        parts["scene_character", character.id] = (character, scene.id, index)
    for index, piece in enumerate(scene.set_pieces):
        parts["set_piece", piece.id] = (piece, scene.id, index)
    for entry in scene.cut.entries:
        parts["cut_entry", str(entry.first)] = (entry, scene.id, 0)
    return parts


def _rows_of(part: Any, scene_id: str, index: int, beside: Any = None) -> Rows:
    """The rows of a part; those that it shares as the same objects with the part ``beside`` it may be left out."""
    if isinstance(part, Scene):
        return _scene_row(part)
    if isinstance(part, Camera):
        return _camera_rows(part, scene_id, index, beside)
    if isinstance(part, Character):
        return _character_rows(part, scene_id, index)
    if isinstance(part, SetPiece):
        row = {"id": part.id, "scene_id": scene_id, "place": index, "name": part.name, **_source_columns(part.source)}
        return {RowKey("set_piece", (part.id,)): row}
    entry: CutEntry = part
    row = {"scene_id": scene_id, "first_frame": entry.first, "camera_id": entry.camera_id}
    return {RowKey("cut_entry", (scene_id, entry.first)): row}


def _scene_row(scene: Scene) -> Rows:
    row = {
        "id": scene.id,
        "name": scene.name,
        "rate": str(scene.rate),
        "first_frame": scene.frames.first,
        "last_frame": scene.frames.last,
        "width": scene.delivery.width,
        "height": scene.delivery.height,
        "pixel_aspect": scene.delivery.pixel_aspect,
        "headroom_least": scene.room.headroom_least,
        "headroom_most": scene.room.headroom_most,
        "lead_least": scene.room.lead_least,
    }
    return {RowKey("scene", (scene.id,)): row}


def _camera_rows(camera: Camera, scene_id: str, index: int, beside: Camera | None) -> Rows:
    back, glass = camera.back, camera.glass
    row: Row = {
        "id": camera.id, "scene_id": scene_id, "place": index, "name": camera.name, "role": camera.role,
        "tint": camera.tint, "pattern": camera.pattern, "locks": ",".join(camera.locks),
        "back_width_mm": back.width_mm, "back_height_mm": back.height_mm, "gate": back.gate, "squeeze": back.squeeze,
        "shift_x": glass.shift_x, "shift_y": glass.shift_y, "near_m": glass.near_m, "far_m": glass.far_m,
        "orthographic_height_m": glass.orthographic_height_m, "circle_mm": glass.circle_mm,
        "shutter_deg": glass.shutter_deg, "mount": MOUNT.write(camera.mount),
        "aim": AIM.write(camera.aim), "focus": FOCUS.write(camera.focus),
        "framing": FRAMING.write(camera.framing),
    }  # fmt: skip
    rows: dict[RowKey, Row] = {RowKey("camera", (camera.id,)): row}
    of_camera = {"camera_id": camera.id}
    others, before = (beside.channels, dict(beside.unkeyed)) if beside else ({}, {})
    rows |= _channel_rows("camera", of_camera, camera.channels, dict(camera.unkeyed), others, before)
    for left in camera.left:
        other = beside.left_mount(left.mount.kind) if beside else None
        if left is not other:
            rows |= _left_rows(of_camera, left, other)
    for number, view in enumerate(camera.views):
        rows[RowKey("camera_view", (view.id,))] = {
            "id": view.id, "camera_id": camera.id, "place": number, "name": view.name,
            "channel_values": _VALUES.dump_json(view.values).decode(), "mount": MOUNT.write(view.mount),
            "rigging": RIGGING.write(view.rigging),
        }  # fmt: skip
    return rows


def _left_rows(of_camera: Row, left: LeftMount, beside: LeftMount | None) -> Rows:
    own = {**of_camera, "kind": left.mount.kind}
    row = {**own, "mount": MOUNT.write(left.mount), "carried_over": CARRIED_OVER.write(left.carried_over)}
    others, before = (dict(beside.channels), dict(beside.unkeyed)) if beside else ({}, {})
    return {RowKey("left_mount", tuple(own.values())): row} | _channel_rows(
        "left", own, dict(left.channels), dict(left.unkeyed), others, before
    )


def _channel_rows(
    table: str,
    own: Row,
    channels: Mapping[str, Channel],
    unkeyed: Mapping[str, float],
    others: Mapping[str, Channel],
    others_unkeyed: Mapping[str, float],
) -> dict[RowKey, Row]:
    """Rows of channels and their keys, of an owner that ``own`` names, without those shared with the ``others`` beside it."""
    rows: dict[RowKey, Row] = {}
    owner = tuple(own.values())
    for name, channel in channels.items():
        other = others.get(name)
        if (channel is other and unkeyed.get(name) == others_unkeyed.get(name)) or (
            channel == CAMERA_CHANNELS.plain[name] and name not in unkeyed
        ):
            continue
        shared = {id(key) for key in other.keys} if other else set()
        rows[RowKey(f"{table}_channel", (*owner, name))] = {
            **own, "channel": name, "default_value": channel.default, "unkeyed_value": unkeyed.get(name),
        }  # fmt: skip
        for key in channel.keys:
            if id(key) in shared:
                continue
            into, out = key.handle_in, key.handle_out
            rows[RowKey(f"{table}_key", (*owner, name, str(key.time)))] = {
                **own, "channel": name, "frame_time": str(key.time), "value": key.value, "shape": key.shape,
                "in_frames": into.frames if into else None, "in_value": into.value if into else None,
                "out_frames": out.frames if out else None, "out_value": out.value if out else None,
            }  # fmt: skip
    return rows


def _character_rows(character: Character, scene_id: str, index: int) -> Rows:
    stepping, ride = character.stepping, character.ride
    row: Row = {
        "id": character.id, "scene_id": scene_id, "place": index, "name": character.name,
        **_source_columns(character.performance.source), "start_frame": character.performance.start,
        "step": stepping.step, "step_offset": stepping.offset, "keep_key_poses": int(stepping.keep_key_poses),
        "ride_way": ride.way, "ride_weight": ride.weight, "ride_anchor": ride.anchor,
        "front_deg": character.front_deg,
    }  # fmt: skip
    rows: dict[RowKey, Row] = {RowKey("scene_character", (character.id,)): row}
    for number, joint in enumerate(character.feet):
        row = {"character_id": character.id, "place": number, "joint": joint}
        rows[RowKey("character_foot", (character.id, number))] = row
    return rows


def _source_columns(source: RigSource) -> Row:
    return {
        "digest": source.digest, "format": source.format, "scale": source.scale,
        "animation": source.animation, "offsets": source.offsets,
    }  # fmt: skip


def scene_from_rows(rows: Iterable[tuple[str, Row]]) -> Scene:
    """A scene from its rows, each given with its table."""
    tables: dict[str, list[Row]] = defaultdict(list)
    for table, row in rows:
        tables[table].append(row)
    (head,) = tables["scene"]
    keys: dict[tuple[str, ...], list[Key]] = defaultdict(list)
    for row in tables["camera_key"]:
        keys[row["camera_id"], row["channel"]].append(_key(row))
    for row in tables["left_key"]:
        keys[row["camera_id"], row["kind"], row["channel"]].append(_key(row))
    channels: dict[tuple[str, ...], list[Row]] = defaultdict(list)
    for row in tables["camera_channel"]:
        channels[row["camera_id"],].append(row)
    for row in tables["left_channel"]:
        channels[row["camera_id"], row["kind"]].append(row)
    left: dict[str, list[LeftMount]] = defaultdict(list)
    for row in sorted(tables["left_mount"], key=lambda r: r["kind"]):
        left[row["camera_id"]].append(_left_mount(row, channels, keys))
    views: dict[str, list[Row]] = defaultdict(list)
    for row in tables["camera_view"]:
        views[row["camera_id"]].append(row)
    feet: dict[str, list[Row]] = defaultdict(list)
    for row in tables["character_foot"]:
        feet[row["character_id"]].append(row)
    return Scene(
        head["id"],
        head["name"],
        Rate.parse(head["rate"]),
        FrameRange(head["first_frame"], head["last_frame"]),
        DeliveryFrame(head["width"], head["height"], head["pixel_aspect"]),
        tuple(
            _camera(r, channels, keys, views[r["id"]], tuple(left[r["id"]]))
            for r in sorted(tables["camera"], key=lambda r: r["place"])
        ),
        tuple(_character(r, feet[r["id"]]) for r in sorted(tables["scene_character"], key=lambda r: r["place"])),
        tuple(SetPiece(r["id"], r["name"], _source(r)) for r in sorted(tables["set_piece"], key=lambda r: r["place"])),
        Room(head["headroom_least"], head["headroom_most"], head["lead_least"]),
        cut=Cut.of(*sorted((r["first_frame"], r["camera_id"]) for r in tables["cut_entry"])),
    )


@lru_cache(maxsize=100_000)
def _time(text: str) -> Fraction:
    """Channels of a camera have most of their times in common."""
    return Fraction(text)


def _order(key: Key) -> tuple[float, Fraction]:
    """By time: fractions are compared only where floating-point numbers do not tell them apart."""
    return float(key.time), key.time


def _key(row: Row) -> Key:
    into = None if row["in_frames"] is None else Handle(float(row["in_frames"]), float(row["in_value"]))
    out = None if row["out_frames"] is None else Handle(float(row["out_frames"]), float(row["out_value"]))
    return Key(_time(row["frame_time"]), float(row["value"]), row["shape"], into, out)


_ByOwner = Mapping[tuple[str, ...], list[Row]]
_KeysByOwner = Mapping[tuple[str, ...], list[Key]]


def _channels(
    owner: tuple[str, ...], rows: _ByOwner, keys: _KeysByOwner
) -> tuple[dict[str, Channel], tuple[tuple[str, float], ...]]:
    """The channels of an owner that differ from the plain ones, and what of them was moved without a key."""
    own = rows.get(owner, [])
    channels = {
        r["channel"]: Channel(r["default_value"], tuple(sorted(keys.get((*owner, r["channel"]), []), key=_order)))
        for r in own
    }
    unkeyed = {r["channel"]: r["unkeyed_value"] for r in own if r["unkeyed_value"] is not None}
    return channels, CAMERA_CHANNELS.in_order(unkeyed)


def _left_mount(row: Row, channel_rows: _ByOwner, keys: _KeysByOwner) -> LeftMount:
    mount = MOUNT.read(row["mount"])
    set_ones, unkeyed = _channels((row["camera_id"], row["kind"]), channel_rows, keys)
    channels = tuple((n, set_ones.get(n, CAMERA_CHANNELS.plain[n])) for n in channels_left(mount))
    return LeftMount(mount, channels, unkeyed, read_if_any(CARRIED_OVER, row["carried_over"]))


def _camera(
    row: Row, channel_rows: _ByOwner, keys: _KeysByOwner, view_rows: list[Row], left: tuple[LeftMount, ...]
) -> Camera:
    channels, unkeyed = _channels((row["id"],), channel_rows, keys)
    return Camera(
        row["id"], row["name"], row["role"], row["tint"], row["pattern"],
        tuple(row["locks"].split(",")) if row["locks"] else (),
        FilmBack(row["back_width_mm"], row["back_height_mm"], row["gate"], row["squeeze"]),
        Glass(
            row["shift_x"], row["shift_y"], row["near_m"], row["far_m"], row["orthographic_height_m"],
            row["circle_mm"], row["shutter_deg"],
        ),
        camera_channels(**channels),
        unkeyed,
        MOUNT.read(row["mount"]),
        read_if_any(AIM, row["aim"]),
        read_if_any(FOCUS, row["focus"]),
        read_if_any(FRAMING, row["framing"]),
        tuple(
            SavedView(
                v["id"], v["name"], _VALUES.validate_json(v["channel_values"]), MOUNT.read(v["mount"]),
                read_if_any(RIGGING, v["rigging"]),
            )
            for v in sorted(view_rows, key=lambda v: v["place"])
        ),
        left,
    )  # fmt: skip


def _character(row: Row, feet: list[Row]) -> Character:
    return Character(
        row["id"],
        row["name"],
        Performance(_source(row), row["start_frame"]),
        Stepping(row["step"], row["step_offset"], bool(row["keep_key_poses"])),
        Ride(row["ride_way"], row["ride_weight"], row["ride_anchor"]),
        tuple(r["joint"] for r in sorted(feet, key=lambda r: r["place"])),
        row["front_deg"],
    )


def _source(row: Row) -> RigSource:
    return RigSource(row["digest"], row["format"], row["scale"], row["animation"], row["offsets"])
