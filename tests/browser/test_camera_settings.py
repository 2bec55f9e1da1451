"""Settings of cameras at work in the real interface: hands, mounts, rails, focus, lines, framing and planes."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from .card import number, question, shown, told, type_number
from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser


def place(app: App) -> list[float]:
    return [number(app, axis) for axis in "xyz"]


# --- hands ---


def test_the_picture_is_rolled_by_hand_and_levelled(app: App) -> None:
    start = app.revision
    app.keys("6")
    before, stood = app.picture(), place(app)
    app.drag(30, 60, Keys.ALT)
    app.saved(start + 1)
    assert 10 < abs(number(app, "roll")) < 30
    assert place(app) == stood
    assert differs(app.picture(), before) > 0.1
    app.hold(Keys.ALT, "0")
    app.saved(start + 2)
    assert number(app, "roll") == 0
    assert differs(app.picture(), before) < 0.002
    app.keys("<")
    app.saved(start + 3)
    assert abs(number(app, "roll")) == 1


# --- focus, lines, framing, planes ---


def test_the_joint_in_focus_is_picked_in_the_picture(app: App) -> None:
    start = app.revision
    app.keys("3")
    app.go_to(1041)
    app.choose_joint("hand_l")
    mark = app.by_id("chosen-joint").rect
    app.stage("set up")
    question(app, "What is sharp?")
    pick = shown(app, "button[aria-label='Click Subject 1 in the Picture']")
    app.script("arguments[0].scrollIntoView({block: 'center'})", pick)
    pick.click()
    app.wait(lambda: "Esc leaves it" in app.text(".notice"), "what is to be clicked")
    picture = app.by_id("picture").rect
    dx = mark["x"] + mark["width"] / 2 - picture["x"] - picture["width"] / 2
    dy = mark["y"] + mark["height"] / 2 - picture["y"] - picture["height"] / 2
    app.hand().move_to_element_with_offset(app.by_id("picture"), round(dx), round(dy)).click().perform()
    app.saved(start + 1)
    chosen = [str(e.get_attribute("value")) for e in app.all("input[aria-label='Subject 1']") if e.is_displayed()]
    assert chosen == ["Oda hand_l"]
    assert app.find("[id='stage-set up']").get_attribute("aria-selected") == "true", "the click was for the focus alone"


def bench_lines(app: App) -> dict[str, tuple[str | None, str]]:
    """By camera: the dashes and the tint of its line."""
    out = {}
    for camera in app.all("[data-testid=bench-camera]"):
        line = camera.find_element(By.CSS_SELECTOR, ".swatch path")
        name = camera.find_element(By.CSS_SELECTOR, ".name").text
        out[name] = line.get_attribute("stroke-dasharray"), line.value_of_css_property("stroke")
    return out


def test_a_camera_has_a_tint_and_a_line_of_its_own(app: App) -> None:
    start = app.revision
    app.keys("6")
    app.wait(lambda: "Dolly zoom Oda" in bench_lines(app), "its line on the Bench")
    before = bench_lines(app)["Dolly zoom Oda"]
    app.find("[aria-label='Its tint and line']").click()
    shown(app, "[aria-label='Tint 2, level']").click()
    app.saved(start + 1)
    app.wait(lambda: bench_lines(app)["Dolly zoom Oda"] != before, "the new line on the Bench")


def test_the_near_plane_cuts_a_wall_away(app: App) -> None:
    start = app.revision
    app.go_to(1080)
    app.keys("r")
    app.hold(Keys.ALT, "2")
    for _ in range(3):
        app.wheel(700)
    app.picture()
    app.keys("n")
    app.saved(start + 1)
    app.wait(lambda: app.caption.startswith("CAMERA"), "the new camera")
    walled = app.picture()
    app.wait(lambda: "body hidden\nOda" in told(app), "that the mill is in the way")
    away = place(app)[0]
    question(app, "What does the lens do?")
    type_number(app, "near plane", str(away - 1.5))
    app.saved(start + 2)
    assert differs(app.picture(), walled) > 0.1
    app.wait(lambda: "body hidden\nOda" not in told(app), "her in sight again")
    type_number(app, "near plane", "60")
    app.saved(start + 3)
    app.wait(lambda: "near plane cuts in" in told(app), "that it cuts into her")
