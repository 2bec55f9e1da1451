"""``check``: all readings of all scenes of the store, on all cores, with a report."""

from __future__ import annotations

import base64
import json
import os
import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from multiprocessing import get_context
from pathlib import Path

from eddyfield.core.bake import Baker
from eddyfield.core.errors import DomainError
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.core.rig.mesh_points import followed_on
from eddyfield.formats.frame_pictures import draw_frame
from eddyfield.store.blobs import Blobs
from eddyfield.store.database import Database, Unavailable
from eddyfield.store.limits import ProductionLimits
from eddyfield.store.migrate import migrate
from eddyfield.store.scenes import Scenes
from eddyfield.store.server import DatabaseError, DatabaseServer
from eddyfield.web.rigs import PartMemory, Rigs

from .arguments import OneLineParser, UsageError
from .check_report import as_page
from .reading_objects import as_object

MEMORY_BYTES = 400_000_000
MOST_PICTURES = 24
"""Of a scene."""


@dataclass(frozen=True)
class Checked:
    """One scene: what is told of it as a fault, and pictures of the worst frames, PNG in base64, by the reading's place."""

    name: str
    frames: tuple[int, int]
    readings: tuple[dict[str, object], ...]
    may_stand: int
    pictures: dict[int, str]


def parser() -> OneLineParser:
    out = OneLineParser(
        prog="eddyfield check", description="All readings of the scenes of the store, through their cuts."
    )
    out.add_argument("scenes", metavar="SCENE", nargs="*", help="by name or id (all)")
    out.add_argument("--json", action="store_true", help="print a list of objects instead of a table")
    out.add_argument("--report", metavar="FILE.html", help="write a page with pictures of the frames as well")
    return out


def run(words: list[str]) -> None:
    """Ends with 1 where anything is told that nobody lets stand."""
    options = parser().parse(words)
    url, server = os.environ.get("EDDYFIELD_DATABASE_URL"), None
    try:
        if not url:
            server = DatabaseServer(Path(os.environ.get("EDDYFIELD_VAR", "var")) / "database")
            url = server.start().url
        checked = _all(url, _chosen(url, options.scenes), with_pictures=options.report is not None)
    except (DatabaseError, Unavailable, ValueError) as error:
        raise UsageError(str(error)) from error
    finally:
        if server is not None:
            server.stop()
    if options.report is not None:
        try:
            Path(options.report).write_text(as_page(checked), encoding="utf-8")
        except OSError as error:
            raise UsageError(f"“{options.report}” cannot be written: {error.strerror}.") from None
    if options.json:
        print(json.dumps([reading for one in checked for reading in one.readings], allow_nan=False))
    else:
        print(as_table(checked))
    if any(one.readings for one in checked):
        raise SystemExit(1)


def _chosen(url: str, wanted: list[str]) -> list[str]:
    """Ids of the scenes. Raises ``UsageError`` for one that is not there."""
    database = Database(url)
    try:
        migrate(database)
        there = sorted(Scenes(database).list(), key=lambda scene: scene.name)
    finally:
        database.close()
    for name in wanted:
        if not any(name in (scene.name, scene.id) for scene in there):
            names = ", ".join(f"“{scene.name}”" for scene in there[:6]) or "none"
            raise UsageError(f"There is no scene “{name}”.", f"Scenes are {names}.")
    return [scene.id for scene in there if not wanted or {scene.name, scene.id} & {*wanted}]


def _all(url: str, scene_ids: list[str], with_pictures: bool) -> list[Checked]:
    """In the order of the ids, each in a process of its own, as many at once as there are cores."""
    done: dict[str, Checked] = {}
    if not scene_ids:
        return []
    with ProcessPoolExecutor(min(os.cpu_count() or 1, len(scene_ids)), get_context("spawn")) as pool:
        waiting = {pool.submit(check_scene, url, scene_id, with_pictures): scene_id for scene_id in scene_ids}
        for future in as_completed(waiting):
            done[waiting[future]] = future.result()
            print(f"eddyfield: {len(done)} of {len(scene_ids)} scenes", file=sys.stderr, flush=True)
    return [done[scene_id] for scene_id in scene_ids]


def check_scene(url: str, scene_id: str, with_pictures: bool) -> Checked:
    """All that is told of one scene through its cut."""
    database = Database(url)
    try:
        memory = PartMemory(MEMORY_BYTES)
        scene = Scenes(database).get(scene_id).scene
        baker = Baker(scene, Rigs(Blobs(database), memory), memory, limits=ProductionLimits(database).get())
        found = [r for r in scene_readings(baker, None, None, _told) if not r.remark]
        told = [r for r in found if r.accepted is None]
        objects = tuple({"scene": scene.name, **as_object(r, _owner(baker, r))} for r in told)
        pictures = {}
        for place, reading in enumerate(told[:MOST_PICTURES] if with_pictures else ()):
            frame = reading.first if reading.frame is None else reading.frame
            png = draw_frame(baker, frame, mark=_where(baker, reading, frame))
            pictures[place] = base64.b64encode(png).decode()
        return Checked(scene.name, (scene.frames.first, scene.frames.last), objects, len(found) - len(told), pictures)
    finally:
        database.close()


def _told(subject: str, error: Exception) -> None:
    print(f"note: {subject} could not be judged: {error}", file=sys.stderr)


def _owner(baker: Baker, reading: Reading) -> str:
    try:
        if reading.character_id:
            return baker.scene.thing(reading.character_id).name
        return baker.scene.camera(reading.camera_id).name if reading.camera_id else baker.scene.name
    except DomainError:
        return reading.subject


def _where(baker: Baker, reading: Reading, frame: int) -> tuple[float, float] | None:
    """Where the joint that a reading is about is seen, px; None where it is about none."""
    if reading.joint is None or reading.character_id is None:
        return None
    thing = baker.scene.thing(reading.character_id)
    arc = baker.arc(thing, followed_on(baker.rig(thing), reading.joint), None)
    x, y = arc.pixels[baker.row_of(frame)]
    return (float(x), float(y)) if x == x else None


def as_table(checked: list[Checked]) -> str:
    """A row for every scene, with what is told of it, the most often first."""
    if not checked:
        return "there is no scene"
    wide = max(len(one.name) for one in checked)
    lines = []
    for one in checked:
        counts = Counter(str(reading["title"]) for reading in one.readings)
        told = ", ".join(f"{title} ({count})" if count > 1 else title for title, count in counts.most_common())
        stands = f" · {one.may_stand} may stand" if one.may_stand else ""
        lines.append(
            f"{one.name:{wide}}  {one.frames[0]}-{one.frames[1]}  {told or 'nothing is out of bounds'}{stands}"
        )
    return "\n".join(lines)
