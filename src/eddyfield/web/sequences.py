"""Sequences on the web: what is answered about them, and their routes."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from fractions import Fraction

from flask import Flask, Response, g

from eddyfield.core.cut.sequence import Placed, Sequence, laid_end_to_end, usable_timecode
from eddyfield.core.edits import title_of
from eddyfield.core.edits.names import usable_name
from eddyfield.core.edits.sequences import SequenceEdit
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.time.timecode import TimecodeCount
from eddyfield.store.disk import Disk
from eddyfield.store.scenes import Scenes
from eddyfield.store.sequences import Sequences, StandingSequence

from .bodies import json_answer, read_body
from .cut_answers import TimecodeView
from .reading_answers import ReadingView
from .reading_views import reading_view
from .requests import MakeSequence, SequenceEditRequest, SequenceReplayRequest, sequence_edit_as_text
from .scene_views import SceneViews, write_down
from .sequence_answers import SceneOfSequence, SequenceReading, SequenceReadings, SequenceView

NO_RATE = TimecodeCount(24)


def install_sequences(app: Flask, sequences: Sequences, scenes: Scenes, views: SceneViews, disk: Disk) -> None:
    """The routes below ``/api/sequences``."""

    @app.post("/api/sequences")
    def make_sequence() -> Response:
        body = read_body(MakeSequence)
        disk.check()
        made = Sequence(str(uuid.uuid4()), usable_name(body.name, "sequence"), tuple(body.scene_ids))
        return json_answer(sequence_view(sequences.create(made)))

    @app.get("/api/sequences/<uuid:sequence_id>")
    def get_sequence(sequence_id: object) -> Response:
        return json_answer(sequence_view(sequences.get(str(sequence_id))))

    @app.post("/api/sequences/<uuid:sequence_id>/edits")
    def edit_sequence(sequence_id: object) -> Response:
        body = read_body(SequenceEditRequest)
        disk.check()
        edit: SequenceEdit = body.edit
        standing = sequences.apply(
            str(sequence_id), body.revision, edit.edit, edit.apply, g.who, body.request_id, sequence_edit_as_text(edit)
        )
        return json_answer(sequence_view(standing))

    @app.post("/api/sequences/<uuid:sequence_id>/<any(undo, redo):way>")
    def replay_sequence(sequence_id: object, way: str) -> Response:
        body = read_body(SequenceReplayRequest)
        replay = sequences.undo if way == "undo" else sequences.redo
        return json_answer(sequence_view(replay(str(sequence_id), body.revision)))

    @app.delete("/api/sequences/<uuid:sequence_id>")
    def delete_sequence(sequence_id: object) -> Response:
        sequences.set_deleted(str(sequence_id), True)
        return Response(status=204)

    @app.post("/api/sequences/<uuid:sequence_id>/restore")
    def restore_sequence(sequence_id: object) -> Response:
        sequences.set_deleted(str(sequence_id), False)
        return Response(status=204)

    @app.get("/api/sequences/<uuid:sequence_id>/readings")
    def read_sequence(sequence_id: object) -> Response:
        return json_answer(sequence_readings(sequences.get(str(sequence_id)), scenes, views))


def sequence_view(standing: StandingSequence) -> SequenceView:
    """A sequence with its scenes in their places."""
    sequence, rate, running = standing.sequence, standing.rate, running_timecode(standing)
    placed = laid_end_to_end(scene.length for scene in standing.scenes)
    count = _count(standing)
    return SequenceView(
        id=sequence.id, name=sequence.name, revision=standing.revision,
        undo=standing.undo and title_of(standing.undo),
        redo=standing.redo and title_of(standing.redo), rate_float=float(rate) if rate else 0.0,
        timecode=TimecodeView(
            text=running(Fraction(0)), starts_at=sequence.timecode.starts_at, numbers=count.numbers, dropped=count.dropped
        ),
        frames=float(sum(p.lasts for p in placed)), seconds=float(sum(p.scene.seconds for p in placed)),
        scenes=[
            SceneOfSequence(
                scene_id=p.scene.scene_id, name=listed.name, revision=listed.revision, has_picture=listed.has_picture,
                first=p.scene.frames.first, last=p.scene.frames.last, rate=str(p.scene.rate), rate_float=float(p.scene.rate),
                begins=float(p.begins), lasts=float(p.lasts), seconds=float(p.scene.seconds), timecode=running(p.begins),
                other_rate=p.scene.rate != rate,
            )
            for p, listed in zip(placed, standing.scenes, strict=True)
        ],
    )  # fmt: skip


def sequence_readings(standing: StandingSequence, scenes: Scenes, views: SceneViews) -> SequenceReadings:
    """Every scene judged through its cut. One that cannot be read at all is named, and stops nothing else."""
    running = running_timecode(standing)
    found: list[tuple[float, SequenceReading]] = []
    failed = []
    for placed, listed in zip(laid_end_to_end(s.length for s in standing.scenes), standing.scenes, strict=True):
        try:
            told = scene_readings(views.baker(scenes.get(placed.scene.scene_id).scene), None, None, write_down)
        except Exception as error:  # whatever is wrong with one scene
            write_down(listed.name, error)
            failed.append(listed.name)
            continue
        found += [
            (reading.weight, _of_sequence(placed, listed.name, running, reading_view(reading)))
            for reading in told
            if reading.accepted is None  # what may stand is a matter of its scene
        ]
    in_order = sorted(found, key=lambda one: -one[0])
    return SequenceReadings(readings=[reading for _, reading in in_order], failed=failed)


def running_timecode(standing: StandingSequence) -> Callable[[Fraction], str]:
    """The time code after a number of frames of the sequence."""
    count, starts_at = _count(standing), standing.sequence.timecode.starts_at
    return lambda frames: count.text(starts_at + int(frames // 1))


def _count(standing: StandingSequence) -> TimecodeCount:
    rate = standing.rate
    return usable_timecode(standing.sequence.timecode, rate).count(rate) if rate else NO_RATE


def _of_sequence(
    placed: Placed, name: str, running: Callable[[Fraction], str], reading: ReadingView
) -> SequenceReading:
    first = max(placed.scene.frames.first, reading.first)
    return SequenceReading(
        scene_id=placed.scene.scene_id, scene_name=name, timecode=running(placed.running(first)), reading=reading
    )
