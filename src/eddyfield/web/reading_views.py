"""Readings as the browser gets them, and why they are told."""

from __future__ import annotations

import math

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.readings.causes import CAUSE_TITLES, CAUSES, cause_key
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.spacing_chart import INTENTS, SpacingChart
from eddyfield.core.readings.why import Why, WhyArc

from .reading_answers import FixView, ReadingView, SpacingChartView, WhyArcView, WhySeriesView, WhyView


def reading_view(r: Reading) -> ReadingView:
    fixes = [FixView(title=fix.title, does=fix.does, edit=fix.edit) for fix in r.fixes]
    return ReadingView(
        kind=r.kind, subject=r.subject, first=r.first, last=r.last, size=r.size, unit=r.unit, threshold=r.threshold,
        fixes=fixes, character_id=r.character_id, camera_id=r.camera_id, figures=list(r.figures), remark=r.remark,
        note=r.note, shot=r.shot, cause=cause_key(r), cause_title=CAUSE_TITLES[CAUSES[r.kind]],
        joint=r.joint, frame=r.first if r.frame is None else r.frame, least=r.least, fault_of=r.fault_of,
        as_seen=r.as_seen,
        accepted=r.accepted,
    )  # fmt: skip


def why_view(found: Why | None) -> WhyView:
    """What a reading was worked out from."""
    if found is None:
        return WhyView(why=None)
    if isinstance(found, WhyArc):
        before, after, wanted, left = (
            np.ravel(a).tolist() for a in (found.before, found.after, found.wanted, found.left_px)
        )
        places = _known(found.places)
        return WhyView(
            why=WhyArcView(first=found.first, places=places, before=before, after=after, wanted=wanted, left_px=left)
        )
    limit = None if math.isnan(found.limit) else found.limit
    return WhyView(why=WhySeriesView(first=found.first, values=_known(found.values), unit=found.unit, limit=limit))


def spacing_view(chart: SpacingChart) -> SpacingChartView:
    """A chart, as it is drawn."""
    return SpacingChartView(
        first=chart.first, last=chart.last, intent=chart.intent, length_px=chart.length_px, share=chart.share.tolist(),
        intended=chart.intended.tolist(), error_px=chart.error_px.tolist(), fits_px=[chart.fits_px[one] for one in INTENTS],
    )  # fmt: skip


def _known(values: Floats) -> list[float | None]:
    return [v if math.isfinite(v) else None for v in np.ravel(values).tolist()]
