"""The drawings of the Card: what is dragged in them shows in the Picture, by pointer and by keys."""

from __future__ import annotations

import re

import numpy as np
import pytest
from numpy.typing import NDArray
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from .card import at_rest, choose, drag, number, question
from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser


def grip(app: App, name: str) -> WebElement:
    return at_rest(app, app.find(f"[data-testid='{name}']"))


def size_px(app: App) -> float:
    found = re.search(r"([\d.]+) px", app.text(".frame-drawing .drawn-size text"))
    assert found
    return float(found[1])


# --- the framing ---


def test_a_face_is_held_at_the_left_third_at_the_size_it_has(app: App) -> None:
    start = app.revision
    app.keys("6")
    app.go_to(1030)
    question(app, "How is the framing held?")
    choose(app, "Hold", "Oda head")
    app.saved(start + 1)
    app.choose_joint("head")
    app.stage("set up")
    before, caption = app.picture(), app.caption
    app.find("[aria-label='How the size is held']").find_element(By.XPATH, ".//label[.='by zoom']").click()
    app.saved(start + 2)
    assert differs(app.picture(), before) < 0.01, "the size is held that it has"
    assert "85 mm" in caption
    assert "85 mm" in app.caption
    x, y = app.joint_place()
    width = app.find(".frame-drawing .drawn-frame").rect["width"]
    drag(app, grip(app, "framing mark"), -round(width / 6), 0)
    app.saved(start + 3)
    assert app.joint_place() == pytest.approx((x - 320, y), abs=12)
    framed = app.picture()
    assert differs(framed, before) > 0.1
    grip(app, "framing mark").send_keys(Keys.ARROW_RIGHT)
    app.saved(start + 4)
    assert app.joint_place()[0] > x - 320 - 12 + 4, "a step to the right, by a key"


def test_the_size_is_dragged_in_the_drawing(app: App) -> None:
    start = app.revision
    app.keys("3")
    question(app, "How is the framing held?")
    app.find("[aria-label='How the size is held']").find_element(By.XPATH, ".//label[.='by zoom']").click()
    app.saved(start + 1)
    before, was = app.picture(), size_px(app)
    grip(app, "size upper").send_keys(Keys.SHIFT, Keys.ARROW_DOWN)
    app.saved(start + 2)
    app.wait(lambda: size_px(app) < was - 60, "a smaller size")
    assert differs(app.picture(), before) > 0.05


def test_a_room_has_any_shape_and_its_corners_go(app: App) -> None:
    start = app.revision
    app.keys("6")
    question(app, "How is the framing held?")
    choose(app, "Hold", "Oda head")
    app.saved(start + 1)
    app.button("Let it wander").click()
    app.saved(start + 2)
    before = app.find("[data-testid=held-place] polygon").get_attribute("points")
    drag(app, grip(app, "slack corner 0"), 25, 18)
    app.saved(start + 3)
    assert app.find("[data-testid=held-place] polygon").get_attribute("points") != before
    grip(app, "slack corner 4").send_keys(Keys.DELETE)
    app.saved(start + 4)
    assert len(app.all(".frame-drawing .drawn-corner")) == 7


def test_how_calmly_it_follows_is_told_in_frames_and_shown(app: App) -> None:
    start = app.revision
    app.keys("3")
    app.go_to(1060)
    before = app.picture()
    question(app, "How is the framing held?")
    assert "at once" in app.text(".camera-card")
    thumb = at_rest(app, app.find("[aria-label='Settles within, frames']"))
    thumb.send_keys(Keys.END)
    app.saved(start + 1)
    app.wait(lambda: "settles within 72 frames" in app.text(".camera-card"), "the frames")
    told = re.search(r"Away from it by up to (\d+) px", app.text(".camera-card"))
    assert told, app.text(".camera-card")
    assert int(told[1]) > 20
    assert differs(app.picture(), before) > 0.02


# --- carried, rail and crane ---


def test_half_of_the_bob_comes_along(app: App) -> None:
    start = app.revision
    app.keys("2")
    question(app, "How is it carried?")
    along = app.find("[aria-label='What comes along']")
    found = re.search(r"rise and fall\s*([\d.]+) cm · (\d+) px", along.text)
    assert found, along.text
    assert 3 < float(found[1]) < 8, "she bobs by a few centimetres as she steps"

    def heights() -> NDArray[np.float64]:
        out = []
        for frame in (1012, 1018, 1024):
            app.go_to(frame)
            out.append(number(app, "y"))
        app.go_to(1001)
        return np.array(out)

    question(app, "Where does it stand?")
    whole = heights()
    thumb = at_rest(app, app.find("[aria-label='Share of the rise and fall that comes along']"))
    thumb.send_keys(Keys.HOME)
    app.saved(start + 1)
    none = heights()
    assert np.abs(whole - none).max() > 0.02
    thumb.send_keys(Keys.ARROW_RIGHT)
    app.saved(start + 2)
    assert thumb.get_attribute("aria-valuenow") == "1"
    track = at_rest(app, thumb.find_element(By.XPATH, "./ancestor::*[contains(@class, 'Slider-root')]"))
    app.hand().move_to_element(track).click().perform()
    app.saved(start + 3)
    assert thumb.get_attribute("aria-valuenow") == "50", "by a click in the middle"
    assert heights() == pytest.approx((whole + none) / 2, abs=0.002)


def test_the_camera_is_dragged_along_its_rail_and_keyed(app: App) -> None:
    start = app.revision
    app.keys("1", "l")
    app.saved(start + 1)
    app.go_to(1050)
    question(app, "How is it carried?")
    before = app.picture()
    drag(app, grip(app, "rail carriage"), 0, 30)
    app.saved(start + 2)
    moved = app.picture()
    assert differs(moved, before) > 0.1
    assert "was moved and is not keyed" in app.text(".key-on-frame")
    app.button("key the run here").click()
    app.saved(start + 3)
    app.wait(lambda: "1050" in app.text(".rail-run"), "the key on the drawn run")
    assert differs(app.picture(), moved) < 0.002
    grip(app, "rail carriage").send_keys(Keys.ARROW_UP)
    app.saved(start + 4)
    assert differs(app.picture(), moved) > 0.005


def test_a_crane_is_raised_swung_and_let_lean_in_its_drawings(app: App) -> None:
    start = app.revision
    app.keys("5")
    question(app, "How is it carried?")
    before = app.picture()
    drag(app, grip(app, "crane head"), 0, -20)
    app.saved(start + 1)
    up = app.picture()
    assert differs(up, before) > 0.1
    drag(app, grip(app, "crane swing"), 12, -8)
    app.saved(start + 2)
    assert differs(app.picture(), up) > 0.03
    swung = app.picture()
    level = app.find("[role=switch][aria-label='The head stays level']")
    assert level.get_attribute("aria-checked") == "true"
    level.click()
    app.saved(start + 3)
    assert differs(app.picture(), swung) < 0.01, "another head keeps the picture"
    assert level.get_attribute("aria-checked") == "false"


def test_a_drag_that_the_system_cancels_changes_nothing(app: App) -> None:
    start = app.revision
    app.keys("5")
    question(app, "How is it carried?")
    before, head = app.picture(), grip(app, "crane head")
    ActionChains(app.driver, duration=60).move_to_element(head).click_and_hold().move_by_offset(0, -25).perform()
    app.wait(lambda: differs(app.picture(), before) > 0.1, "the crane in the hand")
    app.script("arguments[0].dispatchEvent(new PointerEvent('pointercancel', {bubbles: true}))", head)
    app.wait(lambda: differs(app.picture(), before) < 0.002, "the picture as it was")
    app.hand().release().perform()
    assert app.revision == start


def test_trying_another_mount_loses_nothing(app: App) -> None:
    start = app.revision
    app.keys("1")
    app.go_to(1060)
    app.keys("l")
    app.saved(start + 1)
    question(app, "How is it carried?")
    app.find(".camera-card").find_element(By.XPATH, ".//button[.='Ease at both ends']").click()
    app.saved(start + 2)
    before, speed = app.picture(), app.text(".speed-strip")
    choose(app, "Mount", "crane")
    app.saved(start + 3)
    assert differs(app.picture(), before) < 0.002, "another mount keeps the picture"
    grip(app, "crane head").send_keys(Keys.SHIFT, Keys.ARROW_UP)
    app.saved(start + 4)
    raised = app.picture()
    assert differs(raised, before) > 0.02
    choose(app, "Mount", "rail, as it was left")
    app.saved(start + 5)
    assert differs(app.picture(), before) < 0.002
    assert app.text(".speed-strip") == speed
    choose(app, "Mount", "crane, as it was left")
    app.saved(start + 6)
    assert differs(app.picture(), raised) < 0.002
    choose(app, "Mount", "rail, as it was left")
    app.saved(start + 7)
    app.find(".camera-card").find_element(By.XPATH, ".//button[.='With Oda']").click()
    app.saved(start + 8)
    assert app.text(".speed-strip") != speed


def test_a_rail_is_drawn_by_hand_on_the_plan(app: App) -> None:
    start = app.revision
    app.keys("6", "n")
    app.saved(start + 1)
    app.wait(lambda: "Dolly zoom" not in app.caption, "the new camera")
    before = app.picture()
    question(app, "How is it carried?")
    app.button("Draw a rail on the Plan").click()
    plan = app.find(".plan.large [data-testid=rail-stroke] rect")
    chain = ActionChains(app.driver, duration=40).move_to_element_with_offset(plan, -90, 20).click_and_hold()
    for step in range(12):
        chain.move_by_offset(12, (-3, 2)[step % 2])
    chain.release().perform()
    app.saved(start + 2)
    assert " rail" in app.caption
    assert not app.all("[data-testid=rail-stroke]"), "drawn, it is done with"
    assert 4 <= len(app.all(".plan-drawing [data-testid^='handle rail']")) <= 12
    assert differs(app.picture(), before) > 0.01, "the camera stands on it"
    app.find(".camera-card").find_element(By.XPATH, ".//button[.='Ease at both ends']").click()
    app.saved(start + 3)
    assert "m/s" in app.text(".speed-strip")
