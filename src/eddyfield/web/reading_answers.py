"""What is answered about readings, and about what becomes of them."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import WithJsonSchema

from eddyfield.core.acceptance import Acceptance
from eddyfield.core.readings.compared import Status
from eddyfield.core.readings.faults import FaultOf
from eddyfield.core.readings.reading import Figure, ReadingKind, Unit
from eddyfield.core.readings.spacing_chart import Intent

from .answer import Answer

EditSent = Annotated[Any, WithJsonSchema({"tsType": 'EditRequest["edit"]'})]
"""An edit that the browser sends back as it is."""


class FixView(Answer):
    """An edit that mends what a reading tells."""

    title: str
    does: str
    edit: EditSent


class ReadingView(Answer):
    """The ids say what it is about; the list of them has the one that hurts most first."""

    kind: ReadingKind
    subject: str
    first: int
    last: int
    size: float
    unit: Unit
    threshold: float
    fixes: list[FixView]
    character_id: str | None
    camera_id: str | None
    figures: list[Figure]
    remark: bool
    """Told as such; no fault."""
    shot: int | None
    """Which one of the cut it is in, counted from 1; None where it is in no single one."""
    cause: str
    """The same for readings that one thing is the cause of."""
    cause_title: str
    note: str
    joint: str | None
    """Of the character or the piece: the one that it is about, where it is about one."""
    frame: int
    """The one on which it is worst, or the first."""
    least: float | None
    """What could have been told there at the least, where that is known."""
    fault_of: FaultOf | None
    as_seen: ReadingKind | None
    """Of a camera's own fault: as what it shows in the arcs that are seen through it."""
    accepted: Acceptance | None
    """By which somebody lets it stand, where somebody does."""


class WhyArcView(Answer):
    """The nine frames around a fault on the screen, in square pixels: ``places``, ``before`` and ``after`` are x, y in turn."""

    way: Literal["arc"] = "arc"
    first: int
    places: list[float | None]
    before: list[float]
    after: list[float]
    wanted: list[float]
    left_px: list[float]


class WhySeriesView(Answer):
    """Values on frames from ``first`` on, None where there is none, and the limit for them, where there is one."""

    way: Literal["series"] = "series"
    first: int
    values: list[float | None]
    unit: Unit
    limit: float | None


class SpacingChartView(Answer):
    """Shares of the way that are gone on each frame, and that were intended; how far ahead of that it is, px. ``fits_px`` are in
    the order of the intents."""

    first: int
    last: int
    intent: Intent
    length_px: float
    share: list[float]
    intended: list[float]
    error_px: list[float]
    fits_px: list[float]


class WhyView(Answer):
    """What a reading was worked out from; None where the frame itself shows it."""

    why: WhyArcView | WhySeriesView | None


class ChangeView(Answer):
    """What became of one matter; ``was`` is the reading of it before, where there was one and there is one."""

    status: Status
    reading: ReadingView
    was: ReadingView | None


class ChangesTold(Answer):
    """What became better and worse, without what stayed."""

    changes: list[ChangeView]


class LimitView(Answer):
    """From when on something is told, in every scene of the production; ``told_above`` it, else below."""

    name: str
    title: str
    unit: str
    of: str
    """What a share is of."""
    value: float
    usual: float
    least: float
    most: float
    told_above: bool


class LimitsChanged(Answer):
    """An event: the limits of the production were set, by whom (empty: somebody without a name) and from which window."""

    who: str
    window_id: str | None


class LimitsTold(Answer):
    """All of them, and by name those that are ``changed``."""

    limits: list[LimitView]
    changed: dict[str, float]


class Attention(Answer):
    """What of a scene asks for attention: how many readings there are through its cut, and of what kinds, the gravest first.
    ``told`` None: it is too long to be judged in passing."""

    told: int | None
    kinds: list[ReadingKind]


class CutComparison(Answer):
    """What becomes better and worse where another cut takes the place of the one that is shown."""

    changes: list[ChangeView]
