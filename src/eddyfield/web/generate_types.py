"""Writes the browser's types from the server's models, and the tables that it shares with the core:
``python -m eddyfield.web.generate_types [--check]``."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

from eddyfield.core.cameras.camera_channels import CAMERA_CHANNELS
from eddyfield.core.cameras.framing import FIRST_ROOM, USUAL_LIMITS
from eddyfield.core.cameras.key_groups import GROUP_OF, KEY_GROUPS
from eddyfield.core.cameras.lag import SETTLING_HALVINGS
from eddyfield.core.cut.cut import SHOT_STATES
from eddyfield.core.cut.sound import MARK_KINDS
from eddyfield.core.cut.transition import TRANSITION_KINDS
from eddyfield.core.performance.timing import REPEATS
from eddyfield.core.readings.candidates import TERM_TITLES
from eddyfield.core.readings.limits import STRICTNESS_MEANINGS, STRICTNESS_TITLES, STRICTNESSES
from eddyfield.core.readings.meanings import READING_MEANINGS
from eddyfield.core.readings.reading import READING_TITLES
from eddyfield.core.readings.spacing_chart import INTENTS
from eddyfield.core.readings.thresholds import SEEN_CHANGE_PX
from eddyfield.core.rig.rig import USUAL_BODIES_M
from eddyfield.core.time.channel_tables import SIGNS
from eddyfield.core.time.channels import BEYOND_KEYS
from eddyfield.core.time.ease import EASES
from eddyfield.core.time.frames import COMMON_RATES
from eddyfield.core.time.keys import KEY_SHAPES

from .answers import ANSWERS
from .candidates import CandidatesAnswer
from .parts import PARTS
from .requests import REQUESTS, schema_of

WEB = Path(__file__).resolve().parents[3] / "web"
TARGET = WEB / "src" / "api" / "generated.ts"
TABLES = WEB / "src" / "api" / "tables.ts"


def combined_schema() -> dict[str, object]:
    """One schema whose definitions are all requests and answers; answers, and what they have in common with requests, have
    all of their members."""
    answered = schema_of((*ANSWERS, CandidatesAnswer, *PARTS), "serialization")["$defs"]
    for definition in answered.values():
        if "properties" in definition:
            definition["required"] = list(definition["properties"])
    definitions = {**schema_of(REQUESTS, "validation")["$defs"], **answered}
    for definition in definitions.values():
        _require_discriminators(definition)
        for member in definition.get("properties", {}).values():
            if "$ref" in member:  # a default beside it would make a type of its own of it
                member.pop("default", None)
    _write_tuples_as_lists(definitions)
    _write_times_as_text(definitions)
    for definition in definitions.values():
        definition.pop("title", None)
        for member in definition.get("properties", {}).values():
            member.pop("title", None)
    return {"title": "Everything", "type": "object", "$defs": definitions, "additionalProperties": False}


def _require_discriminators(definition: dict[str, Any]) -> None:
    """A member that can only have one value, by which one kind is told from others, is always there."""
    fixed = [name for name, member in definition.get("properties", {}).items() if "const" in member]
    if fixed:
        definition["required"] = list(dict.fromkeys([*definition.get("required", ()), *fixed]))


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


MOST_OFFERED = 60
"""Frames a second."""


def generated() -> str:
    """The TypeScript source."""
    done = subprocess.run(
        ["node", "scripts/types-from-schema.mjs"], cwd=WEB, input=json.dumps(combined_schema()), text=True,
        capture_output=True, check=False,
    )  # fmt: skip
    if done.returncode:
        raise SystemExit(f"The types could not be made: {done.stderr}")
    return done.stdout


def generated_tables() -> str:
    """What the core knows of channels, keys and readings, as constants."""
    channels = {
        name: {
            "title": kind.title, "sign": SIGNS[kind.unit], "lock_group": kind.lock_group, "group": GROUP_OF[name],
            "least": kind.least, "greatest": kind.greatest,
        }
        for name, kind in CAMERA_CHANNELS.items()
    }  # fmt: skip
    tables = {
        "CAMERA_CHANNELS": channels,
        "KEY_GROUPS": KEY_GROUPS,
        "KEY_SHAPES": KEY_SHAPES,
        "BEYOND_KEYS": BEYOND_KEYS,
        "SHOT_STATES": SHOT_STATES,
        "TRANSITION_KINDS": TRANSITION_KINDS,
        "EASES": EASES,
        "MARK_KINDS": MARK_KINDS,
        "REPEATS": REPEATS,
        "INTENTS": INTENTS,
        "STRICTNESSES": STRICTNESSES,
        "STRICTNESS_TITLES": STRICTNESS_TITLES,
        "STRICTNESS_MEANINGS": STRICTNESS_MEANINGS,
        "COMMON_RATES": [(str(rate), f"{float(rate):.5g}") for rate in sorted(COMMON_RATES) if rate <= MOST_OFFERED],
        "USUAL_BODIES_M": USUAL_BODIES_M,
        "TERM_TITLES": TERM_TITLES,
        "READING_TITLES": READING_TITLES,
        "READING_MEANINGS": READING_MEANINGS,
        "SEEN_CHANGE_PX": SEEN_CHANGE_PX,
        "SETTLING_HALVINGS": SETTLING_HALVINGS,
        "FRAMING_BEGINS": {"limits": USUAL_LIMITS, "room": FIRST_ROOM},
    }
    lines = ["/* Generated from the core by python -m eddyfield.web.generate_types; not to be edited. */"]
    lines += [f"export const {name} = {json.dumps(table, indent=2)} as const;" for name, table in tables.items()]
    words = ["npx", "--no-install", "prettier", "--stdin-filepath", str(TABLES)]
    done = subprocess.run(words, cwd=WEB, input="\n".join(lines), text=True, capture_output=True, check=False)
    if done.returncode:
        raise SystemExit(f"The tables could not be written: {done.stderr}")
    return done.stdout


def main() -> int:
    sources = {TARGET: generated(), TABLES: generated_tables()}
    if "--check" in sys.argv:
        stale = [file for file, source in sources.items() if not file.exists() or file.read_text() != source]
        for file in stale:
            name = file.relative_to(WEB.parent)
            print(f"{name} is not current: run  python -m eddyfield.web.generate_types", file=sys.stderr)
        return 1 if stale else 0
    TARGET.parent.mkdir(parents=True, exist_ok=True)
    for file, source in sources.items():
        file.write_text(source)
    return 0


if __name__ == "__main__":
    sys.exit(main())
