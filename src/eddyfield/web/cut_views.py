"""The cut of a scene as the browser gets it: its shots, the cuts beside it, its time code."""

from __future__ import annotations

from functools import partial

from eddyfield.core.content import content_key
from eddyfield.core.cut.cut import Cut
from eddyfield.core.cut.shots import shots_of
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import FrameRange

from .cut_answers import OtherCutView, TimecodeView
from .parts import ShotsPart
from .thing_views import Offer


def offer_shots(cut: Cut, frames: FrameRange, offer: Offer) -> str:
    """The part with the shots of a cut."""
    return offer(content_key(cut.told_by, frames), partial(_shots_part, cut, frames))


def other_cut_views(scene: Scene, offer: Offer) -> list[OtherCutView]:
    return [
        OtherCutView(
            id=other.id, name=other.name, shots=offer_shots(other.cut, scene.frames, offer),
            shot_count=len(other.cut.spans(scene.frames)),
        )
        for other in scene.other_cuts
    ]  # fmt: skip


def timecode_view(scene: Scene) -> TimecodeView:
    count, start = scene.timecode.count(scene.rate), scene.timecode.starts_at
    return TimecodeView(text=count.text(start), starts_at=start, numbers=count.numbers, dropped=count.dropped)


def _shots_part(cut: Cut, frames: FrameRange) -> ShotsPart:
    return ShotsPart(shots=list(shots_of(cut, frames)))
