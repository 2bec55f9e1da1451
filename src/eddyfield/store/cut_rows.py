"""Cuts as rows: the one that a scene shows, and the others that are kept beside it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict, fields

from eddyfield.core.cut.cut import Cut, CutEntry, Handles
from eddyfield.core.cut.other_cut import OtherCut
from eddyfield.core.cut.transition import Transition

from .key_rows import Row, RowKey, Rows


def entry_rows(entry: CutEntry, scene_id: str) -> Rows:
    return {RowKey("cut_entry", (scene_id, entry.first)): {"scene_id": scene_id, **_entry(entry)}}


def other_cut_rows(other: OtherCut, scene_id: str, place: int) -> Rows:
    rows: dict[RowKey, Row] = {
        RowKey("other_cut", (other.id,)): {"id": other.id, "scene_id": scene_id, "place": place, "name": other.name}
    }
    for entry in other.cut.entries:
        rows[RowKey("other_cut_entry", (other.id, entry.first))] = {"cut_id": other.id, **_entry(entry)}
    return rows


def cut_from(rows: Iterable[Row]) -> Cut:
    return Cut(tuple(map(_entry_from, sorted(rows, key=lambda row: row["first_frame"]))))


def other_cuts_from(cuts: Iterable[Row], entries: Iterable[Row]) -> tuple[OtherCut, ...]:
    of_cut: dict[str, list[Row]] = {}
    for row in entries:
        of_cut.setdefault(row["cut_id"], []).append(row)
    in_order = sorted(cuts, key=lambda row: row["place"])
    return tuple(OtherCut(row["id"], row["name"], cut_from(of_cut[row["id"]])) for row in in_order)


def _entry(entry: CutEntry) -> Row:
    return {
        "first_frame": entry.first, "camera_id": entry.camera_id,
        "name": entry.name, "note": entry.note, "state": entry.state, "locked": int(entry.locked),
        **{f"transition_{name}": value for name, value in asdict(entry.transition).items()},
        "handle_before": entry.handles.before, "handle_after": entry.handles.after,
    }  # fmt: skip


def _entry_from(row: Row) -> CutEntry:
    transition = Transition(**{f.name: row[f"transition_{f.name}"] for f in fields(Transition)})
    return CutEntry(
        row["first_frame"], row["camera_id"], row["name"], row["note"], row["state"], bool(row["locked"]), transition,
        Handles(row["handle_before"], row["handle_after"]),
    )  # fmt: skip
