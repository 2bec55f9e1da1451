"""“Crossing, cut”: the same performances and cameras, ridden, in five shots. One of them, planted, is too short to be read."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping, Sequence
from typing import Any

from eddyfield.core import edits
from eddyfield.core.cut.lines import lines_in, loudness_db, marks_of
from eddyfield.core.cut.sound import Mark, Sound
from eddyfield.core.cut.transition import Transition
from eddyfield.core.edits.cuts import CutTo, SetShot, SetTransition
from eddyfield.core.edits.sounds import BringSound, MarkFrames
from eddyfield.core.performance.ride import Ride
from eddyfield.core.scene import Scene
from eddyfield.core.time.channel_tables import Channels
from eddyfield.core.time.frames import Rate
from eddyfield.formats import sound

from . import mill_race, mill_sounds
from .mill_race import BANK, CRANE, FACE, ODA, TWO, ZOOM, demo_id

SHOTS = (
    (mill_race.FIRST, BANK, "Careful on the stones."),
    (1030, FACE, "She hears something."),
    (mill_race.SEES, TWO, "Who looks at whom."),
    (1053, ZOOM, "The world behind her falls away."),
    (1075, CRANE, "Up, and she is small."),
)
"""The first frame of each, its camera, and its note. The third is the one that is too short."""
THRESHOLD_DB, LEAST_SILENCE_S = -40.0, 0.3
TRANSITIONS = {1030: Transition("dissolve", 8, 4), 1075: Transition("blend", 16, 8, "slow in and out")}
"""By the first frame of the shot that begins with it."""


SOUNDS = {"Mill race": mill_sounds.race, "Steps": mill_sounds.steps, "Voices": mill_sounds.voices}
"""What makes each sound, by its name."""
SPEAKS = "Voices"


def lines(spoken: bytes) -> tuple[Mark, ...]:
    """Where somebody speaks or calls, found in the sound itself."""
    waveform = sound.read(spoken)
    found = lines_in(loudness_db(waveform.samples, waveform.samples_per_second), THRESHOLD_DB, LEAST_SILENCE_S)
    return marks_of(found, Sound("", SPEAKS, "", mill_race.FIRST), Rate.parse("24"))


def scene(digests: Sequence[str], sounds: Mapping[str, str], marks: tuple[Mark, ...]) -> Scene:
    """Made of the scene “Crossing” by cuts, notes, sounds (their digests by their names), marks and Ride."""
    shown = mill_race.scene(*digests)
    shown = edits.RenameScene(name="Crossing, cut").apply(shown)
    shown = shown.with_character(dataclasses.replace(shown.character(ODA), ride=Ride("rigid")))
    for first, camera_id, note in SHOTS:
        if first > shown.frames.first:
            shown = CutTo(frame=first, camera_id=camera_id).apply(shown)
        shown = SetShot(first=first, note=note, state="in work").apply(shown)
    for first, transition in TRANSITIONS.items():
        shown = SetTransition(first=first, transition=transition).apply(shown)
    for name, digest in sounds.items():
        brought = BringSound(sound_id=demo_id(f"sound {name}"), name=name, digest=digest, start=mill_race.FIRST)
        shown = brought.apply(shown)
    shown = MarkFrames(marks=marks).apply(shown)
    own: list[Any] = [shown, *shown.cameras, *shown.characters, *shown.pieces]
    own += [view for camera in shown.cameras for view in camera.views]
    renamed: Scene = _with_ids(shown, {thing.id: demo_id(f"{thing.id} cut") for thing in own})
    return renamed


def _with_ids(value: Any, ids: dict[str, str]) -> Any:
    """The same with other ids, wherever in it they are."""
    if isinstance(value, str):
        return ids.get(value, value)
    if isinstance(value, tuple):
        return tuple(_with_ids(item, ids) for item in value)
    if isinstance(value, Channels) or not dataclasses.is_dataclass(value) or isinstance(value, type):
        return value
    fields = {f.name: _with_ids(getattr(value, f.name), ids) for f in dataclasses.fields(value) if f.init}
    return dataclasses.replace(value, **fields)
