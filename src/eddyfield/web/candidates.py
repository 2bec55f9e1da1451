"""What would be best: ways to step and ride, each as the scene would be with it."""

from __future__ import annotations

from dataclasses import fields, replace

from eddyfield.core.edits.applying import applied
from eddyfield.core.readings.candidates import Candidate, Term, candidates
from eddyfield.core.scene import Scene
from eddyfield.store.scenes import Standing

from .answer import Answer
from .answers import SceneAnswer
from .reading_answers import EditSent
from .requests import Candidates
from .scene_views import SceneViews

MOST_TOGETHER = 1
"""Of the ways that are put together: what they are made of is shown beside."""
MOST_SHOWN = 6


class CandidateView(Answer):
    """A way, what it leaves, and the scene with it; ``edit`` None is the scene as it is. ``cost_px`` is what they are put in
    order by, ``loses_by`` what it has more of than the best."""

    kind: str
    title: str
    edit: EditSent | None
    slip_px: float
    slip_max_px: float
    reversals: int
    lost: list[int]
    feet_slide_m: float | None
    feet_slide_px: float | None
    legs_stretch: float | None
    cost_px: float
    loses_by: Term | None
    answer: SceneAnswer


class CandidatesAnswer(Answer):
    """The best ways, the best first, and the scene as it is among them; how many there were, and what could not be tried. The
    frames around the worst moment are looked at."""

    candidates: list[CandidateView]
    tried: int
    refused: list[str]
    first: int
    last: int


def tried(request: Candidates, standing: Standing, views: SceneViews) -> CandidatesAnswer:
    """Try every way for a character; nothing is stored."""
    scene = standing.scene
    baker = views.baker(scene)
    found = candidates(baker, scene.character(request.character_id))
    ways = [c for c in found.candidates if c.edit is not None]
    together = [c for c in ways if c.kind == "together"][MOST_TOGETHER:]
    best = [c for c in ways if c not in together][: MOST_SHOWN - 1]
    shown = [c for c in found.candidates if c.edit is None or c in best]

    def view(candidate: Candidate) -> CandidateView:
        after: Scene = scene if candidate.edit is None else applied(candidate.edit, scene, baker)
        figures = {f.name: getattr(candidate, f.name) for f in fields(candidate) if f.name != "terms_px"}
        figures["lost"] = list(candidate.lost)
        return CandidateView(**figures, answer=views.preview(replace(standing, scene=after), request.view))

    return CandidatesAnswer(
        candidates=[view(c) for c in shown], tried=len(found.candidates) - 1, refused=list(found.refused),
        first=found.first, last=found.last,
    )  # fmt: skip
