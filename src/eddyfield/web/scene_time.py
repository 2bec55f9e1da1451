"""What would become of a scene at another rate, or with another of its cuts."""

from __future__ import annotations

from eddyfield.core.edits.other_cuts import TakeUpCut
from eddyfield.core.errors import DomainError
from eddyfield.core.nesting import renewed
from eddyfield.core.rate_change import RATE_KEEPS, at_rate
from eddyfield.core.scene import Scene
from eddyfield.core.time.frames import Rate

from .cut_answers import RateChangeView
from .reading_answers import CutComparison
from .scene_views import SceneViews
from .versions import changes_between


def rate_change(scene: Scene, rate: str, keeps: str) -> RateChangeView:
    """Nothing is stored. Raises ``DomainError`` for a rate that cannot be."""
    way = next((way for way in RATE_KEEPS if way == keeps), None)
    if way is None:
        raise DomainError(f"A change of rate cannot keep “{keeps}”.", f"Choose one of {', '.join(RATE_KEEPS)}.")
    changed = at_rate(scene, Rate.parse(rate), way)
    frames = changed.scene.frames
    return RateChangeView(first=frames.first, last=frames.last, costs=list(changed.costs))


def cut_comparison(scene: Scene, cut_id: str, views: SceneViews) -> CutComparison:
    """The cut that is shown against another one: both are judged. Raises ``DomainError`` where that is not kept."""
    other = renewed(scene, TakeUpCut(cut_id=cut_id).apply(scene))
    return CutComparison(changes=changes_between(views.baker(scene), views.baker(other)))
