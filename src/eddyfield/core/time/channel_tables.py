"""Which channels an owner has, and what is known of each: the one place for the core, the store and the browser."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from ..content import content_key
from ..errors import DomainError
from .channels import Channel

Unit = Literal["m", "degrees", "mm", "share", "none"]
SIGNS: dict[Unit, str] = {"m": " m", "degrees": "°", "mm": " mm", "share": "", "none": ""}
FARTHEST = 1e7


@dataclass(frozen=True)
class ChannelKind:
    """A number that can be keyed: what programs and people call it, its ``unit``, its value where nobody has set it, the
    least and the greatest that it may have, and which group of its owner's locks holds it."""

    name: str
    title: str
    unit: Unit
    default: float
    lock_group: str
    least: float = -FARTHEST
    greatest: float = FARTHEST

    def check(self, value: float) -> None:
        """Raise ``DomainError`` where the channel may not have this value."""
        if not self.least <= value <= self.greatest:
            sign = SIGNS[self.unit]
            raise DomainError(
                f"{self.title[0].upper()}{self.title[1:]} {value:g}{sign} is not usable.",
                f"Give one from {self.least:g} to {self.greatest:g}{sign}.",
            )


class ChannelTable(Mapping[str, ChannelKind]):
    """All kinds of channels that one kind of owner has, by their names, in their order."""

    def __init__(self, owner: str, kinds: Sequence[ChannelKind]) -> None:
        self.owner = owner
        self._kinds = {kind.name: kind for kind in kinds}
        self.names = tuple(self._kinds)
        self.indices = {name: index for index, name in enumerate(self.names)}

    def __getitem__(self, name: str) -> ChannelKind:
        """Raises ``DomainError`` where there is no such channel."""
        kind = self._kinds.get(name)
        if kind is None:
            raise DomainError(f"A {self.owner} has no channel “{name}”.", f"Channels are {', '.join(self.names)}.")
        return kind

    def __iter__(self) -> Iterator[str]:
        return iter(self._kinds)

    def __len__(self) -> int:
        return len(self._kinds)

    @cached_property
    def plain(self) -> Channels:
        """Channels as they are where nobody has set them."""
        return Channels(self, tuple(Channel(kind.default) for kind in self._kinds.values()))

    def in_order(self, values: Mapping[str, float]) -> tuple[tuple[str, float], ...]:
        """Values of some of the channels, in the order of the table."""
        return tuple((name, values[name]) for name in self.names if name in values)


@dataclass(frozen=True)
class Channels(Mapping[str, Channel]):
    """The channels of one owner, by their names.

    >>> table = ChannelTable("lamp", [ChannelKind("glow", "glow", "share", 1.0, "light", 0.0, 1.0)])
    >>> dimmed = table.plain.having(glow=Channel(0.25))
    >>> table.plain["glow"].default, dimmed["glow"].default
    (1.0, 0.25)
    """

    table: ChannelTable = field(compare=False, repr=False)
    in_order: tuple[Channel, ...]

    def __getitem__(self, name: str) -> Channel:
        return self.in_order[self.table.indices[name]]

    def __iter__(self) -> Iterator[str]:
        return iter(self.table.names)

    def __len__(self) -> int:
        return len(self.in_order)

    def having(self, **changed: Channel) -> Channels:
        """With some of the channels in the places of those that were there. Raises ``DomainError`` for one that is none."""
        in_order = list(self.in_order)
        for name, channel in changed.items():
            in_order[self.table.indices[self.table[name].name]] = channel
        return replace(self, in_order=tuple(in_order))

    @cached_property
    def content(self) -> str:
        """A name of all keys and defaults, made once."""
        return content_key(
            "channels", *(channel.content if channel.keys else channel.default for channel in self.in_order)
        )
