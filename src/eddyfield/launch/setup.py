"""The steps of setting up, each of which does nothing when it was done before."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import importlib.util
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable, Iterator
from pathlib import Path

PYTHON = (3, 11)
DATABASE_PACKAGES = {"mariadb-server": ["mariadbd", "mariadb-install-db"]}
VENV_PACKAGES = {"python3.11-venv": ["/usr/lib/python3.11/ensurepip/__init__.py"]}
BROWSER_PACKAGES = {
    "chromium": ["chromium"],
    "chromium-driver": ["chromedriver"],
    "fonts-dejavu-core": ["/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf"],
    "libgl1-mesa-dri": ["/usr/lib/*/dri/swrast_dri.so"],
    "libegl1": ["/usr/lib/*/libEGL.so.1"],
}


class SetupError(Exception):
    """One sentence for the person at the terminal, with the command that mends it."""


class Machine:
    """The checkout and what is set up below its ``var`` folder, or below the one that EDDYFIELD_VAR names."""

    def __init__(self, root: Path) -> None:
        self.root = root
        self.var = Path(os.environ.get("EDDYFIELD_VAR") or root / "var").resolve()
        self.venv = self.var / "venv"
        self.python = self.venv / "bin" / "python"
        self.front_end = self.var / "front-end"

    @contextlib.contextmanager
    def alone(self) -> Iterator[None]:
        """Only one launcher sets up at a time; another waits."""
        try:
            self.var.mkdir(parents=True, exist_ok=True)
            lock = open(self.var / "setup.lock", "w")  # noqa: SIM115 - held until the block ends
        except OSError as error:
            raise SetupError(f"{self.var} cannot be written ({error.strerror}): run chmod u+w {self.root}") from None
        with lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                say("another eddyfield is setting up; waiting for it")
                fcntl.flock(lock, fcntl.LOCK_EX)
            yield

    def need_debian(self, packages: dict[str, list[str]]) -> None:
        """Debian packages, told by the programs and files that they bring."""
        missing = [name for name, signs in packages.items() if not all(_is_there(s) for s in signs)]
        if not missing:
            return
        command = f"apt-get update && apt-get install -y --no-install-recommends {' '.join(missing)}"
        if os.geteuid() != 0:
            raise SetupError(f"{', '.join(missing)} missing: run  sudo sh -c '{command}'")
        if not shutil.which("apt-get"):
            raise SetupError(f"{', '.join(missing)} missing and no apt-get here: install the packages by hand")
        say(f"installing {', '.join(missing)} from Debian's packages (once, about a minute)")
        environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
        if (Path("/var/lib/dpkg/updates")).is_dir() and any(Path("/var/lib/dpkg/updates").iterdir()):
            # An installation was cut short: nothing can be installed before it is brought to its end.
            subprocess.run(["dpkg", "--configure", "-a"], env=environment, check=False, stdout=subprocess.DEVNULL)
        for words in (["update"], ["install", "-y", "--no-install-recommends", *missing]):
            done = subprocess.run(
                ["apt-get", "-q", *words],
                env=environment, check=False, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
            )  # fmt: skip
            if done.returncode:
                reason = (done.stdout or "").strip().splitlines()[-1:] or ["no reason given"]
                raise SetupError(f"apt-get could not install {', '.join(missing)} ({reason[0]}): run  {command}")

    def need_python(self, *lists: str) -> None:
        """The virtual environment with the requirement lists of these names."""
        interpreter = _interpreter()
        whole = self.venv / "made"
        if not self.python.exists() or not (whole.exists() or (self.venv / "installed-run").exists()):
            if importlib.util.find_spec("ensurepip") is None:  # Debian keeps it in a package of its own
                self.need_debian(VENV_PACKAGES)
            say("making a virtual environment")
            # Cleared first: one that was cut short has an interpreter already, and not yet what installs packages.
            words = [interpreter, "-m", "venv", "--clear", str(self.venv)]
            _run(words, "python3 -m venv", "apt-get install python3.11-venv")
            self.venv.mkdir(exist_ok=True)
            whole.write_text("")
        for name in lists:
            source = self.root / "requirements" / f"{name}.txt"
            mark = self.venv / f"installed-{name}"
            wanted = _digest([source])
            if mark.exists() and mark.read_text() == wanted:
                continue
            say(f"installing the Python packages of requirements/{name}.txt (once, about a minute)")
            pip = [str(self.python), "-m", "pip", "install", "-q", "--disable-pip-version-check", "-r", str(source)]
            _run(pip, "pip", f"{self.python} -m pip install -r {source}")
            mark.write_text(wanted)

    def need_compiled_loops(self) -> None:
        """The core's compiled loops, so that nobody waits for the compiler later. Without them it is slower, not wrong."""
        mark = self.venv / "compiled"
        wanted = _digest([self.root / "src/eddyfield/core/rig/compiled.py", self.root / "requirements" / "run.txt"])
        if mark.exists() and mark.read_text() == wanted:
            return
        say("compiling loops of the core")
        words = [str(self.python), "-c", "import eddyfield.core.rig.compiled"]
        environment = {**os.environ, "PYTHONPATH": str(self.root / "src")}
        done = subprocess.run(
            words, env=environment, check=False, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
        )
        if done.returncode:
            reason = (done.stdout or "").strip().splitlines()[-1:] or ["no reason given"]
            say(f"they cannot be compiled here ({reason[0]}): large rigs are evaluated more slowly")
        mark.write_text(wanted)

    def need_node_modules(self) -> None:
        web = self.root / "web"
        mark = web / "node_modules" / ".installed"
        wanted = _digest([web / "package-lock.json"])
        if mark.exists() and mark.read_text() == wanted:
            return
        if not shutil.which("npm"):
            raise SetupError("Node.js with npm is missing: run  apt-get install nodejs npm  (version 20 or later)")
        say("installing the packages of the front end (once, about a minute)")
        _run(["npm", "ci", "--no-audit", "--no-fund", "--loglevel=error"], "npm ci", f"cd {web} && npm ci", web)
        mark.write_text(wanted)

    def need_front_end(self) -> None:
        """The built front end, built again when its sources changed."""
        web = self.root / "web"
        sources = sorted(p for folder in ("src", "public") for p in (web / folder).rglob("*") if p.is_file())
        settings = [web / n for n in ("package-lock.json", "index.html", "vite.config.ts", "tsconfig.json")]
        wanted = _digest([*sources, *settings])
        mark = self.front_end / "built-from"
        if mark.exists() and mark.read_text() == wanted:
            return
        self.need_node_modules()
        say("building the front end")
        words = ["npm", "run", "--silent", "build", "--", "--outDir", str(self.front_end)]
        _run(words, "the build of the front end", f"cd {web} && npm run build", web)
        mark.write_text(wanted)


def say(text: str) -> None:
    print(f"eddyfield: {text}", file=sys.stderr, flush=True)


def _interpreter() -> str:
    if sys.version_info[:2] == PYTHON:
        return sys.executable
    found = shutil.which("python{}.{}".format(*PYTHON))
    if not found:
        raise SetupError("Python 3.11 is missing: run  apt-get install python3.11 python3.11-venv")
    return found


def _is_there(sign: str) -> bool:
    if sign.startswith("/"):
        return any(Path("/").glob(sign[1:]))
    return shutil.which(sign) is not None or (Path("/usr/sbin") / sign).exists()


def _digest(files: Iterable[Path]) -> str:
    total = hashlib.sha256()
    for file in files:
        total.update(file.name.encode() + b"\0")
        total.update(file.read_bytes())
    return total.hexdigest()


def _run(words: list[str], what: str, remedy: str, folder: Path | None = None) -> None:
    done = subprocess.run(words, cwd=folder, check=False, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    if done.returncode:
        print(done.stdout, file=sys.stderr)
        raise SetupError(f"{what} failed (its words are above): mend that and run  {remedy}")
