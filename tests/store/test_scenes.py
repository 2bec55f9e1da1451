"""Scenes in the real MariaDB: differences, the journal, conflicts, and what survives a kill."""

from __future__ import annotations

import contextlib
import os
import random
import signal
import threading
import time
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from eddyfield.core import edits
from eddyfield.core.errors import DomainError
from eddyfield.core.time.keys import Handle, Key
from eddyfield.demo.load import load_demo
from eddyfield.store.blobs import CHUNK_BYTES, Blobs
from eddyfield.store.conflicts import Conflict, NotFound
from eddyfield.store.database import Database, Unavailable
from eddyfield.store.migrate import migrate
from eddyfield.store.replaying import NothingToUndo
from eddyfield.store.rows import all_rows, difference, scene_from_rows
from eddyfield.store.scenes import Scenes, Standing
from eddyfield.store.server import DatabaseServer

from .changes import BEFORE, CHANGES
from .stored import fresh, rows_in, work


def test_one_file_may_come_in_twice_at_once(database: Database) -> None:
    data = [uuid.uuid4().bytes * 200_000 for _ in range(4)]
    with ThreadPoolExecutor(8) as hands:
        digests = list(hands.map(lambda d: Blobs(database).put(d, "walk.bvh"), [d for d in data for _ in range(4)]))
    assert [Blobs(database).get(digest) for digest in digests[::4]] == data
    assert digests == [digest for digest in digests[::4] for _ in range(4)]


def test_a_scene_comes_back_as_it_was_stored(database: Database, standing: Standing) -> None:
    camera = standing.scene.cameras[0]
    curve = Key(Fraction(7, 3), 0.1, "curve", Handle(0.25, -1.5), Handle(1 / 3, 2e-9))
    channels = camera.channels.having(x=camera.channels["x"].with_key(curve))
    odd = lambda s: s.with_camera(replace(camera, channels=channels, unkeyed=(("x", 1 / 3), ("focus_m", 0.1))))  # noqa: E731
    Scenes(database).apply(standing.scene.id, 1, "odd", odd, "test")
    found = Scenes(database).get(standing.scene.id)
    assert found.scene == odd(standing.scene)
    assert (found.revision, found.undo, found.redo) == (2, "odd", None)
    assert scene_from_rows((key.table, row) for key, row in all_rows(found.scene).items()) == found.scene


@pytest.mark.parametrize("name", sorted(CHANGES))
@pytest.mark.parametrize("number", [2, 3])
def test_each_edit_is_stored_as_it_was_made(database: Database, standing: Standing, name: str, number: int) -> None:
    scene = edits.LockCamera(camera_id=standing.scene.cameras[0].id, locks=()).apply(standing.scene)
    for view in range(4):
        scene = edits.SaveView(
            camera_id=scene.cameras[0].id, view_id=fresh(), name=f"View {view}", time=Fraction(1001 + view)
        ).apply(scene)
    if name in BEFORE:
        scene = CHANGES[BEFORE[name]](scene, 1)
    scenes = Scenes(database)
    scenes.apply(scene.id, 1, "views", lambda _: scene, "test")
    told = scenes.apply(scene.id, 2, name, lambda s: CHANGES[name](s, number), "test")
    assert Scenes(database).get(scene.id).scene == told.scene


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.tuples(st.sampled_from(sorted(CHANGES)), st.integers(0, 40)), min_size=1, max_size=8), st.data())
def test_undo_and_redo_put_back_the_very_same_rows(
    database: Database, standing: Standing, steps: list[tuple[str, int]], data: st.DataObject
) -> None:
    scenes, scene_id = Scenes(database), standing.scene.id
    now = scenes.get(scene_id)
    states = [(rows_in(database, now.scene), now.scene)]
    for name, number in steps:
        try:
            after = scenes.apply(scene_id, now.revision, name, lambda s, n=name, k=number: CHANGES[n](s, k), "test")
        except (DomainError, IndexError):
            assert rows_in(database, now.scene) == states[-1][0], "what is refused changes nothing"
            continue
        if after.revision != now.revision:
            states.append((rows_in(database, after.scene), after.scene))
        now = after
    back = data.draw(st.integers(0, len(states) - 1))
    for state in list(reversed(states))[1 : back + 1]:
        now = scenes.undo(scene_id, now.revision)
        assert (rows_in(database, now.scene), now.scene) == state
    for state in states[len(states) - back :]:
        now = Scenes(database).redo(scene_id, now.revision)
        assert (rows_in(database, now.scene), now.scene) == state


def test_a_new_edit_after_undo_ends_the_redo(database: Database, standing: Standing) -> None:
    scenes, scene_id = Scenes(database), standing.scene.id
    for number in (1, 2):
        scenes.apply(scene_id, number, "rename scene", lambda s, n=number: CHANGES["rename"](s, n), "test")
    undone = scenes.undo(scene_id, 3)
    assert (undone.undo, undone.redo) == ("rename scene", "rename scene")
    after = scenes.apply(scene_id, 4, "step poses", lambda s: CHANGES["step"](s, 2), "test")
    assert (after.undo, after.redo) == ("step poses", None)
    with pytest.raises(NothingToUndo):
        scenes.redo(scene_id, 5)
    scenes.undo(scene_id, 5)
    first = scenes.undo(scene_id, 6)
    assert first.scene == standing.scene
    with pytest.raises(NothingToUndo):
        scenes.undo(scene_id, 7)


def test_a_conflict_is_told_and_nothing_overwritten(database: Database, standing: Standing) -> None:
    scenes, scene_id = Scenes(database), standing.scene.id
    scenes.apply(scene_id, 1, "rename scene", lambda s: CHANGES["rename"](s, 1), "one")
    with pytest.raises(Conflict) as told:
        Scenes(database).apply(scene_id, 1, "step poses", lambda s: CHANGES["step"](s, 2), "two")
    assert (told.value.revision, told.value.edits_since) == (2, ("rename scene",))
    assert scenes.get(scene_id).scene.characters == standing.scene.characters


def test_an_edit_that_is_sent_twice_is_done_once(database: Database, standing: Standing) -> None:
    scenes, scene_id, request = Scenes(database), standing.scene.id, str(uuid.uuid4())
    once = scenes.apply(scene_id, 1, "ride", lambda s: CHANGES["ride"](s, 5), "test", request)
    again = scenes.apply(scene_id, 1, "ride", lambda s: CHANGES["ride"](s, 7), "test", request)
    assert (once.revision, again.revision) == (2, 2)
    assert again.scene == once.scene


def test_two_at_once_one_wins(database: Database, standing: Standing) -> None:
    scenes, results = Scenes(database), []

    def change(number: int) -> None:
        try:
            results.append(
                scenes.apply(standing.scene.id, 1, "x", lambda s: CHANGES["rename"](s, number), "t").revision
            )
        except Conflict:
            results.append("conflict")

    threads = [threading.Thread(target=change, args=(n,)) for n in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(map(str, results)) == ["2"] + ["conflict"] * 5


def test_only_what_changed_is_written(standing: Standing) -> None:
    scene = standing.scene
    keyed = edits.KeyCamera(camera_id=scene.cameras[0].id, time=Fraction(1010)).apply(scene, work(scene))
    changes = difference(scene, keyed)
    assert {key.table for key, *_ in changes} == {"camera_key"}
    assert all(before is None for _, before, _ in changes)
    assert len(changes) == 8, "the pose and the place on the rail"
    assert difference(scene, scene) == []


def test_deleting_and_bringing_back(database: Database, standing: Standing) -> None:
    scenes, scene_id = Scenes(database), standing.scene.id
    scenes.set_deleted(scene_id, True)
    assert scene_id not in {s.id for s in scenes.list()}
    with pytest.raises(NotFound):
        scenes.get(scene_id)
    scenes.set_deleted(scene_id, False)
    assert scenes.get(scene_id).scene == standing.scene
    with pytest.raises(NotFound):
        scenes.set_deleted(str(uuid.uuid4()), True)


def test_blobs_are_kept_by_content(database: Database) -> None:
    blobs, data = Blobs(database), os.urandom(CHUNK_BYTES + 17)
    digest = blobs.put(data, "a.glb")
    assert blobs.put(data, "b.glb") == digest
    assert blobs.get(digest) == data
    assert blobs.get(blobs.put(b"", "empty")) == b""
    with pytest.raises(KeyError):
        blobs.get("0" * 64)


def test_migrations_and_the_demo_are_applied_once(database: Database) -> None:
    assert migrate(database) == []
    first = load_demo(database)
    Scenes(database).set_deleted(first, True)
    assert load_demo(database) == first
    assert Scenes(database).get(first).scene.name


def test_addresses_that_are_none_are_refused() -> None:
    with pytest.raises(ValueError, match="mysql://"):
        Database("sqlite:///x")
    with pytest.raises(Unavailable), Database("mysql://nobody@127.0.0.1:1/none").transaction():
        pass


@pytest.fixture
def own_server(tmp_path_factory: pytest.TempPathFactory, database_server: DatabaseServer) -> Iterator[DatabaseServer]:
    server = DatabaseServer(tmp_path_factory.mktemp("killed"), buffer_pool_mb=32)
    yield server
    server.stop()


def test_a_killed_database_loses_no_acknowledged_edit(own_server: DatabaseServer, tmp_path: Path) -> None:
    instance = own_server.start()
    database = Database(instance.url)
    migrate(database)
    scenes, scene_id = Scenes(database), load_demo(database)
    acknowledged = 1

    enough = threading.Event()

    def killer() -> None:
        enough.wait(60)
        time.sleep(random.uniform(0, 0.2))  # anywhere within an edit
        os.kill(instance.pid, signal.SIGKILL)

    thread = threading.Thread(target=killer)
    thread.start()
    with contextlib.suppress(Unavailable):
        for number in range(1, 100_000):
            rename = edits.RenameScene(name=f"Crossing {number}").apply
            acknowledged = scenes.apply(scene_id, number, "rename scene", rename, "t").revision
            if acknowledged > 5:
                enough.set()
    thread.join()
    os.waitpid(instance.pid, 0)
    assert acknowledged > 5
    found = Scenes(Database(own_server.start().url)).get(scene_id)
    assert found.revision in (acknowledged, acknowledged + 1), "the one under way may have been saved, unacknowledged"
    assert found.scene.name == f"Crossing {found.revision - 1}"


def test_a_database_is_reused_while_it_runs_and_started_again_after(own_server: DatabaseServer) -> None:
    first = own_server.start()
    another = DatabaseServer(own_server._folder, buffer_pool_mb=32)
    assert another.start() == first
    assert (own_server._folder / "password").stat().st_mode & 0o077 == 0, "nobody else reads the password"
    another.stop()
    assert own_server.start() == first, "it goes on for the one that uses it still"
    own_server.stop()
    again = own_server.start()
    assert again.pid != first.pid
    with pytest.raises(Unavailable), Database(again.url.replace(":", ":wrong", 2)).transaction():
        pass
