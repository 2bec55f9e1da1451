"""Arcs as the browser gets them: the one that is looked at with its judgement, and those that stay beside it."""

from __future__ import annotations

from functools import partial

import numpy as np

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.arc_figures import ArcTrack
from eddyfield.core.readings.scene_readings import seen_through
from eddyfield.core.readings.unframed import undetectable
from eddyfield.core.rig.mesh_points import MeshPoint, followed_on
from eddyfield.core.scene import Thing

from . import answers, parts
from .camera_views import floats
from .requests import View
from .thing_views import Offer


def chosen_joint(baker: Baker, view: View) -> tuple[Thing, int | MeshPoint] | None:
    """The thing and what of it is followed, whose arc is looked at."""
    return None if view.joint is None else _named(baker, view.thing_id, view.joint)


def _named(baker: Baker, thing_id: str | None, joint: str) -> tuple[Thing, int | MeshPoint] | None:
    thing = next((t for t in baker.scene.things if t.id == thing_id), None)
    if thing is None:
        return None
    try:
        return thing, followed_on(baker.rig(thing), joint)
    except DomainError:
        return None


def offer_arc(
    baker: Baker, view: View, through: Camera | None, offer: Offer, fallbacks: list[str]
) -> tuple[str | None, str | None]:
    """The arc that is looked at and its judgement, by the names of their parts; what of it is not there is told."""
    thing = next((t for t in baker.scene.things if t.id == view.thing_id), None)
    if view.thing_id is not None and thing is None:
        fallbacks.append("What was looked at is not in the scene any more.")
    found = chosen_joint(baker, view)
    if found is None:
        if thing is not None and view.joint is not None:
            fallbacks.append(f"{thing.name} has no joint “{view.joint[:80]}”, so no arc is shown.")
        return None, None
    chosen, node = found
    frozen = frozen_row(baker, view)
    if frozen is None and view.frozen_frame is not None:
        fallbacks.append(f"Frame {view.frozen_frame} is not in the scene, so the arc is not frozen on it.")
    camera, joint = seen_through(baker, through), view.joint or ""
    of = chosen, node, camera, frozen
    return (
        offer(baker.arc_part(*of).key, lambda: arc_part(baker.arc(*of), joint)),
        offer(baker.arc_judgement_part(*of).key, lambda: _judgement_part(baker, *of), view.judged),
    )


def offer_also(baker: Baker, view: View, through: Camera | None, offer: Offer) -> list[answers.AlsoArc]:
    """The further arcs that are drawn; of what is not in the scene there is none."""
    out = []
    for wanted in view.also:
        found = _named(baker, wanted.thing_id, wanted.joint)
        if found is not None:
            of = *found, seen_through(baker, through), frozen_row(baker, view)
            name = offer(baker.arc_part(*of).key, partial(_arc_of, baker, of, wanted.joint))
            out.append(answers.AlsoArc(thing_id=wanted.thing_id, joint=wanted.joint, arc=name))
    return out


def _arc_of(baker: Baker, of: tuple[Thing, int | MeshPoint, Camera | None, int | None], joint: str) -> parts.ArcPart:
    return arc_part(baker.arc(*of), joint)


def frozen_row(baker: Baker, view: View) -> int | None:
    """The row of the scene's frames on whose camera the arc is frozen; None where on none."""
    row = None if view.frozen_frame is None else view.frozen_frame - baker.frames.first
    return row if row is not None and 0 <= row < baker.frames.count else None


def arc_part(arc: ArcTrack, joint: str) -> parts.ArcPart:
    return parts.ArcPart(
        joint=joint, pixels=floats(arc.pixels), spacing_px=floats(arc.spacing_px),
        subject_px=floats(arc.subject_px), camera_px=floats(arc.camera_px),
    )  # fmt: skip


def _judgement_part(
    baker: Baker, thing: Thing, node: int | MeshPoint, camera: Camera | None, frozen: int | None
) -> parts.ArcJudgementPart:
    judged, scene = baker.judged_arc(thing, node, camera, frozen).judgement, baker.scene
    return parts.ArcJudgementPart(
        off_arc_px=floats(judged.off_arc),
        off_spacing_px=floats(judged.off_spacing),
        least_px=floats(judged.least),
        undetectable=undetectable(judged, scene.delivery.height).astype(np.uint8),
        faults=[
            parts.ArcFaultView(frame=scene.frames.first + f.row, kind=f.kind, size_px=f.size_px, least_px=f.least_px)
            for f in judged.faults
        ],
    )
