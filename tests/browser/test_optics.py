"""Sharpness, lenses, delivery frames, measuring, and moves that the optics ask for, in the browser."""

from __future__ import annotations

import subprocess
from threading import Timer

import numpy as np
import pytest
from selenium.webdriver.common.keys import Keys

from eddyfield.demo import mill_race

from .card import choose, question
from .conftest import App
from .pixels import differs, surround

pytestmark = pytest.mark.browser


def bench(app: App) -> list[str]:
    return [e.text for e in app.all("[data-testid=bench-camera] .name")]


# --- the Bench ---


ALL_DRAWN = """
return [...document.querySelectorAll('[data-testid=bench-camera] canvas')].every((canvas) => {
  const data = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height).data;
  return data.some((v, i) => i % 4 < 3 && Math.abs(v - data[i % 4]) > 20);
});
"""


def test_sharpness_is_shown_and_measured(app: App) -> None:
    app.keys("4")
    app.go_to(1056)
    plain = app.picture()
    app.keys("e")
    tinted = app.picture()
    app.keys("e")
    blurred = app.picture()
    assert differs(tinted, plain) > 0.05
    assert differs(blurred, plain) > 0.02
    assert differs(blurred, tinted) > 0.05
    app.keys("e")
    assert differs(app.picture(), plain) < 0.002
    question(app, "What is sharp?")
    for words in ("sharp from", "hyperfocal", "blur of Oda", "blur of Quill"):
        app.wait(lambda w=words: w in app.text(".card"), words)  # type: ignore[misc]


def test_an_upright_delivery_frame_shows_what_is_gained_and_lost(app: App) -> None:
    start = app.revision
    question(app, "What does the lens do?")
    choose(app, "Delivery frame", "Upright, 9 : 16, 1080 × 1920")
    app.saved(start + 1)
    assert "1080 × 1920" in app.caption
    picture = app.picture()
    inside = ~surround(picture)
    assert inside.sum(axis=1).max() < 0.6 * inside.sum(axis=0).max() + 4
    canvas = app.find("[data-testid=bench-camera] canvas")
    assert canvas.size["width"] < canvas.size["height"], "on the Bench as well"
    said = app.text("[data-testid=gains]")
    assert "7 full frame" in said
    assert "loses 62 %" in said, "across: 13.5 mm of the back are used instead of 36"
    assert "gains 19 %" in said, "24 mm up and down instead of 20.25"


def test_the_picture_comes_back_when_the_graphics_were_lost(app: App) -> None:
    before = app.picture()
    app.script(
        "const gl = document.querySelector('[data-testid=picture] canvas').getContext('webgl2');"
        "window.losing = gl.getExtension('WEBGL_lose_context'); window.losing.loseContext();"
    )
    app.wait(lambda: not np.array_equal(app.picture(), before), "the Picture to be gone")
    app.script("window.losing.restoreContext()")
    app.wait(lambda: np.array_equal(app.picture(), before), "the Picture to be back")
    app.keys(Keys.ARROW_DOWN)
    canvas = app.find("[data-testid=bench-camera] canvas")
    app.wait(lambda: str(canvas.get_attribute("data-drawn")).startswith("1002 "), "the Bench as well")


def test_a_graphics_process_that_dies_while_a_program_is_linked_is_survived(app: App) -> None:
    app.keys("4")
    before = app.picture()
    app.script(
        "const gl = document.querySelector('[data-testid=picture] canvas').getContext('webgl2');"
        "const link = gl.linkProgram.bind(gl);"
        "gl.linkProgram = (program) => { gl.linkProgram = link;"
        " const until = performance.now() + 1500; while (performance.now() < until); link(program); };"
    )
    # Of this browser alone: others may be running.
    of_this = f"type=gpu-process.*{app.driver.capabilities['chrome']['userDataDir']}"
    killing = Timer(0.7, lambda: subprocess.run(["pkill", "-KILL", "-f", of_this], check=True))
    killing.start()
    app.keys("e")
    killing.join()
    told: list[str] = []
    app.wait(lambda: told.append(app.logs()) or "Context Restored" in "".join(told), "new graphics")
    assert "shader" not in "".join(told).lower(), "nobody is told of a program that has no fault"
    assert differs(app.picture(), before) > 0.05, "tinted by sharpness"
    app.keys("e", "e")
    assert differs(app.picture(), before) < 0.002


# Copies of the first camera of the demo, made beside the window; answers what went wrong.
COPIES = """
const [scene, count, done] = arguments;
(async () => {
  const listed = await (await fetch('/api/scenes')).json();
  let revision = listed.scenes.find((s) => s.id === scene).revision;
  for (let number = 0; number < count; number++) {
    const edit = { edit: 'copy camera', camera_id: CAMERA, new_id: crypto.randomUUID() };
    const answer = await fetch(`/api/scenes/${scene}/edits`, {
      method: 'POST', headers: {'Content-Type': 'application/json'},
      body: JSON.stringify({ revision, request_id: crypto.randomUUID(), edit, view: { judged: false } }) });
    if (!answer.ok) return done(await answer.text());
    revision += 1;
  }
  done(null);
})();
""".replace("CAMERA", f"'{mill_race.TWO}'")


def test_a_long_bench_draws_only_what_is_in_sight(app: App) -> None:
    answered = app.driver.execute_async_script(COPIES, app.driver.current_url.split("/")[-1], 30)
    assert answered is None, answered
    app.driver.refresh()
    total = 11 + 30
    assert len(app.all("[data-testid=bench-camera]")) < 16
    row = app.by_id("bench-row")
    app.script("arguments[0].scrollLeft = arguments[0].scrollWidth", row)
    app.wait(
        lambda: any(e.text.startswith(f"{total}\n") for e in app.all("[data-testid=bench-camera]")), "the last one"
    )
    app.wait(lambda: app.script(ALL_DRAWN), "every picture in sight")
    assert len(app.all("[data-testid=bench-camera]")) < 16
