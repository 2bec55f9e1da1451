"""Puts the demo scenes into the store, once."""

from __future__ import annotations

from importlib.resources import files
from pathlib import Path

from eddyfield.store.blobs import Blobs
from eddyfield.store.database import Database
from eddyfield.store.scenes import Scenes

from . import crossing_cut, mill_race

SECOND = "oda-crossing-2.glb"


def write_second_version(folder: Path) -> Path:
    """The file with the next version of Oda's crossing, to be brought in by whoever tries that."""
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / SECOND
    file.write_bytes(mill_race.oda_glb(second=True))
    return file


def load_demo(database: Database) -> str:
    """Load the mill race where it is not there yet; returns the scene's id. One that was deleted comes back."""
    scenes, blobs = Scenes(database), Blobs(database)
    scene_id = mill_race.demo_id("crossing")
    if scenes.exists(scene_id):
        scenes.set_deleted(scene_id, False)
        return scene_id
    files_by_name = {
        "oda-crossing.glb": mill_race.oda_glb(), "quill-watch.glb": mill_race.quill_glb(), "mill-race.glb": mill_race.set_glb(),
    }  # fmt: skip
    oda, quill, mill = (blobs.put(data, name) for name, data in files_by_name.items())
    # For the Desk, taken in the application; afterwards the browser keeps it current.
    picture = (files(__package__) / "crossing.png").read_bytes()
    heard = {name: make() for name, make in crossing_cut.SOUNDS.items()}
    sounds = {name: blobs.put(data, f"{name}.flac") for name, data in heard.items()}
    cut = crossing_cut.scene(oda, quill, mill, sounds, crossing_cut.lines(heard[crossing_cut.SPEAKS]))
    if not scenes.exists(cut.id):
        scenes.create(cut)
        scenes.set_thumbnail(cut.id, picture)
    scenes.create(mill_race.scene(oda, quill, mill))
    scenes.set_thumbnail(scene_id, picture)
    return scene_id
