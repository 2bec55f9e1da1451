"""Readings as other programs read them."""

from __future__ import annotations

from eddyfield.core.readings.published_kinds import published_kind
from eddyfield.core.readings.reading import READING_TITLES, Reading


def as_object(reading: Reading, owner: str) -> dict[str, object]:
    """A reading of what somebody called ``owner`` does, or a camera."""
    return {
        "kind": published_kind(reading),
        "owner": owner,
        "joint": reading.joint,
        "first": reading.first,
        "last": reading.last,
        "frame": reading.first if reading.frame is None else reading.frame,
        "size": reading.size,
        "unit": reading.unit,
        "least": reading.least,
        "threshold": reading.threshold,
        "cause": reading.fault_of,
        "title": READING_TITLES[reading.kind],
        "remark": reading.remark,
        "note": reading.note,
    }


def amount_of(reading: dict[str, object]) -> str:
    """How much it is, for people."""
    size = reading["size"]
    assert isinstance(size, float | int)
    if reading["unit"] == "share":
        return f"{100 * size:.1f} %"
    return f"{size:.2f} {reading['unit']}".strip()
