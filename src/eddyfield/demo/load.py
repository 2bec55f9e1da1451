"""Puts the demo scenes into the store, once."""

from __future__ import annotations

from importlib.resources import files
from pathlib import Path

from eddyfield.core.cut.sequence import Sequence
from eddyfield.store.blobs import Blobs
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes
from eddyfield.store.sequences import Sequences

from . import crossing_cut, mill_landing, mill_race

SECOND = "oda-crossing-2.glb"


def write_second_version(folder: Path) -> Path:
    """The file with the next version of Oda's crossing, to be brought in by whoever tries that."""
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / SECOND
    file.write_bytes(mill_race.oda_glb(second=True))
    return file


def load_demo(database: Database) -> str:
    """Load the mill race where it is not there yet; returns the scene's id. One that was deleted comes back."""
    scenes, sequences, blobs = Scenes(database), Sequences(database), Blobs(database)
    scene_id = mill_race.demo_id("crossing")
    if scenes.exists(scene_id):
        scenes.set_deleted(scene_id, False)
        return scene_id
    digests = {name: blobs.put(make(), mill_race.FILE_NAMES[name]) for name, make in mill_race.FILES.items()}
    of_crossing = [digests[name] for name in mill_race.OF_CROSSING]
    of_landing = [digests[name] for name in mill_landing.OF_LANDING]
    heard = {name: make() for name, make in crossing_cut.SOUNDS.items()}
    sounds = {name: blobs.put(data, f"{name}.flac") for name, data in heard.items()}
    cut = crossing_cut.scene(of_crossing, sounds, crossing_cut.lines(heard[crossing_cut.SPEAKS]))
    landing = mill_landing.scene(of_landing, sounds["Mill race"])
    for scene, picture in ((landing, "landing"), (cut, "crossing"), (mill_race.scene(*of_crossing), "crossing")):
        if not scenes.exists(scene.id):
            scenes.create(scene)
            # For the Desk, taken in the application; afterwards the browser keeps it current.
            scenes.set_thumbnail(scene.id, (files(__package__) / f"{picture}.png").read_bytes())
    strung = Sequence(mill_race.demo_id("sequence"), "Mill race", (cut.id, landing.id))
    if not sequences.exists(strung.id):
        sequences.create(strung)
    return scene_id
