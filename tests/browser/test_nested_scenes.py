"""A scene plays inside another, in the real interface: it comes in, is put somewhere, and is worked on where it is."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.keys import Keys

from eddyfield.demo import mill_race

from .card import drag, handle, number
from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser
ANOTHER = 0.002
"""Of the pixels: so many differ where something has come, gone or been moved."""


def test_a_scene_comes_in_is_moved_opened_in_place_and_taken_out(app: App) -> None:
    before, start = app.picture(), app.revision
    app.find("[aria-label='Bring in']").click()
    app.wait(lambda: next((e for e in app.all(".mantine-Menu-item") if e.text == "Landing"), None), "Landing").click()
    app.saved(start + 1)
    assert "Oda 2" in app.by_id("came").text
    app.keys("r")  # roam, where its mark can be taken hold of
    app.wait(lambda: "ROAM" in app.caption, "roaming")
    drag(app, handle(app, "thing"), 60, 20)
    app.saved(start + 2)
    app.wait(lambda: abs(number(app, "x")) > 0.3, "its new place")
    app.keys("r")
    app.wait(lambda: differs(app.picture(), before) > ANOTHER, "what came with it")

    # Dragged along the frames of the Sheet, it begins later.
    next(b for b in app.all(".zoom .toggle") if b.text == "layers").click()
    rows = app.by_id("sheet-rows")
    column = app.wait(
        lambda: next((e for e in app.all(".head.of-group") if "Landing" in e.get_attribute("title")), None), "it"
    )
    middle = column.rect["x"] + column.rect["width"] / 2 - rows.rect["x"] - rows.rect["width"] / 2
    hand = app.hand().move_to_element_with_offset(rows, int(middle), 6 - int(rows.rect["height"] / 2))
    hand.click_and_hold().move_by_offset(0, 60).move_by_offset(0, 70).release().perform()
    app.saved(start + 3)
    assert number(app, "begins on") == 1011

    # Inside of it, it is changed with what surrounds it in sight, and the way back is one step.
    app.button("Open in place").click()
    app.wait(lambda: app.title == "Landing", "the other scene")
    assert "Crossing" in app.text(".crumbs")
    inside = app.picture()
    app.wait(lambda: app.all(".content.of-character"), "its own characters")
    app.all(".content.of-character")[0].click()
    name = app.find("[aria-label='Name']")
    name.send_keys(Keys.CONTROL, "a")
    name.send_keys("Ferry keeper", Keys.ENTER)
    app.wait(lambda: any(e.text == "Ferry keeper" for e in app.all(".content")), "its name")
    app.saved(2)
    app.find(".crumbs button:nth-of-type(2)").click()
    app.wait(lambda: app.title == "Crossing", "back again")
    app.wait(lambda: app.all(".content.of-block"), "the block")
    app.all(".content.of-block")[0].click()
    app.wait(lambda: "Ferry keeper" in app.by_id("came").text, "its new name here")
    app.find("[aria-label='Take out']").click()
    app.wait(lambda: not app.all(".content.of-block"), "out")
    app.go_to(app.first)
    app.wait(lambda: differs(app.picture(), before) < 1e-4, "as it was")
    # Alone, the other scene has nothing around it.
    app.driver.get(f"{app.base}/scenes/{mill_race.demo_id('landing')}")
    app.wait(lambda: app.title == "Landing", "alone")
    app.wait(lambda: differs(app.picture(), inside) > ANOTHER, "without what surrounded it")
