"""The report of ``check``: one page that needs nothing beside itself."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape
from typing import Protocol

from .reading_objects import amount_of


class Scene(Protocol):
    """What the page tells of a scene."""

    @property
    def name(self) -> str: ...
    @property
    def frames(self) -> tuple[int, int]: ...
    @property
    def readings(self) -> tuple[dict[str, object], ...]: ...
    @property
    def may_stand(self) -> int: ...
    @property
    def pictures(self) -> dict[int, str]: ...


STYLE = """
body { margin: 2rem auto; max-width: 72rem; padding: 0 1rem; background: #f6f3ec; color: #2e2f33;
  font: 15px/1.45 system-ui, sans-serif }
h1 { font-size: 1.5rem } h2 { margin: 2.2rem 0 .6rem; font-size: 1.2rem; border-bottom: 2px solid #2e2f33 }
h2 small { font-weight: 400; color: #5d5b55 }
ul { display: grid; grid-template-columns: repeat(auto-fill, minmax(21rem, 1fr)); gap: 1rem; padding: 0; list-style: none }
li { background: #fffdf8; border: 1px solid #d9d3c5; border-radius: 6px; padding: .7rem .8rem }
li img { width: 100%; border-radius: 3px; margin-bottom: .4rem } li b { float: right; color: #8a4b00; font-family: monospace }
.soft { color: #5d5b55 }
"""


def as_page(checked: Sequence[Scene]) -> str:
    """HTML with all scenes, what is told of each, and its pictures."""
    count = sum(len(scene.readings) for scene in checked)
    head = f"{len(checked)} scenes, {count} readings" if len(checked) != 1 else f"One scene, {count} readings"
    return (
        f'<!doctype html>\n<html lang="en"><meta charset="utf-8"><title>Readings</title><style>{STYLE}</style>\n'
        f"<h1>{head}</h1>\n{''.join(map(_scene, checked))}</html>\n"
    )


def _scene(scene: Scene) -> str:
    stands = f", {scene.may_stand} may stand" if scene.may_stand else ""
    head = f"<h2>{escape(scene.name)} <small>{scene.frames[0]}–{scene.frames[1]}{stands}</small></h2>\n"
    if not scene.readings:
        return f'{head}<p class="soft">Nothing is out of bounds.</p>\n'
    rows = (_reading(reading, scene.pictures.get(place)) for place, reading in enumerate(scene.readings))
    return f"{head}<ul>\n{''.join(rows)}</ul>\n"


def _reading(reading: dict[str, object], picture: str | None) -> str:
    title, owner = escape(str(reading["title"])), escape(str(reading["owner"]))
    of = f"{owner} {escape(str(reading['joint']))}" if reading["joint"] else owner
    first, last, frame = reading["first"], reading["last"], reading["frame"]
    when = f"{first}" if first == last else f"{first}–{last}, worst on {frame}"
    shown = f'<img src="data:image/png;base64,{picture}" alt="Frame {frame}">' if picture else ""
    note = f'<br><span class="soft">{escape(str(reading["note"]))}</span>' if reading["note"] else ""
    return (
        f'<li>{shown}<b>{escape(amount_of(reading))}</b>{title}<br><span class="soft">{of} · {when}</span>{note}</li>\n'
    )
