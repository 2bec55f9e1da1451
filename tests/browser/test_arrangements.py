"""The drawings of the Card: what is dragged in them shows in the Picture, by pointer and by keys."""

from __future__ import annotations

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from .card import at_rest, choose, drag, question
from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser


def grip(app: App, name: str) -> WebElement:
    return at_rest(app, app.find(f"[data-testid='{name}']"))


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


# --- carried, rail and crane ---


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
