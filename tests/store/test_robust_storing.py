"""Whatever a start, a migration or a large edit is cut short in or runs into, the next goes on."""

from __future__ import annotations

import secrets
import subprocess
import threading
import uuid
from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta
from fractions import Fraction
from pathlib import Path

import pymysql
import pytest

from eddyfield.core import edits
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.cameras.camera_channels import camera_channels
from eddyfield.core.cut.cut import Cut
from eddyfield.core.scene import Scene
from eddyfield.core.time.channels import Channel
from eddyfield.core.time.frames import FrameRange, Rate
from eddyfield.core.time.keys import Key
from eddyfield.demo import mill_race
from eddyfield.demo.load import load_demo
from eddyfield.store import scenes as scenes_module
from eddyfield.store.blobs import Blobs
from eddyfield.store.database import AlreadyThere, Database, DiskFull, TooLarge, Unavailable, _meaning
from eddyfield.store.disk import Disk
from eddyfield.store.loading import stored_rows
from eddyfield.store.migrate import migrate, statements
from eddyfield.store.scenes import Scenes
from eddyfield.store.server import DatabaseServer
from eddyfield.store.server_process import end, servers_of

from .stored import fresh


@pytest.fixture
def folder(tmp_path: Path) -> Iterator[Path]:
    """A folder for a database of its own; nothing goes on running there."""
    yield tmp_path / "database"
    for pid in [*servers_of(tmp_path / "database" / "data"), *servers_of(tmp_path / "database" / "data.new")]:
        end(pid)


# --- migrations ---


class Killed(Exception):
    """As if the process ended here."""


def test_migrations_go_on_wherever_they_were_cut_short(folder: Path) -> None:
    """Each statement in turn is the last before the end, done but not written down; then the next start goes on."""
    server = DatabaseServer(folder, buffer_pool_mb=32)
    url = server.start().url
    usual = pymysql.cursors.DictCursor.execute
    changing = ("CREATE TABLE IF NOT EXISTS", "ALTER", "UPDATE", "DELETE FROM journal", "INSERT IGNORE")
    done_now: list[str] = []

    def execute(self: object, query: str, args: object = None) -> int:
        done: int = usual(self, query, args)  # type: ignore[arg-type]
        if query.startswith(changing) and "applied_" not in query:
            done_now.append(query)
            if len(done_now) == 2:  # the one that was done before and is not written down, and one more
                raise Killed
        return done

    cut_short = 0
    while True:
        database = Database(url)
        done_now.clear()
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr(pymysql.cursors.DictCursor, "execute", execute)
            try:
                migrate(database)
                break
            except Killed:
                cut_short += 1
                database.close()
    assert cut_short > 20
    assert migrate(Database(url)) == []
    scene_id = load_demo(Database(url))
    assert Scenes(Database(url)).get(scene_id).scene.cameras
    server.stop()


def test_statements_are_told_apart_and_what_they_need() -> None:
    script = (
        "-- a; b\nCREATE TABLE a (\n  b INT -- c\n);\n-- needs a.b\nUPDATE a SET b = 1\n  WHERE b;\nDELETE FROM a;\n"
    )
    found = statements(script)
    assert [s.needs for s in found] == [None, ("a", "b"), None]
    assert [s.sql.split()[0] for s in found] == ["CREATE", "UPDATE", "DELETE"]


# --- large edits ---


def with_keys(scene: Scene, count: int) -> Scene:
    keys = tuple(Key(Fraction(1001 + n), n / 7, "linear") for n in range(count))
    channels = {n: Channel(0.0, keys) for n in ("x", "y", "z", "pan", "tilt", "roll", "focal_mm")}
    focal = tuple(Key(k.time, 35.0 + k.value / count, "linear") for k in keys)
    camera = scene.cameras[0]
    from dataclasses import replace

    channels["focal_mm"] = Channel(35.0, focal)
    return replace(scene, frames=FrameRange(1001, 1000 + count)).with_camera(
        replace(camera, channels=camera_channels(**channels))
    )


def test_a_bake_of_8_000_frames_is_stored_undone_and_done_again(database: Database, standing: object) -> None:
    scenes = Scenes(database)
    before = standing.scene  # type: ignore[attr-defined]
    with database.transaction() as cursor:
        rows = stored_rows(cursor, before.id)
    after = with_keys(before, 8_000)
    stored = scenes.apply(before.id, 1, "bake camera", lambda _: after, "t", fresh())
    assert Scenes(database).get(before.id).scene == after
    undone = scenes.undo(before.id, stored.revision, fresh())
    assert undone.scene == before
    with database.transaction() as cursor:
        assert sorted(map(repr, stored_rows(cursor, before.id))) == sorted(map(repr, rows))
    again = scenes.redo(before.id, undone.revision, fresh())
    assert again.scene == after


def test_what_is_too_large_is_refused_and_changes_nothing(
    database: Database,
    standing: object,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr(scenes_module, "MOST_ROWS", 1000)
    scenes = Scenes(database)
    before = standing.scene  # type: ignore[attr-defined]
    with pytest.raises(TooLarge):
        scenes.apply(before.id, 1, "bake camera", lambda s: with_keys(s, 500), "t", fresh())
    assert scenes.get(before.id).revision == 1


def test_entries_made_before_they_were_compressed_can_be_undone(database: Database, standing: object) -> None:
    import orjson

    from eddyfield.store.journal import read_entry

    scenes = Scenes(database)
    scene_id = standing.scene.id  # type: ignore[attr-defined]
    scenes.apply(scene_id, 1, "rename scene", lambda s: edits.RenameScene(name="New").apply(s), "t")
    with database.transaction() as cursor:
        entry = read_entry(cursor, scene_id, 2)
        assert entry is not None
        sides = (entry.before, entry.after)
        before, after = (orjson.dumps([[k.table, list(k.key), r] for k, r in rows.items()]).decode() for rows in sides)
        cursor.execute(
            "UPDATE journal SET rows_before = %s, rows_after = %s WHERE scene_id = %s", (before, after, scene_id)
        )
        cursor.execute("DELETE FROM journal_rows WHERE scene_id = %s", (scene_id,))
    assert scenes.undo(scene_id, 2).scene == standing.scene  # type: ignore[attr-defined]


def test_edits_of_many_scenes_at_once_do_not_wait_for_each_other(database: Database) -> None:
    """With gap locks over the ends of their journals they ended in deadlocks."""
    scenes = Scenes(database)
    made = [scenes.create(_scene(fresh())) for _ in range(8)]
    errors: list[Exception] = []

    def work(scene_id: str) -> None:
        try:
            revision = 1
            for number in range(12):
                rename = edits.RenameScene(name=f"N{number}").apply
                revision = scenes.apply(scene_id, revision, "rename scene", rename, "t", fresh()).revision
                if number % 3 == 2:
                    revision = scenes.undo(scene_id, revision, fresh()).revision
        except Exception as error:
            errors.append(error)

    threads = [threading.Thread(target=work, args=(one.scene.id,)) for one in made]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert errors == []


def _scene(scene_id: str) -> Scene:
    camera = Camera(str(uuid.uuid4()), "Wide")
    frames = FrameRange(1, 24)
    return Scene(scene_id, "Many", Rate.parse("24"), frames, cameras=(camera,), cut=Cut.of((1, camera.id)))


# --- what errors mean, and what is cleared ---


@pytest.mark.parametrize(
    ("error", "meaning"),
    [
        (pymysql.OperationalError(2013, "Lost connection"), Unavailable),
        (pymysql.OperationalError(2003, "Can't connect"), Unavailable),
        (pymysql.InterfaceError(0, ""), Unavailable),
        (pymysql.OperationalError(1114, "The table 'x' is full"), DiskFull),
        (pymysql.InternalError(1030, 'Got error 28 "No space left on device"'), DiskFull),
        (pymysql.OperationalError(1021, "Disk full"), DiskFull),
        (pymysql.OperationalError(1153, "Got a packet bigger than 'max_allowed_packet' bytes"), TooLarge),
        (pymysql.DataError(1406, "Data too long for column"), TooLarge),
        (pymysql.IntegrityError(1062, "Duplicate entry"), AlreadyThere),
        (pymysql.ProgrammingError(1064, "You have an error in your SQL syntax"), pymysql.ProgrammingError),
    ],
)
def test_errors_of_the_database_are_told_apart(error: pymysql.MySQLError, meaning: type[Exception]) -> None:
    assert type(_meaning(error)) is meaning


def test_files_that_no_scene_uses_are_cleared_after_their_grace(database: Database) -> None:
    load_demo(database)
    blobs = Blobs(database)
    unused, again = (blobs.put(secrets.token_bytes(10), "a") for _ in range(2))
    assert blobs.clear_unused() == []
    with database.transaction() as cursor:
        cursor.execute("UPDATE blob_file SET created_at = created_at - INTERVAL 3 DAY")
    data = blobs.get(again)
    assert blobs.put(data, "a") == again, "brought in once more, it has its grace again"
    cleared = blobs.clear_unused(timedelta(days=2))
    assert unused in cleared
    assert again not in cleared
    for used in Scenes(database).list():
        for character in Scenes(database).get(used.id).scene.characters:
            assert character.performance.source.digest not in cleared


def test_a_file_that_another_took_the_place_of_stays_as_that_may_be_undone(database: Database) -> None:
    scenes, blobs = Scenes(database), Blobs(database)
    scene_id = load_demo(database)
    before = scenes.get(scene_id)
    oda = before.scene.characters[0]
    digest = blobs.put(mill_race.oda_glb() + secrets.token_bytes(4), "oda_v2.glb")
    source = replace(oda.performance.source, digest=digest)
    after = replace(oda, performance=replace(oda.performance, source=source))
    brought = scenes.apply(scene_id, before.revision, "next", lambda s: s.with_character(after), "test")
    with database.transaction() as cursor:
        cursor.execute("UPDATE blob_file SET created_at = created_at - INTERVAL 9 DAY")
    assert not {digest, oda.performance.source.digest} & set(blobs.clear_unused())
    back = scenes.undo(scene_id, brought.revision, None, "test", None, False)
    assert back.scene.characters[0] == oda
    assert digest not in blobs.clear_unused(), "nor one that may be brought again"
    again = scenes.redo(scene_id, back.revision, None, "test", None)
    assert again.scene.characters[0] == after
    scenes.undo(scene_id, again.revision, None, "test", None, False)


@pytest.fixture
def small_disk(tmp_path: Path) -> Iterator[Path]:
    """A disk of 150 MB, in memory."""
    mount = tmp_path / "disk"
    mount.mkdir()
    made = subprocess.run(["mount", "-t", "tmpfs", "-o", "size=150m,mode=755", "tmpfs", str(mount)], check=False)
    if made.returncode:
        pytest.skip("no disk can be mounted here")
    yield mount
    for pid in servers_of(mount / "database" / "data"):
        end(pid)
    subprocess.run(["umount", "--lazy", str(mount)], check=True)


def test_a_disk_that_is_full_is_told_apart_and_survived(small_disk: Path) -> None:
    server = DatabaseServer(small_disk / "database", buffer_pool_mb=32)
    database = Database(server.start().url)
    migrate(database)
    scenes, blobs = Scenes(database), Blobs(database)
    revision = scenes.create(_scene(fresh())).revision
    scene_id = scenes.list()[0].id
    assert "nearly full" in Disk(small_disk / "database", 8, 200).warning()

    def fill() -> None:
        for _ in range(100):
            blobs.put(secrets.token_bytes(4 * 2**20), "fills it")

    # Past the guard, as when something else fills the disk: MariaDB says so, or ends.
    with pytest.raises((DiskFull, Unavailable)):
        fill()
    stored = 0
    for number in range(30):
        try:
            rename = edits.RenameScene(name=f"Full {number}").apply
            revision = scenes.apply(scene_id, revision, "rename scene", rename, "t", fresh()).revision
            stored += 1
        except (DiskFull, Unavailable):
            break
    subprocess.run(["mount", "-o", "remount,size=400m", str(small_disk)], check=True)
    server.start()
    assert scenes.get(scene_id).revision == revision
    scenes.apply(scene_id, revision, "rename scene", edits.RenameScene(name="Room again").apply, "t", fresh())
    assert scenes.get(scene_id).scene.name == "Room again"
    server.stop()


def test_a_disk_without_room_is_told(tmp_path: Path) -> None:
    assert Disk(None).free_mb() is None
    Disk(None).check(10**15)
    Disk(tmp_path, 0, 0).check()
    assert Disk(tmp_path, 0, 0).warning() == ""
    with pytest.raises(DiskFull):
        Disk(tmp_path, 0, 0).check(2**60)
