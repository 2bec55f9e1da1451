"""Cameras in the real interface: made, carried, aimed, held and compared; real handles are dragged and pictures compared."""

from __future__ import annotations

import numpy as np
import pytest
from selenium.webdriver.common.keys import Keys

from .card import at_rest, drag, question
from .conftest import App, decoded
from .pixels import differs, surround

pytestmark = pytest.mark.browser


def bench(app: App) -> list[str]:
    return [e.text for e in app.all("[data-testid=bench-camera] .name")]


# --- the Bench ---


def test_the_bench_leads_through_cameras_and_is_ordered(app: App) -> None:
    assert bench(app)[:3] == ["Bank rail 35", "Face Oda 85", "Two-shot Oda Quill 50"]
    seen = [app.picture()]
    for key, name in (("2", "Face Oda 85"), ("5", "Crane up 28"), ("3", "Two-shot Oda Quill 50")):
        app.keys(key)
        assert app.caption.split("\n")[0] == f"CAMERA · {name}"
        seen.append(app.picture())
    assert all(differs(a, b) > 0.1 for i, a in enumerate(seen) for b in seen[:i])
    app.all("[data-testid=bench-camera]")[3].click()
    assert app.caption.startswith("CAMERA · Over Quill's shoulder")
    app.keys("0")
    assert app.caption.startswith("CUT · Bank rail 35")
    assert np.array_equal(app.picture(), seen[0])
    start = app.revision
    first, third = app.all("[data-testid=bench-camera]")[0], app.all("[data-testid=bench-camera]")[2]
    app.hand().click_and_hold(first).move_to_element(third).move_by_offset(50, 0).release().perform()
    app.saved(start + 1)
    assert bench(app)[:3] == ["Face Oda 85", "Two-shot Oda Quill 50", "Bank rail 35"]
    moved = app.all("[data-testid=bench-camera]")[2]
    app.script("arguments[0].focus()", moved)
    app.driver.switch_to.active_element.send_keys(Keys.ALT, Keys.ARROW_LEFT)
    app.saved(start + 2)
    assert bench(app)[1] == "Bank rail 35"


def test_bench_pictures_play_along(app: App) -> None:
    app.by_id("bench-row")
    before = app.find("[data-testid=bench-camera] canvas")
    app.wait(lambda: app.script(ALL_DRAWN), "every picture in sight")
    first = before.screenshot_as_png
    app.go_to(1060)
    app.wait(lambda: before.screenshot_as_png != first, "the same camera on another frame")


def test_a_bench_picture_has_the_colours_of_the_picture(app: App) -> None:
    app.keys("g")
    app.wait(lambda: app.script(ALL_DRAWN), "every picture in sight")
    picture = app.picture()
    inside = picture[~surround(picture)].astype(float).mean(axis=0)[::-1]
    data = app.script(
        "const c = document.querySelector('[data-testid=bench-camera] canvas');"
        "return [...c.getContext('2d').getImageData(0, 0, c.width, c.height).data]"
    )
    small = np.array(data, dtype=float).reshape(-1, 4)[:, :3].mean(axis=0)
    assert np.abs(small - inside).max() < 6, (small, inside)


ALL_DRAWN = """
return [...document.querySelectorAll('[data-testid=bench-camera] canvas')].every((canvas) => {
  const data = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height).data;
  return data.some((v, i) => i % 4 < 3 && Math.abs(v - data[i % 4]) > 20);
});
"""


def test_companions_change_places_with_the_picture(app: App) -> None:
    app.keys("v")
    app.wait(lambda: len(app.all("[data-testid=companion]")) >= 2, "companion views")
    large = app.picture()
    app.button("Face Oda 85 into the large place").click()
    assert app.caption.startswith("CAMERA · Face Oda 85")
    assert differs(app.picture(), large) > 0.2
    app.button("Bank rail 35 into the large place").click()
    app.wait(lambda: "Bank rail 35" in app.caption, "the shot camera back in the large place")
    app.button("Plan into the large place").click()
    app.wait(lambda: app.find("[aria-label='Picture, small']"), "the Picture beside the Plan")
    app.keys(Keys.ESCAPE)
    app.by_id("picture")


# --- mounts ---


# --- aim and framing ---

RESTS_S = 0.4
"""A hand that means a mark."""


def test_the_place_that_is_held_is_dragged_in_the_picture(app: App) -> None:
    start = app.revision
    app.keys("3")
    app.go_to(1040)
    before, mark = app.picture(), app.by_id("held-place")
    x = float(mark.get_attribute("data-x") or "nan")
    drag(app, app.find("[data-testid=held-place] .handle"), 70, 0, rests_s=RESTS_S)
    app.saved(start + 1)
    assert float(app.by_id("held-place").get_attribute("data-x") or "nan") == pytest.approx(x + 70, abs=2)
    assert differs(app.picture(), before) > 0.1
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 2)
    assert differs(app.picture(), before) < 0.002


# --- saved views and locks ---


def test_saved_views_are_flicked_compared_and_recalled(app: App) -> None:
    start = app.revision
    app.keys("6")
    first = app.picture()
    app.keys("V")
    app.saved(start + 1)
    app.drag(120, 20)
    app.saved(start + 2)
    app.keys("V")
    app.saved(start + 3)
    moved = app.picture()
    assert differs(moved, first) > 0.1
    app.keys("x", "x")
    shown = [app.picture()]
    app.keys("x")
    shown.append(app.picture())
    assert min(differs(shown[0], first), differs(shown[1], first)) < 0.01
    assert differs(shown[0], shown[1]) > 0.1
    app.keys(Keys.ESCAPE)
    app.button("compare two side by side").click()
    left, right = app.all("[data-testid=compare] canvas")
    app.wait(lambda: left.get_attribute("data-drawn") and right.get_attribute("data-drawn"), "both views")
    assert left.rect["x"] + left.rect["width"] <= right.rect["x"], "side by side"
    one, other = (decoded(canvas.screenshot_as_png) for canvas in (left, right))
    assert differs(one, other) > 0.1
    app.keys(Keys.ESCAPE)
    app.all(".saved-view .toggle")[0].click()
    app.saved(start + 4)
    app.script("document.activeElement.blur()")
    assert differs(app.picture(), first) < 0.002
    app.keys("l")
    app.saved(start + 5)
    app.all(".saved-view .toggle")[0].click()
    app.wait(lambda: "locked" in app.text(".notice"), "why it is not recalled")


def test_the_camera_is_dragged_along_its_rail_and_keyed(app: App) -> None:
    start = app.revision
    app.keys("1", "l")
    app.saved(start + 1)
    app.go_to(1050)
    question(app, "How is it carried?")
    before = app.picture()
    drag(app, at_rest(app, app.find("[data-testid='rail carriage']")), 0, 30)
    app.saved(start + 2)
    moved = app.picture()
    assert differs(moved, before) > 0.1
    assert "was moved and is not keyed" in app.text(".key-on-frame")
    app.button("key the run here").click()
    app.saved(start + 3)
    app.wait(lambda: "1050" in app.text(".rail-run"), "the key on the drawn run")
    assert differs(app.picture(), moved) < 0.002
    at_rest(app, app.find("[data-testid='rail carriage']")).send_keys(Keys.ARROW_UP)
    app.saved(start + 4)
    assert differs(app.picture(), moved) > 0.005
