"""A watched folder: what is half written waits, so does what comes while no server answers; pipes and links are left alone."""

from __future__ import annotations

import os
from pathlib import Path

import pytest

from eddyfield.cli import watch as module
from eddyfield.cli.arguments import UsageError
from eddyfield.cli.watch import Watched
from eddyfield.core.errors import DomainError
from eddyfield.formats.missing import missing

HEAD = b"HIERARCHY\nROOT a\n{\n}\nMOTION\nFrames: 4\nFrame Time: 0.04\n"


class Folder:
    """What a watched folder brings in, and says."""

    def __init__(self, path: Path) -> None:
        self.path, self.brought, self.said, self.away = path, list[str](), list[str](), False
        self.watched = Watched(path, self.bring, self.said.append)

    def bring(self, file: Path) -> list[str]:
        if self.away:
            raise UsageError("Eddyfield does not answer.", "Start it.")
        if b"refuse" in file.read_bytes():
            raise DomainError("It cannot be brought in.", "Bring in another.")
        self.brought.append(file.name)
        return [f"{file.name} is in"]

    def writes(self, name: str, data: bytes) -> None:
        (self.path / name).write_bytes(data)
        self.watched.look([self.path / name])


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Folder:
    monkeypatch.setattr(module, "STILL_S", 0.001)
    return Folder(tmp_path)


def test_a_capture_that_still_grows_is_brought_in_once_it_is_whole(folder: Folder) -> None:
    for rows in (0, 1, 3):
        folder.writes("walk.bvh", HEAD + b"1 2 3\n" * rows)
        assert folder.brought == []
    folder.writes("walk.bvh", HEAD + b"1 2 3\n" * 3 + b"1 2")
    assert folder.brought == []
    folder.writes("walk.bvh", HEAD + b"1 2 3\n" * 4)
    assert folder.brought == ["walk.bvh"]
    assert folder.said[-2:] == ["walk.bvh waits: its last frame is not whole", "walk.bvh is in"]
    folder.watched.look([folder.path / "walk.bvh"])
    assert folder.brought == ["walk.bvh"], "once"


def test_what_is_saved_while_no_server_answers_comes_in_when_one_does(folder: Folder) -> None:
    folder.away = True
    for _ in range(3):
        folder.writes("a.glb", b"anything")
    assert folder.said == ["a.glb waits: Eddyfield does not answer; it is brought in once it does"]
    folder.away = False
    folder.watched.look([])
    assert folder.brought == ["a.glb"]


def test_what_is_refused_is_told_once_and_tried_again_when_it_is_written_again(folder: Folder) -> None:
    folder.writes("a.glb", b"refuse this")
    folder.watched.look([])
    assert folder.said == ["a.glb: It cannot be brought in. Bring in another."]
    folder.writes("a.glb", b"better")
    assert folder.brought == ["a.glb"]


def test_pipes_links_out_and_other_files_are_left_alone(
    folder: Folder, tmp_path_factory: pytest.TempPathFactory
) -> None:
    elsewhere = tmp_path_factory.mktemp("elsewhere") / "secret.glb"
    elsewhere.write_bytes(b"anything")
    os.mkfifo(folder.path / "pipe.glb")
    (folder.path / "link.glb").symlink_to(elsewhere)
    (folder.path / "folder.glb").mkdir()
    folder.watched.look(
        [folder.path / name for name in ("pipe.glb", "link.glb", "folder.glb", "gone.glb", "notes.txt")]
    )
    assert (folder.brought, folder.said) == ([], [])
    (folder.path / "own.glb").symlink_to(folder.path / "real.glb")
    folder.writes("real.glb", b"anything")
    folder.watched.look([folder.path / "own.glb"])
    assert folder.brought == ["real.glb", "own.glb"], "a link within the folder is as good as the file"


@pytest.mark.parametrize(
    ("data", "suffix", "lacks"),
    [
        (HEAD[:30], ".bvh", "its motion is not there"),
        (HEAD + b"1 2\n" * 4, ".BVH", None),
        (b"no BVH at all", ".bvh", None),
        (b"glTF\2\0\0\0\20\0\0\0", ".glb", "it has 12 of 16 bytes"),
        (b"glTF\2\0\0\0\14\0\0\0", ".glb", None),
        (b'{"asset": {', ".gltf", "it ends in the middle"),
        (b"{}", ".gltf", None),
        (b"PK\3\4", ".usdz", "its list of contents is not there"),
        (b"anything", ".csv", None),
    ],
)
def test_what_a_file_lacks_is_told_by_what_it_says_of_itself(data: bytes, suffix: str, lacks: str | None) -> None:
    assert missing(data, suffix) == lacks
