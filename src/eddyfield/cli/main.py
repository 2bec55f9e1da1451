"""The entry of the command line: hands each command its words, and turns errors into one line."""

from __future__ import annotations

import os
import sys
from importlib import import_module

from eddyfield.core.errors import DomainError

from .arguments import UsageError

COMMANDS = ("tracks", "strobe", "framing", "read", "check", "cut", "bring", "watch", "serve")
USAGE = (
    "usage: eddyfield demo | start | test | tracks FILE ... | strobe FILE ... | framing FILE ... | read FILE ..."
    " | check [SCENE ...] | cut SCENE | bring FILE ... | watch FOLDER ...   (each with --help)"
)


def main(words: list[str] | None = None) -> int:
    """Run a command; 0 when done, 2 for bad usage or a bad file (one line on standard error)."""
    words = sys.argv[1:] if words is None else words
    if not words or words[0] in ("-h", "--help", "help"):
        print(USAGE)
        return 0 if words else 2
    command, rest = words[0], words[1:]
    try:
        if command not in COMMANDS:
            raise UsageError(f"There is no command “{command}”.", USAGE)
        # Each command brings in only what it needs: readings of files want no server, and start quickly.
        import_module(f".{command}", __package__).run(rest)
    except DomainError as error:
        print(f"eddyfield {command}: {' '.join(str(error).split())}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except (MemoryError, RecursionError):
        print(f"eddyfield {command}: The file asks for more memory than there is.", file=sys.stderr)
        return 2
    except SystemExit as leaving:
        return int(leaving.code or 0)
    return 0


if __name__ == "__main__":
    sys.exit(main())
