"""Numbers as they are typed, messages, and where a scene opens."""

from __future__ import annotations

import uuid

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from .card import number
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
