"""Characters, props and set pieces as rows and back: their files, where they stand, when they are there, and who holds what."""

from __future__ import annotations

from dataclasses import replace

from eddyfield.core.performance.character import Character
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.holding import Hold
from eddyfield.core.performance.performance import Performance
from eddyfield.core.performance.piece import Piece
from eddyfield.core.performance.placing import AS_IN_FILE
from eddyfield.core.performance.ride import Ride
from eddyfield.core.performance.showing import ALWAYS
from eddyfield.core.performance.timing import Timing
from eddyfield.core.performance.version import Versions
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Thing
from eddyfield.core.time.channel_tables import Channels
from eddyfield.core.time.frames import FrameTime

from .key_rows import Row, RowKey, Rows, channel_row, key_row
from .records import CORRECTION, PARTS, RIDE_WEIGHTS, SHOWING, STEPPING, TIMING, VERSIONS, SteppedParts, read_if_any


def _placed_rows(thing: Thing, scene_id: str) -> dict[RowKey, Row]:
    """Rows of where a thing stands; none where it stands as its file has it."""
    own = {"thing_id": thing.id}
    rows: dict[RowKey, Row] = {}
    for name, channel in thing.placing.items():
        if channel == AS_IN_FILE[name]:
            continue
        rows[RowKey("placed_channel", (thing.id, name))] = {
            **channel_row(own, name, channel), "scene_id": scene_id,
        }  # fmt: skip
        for key in channel.keys:
            rows[RowKey("placed_key", (thing.id, name, str(key.time)))] = key_row(own, name, key)
    return rows


def piece_rows(piece: Piece, scene_id: str, index: int) -> Rows:
    row: Row = {
        "id": piece.id, "scene_id": scene_id, "place": index, "name": piece.name, "kind": piece.kind,
        **_source_columns(piece.performance.source), "start_frame": str(piece.performance.timing.start),
        "timing": TIMING.write(None if piece.performance.timing.is_plain else piece.performance.timing),
        "showing": SHOWING.write(piece.showing if piece.showing != ALWAYS else None),
        "stepping": STEPPING.write(piece.stepping),
    }  # fmt: skip
    rows = {RowKey("set_piece", (piece.id,)): row} | _placed_rows(piece, scene_id)
    for hold in piece.holds:
        rows[RowKey("prop_hold", (piece.id, hold.first))] = {
            "piece_id": piece.id, "first_frame": hold.first, "character_id": hold.character_id, "joint": hold.joint,
        }  # fmt: skip
    return rows


def character_rows(character: Character, scene_id: str, index: int) -> Rows:
    stepping, ride = character.stepping, character.ride
    row: Row = {
        "id": character.id, "scene_id": scene_id, "place": index, "name": character.name,
        **_source_columns(character.performance.source), "start_frame": str(character.performance.timing.start),
        "timing": TIMING.write(None if character.performance.timing.is_plain else character.performance.timing),
        "step": stepping.step, "step_offset": stepping.offset, "keep_key_poses": int(stepping.keep_key_poses),
        "step_in_file_time": int(stepping.in_file_time),
        "ride_way": ride.way, "ride_weight": ride.weight, "ride_anchor": ride.anchor,
        "ride_plants": int(ride.plants), "ride_weights": RIDE_WEIGHTS.write(ride.weights),
        "front_deg": character.front_deg,
        "showing": SHOWING.write(character.showing if character.showing != ALWAYS else None),
        "parts": PARTS.write(SteppedParts(character.parts) if character.parts else None),
        "versions": VERSIONS.write(character.versions if character.versions.all else None),
    }  # fmt: skip
    rows: dict[RowKey, Row] = {RowKey("scene_character", (character.id,)): row} | _placed_rows(character, scene_id)
    for number, joint in enumerate(character.feet):
        row = {"character_id": character.id, "place": number, "joint": joint}
        rows[RowKey("character_foot", (character.id, number))] = row
    for frame in stepping.starts or ():
        rows[RowKey("character_exposure", (character.id, frame))] = {"character_id": character.id, "frame": frame}
    for place, correction in enumerate(character.performance.corrections):
        rows[RowKey("character_correction", (character.id, place))] = {
            "character_id": character.id, "place": place, "correction": CORRECTION.write(correction),
        }  # fmt: skip
    return rows


def _source_columns(source: RigSource) -> Row:
    return {
        "digest": source.digest, "format": source.format, "scale": source.scale,
        "animation": source.animation, "offsets": source.offsets, "rig": source.rig,
    }  # fmt: skip


def character_from(
    row: Row, feet: list[Row], exposures: list[int], corrections: list[Row], placed: Channels
) -> Character:
    in_order = sorted(corrections, key=lambda r: r["place"])
    return Character(
        row["id"],
        row["name"],
        replace(_performance(row), corrections=tuple(CORRECTION.read(r["correction"]) for r in in_order)),
        Stepping(
            row["step"],
            row["step_offset"],
            bool(row["keep_key_poses"]),
            tuple(sorted(exposures)) or None,
            bool(row["step_in_file_time"]),
        ),
        Ride(
            row["ride_way"],
            row["ride_weight"],
            row["ride_anchor"],
            bool(row["ride_plants"]),
            read_if_any(RIDE_WEIGHTS, row["ride_weights"]),
        ),
        tuple(r["joint"] for r in sorted(feet, key=lambda r: r["place"])),
        row["front_deg"],
        placed,
        read_if_any(SHOWING, row["showing"]) or ALWAYS,
        read_if_any(VERSIONS, row["versions"]) or Versions(),
        parts.all if (parts := read_if_any(PARTS, row["parts"])) else (),
    )


def piece_from(row: Row, placed: Channels, holds: tuple[Hold, ...]) -> Piece:
    performance = _performance(row)
    showing = read_if_any(SHOWING, row["showing"]) or ALWAYS
    stepping = read_if_any(STEPPING, row["stepping"])
    return Piece(row["id"], row["name"], performance, row["kind"], placed, showing, holds, stepping)


def _performance(row: Row) -> Performance:
    timing = read_if_any(TIMING, row["timing"]) or Timing()
    return Performance(_source(row), replace(timing, start=FrameTime(row["start_frame"])))


def _source(row: Row) -> RigSource:
    return RigSource(row["digest"], row["format"], row["scale"], row["animation"], row["offsets"], row["rig"])
