"""What a row is, and keys as rows: the same for channels of every owner."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from fractions import Fraction
from functools import lru_cache
from typing import Any, NamedTuple

from eddyfield.core.time.channels import HOLDS, Beyond, Channel
from eddyfield.core.time.keys import Handle, Key

Row = dict[str, Any]


class RowKey(NamedTuple):
    """Names one row: its table and its primary key."""

    table: str
    key: tuple[Any, ...]


Rows = Mapping[RowKey, Row]


def channel_row(own: Row, name: str, channel: Channel) -> Row:
    """Of a channel itself, without its keys."""
    beyond = channel.beyond
    return {
        **own, "channel": name, "default_value": channel.default,
        "before_keys": beyond.before, "after_keys": beyond.after,
    }  # fmt: skip


def channel_from(row: Row, keys: Iterable[Key]) -> Channel:
    beyond = Beyond(row["before_keys"], row["after_keys"])
    in_order = tuple(sorted(keys, key=in_order_of_time))
    return Channel(row["default_value"], in_order, HOLDS if beyond == HOLDS else beyond)


def key_row(own: Row, channel: str, key: Key) -> Row:
    into, out = key.handle_in, key.handle_out
    return {
        **own, "channel": channel, "frame_time": str(key.time), "value": key.value, "shape": key.shape,
        "in_frames": into.frames if into else None, "in_value": into.value if into else None,
        "out_frames": out.frames if out else None, "out_value": out.value if out else None,
    }  # fmt: skip


@lru_cache(maxsize=100_000)
def _time(text: str) -> Fraction:
    """Channels of a camera have most of their times in common."""
    return Fraction(text)


def in_order_of_time(key: Key) -> tuple[float, Fraction]:
    """By time: fractions are compared only where floating-point numbers do not tell them apart."""
    return float(key.time), key.time


def key_from(row: Row) -> Key:
    into = None if row["in_frames"] is None else Handle(float(row["in_frames"]), float(row["in_value"]))
    out = None if row["out_frames"] is None else Handle(float(row["out_frames"]), float(row["out_value"]))
    return Key(_time(row["frame_time"]), float(row["value"]), row["shape"], into, out)
