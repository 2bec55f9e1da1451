"""Sharpness, lenses, delivery frames, measuring, and moves that the optics ask for, in the browser."""

from __future__ import annotations

import re
import subprocess
from threading import Timer

import numpy as np
import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from eddyfield.demo import mill_race

from .card import choose, question, type_number
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


def test_focal_length_field_of_view_and_planes(app: App) -> None:
    start = app.revision
    app.keys("6")
    question(app, "What does the lens do?")
    app.find("[aria-label='Focal lengths']").find_element(By.XPATH, ".//button[.='85']").click()
    app.saved(start + 1)
    assert "85 mm" in app.caption
    across = app.field("view across").get_attribute("value")
    assert float(str(across).rstrip("°")) == pytest.approx(np.degrees(2 * np.arctan(18 / 85)), abs=0.01)
    type_number(app, "view across", "60")
    app.saved(start + 2)
    assert "31 mm" in app.caption
    before = app.picture()
    type_number(app, "far plane (0: none)", "4")
    app.saved(start + 3)
    assert differs(app.picture(), before) > 0.05, "what is far is cut off"
    app.wait(lambda: "far plane cuts off" in app.text("[aria-label=Readings]"), "what the far plane does, judged")


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


def test_two_places_are_measured(app: App) -> None:
    app.keys("d")
    picture = app.by_id("picture")
    for dx in (-60, 120):
        app.hand().move_to_element_with_offset(picture, dx, 60).click().perform()
    app.wait(lambda: " m · level" in app.text("[data-testid=measure]"), "the distance")
    app.keys(Keys.ESCAPE)
    assert not app.all("[data-testid=measure]")


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


# --- tools that solve, and readings with a fix ---


def roam_to(app: App, placement: str, further: int = 0) -> None:
    app.keys("r")
    app.hold(Keys.ALT, placement)
    if further:
        app.wheel(further)
    app.picture()


def key_here(app: App, frame: int) -> None:
    """Put the camera that is worked on where Roam looks from, and key it."""
    start = app.revision
    app.go_to(frame)
    app.keys("p")
    app.saved(start + 1)
    app.keys("k")
    app.saved(start + 2)


def test_a_straight_chord_becomes_an_orbit(app: App) -> None:
    start = app.revision
    roam_to(app, "2")
    app.keys("n")
    app.saved(start + 1)
    app.wait(lambda: app.caption.startswith("CAMERA"), "the new camera")
    app.keys("k")
    app.saved(start + 2)
    roam_to(app, "3")
    key_here(app, 1030)
    app.wait(lambda: "straight chord" in app.text("[aria-label=Readings]"), "the reading")
    app.go_to(1001)
    first = app.picture()
    app.find("[aria-label=Readings]").find_element(By.XPATH, ".//li[contains(., 'straight chord')]//button[2]").click()
    app.saved(start + 5)
    app.wait(lambda: "straight chord" not in app.text("[aria-label=Readings]"), "no chord any more")
    assert "orbit" in app.caption
    assert differs(app.picture(), first) < 0.01, "the end pictures stay"


def test_an_aim_that_bobs_is_given_a_calmer_joint(app: App) -> None:
    start = app.revision
    app.keys("6")
    question(app, "What does it look at?")
    choose(app, "Subject 1", "Oda foot_l")
    app.saved(start + 1)
    app.wait(lambda: "aim bobs" in app.text("[aria-label=Readings]"), "the reading")
    app.find("[aria-label=Readings]").find_element(By.XPATH, ".//li[contains(., 'aim bobs')]//button[2]").click()
    app.saved(start + 2)
    app.wait(lambda: "aim bobs" not in app.text("[aria-label=Readings]"), "no bobbing any more")


def test_a_dolly_zoom_holds_the_size(app: App) -> None:
    start = app.revision
    roam_to(app, "1", 500)
    app.keys("n")
    app.saved(start + 1)
    app.wait(lambda: app.caption.startswith("CAMERA"), "the new camera")
    app.keys("k")
    app.saved(start + 2)
    roam_to(app, "1")
    key_here(app, 1040)
    question(app, "Dolly zoom")
    app.go_to(1001)
    size = apparent_size(app)
    type_number(app, "to frame", "1040")
    app.button("Solve the zoom").click()
    app.saved(start + 5)
    for frame in (1020, 1040):
        app.go_to(frame)
        assert apparent_size(app) == pytest.approx(size, abs=1), f"the same size at {frame}"
    app.go_to(1001)
    wide = app.caption
    app.go_to(1040)
    assert app.caption != wide, "while the focal length changes"


def apparent_size(app: App) -> int:
    """Of the subject, px, as the curve of the Card tells it at this frame."""
    heading = app.by_id("size-curve").find_element(By.XPATH, "./preceding-sibling::h4[1]")
    told = re.search(r"(\d+) px", heading.text)
    assert told, heading.text
    return int(told[1])
