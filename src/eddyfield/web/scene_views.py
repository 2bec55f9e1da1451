"""A scene and its parts as the browser gets them: what is named, what is new to it, and nothing else."""

from __future__ import annotations

import logging
import math
from collections.abc import Callable, Mapping, Sequence
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.placement import calm_joint
from eddyfield.core.content import content_key
from eddyfield.core.edits import title_of
from eddyfield.core.edits.other_cuts import FIRST_NAME
from eddyfield.core.edits.versions import performing
from eddyfield.core.errors import DomainError
from eddyfield.core.nesting import without_surroundings
from eddyfield.core.performance.carried import Carried
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.exposure import lost_key_poses
from eddyfield.core.performance.gripping import grips
from eddyfield.core.performance.nested import block_id_of
from eddyfield.core.performance.ride import Ride
from eddyfield.core.readings.limits import USUAL, Limits
from eddyfield.core.readings.scene_readings import scene_readings, seen_through
from eddyfield.core.readings.strobing import Strobing
from eddyfield.core.rig.rig import Rig
from eddyfield.core.rig.source import RigSource
from eddyfield.core.scene import Scene
from eddyfield.core.shots import face_of
from eddyfield.store.scenes import Standing

from . import answers, parts, thing_answers
from .arc_views import arc_part, chosen_joint, frozen_row, offer_also, offer_arc
from .block_views import block_views
from .camera_names import CameraNames, NamedCamera, NamedCameras
from .camera_views import (
    blend_part,
    camera_part,
    camera_view,
    channels_part,
    columns,
    speed_part,
    subjects_part,
)
from .cut_views import offer_shots, other_cut_views, timecode_view
from .part_changes import change_of
from .pictures_together import offer_match, offer_two_cameras
from .reading_answers import ReadingView
from .reading_views import reading_view
from .requests import View
from .rigs import PartMemory, Rigs
from .sounds import Sounds
from .thing_views import (
    Offer,
    offer_changed,
    offer_corrections,
    offer_placing,
    offer_rig,
    offer_time,
    piece_view,
    ride_keys,
    shape_weights,
)

FEW_FRAMES = 2000
"""Of a scene that is short enough for its camera's speed to follow a hand."""


class SceneViews:
    """Makes answers about scenes; baked parts are kept between them."""

    def __init__(
        self, rigs: Rigs, sounds: Sounds, memory: PartMemory, limits: Callable[[], Limits] = lambda: USUAL
    ) -> None:
        self._rigs = rigs
        self._sounds = sounds
        self._memory = memory
        self._limits = limits
        self._names = CameraNames()

    def baker(self, scene: Scene, others: Mapping[str, Scene] | None = None) -> Baker:
        """What bakes a scene; ``others`` are those that may come into it, by their ids."""
        return Baker(scene, self._rigs, self._memory, (others or {}).__getitem__, self._limits())

    def edit_baker(
        self, standing: Standing, brings: Sequence[RigSource], others: Sequence[Scene] = ()
    ) -> Callable[[Scene], Baker]:
        """Bakers for use within a transaction: the rigs of the scene, those of ``others``, which come into it, and what an edit
        ``brings``, are read before, so that none has to be then; but for those of scenes in which it plays, which few do."""
        scene = standing.scene
        sources = {thing.performance.source for some in (scene, *others) for thing in some.things} | {*brings}
        rigs = {source: self._rigs(source) for source in sources}
        known = {other.id: other for other in others}
        limits = self._limits()

        def rig_of(source: RigSource) -> Rig:
            return rigs[source] if source in rigs else self._rigs(source)

        def baker(current: Scene) -> Baker:
            return Baker(current, rig_of, self._memory, known.__getitem__, limits)

        # Whoever makes an edit holds the cameras of the revision that it is made on, whichever process answered that.
        self._names.answer(scene.id, standing.revision, self._names.of(baker(scene)))
        return baker

    def bake(self, baker: Baker, view: View) -> answers.SceneAnswer:
        """Work out all that the Picture needs of a scene, before it is stored; judging it can wait, and refuses nothing. What it
        comes to is the answer of an unjudged view, but for what ``stored`` tells. Raises ``DomainError`` for what cannot be
        shown."""
        without_judging = view.model_copy(update={"judged": False})
        return self._answer(baker, Standing(baker.scene, 0, None, None), without_judging, self._names.of(baker))

    def stored(self, baked: answers.SceneAnswer, standing: Standing, baker: Baker) -> answers.SceneAnswer:
        """The answer that was baked of a scene, once that is stored as it stands now."""
        self._names.answer(standing.scene.id, standing.revision, self._names.of(baker))
        told = {"revision": standing.revision, "undo": _title(standing.undo), "redo": _title(standing.redo)}
        return baked.model_copy(update={"scene": baked.scene.model_copy(update=told)})

    def bake_outer(self, baker: Baker) -> None:
        """The same of a scene in which one plays that is changed. Raises ``DomainError`` that says so."""
        try:
            self.bake(baker, View())
        except DomainError as error:
            raise DomainError(
                f"“{baker.scene.name}”, in which this scene plays, could not be shown then: {error.message}",
                f"In that scene: {error.remedy}",
            ) from error

    def answer(self, standing: Standing, view: View, baker: Baker | None = None) -> answers.SceneAnswer:
        """The scene with the parts of this view that the browser does not hold; ``baker`` where there is one of it."""
        if baker is None or baker.scene is not standing.scene:
            baker = self.baker(standing.scene)
        cameras = self._names.of(baker)
        self._names.answer(standing.scene.id, standing.revision, cameras)
        return self._answer(baker, standing, view, cameras)

    def preview(self, standing: Standing, view: View) -> answers.SceneAnswer:
        """A scene with an edit in the hand: it has neither arc nor readings, but what strobes is told meanwhile."""
        baker = self.baker(standing.scene)
        return self._answer(baker, standing, view, self._names.of(baker), in_hand=True)

    def _answer(
        self, baker: Baker, standing: Standing, view: View, cameras: NamedCameras, in_hand: bool = False
    ) -> answers.SceneAnswer:
        scene = standing.scene
        known_parts = set(view.known_parts)
        sent: dict[str, Any] = {}

        def offer(name: str, make: Callable[[], BaseModel], now: bool = True, base: str | None = None) -> str:
            """A part by its name; one that need not be there ``now`` is only sent where it is at hand. Of ``base``, which is
            held, only what is different in it is sent, where that is less."""
            if name not in known_parts:
                answer = self._memory.get(f"answer {name}")
                if answer is None and now:
                    answer = self._memory[f"answer {name}"] = make()
                if answer is not None:
                    before = self._memory.get(f"answer {base}") if base and view.takes_changes else None
                    change = before and change_of(base or "", before, answer)
                    sent[name] = change or answer
            return name

        held = self._names.held(scene.id, view.cameras_of_revision)
        for named in self._names.unknown(scene.id, cameras, view.cameras_of_revision, known_parts):
            _offer_camera(baker, named, held.get(named.camera.id), offer)
        index = scene.camera_indices.get(view.camera_id or "")
        through = None if index is None else scene.cameras[index]
        if index is not None:
            for shown, name in cameras.named[index].saved:
                offer(name, partial(camera_part, baker, shown))
        characters = [
            _character(baker, c, offer, view.judged and not in_hand, view.judged or in_hand) for c in scene.characters
        ]
        pieces = [piece_view(baker, piece, offer) for piece in scene.pieces]
        fallbacks: list[str] = []
        arc, arc_judgement = (None, None) if in_hand else offer_arc(baker, view, through, offer, fallbacks)
        beside = _beside(baker, view, through, offer, fallbacks, in_hand)
        readings = _readings(baker, view, through) if view.judged and not in_hand else None
        blocks, around = block_views(scene, view.within.block_id if view.within else None)
        shots = offer_shots(scene.cut, scene.frames, offer)
        blend = None
        if any(entry.transition.kind == "blend" for entry in scene.cut.entries):
            blend = offer(f"blend {baker.path_part(None).key}", partial(blend_part, baker))
        match = offer_match(baker, view.matched_frame, offer)
        laid_over = offer_two_cameras(baker, through, view.laid_over, offer)
        speed = subjects = None
        if through is not None:
            key = content_key("speed", baker.camera_part(through).key, baker.rate, baker.limits.crossing_seconds)
            now = view.judged or (in_hand and scene.frames.count <= FEW_FRAMES)
            speed = offer(key, partial(speed_part, baker, through), now)
            subjects = offer(baker.subjects_key(through), partial(subjects_part, baker, through))
        return answers.SceneAnswer(
            scene=answers.SceneSent(
                id=scene.id, name=scene.name, revision=standing.revision, undo=_title(standing.undo), redo=_title(standing.redo),
                rate=str(scene.rate), rate_float=float(scene.rate), first=scene.frames.first, last=scene.frames.last,
                width=scene.delivery.width, height=scene.delivery.height, pixel_aspect=scene.delivery.pixel_aspect,
                room=scene.room,
                cameras=list(cameras.views), characters=characters, pieces=pieces,
                blocks=blocks, around=around,
                shots=shots, cut_name=scene.cut_name or FIRST_NAME, strictness=scene.strictness,
                other_cuts=other_cut_views(scene, offer),
                timecode=timecode_view(scene), blend=blend, beside=beside,
                sounds=[self._sounds.view(sound, offer) for sound in scene.sounds], marks=list(scene.marks),
                arc=arc, also=[] if in_hand else offer_also(baker, view, through, offer),
                arc_judgement=arc_judgement, match=match, two_cameras=laid_over, speed=speed, subjects=subjects,
                readings=readings, fallbacks=fallbacks,
            ),
            parts=sent,
        )  # fmt: skip


def _character(
    baker: Baker, character: Character, offer: Offer, judged: bool, strobing_told: bool
) -> thing_answers.CharacterView:
    rig, face = baker.rig(character), face_of(baker, character)
    return thing_answers.CharacterView(
        id=character.id, name=character.name, block_id=block_id_of(character.nested),
        step=character.stepping.step, offset=character.stepping.offset,
        keep_key_poses=character.stepping.keep_key_poses, step_in_file_time=character.stepping.in_file_time,
        own_exposures=character.stepping.starts is not None, parts=list(character.parts),
        ride_way=character.ride.way, ride_plants=character.ride.plants,
        ride_weight=character.ride.weight, ride_keys=ride_keys(character.ride), ride_anchor=character.ride.anchor,
        anchor=rig.names[baker.anchor_node(character)],
        feet=[rig.joint_names.index(name) for name in character.feet if name in rig.joint_names],
        face_joint=face.joint, face_centre=[float(v) for v in face.centre], face_height_m=face.height_m,
        calm_joint=calm_joint(rig),
        front=[float(v) for v in baker.front(character)], front_deg=character.front_deg,
        source=character.performance.source, timing=character.performance.timing,
        file_frames=rig.motion.duration_seconds * float(baker.rate), time=offer_time(character, baker.frames, offer),
        placing=offer_placing(character, baker.frames, offer), showing=character.showing,
        file_cameras=[c.name for c in rig.cameras], versions=list(character.versions.all),
        compared_with=character.versions.compared_with(character.performance.source),
        gone_by=list(baker.scene.going_by(character.id)),
        corrections=offer_corrections(baker, character, offer),
        changed=offer_changed(baker, character, offer, judged),
        rig=offer_rig(baker, character.performance.source, offer),
        motion=offer(baker.motion_part(character).key, lambda: _motion_part(baker, character, rig)),
        shown=offer(baker.shown_key(character), lambda: _shown_part(baker, character)),
        strobing=offer(baker.strobing_key(character), lambda: _strobing_part(baker, character), strobing_told),
    )  # fmt: skip


def _title(kind: str | None) -> str | None:
    return kind and title_of(kind)


def _beside(
    baker: Baker, view: View, through: Camera | None, offer: Offer, fallbacks: list[str], in_hand: bool
) -> answers.BesideView | None:
    """The other version that is shown beside a performance: its figure, and the arc of the same joint."""
    if view.beside is None:
        return None
    source = view.beside.source
    now = next((c for c in baker.scene.characters if c.id == view.beside.character_id), None)
    if now is None or all(version.source != source for version in now.versions.all):
        fallbacks.append("The version that was shown beside is not known any more.")
        return None
    rig = baker.rig_of(source)
    other = performing(now, source, rig)
    arc, node = None, rig.index_of.get(view.joint or "")
    if node is not None and view.thing_id == now.id and not in_hand:
        of = other, node, seen_through(baker, through), frozen_row(baker, view)
        arc = offer(baker.arc_part(*of).key, lambda: arc_part(baker.arc(*of), view.joint or ""))
    return answers.BesideView(
        character_id=now.id, source=source, rig=offer_rig(baker, source, offer),
        motion=offer(baker.motion_part(other).key, lambda: _motion_part(baker, other, rig)),
        shown=offer(baker.shown_key(other), lambda: _shown_part(baker, other)), arc=arc,
    )  # fmt: skip


def _readings(baker: Baker, view: View, through: Camera | None) -> list[ReadingView]:
    if view.within:  # what surrounds a scene is seen, and judged where it is
        baker = baker.of(without_surroundings(baker.scene, view.within.block_id))
    chosen = chosen_joint(baker, view)
    joint = (chosen[0], view.joint) if chosen and view.joint else None
    return [reading_view(reading) for reading in scene_readings(baker, joint, through, write_down)]


def write_down(subject: str, error: Exception) -> None:
    logging.getLogger("eddyfield").error("readings of %s", subject, exc_info=error)


def _offer_camera(baker: Baker, named: NamedCamera, held: NamedCamera | None, offer: Offer) -> None:
    camera = named.camera
    path, view, channels = held.parts if held else (None, None, None)
    offer(named.path, partial(camera_part, baker, camera), base=path)
    views = [
        answers.SavedViewView(id=saved.id, name=saved.name, path=name)
        for saved, (_, name) in zip(camera.views, named.saved, strict=True)
    ]
    offer(named.channels, partial(channels_part, camera.channels), base=channels)
    offer(named.view, partial(camera_view, camera, named.path, named.channels, views), base=view)


def _motion_part(baker: Baker, character: Character, rig: Rig) -> parts.MotionPart:
    world = baker.world(character)
    skin = np.zeros((len(world), 0, 16), dtype=np.float32)
    if rig.skinning is not None:
        skin = columns(np.matmul(world[:, rig.skinning.nodes], rig.skinning.joint_from_mesh))
    joints = baker.joint_positions(character).astype(np.float32)
    return parts.MotionPart(skin=skin, joints=joints, shapes=shape_weights(rig, character, baker))


def _shown_part(baker: Baker, character: Character) -> parts.ShownPart:
    poses = baker.key_poses(character)
    starts = baker.exposure_starts(character)
    lost = lost_key_poses(starts, baker.scene.frames, poses)
    return parts.ShownPart(
        exposure_start=starts.astype(np.int32),
        carried=columns(baker.carried(character).whole),
        **_planted(baker, character),
        key_poses=np.array([float(p) for p in poses], dtype=np.float32),
        lost_key_poses=[float(p) for p in lost],
        ride_weights=_ride_weights(baker, character),
        grips=_grips(baker, character),
    )


def _grips(baker: Baker, character: Character) -> list[parts.GripView]:
    """Where planting asks for it."""
    if character.ride.way == "off" or not character.ride.plants:
        return []
    rig, first = baker.rig(character), baker.frames.first
    found = grips(rig, baker.world(character), baker.anchor_node(character), baker.rate)
    return [parts.GripView(joint=rig.names[g.node], first=first + g.first, last=first + g.last) for g in found]


def _ride_weights(baker: Baker, character: Character) -> NDArray[np.float32]:
    keyed = character.ride.weights is not None
    return character.ride.weight_on(baker.frames).astype(np.float32) if keyed else np.zeros(0, dtype=np.float32)


def _planted(baker: Baker, character: Character) -> dict[str, Any]:
    """What of a rig goes otherwise than the whole: by skin slot and by joint, and how, before the whole is carried."""
    carried, rig = baker.carried(character), baker.rig(character)
    if carried.is_whole:
        return {
            "group_of_slot": np.zeros(0, np.int32),
            "group_of_joint": np.zeros(0, np.int32),
            "bent": np.zeros(0, np.float32),
        }
    slots = rig.skinning.nodes if rig.skinning else np.zeros(0, np.int64)
    return {
        "group_of_slot": carried.group_of[slots].astype(np.int32),
        "group_of_joint": carried.group_of[rig.joints].astype(np.int32),
        "bent": columns(np.linalg.inv(carried.whole)[:, None] @ carried.own),
    }


def _strobing_part(baker: Baker, character: Character) -> parts.StrobingPart:
    shown = baker.strobing(character)
    price = baker.contact_price(character)
    blank = np.full(baker.scene.frames.count, np.nan)
    still, rigid = baker.other_rides(character)
    return parts.StrobingPart(
        slip_px=shown.slip_px.astype(np.float32),
        feet_slide_m=(price.shown_per_row_m if price else blank).astype(np.float32),
        shown=_figures(baker, character, character.ride),
        still=_figures(baker, character, still),
        ridden=_figures(baker, character, rigid),
    )


def _figures(baker: Baker, character: Character, ride: Ride) -> parts.StrobingFigures:
    found: Strobing = baker.strobing(character, ride)
    price = baker.contact_price(character, ride)
    return parts.StrobingFigures(
        strobes=bool(found.stretches), rms_px=_known(found.rms_px), max_px=_known(found.max_px), max_frame=found.max_frame,
        reversals=list(found.reversals), over_threshold=found.over_threshold,
        feet_slide_m=price.after_m if price else None, feet_slide_px=_known(price.after_px) if price else None,
        **_legs(baker.carried(character, ride)),
    )  # fmt: skip


def _legs(carried: Carried) -> dict[str, float | None]:
    """What planted feet ask of the legs."""
    if not carried.plants:
        return {"legs_stretch": None, "feet_missed_m": None}
    return {"legs_stretch": float(carried.stretch.max()), "feet_missed_m": float(carried.missed_m.max())}


def _known(value: float) -> float | None:
    return None if math.isnan(value) else value
