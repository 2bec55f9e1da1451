"""Routes that judge and store nothing: why a reading is told, what an edit would do to the readings, what would be best."""

from __future__ import annotations

from flask import Flask, Response

from eddyfield.core.edits.applying import applied
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.readings.spacing_chart import spacing_chart
from eddyfield.core.readings.why import why
from eddyfield.store.scenes import Scenes
from eddyfield.store.turns import Turns

from .bodies import json_answer, read_body
from .candidates import tried
from .packing import CONTENT_TYPE, pack
from .reading_answers import Attention, ChangesTold
from .reading_views import spacing_view, why_view
from .requests import Candidates, EffectRequest, SinceRequest, SpacingRequest, WhyRequest
from .scene_views import SceneViews, write_down
from .versions import changes_between, changes_since, with_version

MOST_IN_PASSING = 3000
"""Frames of a scene: a longer one is judged when it is opened."""


def install_judging(app: Flask, scenes: Scenes, views: SceneViews, turns: Turns) -> None:
    """The routes; as many at a time as there are ``turns``."""

    @app.post("/api/scenes/<uuid:scene_id>/why")
    def why_told(scene_id: object) -> Response:
        told = read_body(WhyRequest).told
        with turns:
            return json_answer(why_view(why(views.baker(scenes.get(str(scene_id)).scene), told)))

    @app.get("/api/scenes/<uuid:scene_id>/attention")
    def what_asks_for_attention(scene_id: object) -> Response:
        scene = scenes.get(str(scene_id)).scene
        if scene.frames.count > MOST_IN_PASSING:
            return json_answer(Attention(told=None, kinds=[]))
        with turns:
            found = [r for r in scene_readings(views.baker(scene), None, None, write_down) if r.weight >= 0]
        return json_answer(Attention(told=len(found), kinds=list(dict.fromkeys(r.kind for r in found))))

    @app.post("/api/scenes/<uuid:scene_id>/spacing")
    def chart_spacing(scene_id: object) -> Response:
        body = read_body(SpacingRequest)
        with turns:
            baker = views.baker(scenes.get(str(scene_id)).scene)
            scene = baker.scene
            camera = scene.camera(body.camera_id) if body.camera_id else None
            of = scene.thing(body.thing_id), body.joint, camera, body.first, body.last, body.intent, body.own
            return json_answer(spacing_view(spacing_chart(baker, *of)))

    @app.post("/api/scenes/<uuid:scene_id>/effect")
    def effect_of_edit(scene_id: object) -> Response:
        edit = read_body(EffectRequest).edit
        with turns:
            coming = {other: scenes.get(other).scene for other in edit.brings_scenes()}
            before = views.baker(scenes.get(str(scene_id)).scene, coming)
            changes = changes_between(before, before.of(applied(edit, before.scene, before)))
            return json_answer(ChangesTold(changes=changes))

    @app.post("/api/scenes/<uuid:scene_id>/since")
    def changed_since(scene_id: object) -> Response:
        body = read_body(SinceRequest)
        with turns:
            baker = views.baker(scenes.get(str(scene_id)).scene)
            if body.version is None:
                changes = changes_since(body.seen, baker)
            else:
                before = with_version(baker, body.version.character_id, body.version.source)
                changes = changes_between(before, baker)
            return json_answer(ChangesTold(changes=changes))

    @app.post("/api/scenes/<uuid:scene_id>/candidates")
    def try_candidates(scene_id: object) -> Response:
        body = read_body(Candidates)
        with turns:
            found = tried(body, scenes.get(str(scene_id), body.view.window_id), views)
            return Response(pack(found), content_type=CONTENT_TYPE)
