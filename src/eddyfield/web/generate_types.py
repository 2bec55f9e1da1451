"""Writes the browser's types from the server's models: ``python -m eddyfield.web.generate_types [--check]``."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

from .answers import ANSWERS
from .requests import REQUESTS, schema_of

WEB = Path(__file__).resolve().parents[3] / "web"
TARGET = WEB / "src" / "api" / "generated.ts"


def combined_schema() -> dict[str, object]:
    """One schema whose definitions are all requests and answers; answers, and what they have in common with requests, have
    all of their members."""
    answered = schema_of(ANSWERS, "serialization")["$defs"]
    for definition in answered.values():
        if "properties" in definition:
            definition["required"] = list(definition["properties"])
    definitions = {**schema_of(REQUESTS, "validation")["$defs"], **answered}
    _write_tuples_as_lists(definitions)
    _write_times_as_text(definitions)
    for definition in definitions.values():
        definition.pop("title", None)
        for member in definition.get("properties", {}).values():
            member.pop("title", None)
    return {"title": "Everything", "type": "object", "$defs": definitions, "additionalProperties": False}


def _write_tuples_as_lists(node: Any) -> None:
    """``prefixItems`` as the older ``items``, which the generator knows."""
    if isinstance(node, dict):
        if "prefixItems" in node:
            node["items"] = node.pop("prefixItems")
        for value in node.values():
            _write_tuples_as_lists(value)
    elif isinstance(node, list):
        for value in node:
            _write_tuples_as_lists(value)


def _write_times_as_text(node: Any) -> None:
    """Exact times are sent as text only, though numbers could be read as well."""
    if isinstance(node, dict):
        options = node.get("anyOf", [])
        node["anyOf"] = [o for o in options if o.get("type") != "number" or not _has_fraction(options)]
        if not node["anyOf"]:
            del node["anyOf"]
        for value in node.values():
            _write_times_as_text(value)
    elif isinstance(node, list):
        for value in node:
            _write_times_as_text(value)


def _has_fraction(options: list[Any]) -> bool:
    return any(option.get("format") == "fraction" for option in options)


def generated() -> str:
    """The TypeScript source."""
    done = subprocess.run(
        ["node", "scripts/types-from-schema.mjs"], cwd=WEB, input=json.dumps(combined_schema()), text=True,
        capture_output=True, check=False,
    )  # fmt: skip
    if done.returncode:
        raise SystemExit(f"The types could not be made: {done.stderr}")
    return done.stdout


def main() -> int:
    source = generated()
    if "--check" in sys.argv:
        if not TARGET.exists() or TARGET.read_text() != source:
            print(
                "web/src/api/generated.ts is not current: run  python -m eddyfield.web.generate_types", file=sys.stderr
            )
            return 1
        return 0
    TARGET.parent.mkdir(parents=True, exist_ok=True)
    TARGET.write_text(source)
    return 0


if __name__ == "__main__":
    sys.exit(main())
