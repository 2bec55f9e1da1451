"""Settings of cameras at work in the real interface: hands, mounts, rails, focus, lines, framing and planes."""

from __future__ import annotations

import numpy as np
import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from eddyfield.core.cameras.free_zone import nearest_in_hull

from .card import at_rest, choose, number, numbers, question, shown, told, type_number
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


def test_a_camera_walks_at_eye_height_and_flies(app: App) -> None:
    start = app.revision
    app.keys("6")
    app.picture()
    x, _, z = place(app)
    turn = np.radians(number(app, "pan"))
    app.keys("w")
    app.wait(lambda: "Walking at 1.6 m" in app.text(".notice"), "how one walks")
    app.hold(Keys.CONTROL, Keys.ARROW_UP)
    app.saved(start + 1)
    assert place(app) == pytest.approx([x + 0.25 * np.sin(turn), 1.6, z - 0.25 * np.cos(turn)], abs=0.01)
    app.hold(Keys.CONTROL, Keys.ARROW_RIGHT)
    app.saved(start + 2)
    assert place(app)[1] == 1.6
    app.keys("w", Keys.PAGE_UP)
    app.saved(start + 3)
    assert place(app)[1] == pytest.approx(1.85)
    app.keys("]", Keys.PAGE_UP)
    app.saved(start + 4)
    assert place(app)[1] == pytest.approx(2.35), "twice as fast"


def test_undo_pressed_twice_at_once_undoes_twice(app: App) -> None:
    start = app.revision
    app.keys("6")
    before = app.picture()
    for number_of_edit in (1, 2):
        app.drag(40, 0)
        app.saved(start + number_of_edit)
    for _ in range(2):
        app.hold(Keys.CONTROL, "z")
    app.saved(start + 4)
    assert differs(app.picture(), before) < 0.002
    assert "moved, not keyed" not in app.caption


# --- mounts ---


def comes_along(app: App, movement: str) -> WebElement:
    """The slider of the share of a movement that comes along."""
    return at_rest(app, app.find(f"[aria-label='Share of the {movement} that comes along']"))


def test_a_carried_camera_holds_movements_back_and_trails(app: App) -> None:
    start = app.revision
    app.keys("2")
    app.go_to(1052)
    bobbing = place(app)[1], number(app, "roll")
    app.go_to(1040)
    before, stood = app.picture(), place(app)[1]
    question(app, "How is it carried?")
    for number_of_edit, movement in enumerate(("rise and fall", "nodding", "leaning"), 1):
        comes_along(app, movement).send_keys(Keys.HOME)
        app.saved(start + number_of_edit)
    assert differs(app.picture(), before) < 0.002, "what is held back stays as it is on this frame"
    level = number(app, "roll")
    app.go_to(1052)
    calm = app.picture()
    assert (place(app)[1], number(app, "roll")) == (stood, level) != bobbing
    app.go_to(1040)
    choose(app, "Mount", "trailing")
    app.saved(start + 4)
    shares = [e.get_attribute("aria-valuenow") for e in app.all("[aria-label='What comes along'] [role=slider]")]
    assert shares == ["100", "0", "100", "0", "0"], "what is held back, stays so"
    assert differs(app.picture(), before) < 0.002
    type_number(app, "half of the way caught up after", "0.6")
    app.saved(start + 5)
    app.go_to(1052)
    assert differs(app.picture(), calm) > 0.05, "it comes late"


def test_a_rail_has_bumps_and_runs_beside_the_path(app: App) -> None:
    start = app.revision
    app.keys("l")
    app.saved(start + 1)
    app.go_to(1050)
    before, height = app.picture(), place(app)[1]
    question(app, "How is it carried?")
    numbers(app)
    app.button("bump here").click()
    app.saved(start + 2)
    assert place(app)[1] == pytest.approx(height + 0.03, abs=0.002)
    type_number(app, "high", "120")
    app.saved(start + 3)
    assert place(app)[1] == pytest.approx(height + 0.12, abs=0.002)
    assert differs(app.picture(), before) > 0.1
    app.button("take this bump away").click()
    app.saved(start + 4)
    assert differs(app.picture(), before) < 0.002
    app.button("Through where it stands").click()
    app.saved(start + 5)
    assert differs(app.picture(), before) < 0.002, "a rail along her path, the picture kept"
    type_number(app, "to its left", "-2.5")
    app.button("Over there").click()
    app.saved(start + 6)
    x, _, z = place(app)
    assert x == pytest.approx(-2.5, abs=0.15)
    app.button("Even run").click()
    app.saved(start + 7)
    app.go_to(1090)
    assert place(app)[2] > z + 1, "along with her"
    app.button("Plan into the large place").click()
    assert len(app.all(".plan.large [data-testid^='handle rail']")) == 9


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


def test_the_framing_breathes_in_a_room_and_is_blended_in(app: App) -> None:
    start = app.revision
    app.keys("1", "l")
    app.saved(start + 1)
    app.go_to(1021)
    app.choose_joint("head")
    unheld = app.joint_place()
    app.stage("set up")
    question(app, "How is the framing held?")
    choose(app, "Hold", "Oda head")
    app.saved(start + 2)
    held = app.joint_place()
    assert held == pytest.approx(unheld, abs=3), "where it is seen"
    numbers(app)
    type_number(app, "across", "50")
    app.saved(start + 3)
    type_number(app, "down", "40")
    app.saved(start + 4)
    assert app.joint_place() == pytest.approx((960, 0.4 * 1080), abs=3)
    app.button("Let it wander").click()
    app.saved(start + 5)
    corners = np.array([(np.cos(t), np.sin(t)) for t in (np.arange(8) + 0.5) * np.pi / 4]) * 0.125 * [1920, 1080]
    nearest = nearest_in_hull(np.array([unheld]), corners + [960, 0.4 * 1080])[0]
    assert app.joint_place() == pytest.approx(nearest, abs=3), "at the edge of the room, the nearest to where she was"
    type_number(app, "weight", "0")
    app.saved(start + 6)
    assert app.joint_place() == pytest.approx(unheld, abs=2)
    shown(app, "[aria-label='Set a key on weight']").click()
    app.saved(start + 7)
    app.go_to(1040)
    type_number(app, "weight", "1")
    app.saved(start + 8)
    shown(app, "[aria-label='Set a key on weight']").click()
    app.saved(start + 9)
    app.go_to(1030)
    assert 0.2 < number(app, "weight") < 0.8
    app.go_to(1021)
    assert app.joint_place() == pytest.approx(unheld, abs=2), "nothing is held yet where its weight is 0"


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
