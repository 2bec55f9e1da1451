"""Setting up: what is there is left alone, what is missing ends in one sentence with the command that mends it."""

from __future__ import annotations

import subprocess
import sys
import threading
from collections.abc import Callable
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest

from eddyfield.cli.main import COMMANDS
from eddyfield.launch import commands, setup
from eddyfield.launch.commands import OF_CLI, USAGE
from eddyfield.launch.setup import Machine, SetupError

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def machine(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Machine:
    """A checkout with nothing set up."""
    monkeypatch.delenv("EDDYFIELD_VAR", raising=False)
    (tmp_path / "requirements").mkdir()
    (tmp_path / "requirements" / "run.txt").write_text("numpy==1.0\n")
    web = tmp_path / "web"
    (web / "src").mkdir(parents=True)
    (web / "public").mkdir()
    for name in ("package-lock.json", "index.html", "vite.config.ts", "tsconfig.json", "src/main.tsx"):
        (web / name).write_text(name)
    made = Machine(tmp_path)
    made.var.mkdir()
    return made


@pytest.fixture
def ran(monkeypatch: pytest.MonkeyPatch) -> list[list[str]]:
    """Commands that would have been run, in order; each succeeds."""
    commands_run: list[list[str]] = []

    def run(words: list[str], **_: Any) -> SimpleNamespace:
        commands_run.append(words)
        return SimpleNamespace(returncode=0, stdout="")

    monkeypatch.setattr(setup.subprocess, "run", run)
    return commands_run


def test_packages_that_are_there_are_not_installed(machine: Machine, ran: list[list[str]]) -> None:
    machine.need_debian({"base": ["sh", "/bin/*sh"]})
    assert ran == []


def test_missing_packages_are_installed_together(
    machine: Machine, ran: list[list[str]], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(setup.os, "geteuid", lambda: 0)
    machine.need_debian({"one": ["no-such-program"], "two": ["/no/such/file"], "base": ["sh"]})
    assert [words[2:] for words in ran] == [["update"], ["install", "-y", "--no-install-recommends", "one", "two"]]


def test_without_the_right_one_sentence_tells_the_command(machine: Machine, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(setup.os, "geteuid", lambda: 1000)
    with pytest.raises(
        SetupError, match="mariadb-server missing: run  sudo sh -c 'apt-get update && apt-get install"
    ) as told:
        machine.need_debian({"mariadb-server": ["no-such-program"]})
    assert "\n" not in str(told.value)


def test_a_failing_install_gives_the_reason(machine: Machine, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(setup.os, "geteuid", lambda: 0)
    failing = SimpleNamespace(returncode=100, stdout="lines\nE: Unable to locate package one\n")
    monkeypatch.setattr(setup.subprocess, "run", lambda *_, **__: failing)
    with pytest.raises(SetupError, match="Unable to locate package one"):
        machine.need_debian({"one": ["no-such-program"]})


def test_python_packages_are_installed_once_and_again_when_the_list_changes(
    machine: Machine, ran: list[list[str]]
) -> None:
    machine.venv.mkdir()
    machine.need_python("run")
    assert ran[0][1:3] == ["-m", "venv"]
    assert ran[1][-2:] == ["-r", str(machine.root / "requirements" / "run.txt")]
    (machine.venv / "bin").mkdir()
    machine.python.touch()
    ran.clear()
    machine.need_python("run")
    assert ran == [], "a second time nothing is left to do"
    (machine.root / "requirements" / "run.txt").write_text("numpy==2.0\n")
    machine.need_python("run")
    assert len(ran) == 1


def test_a_virtual_environment_that_was_cut_short_is_made_anew(machine: Machine, ran: list[list[str]]) -> None:
    (machine.venv / "bin").mkdir(parents=True)
    machine.python.touch()  # there is an interpreter, and no pip yet
    machine.need_python("run")
    assert ran[0][1:4] == ["-m", "venv", "--clear"]
    machine.python.touch()
    (machine.venv / "installed-run").unlink()
    ran.clear()
    machine.need_python("run")
    assert [words[1:3] for words in ran] == [["-m", "pip"]], "whole, it only lacks its packages"


def test_what_python_compiles_is_kept_whatever_the_surroundings_say(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("PYTHONDONTWRITEBYTECODE", "1")
    source = tmp_path / "src" / "module.py"
    source.parent.mkdir()
    source.write_text("made = 1")
    environment = commands._environment(Machine(tmp_path))
    subprocess.run([sys.executable, "-c", "import module"], env=environment, check=True)
    assert list(source.parent.rglob("module.*.pyc"))


def test_another_folder_can_be_named(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("EDDYFIELD_VAR", str(tmp_path / "elsewhere"))
    machine = Machine(tmp_path / "checkout")
    assert (machine.var, machine.front_end) == (tmp_path / "elsewhere", tmp_path / "elsewhere" / "front-end")
    assert commands._environment(machine)["EDDYFIELD_VAR"] == str(tmp_path / "elsewhere")
    with machine.alone():
        assert machine.var.is_dir()
    monkeypatch.setenv("EDDYFIELD_VAR", "")
    assert Machine(tmp_path).var == tmp_path / "var"


def test_the_front_end_is_built_again_only_when_a_source_changes(machine: Machine, ran: list[list[str]]) -> None:
    (machine.root / "web" / "node_modules").mkdir()
    machine.front_end.mkdir()
    machine.need_front_end()
    assert [words[:2] for words in ran] == [["npm", "ci"], ["npm", "run"]]
    ran.clear()
    machine.need_front_end()
    assert ran == []
    (machine.root / "web" / "src" / "main.tsx").write_text("changed")
    machine.need_front_end()
    assert [words[:2] for words in ran] == [["npm", "run"]]


def test_loops_are_compiled_once_and_where_they_cannot_be_it_is_said(
    machine: Machine, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    source = machine.root / "src/eddyfield/core/rig/compiled.py"
    source.parent.mkdir(parents=True)
    source.write_text("loops")
    machine.venv.mkdir(parents=True)
    tried: list[list[str]] = []

    def run(words: list[str], **_: Any) -> SimpleNamespace:
        tried.append(words)
        return SimpleNamespace(returncode=1, stdout="a trace\nImportError: no compiler")

    monkeypatch.setattr(setup.subprocess, "run", run)
    machine.need_compiled_loops()
    machine.need_compiled_loops()
    assert len(tried) == 1
    assert "ImportError: no compiler" in capsys.readouterr().err
    source.write_text("other loops")
    machine.need_compiled_loops()
    assert len(tried) == 2


def test_a_folder_that_cannot_be_written_is_told(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("EDDYFIELD_VAR", raising=False)
    blocked = Machine(tmp_path)
    blocked.var.write_text("a file where the folder should be")
    with pytest.raises(SetupError, match="cannot be written"), blocked.alone():
        pass


def test_only_one_sets_up_at_a_time(machine: Machine) -> None:
    inside, order = threading.Event(), []

    def other() -> None:
        inside.wait()
        with machine.alone():
            order.append("second")

    thread = threading.Thread(target=other)
    thread.start()
    with machine.alone():
        inside.set()
        thread.join(0.2)
        order.append("first")
    thread.join()
    assert order == ["first", "second"]


def launched(*words: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, str(ROOT / "eddyfield"), *words], capture_output=True, text=True, check=False
    )


def test_what_the_launcher_says() -> None:
    helped = launched("--help")
    assert helped.returncode == 0
    for command in ("demo", "start", "test", "bench", "tracks", "strobe", "framing"):
        assert command in helped.stdout
    for wrong in ((), ("juggle",)):
        done = launched(*wrong)
        assert (done.returncode, done.stdout) == (2, "")
        assert "Traceback" not in done.stderr


def test_a_failed_check_fails_the_run(machine: Machine, monkeypatch: pytest.MonkeyPatch) -> None:
    def statuses(of: dict[str, int]) -> Callable[..., SimpleNamespace]:
        return lambda words, **_: SimpleNamespace(returncode=of.get(words[0], 0), stdout=b"")

    monkeypatch.setattr(commands.subprocess, "run", statuses({}))
    assert commands._test(machine, []) == 0
    monkeypatch.setattr(commands.subprocess, "run", statuses({"mypy": 1}))
    assert commands._test(machine, []) == 1
    assert commands._test(machine, ["tests/core"]) == 0, "with words of one's own only the tests are run"
    monkeypatch.setattr(commands.subprocess, "run", statuses({str(machine.python): 3}))
    assert commands._test(machine, []) == 3


def test_every_command_for_people_is_one_of_the_launcher_and_stands_in_its_help() -> None:
    for_people = [command for command in COMMANDS if command != "serve"]
    assert list(OF_CLI) == for_people
    assert all(f"\n  {command} " in USAGE for command in for_people)
