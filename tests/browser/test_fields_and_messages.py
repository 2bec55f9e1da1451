"""Numbers as they are typed, messages, and where a scene opens."""

from __future__ import annotations

import uuid

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from .card import number, question, type_number
from .conftest import App

pytestmark = pytest.mark.browser


def test_typing_is_not_disturbed_by_what_comes_meanwhile(app: App) -> None:
    start = app.revision
    app.keys("6")
    field = app.field("y")
    field.click()
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("1.2")
    body = {
        "revision": start,
        "request_id": str(uuid.uuid4()),
        "edit": {"edit": "rename scene", "name": "Elsewhere"},
        "view": {},
    }
    app.script(
        "fetch(location.pathname.replace('/scenes', '/api/scenes') + '/edits',"
        " { method: 'POST', body: JSON.stringify(arguments[0]) })",
        body,
    )
    app.wait(lambda: "Elsewhere" in app.text(".header"), "what came meanwhile")
    assert field.get_attribute("value") == "1.2"
    app.driver.switch_to.active_element.send_keys("5", Keys.ENTER)
    app.saved(start + 2)
    assert number(app, "y") == 1.25


def test_a_number_is_slid_by_its_label(app: App) -> None:
    start = app.revision
    app.keys("6")
    before = number(app, "y")
    label = app.driver.find_element(By.XPATH, "//label[normalize-space(.)='y']")
    app.hand().move_to_element_with_offset(label, 0, 0).click_and_hold().move_by_offset(20, 0).release().perform()
    app.saved(start + 1)
    assert number(app, "y") == pytest.approx(before + 0.5)


@pytest.mark.parametrize("back", ["36", "12"])
def test_what_is_slid_goes_with_the_hand_whatever_the_back_is(app: App, back: str) -> None:
    start = app.revision + 1
    app.keys("6", "n")
    app.saved(start)
    app.wait(lambda: "Dolly zoom" not in app.caption, "the new camera")
    app.choose_joint("hips")
    app.stage("set up")
    question(app, "What does the lens do?")
    if back != "36":
        type_number(app, "back wide", back)
        app.saved(start + 1)
    revision, before = app.revision, app.joint_place()
    app.drag(60, 0, Keys.SHIFT)
    app.saved(revision + 1)
    frame = app.find("[data-testid=safe-lines] rect").rect["width"] / 0.93
    assert app.joint_place()[0] - before[0] == pytest.approx(60 * 1920 / frame, rel=0.03)


def test_messages_never_lie_over_the_picture(app: App) -> None:
    app.keys("q")
    notice = app.find(".notice").rect
    picture = app.by_id("picture").rect
    assert notice["y"] + notice["height"] <= picture["y"]


def test_the_sheet_is_paged_without_moving_a_camera(app: App) -> None:
    start = app.revision
    app.keys("6")
    rows = app.by_id("sheet-rows")
    rows.send_keys(Keys.PAGE_DOWN)
    app.wait(lambda: app.script("return arguments[0].scrollTop", rows) > 100, "further down the Sheet")
    assert app.revision == start
