"""The Flask application: routes from requests to the store and the core, and back."""

from __future__ import annotations

import secrets
from dataclasses import asdict, dataclass, field, replace
from datetime import UTC, timedelta
from functools import partial
from pathlib import Path

from flask import Flask, Response, g, request, send_from_directory

from eddyfield.core.bake import Baker
from eddyfield.core.edits.applying import applied
from eddyfield.core.nesting import with_surroundings
from eddyfield.core.scene import Scene
from eddyfield.core.working_order import next_step
from eddyfield.store.blobs import Blobs
from eddyfield.store.changes import Changes
from eddyfield.store.conflicts import NotFound
from eddyfield.store.database import Database
from eddyfield.store.disk import Disk
from eddyfield.store.limits import ProductionLimits
from eddyfield.store.scenes import Listed, Scenes, Standing
from eddyfield.store.sequences import Sequences
from eddyfield.store.turns import Turns

from . import answers, exports, imports, sounds
from .access import Token, install_gate
from .apart import is_apart
from .bodies import json_answer, read_body
from .body_deadlines import BodyDeadlines
from .event_streams import EventStreams, install_event_stream
from .judging import install_judging
from .limits import install_limits
from .open_sessions import OpenSessions
from .packing import CONTENT_TYPE, pack
from .refusals import install_refusals, refuse
from .requests import (
    EditRequest,
    MakeScene,
    MakeStandIn,
    NextVersion,
    PreviewRequest,
    ReplayRequest,
    View,
    ViewRequest,
    edit_as_text,
)
from .rigs import PartMemory, Rigs
from .scene_time import cut_comparison, rate_change
from .scene_views import SceneViews
from .sequences import install_sequences, sequence_view
from .sounds import Sounds
from .upload_places import UploadPlaces
from .versions import next_version

PNG = b"\x89PNG\r\n\x1a\n"


@dataclass(frozen=True)
class Settings:
    """How the server is set up. ``hosts`` are the names it answers under, None for any."""

    front_end: Path
    session_secret: bytes
    token: Token = field(default_factory=lambda: Token(None, secrets.token_urlsafe(24)))
    sessions: OpenSessions = field(default_factory=lambda: OpenSessions(None))
    hosts: frozenset[str] | None = None
    port: int = 0
    """Cookies are named by it: several servers on one machine have the same name but for that."""
    upload_limit_mb: int = 256
    uploads_at_once: int = 2
    streams_at_once: int = 48
    memory_mb: int = 512
    disk: Disk = Disk(None)


def create_app(database: Database, settings: Settings) -> Flask:
    """The application on a migrated database."""
    app = Flask("eddyfield", static_folder=str(settings.front_end / "assets"), static_url_path="/assets")
    app.config.update(
        SECRET_KEY=settings.session_secret,
        MAX_CONTENT_LENGTH=settings.upload_limit_mb * 2**20,
        SESSION_COOKIE_NAME=f"eddyfield-{settings.port}" if settings.port else "eddyfield",
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        PERMANENT_SESSION_LIFETIME=timedelta(days=30),
        SEND_FILE_MAX_AGE_DEFAULT=timedelta(days=365),
    )
    install_refusals(app)
    install_gate(app, settings.token, settings.hosts, settings.sessions, settings.port)
    _install_page(app, settings)
    app.wsgi_app = BodyDeadlines(app.wsgi_app)  # type: ignore[method-assign]
    memory = PartMemory(settings.memory_mb * 2**20)
    blobs = Blobs(database)
    scenes = Scenes(database)
    heard = Sounds(blobs, memory)
    limits = ProductionLimits(database)
    views = SceneViews(Rigs(blobs, memory), heard, memory, limits.get)
    uploads = UploadPlaces(settings.uploads_at_once)
    sequences = Sequences(database)
    _install_desk(app, scenes, sequences, blobs, uploads, settings)
    install_sequences(app, sequences, scenes, views, settings.disk)
    _install_sounds(app, scenes, blobs, heard, uploads, settings.disk)
    # One at a time computes: many threads that want the interpreter at once make everybody wait for the slowest. What is judged
    # takes turns of its own, so that the picture never waits for it.
    judging = Turns(1)
    _install_scenes(app, scenes, views, settings.disk, Turns(1), judging)
    install_judging(app, scenes, views, judging)
    install_limits(app, limits)
    _install_exports(app, scenes, views)
    install_event_stream(app, EventStreams((Changes(database), limits), settings.streams_at_once))
    return app


def _install_page(app: Flask, settings: Settings) -> None:
    @app.get("/")
    @app.get("/scenes/<scene_id>")
    @app.get("/sequences/<sequence_id>")
    def page(scene_id: str | None = None, sequence_id: str | None = None) -> Response:
        answer = send_from_directory(settings.front_end, "index.html", max_age=0)
        answer.headers["Content-Security-Policy"] = (
            "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; worker-src 'self' blob:"
        )
        return answer

    @app.after_request
    def headers(answer: Response) -> Response:
        answer.headers["X-Content-Type-Options"] = "nosniff"
        answer.headers["X-Frame-Options"] = "DENY"
        answer.headers["Referrer-Policy"] = "same-origin"
        if request.path.startswith("/api/"):
            answer.headers.setdefault("Cache-Control", "no-store")
        return answer


def _install_desk(
    app: Flask,
    scenes: Scenes,
    sequences: Sequences,
    blobs: Blobs,
    uploads: UploadPlaces,
    settings: Settings,
) -> None:
    @app.get("/api/scenes")
    def list_scenes() -> Response:
        listed = [_listed(scene) for scene in scenes.list()]
        strung = [sequence_view(standing) for standing in sequences.list()]
        return json_answer(answers.DeskAnswer(scenes=listed, sequences=strung, warning=settings.disk.warning()))

    @app.post("/api/stand-ins")
    def make_stand_in() -> Response:
        settings.disk.check()
        name, data = imports.stand_in(read_body(MakeStandIn))
        inspection = imports.inspect(name, data, "")
        return json_answer(inspection.model_copy(update={"digest": blobs.put(data, name)}))

    @app.post("/api/uploads")
    def upload() -> Response:
        settings.disk.check(request.content_length or 0)
        with uploads.arriving():
            sent = request.files.getlist("files")
        with uploads.reading():
            name, data = imports.self_contained({f.filename or "": f.read() for f in sent})
            inspection = imports.inspect(name, data, "")
            return json_answer(inspection.model_copy(update={"digest": blobs.put(data, name)}))

    @app.post("/api/scenes")
    def make_scene() -> Response:
        body = read_body(MakeScene)
        settings.disk.check()
        try:
            data = blobs.get(body.digest)
        except KeyError:
            return refuse(404, "The uploaded file is not there any more.", "Bring it in again.")
        scene = imports.make_scene(body, data)
        scenes.create(scene)
        return json_answer(answers.SceneMade(id=scene.id))

    @app.delete("/api/scenes/<uuid:scene_id>")
    def delete_scene(scene_id: object) -> Response:
        scenes.set_deleted(str(scene_id), True)
        return Response(status=204)

    @app.post("/api/scenes/<uuid:scene_id>/restore")
    def restore_scene(scene_id: object) -> Response:
        scenes.set_deleted(str(scene_id), False)
        return Response(status=204)

    @app.get("/api/scenes/<uuid:scene_id>/thumbnail")
    def get_thumbnail(scene_id: object) -> Response:
        png = scenes.thumbnail(str(scene_id))
        if png is None:
            raise NotFound(str(scene_id))
        return Response(png, content_type="image/png")

    @app.put("/api/scenes/<uuid:scene_id>/thumbnail")
    def put_thumbnail(scene_id: object) -> Response:
        png = request.get_data()
        if len(png) > 2**20 or not png.startswith(PNG):
            return refuse(400, "The picture is not a small PNG.", "")
        settings.disk.check(len(png))
        scenes.set_thumbnail(str(scene_id), png)
        return Response(status=204)


def _install_sounds(app: Flask, scenes: Scenes, blobs: Blobs, heard: Sounds, uploads: UploadPlaces, disk: Disk) -> None:
    @app.post("/api/sounds")
    def upload_sound() -> Response:
        disk.check(request.content_length or 0)
        with uploads.arriving():
            sent = request.files.getlist("files")
        if len(sent) != 1:
            return refuse(400, "One sound at a time can be brought in.", "Send one file.")
        with uploads.reading():
            name, data = sent[0].filename or "sound", sent[0].read()
            found = sounds.inspect(name, data, "")
            return json_answer(found.model_copy(update={"digest": blobs.put(data, name)}))

    @app.get("/api/sounds/<digest>")
    def get_sound(digest: str) -> Response:
        media_type = heard.heard(digest).media_type  # only what is a sound is handed out
        headers = {"Cache-Control": "private, max-age=31536000, immutable"}
        return Response(heard.data(digest), content_type=media_type, headers=headers)

    @app.get("/api/scenes/<uuid:scene_id>/sounds/<uuid:sound_id>/lines")
    def find_lines(scene_id: object, sound_id: object) -> Response:
        threshold_db = request.args.get("threshold_db", -40.0, type=float)
        silence_s = request.args.get("silence_s", 0.3, type=float)
        return json_answer(heard.lines(scenes.get(str(scene_id)).scene, str(sound_id), threshold_db, silence_s))


def _install_scenes(app: Flask, scenes: Scenes, views: SceneViews, disk: Disk, turns: Turns, judging: Turns) -> None:
    def answer(standing: Standing, view: View, baker: Baker | None = None) -> Response:
        return Response(pack(views.answer(surrounded(standing, view), view, baker)), content_type=CONTENT_TYPE)

    def surrounded(standing: Standing, view: View) -> Standing:
        """The scene with what surrounds it where somebody works on it inside of another."""
        if view.within is None:
            return standing
        outer = scenes.get(view.within.scene_id).scene
        return replace(standing, scene=with_surroundings(standing.scene, outer, view.within.block_id))

    @app.post("/api/scenes/<uuid:scene_id>/view")
    def view_scene(scene_id: object) -> Response:
        body = read_body(ViewRequest)
        with judging if body.view.judged else turns:
            return answer(scenes.get(str(scene_id), body.view.window_id), body.view)

    @app.post("/api/scenes/<uuid:scene_id>/edits")
    def edit_scene(scene_id: object) -> Response:
        body = read_body(EditRequest)
        disk.check()
        with turns:
            # Whether it still stands at that revision is asked where it is changed.
            standing = scenes.known_at(str(scene_id), body.revision) or scenes.get(str(scene_id))
            beside = (body.view.beside.source,) if body.view.beside else ()
            coming = tuple(scenes.get(other).scene for other in body.edit.brings_scenes())
            baker = views.edit_baker(standing, (*body.edit.brings(standing.scene), *beside), coming)
            baked: tuple[Baker, answers.SceneAnswer] | None = None

            def change(scene: Scene) -> Scene:
                nonlocal baked
                after = applied(body.edit, scene, baker(scene))
                if after is not scene:  # what cannot be shown is refused, and not stored
                    baking = baker(after)
                    baked = baking, views.bake(baking, body.view)
                return after

            standing = scenes.apply(
                str(scene_id),
                body.revision,
                body.edit.edit,
                change,
                g.who,
                body.request_id,
                body.view.window_id,
                edit_as_text(body.edit),
                body.remark,
                lambda outer: views.bake_outer(baker(outer)),
                partial(is_apart, body.edit),
            )
            if baked and baked[0].scene is standing.scene and not body.view.judged and not body.view.within:
                told = views.stored(baked[1], standing, baked[0])
                return Response(pack(told), content_type=CONTENT_TYPE)
        with judging if body.view.judged else turns:
            return answer(standing, body.view, baked[0] if baked else None)

    @app.post("/api/scenes/<uuid:scene_id>/preview")
    def preview_edit(scene_id: object) -> Response:
        body = read_body(PreviewRequest)
        with turns:
            standing = scenes.get(str(scene_id), body.view.window_id)
            coming = {other: scenes.get(other).scene for other in body.edit.brings_scenes()}
            shown = applied(body.edit, standing.scene, views.baker(standing.scene, coming))
            previewed = views.preview(surrounded(replace(standing, scene=shown), body.view), body.view)
            return Response(pack(previewed), content_type=CONTENT_TYPE)

    @app.get("/api/scenes/<uuid:scene_id>/things/<uuid:thing_id>/uses")
    def other_uses(scene_id: object, thing_id: object) -> Response:
        thing = scenes.get(str(scene_id)).scene.thing(str(thing_id))
        uses = [use for use in scenes.uses_of(thing.performance.source.digest) if use.thing_id != thing.id]
        return json_answer(answers.UsesAnswer(uses=[answers.UseView(**asdict(use)) for use in uses]))

    @app.get("/api/scenes/<uuid:scene_id>/rate-change")
    def cost_of_rate(scene_id: object) -> Response:
        rate, keeps = request.args.get("rate", ""), request.args.get("keeps", "times")
        return json_answer(rate_change(scenes.get(str(scene_id)).scene, rate, keeps))

    @app.get("/api/scenes/<uuid:scene_id>/other-cuts/<uuid:cut_id>/comparison")
    def compare_cuts(scene_id: object, cut_id: object) -> Response:
        with turns:
            return json_answer(cut_comparison(scenes.get(str(scene_id)).scene, str(cut_id), views))

    @app.post("/api/scenes/<uuid:scene_id>/next-version")
    def compare_version(scene_id: object) -> Response:
        body = read_body(NextVersion)
        with turns:
            return json_answer(next_version(body, scenes.get(str(scene_id)).scene, views))

    @app.post("/api/scenes/<uuid:scene_id>/undo")
    def undo(scene_id: object) -> Response:
        body = read_body(ReplayRequest)
        disk.check()
        with turns:
            standing = scenes.undo(
                str(scene_id), body.revision, body.request_id, g.who, body.view.window_id, body.of_others
            )
        with judging if body.view.judged else turns:
            return answer(standing, body.view)

    @app.post("/api/scenes/<uuid:scene_id>/redo")
    def redo(scene_id: object) -> Response:
        body = read_body(ReplayRequest)
        disk.check()
        with turns:
            standing = scenes.redo(str(scene_id), body.revision, body.request_id, g.who, body.view.window_id)
        with judging if body.view.judged else turns:
            return answer(standing, body.view)


def _install_exports(app: Flask, scenes: Scenes, views: SceneViews) -> None:
    @app.get("/api/scenes/<uuid:scene_id>/cut")
    def list_cut(scene_id: object) -> Response:
        return json_answer(exports.cut_list(scenes.get(str(scene_id)).scene))

    @app.get("/api/scenes/<uuid:scene_id>/exports/notes")
    def export_notes(scene_id: object) -> Response:
        return json_answer(answers.ExportNotes(notes=exports.shot_notes(views.baker(scenes.get(str(scene_id)).scene))))

    @app.get("/api/scenes/<uuid:scene_id>/exports/<any('arc.csv', 'slip.csv', 'corrections.csv', 'shot.glb'):what>")
    def export(scene_id: object, what: str) -> Response:
        scene = scenes.get(str(scene_id)).scene
        baker = views.baker(scene)
        thing_id = request.args.get("thing", "")
        if what == "shot.glb":
            data, kind = exports.shot_glb(baker), "model/gltf-binary"
        elif what == "arc.csv":
            frozen = request.args.get("frozen", type=int)
            data, kind = exports.arc_csv(baker, thing_id, request.args.get("joint", ""), frozen).encode(), "text/csv"
        elif what == "corrections.csv":
            data, kind = exports.corrections_csv(baker, thing_id).encode(), "text/csv"
        else:
            data, kind = exports.slip_csv(baker, thing_id).encode(), "text/csv"
        name = "".join(c if c.isalnum() and c.isascii() else "-" for c in scene.name) or "scene"
        return Response(
            data, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}-{what}"'}
        )


def _listed(scene: Listed) -> answers.SceneListed:
    return answers.SceneListed(
        id=scene.id, name=scene.name, first=scene.first, last=scene.last, rate=scene.rate, cameras=scene.cameras,
        characters=list(scene.characters), revision=scene.revision, has_picture=scene.has_picture,
        changed_at=scene.changed_at.replace(tzinfo=UTC).isoformat(), next_step=next_step(scene.cameras, scene.revision > 1),
    )  # fmt: skip
