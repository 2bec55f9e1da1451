"""What each command of the launcher needs, and what it starts."""

from __future__ import annotations

import os
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from .checks import CHECKS
from .setup import BROWSER_PACKAGES, DATABASE_PACKAGES, Machine, SetupError, say

USAGE = """usage: ./eddyfield COMMAND

  demo          set up, load the mill race, and serve the application
  start         set up and serve the application
  test          set up and run every check and test (words after it go to pytest, and leave the checks out)
  bench         measure against other ways of doing the same (words after it choose which)
  tracks FILE   where joints land in the picture, as CSV
  strobe FILE   how much a stepped performance strobes, and what riding does about it
  framing FILE  what leaves the frame, is cut, crowded or hidden in it
  read FILE     everything that can be told of it through one camera
  check         all readings of all scenes of the store, as a table, and as a page with pictures (--report FILE.html)
  cut SCENE     the shots of a scene of the running application
  bring FILE    into a scene of the running application: --scene NAME, with --next the next version of what is there
  watch FOLDER  the same whenever an exporter has written a file: --scene NAME

./eddyfield COMMAND --help tells the options."""
OF_CLI = ("tracks", "strobe", "framing", "read", "check", "cut", "bring", "watch")
"""Run as they are, on what is set up for the application; on a new machine that is set up first."""
OF_STORE = ("check",)
"""Those of them that open the database themselves."""
CHECKS_AT_ONCE = 2


def launch(root: Path, words: list[str]) -> int:
    """Run a command of the launcher; the exit status is 0, 2 for bad usage, or the command's own."""
    machine = Machine(root)
    command, rest = (words[0], words[1:]) if words else ("", [])
    try:
        if command in ("demo", "start"):
            with machine.alone():
                machine.need_debian(DATABASE_PACKAGES)
                machine.need_python("run")
                machine.need_compiled_loops()
                machine.need_front_end()
            return _become(machine, ["serve", *(["--demo"] if command == "demo" else []), *rest])
        if command in OF_CLI:
            if command in OF_STORE:
                machine.need_debian(DATABASE_PACKAGES)
            if not machine.python.exists() or not (machine.venv / "installed-run").exists():
                with machine.alone():
                    machine.need_python("run")
            return _become(machine, words)
        if command == "bench":
            with machine.alone():
                machine.need_debian(DATABASE_PACKAGES)
                machine.need_python("run", "test")
                machine.need_compiled_loops()
                machine.need_node_modules()
                machine.need_front_end()
            words = [str(machine.python), "-m", "benchmarks", *rest]
            return subprocess.run(words, cwd=root, env=_environment(machine), check=False).returncode
        if command == "test":
            with machine.alone():
                machine.need_debian({**DATABASE_PACKAGES, **BROWSER_PACKAGES})
                machine.need_python("run", "test")
                machine.need_compiled_loops()
                machine.need_node_modules()
                machine.need_front_end()
            return _test(machine, rest)
    except SetupError as error:
        print(f"eddyfield: {error}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130
    wanted_help = command in ("", "-h", "--help", "help")
    print(USAGE if wanted_help else f"eddyfield: there is no command “{command}”: run  ./eddyfield --help",
          file=sys.stdout if wanted_help and command else sys.stderr)  # fmt: skip
    return 0 if wanted_help and command else 2


def _environment(machine: Machine) -> dict[str, str]:
    return {
        **os.environ,
        "PYTHONPATH": str(machine.root / "src"),
        "EDDYFIELD_VAR": str(machine.var),
        "PYTHONDONTWRITEBYTECODE": "",  # what Python compiles is kept: the next start is quicker
    }


def _become(machine: Machine, words: list[str]) -> int:
    os.execve(machine.python, [str(machine.python), "-m", "eddyfield", *words], _environment(machine))


def _failed_checks(machine: Machine, environment: dict[str, str]) -> list[str]:
    """Names of the checks that do not pass, after all were made, a few at a time."""

    def made(check: tuple[str, str, list[str]]) -> subprocess.CompletedProcess[bytes]:
        _, folder, words = check
        return subprocess.run(
            words,
            cwd=machine.root / folder,
            env=environment,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            check=False,
        )

    failed = []
    with ThreadPoolExecutor(CHECKS_AT_ONCE) as pool:
        for (name, _, _), done in zip(CHECKS, pool.map(made, CHECKS), strict=True):
            say(f"checked: {name}")
            if done.returncode:
                sys.stderr.buffer.write(done.stdout)
                sys.stderr.flush()
                failed.append(name)
    return failed


def _test(machine: Machine, rest: list[str]) -> int:
    """Checks first, then pytest; with words of one's own, pytest alone."""
    environment = {**_environment(machine), "PATH": f"{machine.venv / 'bin'}:{os.environ.get('PATH', '')}"}
    failed = [] if rest else _failed_checks(machine, environment)
    say("running the tests")
    words = [str(machine.python), "-m", "pytest", *(rest or ["-n", "2", "--dist", "worksteal"])]
    status = subprocess.run(words, cwd=machine.root, env=environment, check=False).returncode
    if failed:
        print(f"eddyfield: checks failed: {', '.join(failed)}", file=sys.stderr)
    return status or (1 if failed else 0)
