"""Scenes as rows and back: which table holds what, and the difference between two scenes."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import asdict, fields
from itertools import zip_longest
from typing import Any, TypeVar

from pydantic import TypeAdapter

from eddyfield.core.acceptance import Acceptance
from eddyfield.core.cameras.camera import Camera, FilmBack, Glass, LeftMount, SavedView
from eddyfield.core.cameras.camera_channels import CAMERA_CHANNELS, camera_channels
from eddyfield.core.cameras.left_mounts import channels_left
from eddyfield.core.cameras.room import Room
from eddyfield.core.cut.cut import CutEntry
from eddyfield.core.cut.other_cut import OtherCut
from eddyfield.core.cut.sound import Mark, Sound
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.placing import placing
from eddyfield.core.scene import Block, Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameRange, Rate
from eddyfield.core.time.keys import Key, shared_ends
from eddyfield.core.time.timecode import Timecode

from .block_rows import block_rows, blocks_from
from .cut_rows import cut_from, entry_rows, other_cut_rows, other_cuts_from
from .key_rows import Row, RowKey, Rows, channel_from, channel_row, key_from, key_row
from .records import AIM, CARRIED_OVER, FOCUS, FRAMING, MOUNT, RIGGING, read_if_any
from .thing_rows import character_from, character_rows, piece_from, piece_rows

_Comes = TypeVar("_Comes", Character, Piece, Sound)
_VALUES: TypeAdapter[tuple[tuple[str, float], ...]] = TypeAdapter(tuple[tuple[str, float], ...])


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
    "character_exposure": ("character_id", "frame"),
    "character_correction": ("character_id", "place"),
    "set_piece": ("id",),
    "prop_hold": ("piece_id", "first_frame"),
    "placed_channel": ("thing_id", "channel"),
    "placed_key": ("thing_id", "channel", "frame_time"),
    "cut_entry": ("scene_id", "first_frame"),
    "other_cut": ("id",),
    "other_cut_entry": ("cut_id", "first_frame"),
    "sound": ("id",),
    "frame_mark": ("scene_id", "frame", "kind"),
    "scene_block": ("id",),
    "accepted_reading": ("scene_id", "kind", "character_id", "camera_id", "joint", "first_frame"),
}

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
_OF_SOUND = tuple(f.name for f in fields(Sound) if f.name != "nested")


def _own(things: Iterable[_Comes]) -> Iterator[_Comes]:
    """What comes with a block is stored with the scene that it is in."""
    return (thing for thing in things if thing.nested is None)


def _parts(scene: Scene, beside: Scene | None) -> dict[tuple[str, str], _Part]:
    """The parts of a scene; cameras that are the same object in the same place ``beside`` it, and a cut that is the same object,
    are left out."""
    parts: dict[tuple[str, str], _Part] = {("scene", scene.id): (scene, scene.id, 0)}
    others = beside.cameras if beside else ()
    for index, (camera, other) in enumerate(zip_longest(scene.cameras, others[: len(scene.cameras)])):
        if camera is not other:
            parts["camera", camera.id] = (camera, scene.id, index)
    for index, character in enumerate(_own(scene.characters)):
        parts["scene_character", character.id] = (character, scene.id, index)
    for index, piece in enumerate(_own(scene.pieces)):
        parts["set_piece", piece.id] = (piece, scene.id, index)
    for index, block in enumerate(scene.blocks):
        parts["scene_block", block.id] = (block, scene.id, index)
    same_cut = beside is not None and beside.cut is scene.cut
    for entry in () if same_cut else scene.cut.entries:
        parts["cut_entry", str(entry.first)] = (entry, scene.id, 0)
    for index, other_cut in enumerate(scene.other_cuts):
        parts["other_cut", other_cut.id] = (other_cut, scene.id, index)
    for index, sound in enumerate(_own(scene.sounds)):
        parts["sound", sound.id] = (sound, scene.id, index)
    for mark in scene.marks:
        parts["frame_mark", f"{mark.frame} {mark.kind}"] = (mark, scene.id, 0)
    for accepted in scene.accepted:
        parts["accepted_reading", " ".join((*accepted.about, str(accepted.first)))] = (accepted, scene.id, 0)
    return parts


def _rows_of(part: Any, scene_id: str, index: int, beside: Any = None) -> Rows:
    """The rows of a part; those that it shares as the same objects with the part ``beside`` it may be left out."""
    if isinstance(part, Scene):
        return _scene_row(part)
    if isinstance(part, Camera):
        return _camera_rows(part, scene_id, index, beside)
    if isinstance(part, Character):
        return character_rows(part, scene_id, index)
    if isinstance(part, Piece):
        return piece_rows(part, scene_id, index)
    if isinstance(part, Sound):
        return {
            RowKey("sound", (part.id,)): {name: getattr(part, name) for name in _OF_SOUND}
            | {"muted": int(part.muted), "scene_id": scene_id, "place": index}
        }
    if isinstance(part, Block):
        return block_rows(part, scene_id, index)
    if isinstance(part, Mark):
        return {RowKey("frame_mark", (scene_id, part.frame, part.kind)): asdict(part) | {"scene_id": scene_id}}
    if isinstance(part, Acceptance):
        return _accepted_row(part, scene_id)
    if isinstance(part, OtherCut):
        return other_cut_rows(part, scene_id, index)
    entry: CutEntry = part
    return entry_rows(entry, scene_id)


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
        "timecode_start": scene.timecode.starts_at,
        "timecode_drops": int(scene.timecode.drops),
        "cut_name": scene.cut_name,
        "strictness": scene.strictness,
    }
    return {RowKey("scene", (scene.id,)): row}


def _accepted_row(accepted: Acceptance, scene_id: str) -> Rows:
    row = {
        "scene_id": scene_id, "kind": accepted.kind, "character_id": accepted.character_id,
        "camera_id": accepted.camera_id, "joint": accepted.joint, "first_frame": accepted.first,
        "last_frame": accepted.last, "size": accepted.size, "reason": accepted.reason,
    }  # fmt: skip
    return {RowKey("accepted_reading", (scene_id, *accepted.about, accepted.first)): row}


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
        "framing": FRAMING.write(camera.framing), "steps_with": camera.steps_with,
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
        changed = _unshared(channel.keys, other.keys) if other else channel.keys
        rows[RowKey(f"{table}_channel", (*owner, name))] = {
            **channel_row(own, name, channel), "unkeyed_value": unkeyed.get(name),
        }  # fmt: skip
        for key in changed:
            rows[RowKey(f"{table}_key", (*owner, name, str(key.time)))] = key_row(own, name, key)
    return rows


def _unshared(keys: tuple[Key, ...], others: tuple[Key, ...]) -> list[Key]:
    """Those that are not the same objects as any of the others: mostly few of many, in the midst of what is the same."""
    begins, ends = shared_ends(keys, others)
    shared = set(map(id, others[begins : len(others) - ends]))
    return [key for key in keys[begins : len(keys) - ends] if id(key) not in shared]


def scene_from_rows(rows: Iterable[tuple[str, Row]]) -> Scene:
    """A scene from its rows, each given with its table."""
    tables: dict[str, list[Row]] = defaultdict(list)
    for table, row in rows:
        tables[table].append(row)
    (head,) = tables["scene"]
    keys: dict[tuple[str, ...], list[Key]] = defaultdict(list)
    for row in tables["camera_key"]:
        keys[row["camera_id"], row["channel"]].append(key_from(row))
    for row in tables["left_key"]:
        keys[row["camera_id"], row["kind"], row["channel"]].append(key_from(row))
    channels: dict[tuple[str, ...], list[Row]] = defaultdict(list)
    for row in tables["camera_channel"]:
        channels[row["camera_id"],].append(row)
    for row in tables["left_channel"]:
        channels[row["camera_id"], row["kind"]].append(row)
    left: dict[str, list[LeftMount]] = defaultdict(list)
    for row in sorted(tables["left_mount"], key=lambda r: r["kind"]):
        left[row["camera_id"]].append(_left_mount(row, channels, keys))
    for row in tables["placed_key"]:
        keys["placed", row["thing_id"], row["channel"]].append(key_from(row))
    placed: dict[str, dict[str, Channel]] = defaultdict(dict)
    for row in tables["placed_channel"]:
        own_keys = keys.get(("placed", row["thing_id"], row["channel"]), [])
        placed[row["thing_id"]][row["channel"]] = channel_from(row, own_keys)
    holds: dict[str, list[Hold]] = defaultdict(list)
    for row in sorted(tables["prop_hold"], key=lambda r: r["first_frame"]):
        holds[row["piece_id"]].append(Hold(row["first_frame"], row["character_id"], row["joint"]))
    views: dict[str, list[Row]] = defaultdict(list)
    for row in tables["camera_view"]:
        views[row["camera_id"]].append(row)
    feet: dict[str, list[Row]] = defaultdict(list)
    for row in tables["character_foot"]:
        feet[row["character_id"]].append(row)
    exposures: dict[str, list[int]] = defaultdict(list)
    for row in tables["character_exposure"]:
        exposures[row["character_id"]].append(row["frame"])
    corrections: dict[str, list[Row]] = defaultdict(list)
    for row in tables["character_correction"]:
        corrections[row["character_id"]].append(row)
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
        tuple(
            character_from(
                r, feet[r["id"]], exposures[r["id"]], corrections[r["id"]], placing(**placed.get(r["id"], {}))
            )
            for r in sorted(tables["scene_character"], key=lambda r: r["place"])
        ),
        tuple(
            piece_from(r, placing(**placed.get(r["id"], {})), tuple(holds.get(r["id"], ())))
            for r in sorted(tables["set_piece"], key=lambda r: r["place"])
        ),
        Room(head["headroom_least"], head["headroom_most"], head["lead_least"]),
        cut=cut_from(tables["cut_entry"]),
        cut_name=head["cut_name"],
        strictness=head["strictness"],
        other_cuts=other_cuts_from(tables["other_cut"], tables["other_cut_entry"]),
        timecode=Timecode(head["timecode_start"], bool(head["timecode_drops"])),
        sounds=tuple(
            Sound(**{name: r[name] for name in _OF_SOUND} | {"muted": bool(r["muted"])})
            for r in sorted(tables["sound"], key=lambda r: r["place"])
        ),
        blocks=blocks_from(tables["scene_block"]),
        marks=tuple(sorted(Mark(r["frame"], r["kind"], r["text"]) for r in tables["frame_mark"])),
        accepted=tuple(
            sorted(
                Acceptance(
                    r["kind"],
                    r["character_id"],
                    r["camera_id"],
                    r["joint"],
                    r["first_frame"],
                    r["last_frame"],
                    r["size"],
                    r["reason"],
                )
                for r in tables["accepted_reading"]
            )
        ),
    )


_ByOwner = Mapping[tuple[str, ...], list[Row]]
_KeysByOwner = Mapping[tuple[str, ...], list[Key]]


def _channels(
    owner: tuple[str, ...], rows: _ByOwner, keys: _KeysByOwner
) -> tuple[dict[str, Channel], tuple[tuple[str, float], ...]]:
    """The channels of an owner that differ from the plain ones, and what of them was moved without a key."""
    own = rows.get(owner, [])
    channels = {r["channel"]: channel_from(r, keys.get((*owner, r["channel"]), [])) for r in own}
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
        row["steps_with"],
    )  # fmt: skip
