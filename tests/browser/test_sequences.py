"""Sequences: strung and put in order on the Desk, played through without a stop, judged as a whole."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from eddyfield.demo.mill_race import demo_id

from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser

SEQUENCE = demo_id("sequence")


def opened(app: App) -> None:
    app.driver.get(f"{app.base}/sequences/{SEQUENCE}")
    app.by_id("sequence-strip")
    app.by_id("sheet-rows")
    app.wait(lambda: app.title == "Crossing, cut", "its first scene")


def blocks(app: App, number: int) -> list[str]:
    """Names of the scenes of a sequence on the Desk, in order."""
    row = app.all("[data-testid=sequence]")[number]
    return [block.text for block in row.find_elements(By.CSS_SELECTOR, ".blocks .about b")]


def test_scenes_are_strung_put_in_order_and_taken_out_on_the_desk(app: App) -> None:
    app.driver.get(app.base)
    app.wait(lambda: blocks(app, 0) == ["Crossing, cut", "Landing"], "that of the demo")
    count = len(app.all("[data-testid=sequence]"))
    app.button("New sequence").click()
    app.wait(lambda: len(app.all("[data-testid=sequence]")) == count + 1, "a sequence more")
    number = next(n for n, row in enumerate(app.all("[data-testid=sequence]")) if "empty" in row.text)
    for name in ("Landing", "Crossing", "Crossing, cut"):
        app.all("[data-testid=sequence]")[number].find_element(By.CSS_SELECTOR, "[aria-label^='Add a scene']").click()
        app.option(name).click()
        app.wait(lambda wanted=name: blocks(app, number)[-1:] == [wanted], f"{name} at its end")
    row = app.all("[data-testid=sequence]")[number]
    assert "3 scenes · 264 frames · 11.00 s" in row.text
    one, _, last = row.find_elements(By.CSS_SELECTOR, ".blocks > li")
    app.hand().click_and_hold(last).move_to_element_with_offset(one, -60, 0).release().perform()
    app.wait(lambda: blocks(app, number) == ["Crossing, cut", "Landing", "Crossing"], "dragged to the front")
    middle = app.all("[data-testid=sequence]")[number].find_elements(By.CSS_SELECTOR, ".blocks > li")[1]
    app.script("arguments[0].focus()", middle)
    app.hold(Keys.ALT, Keys.ARROW_RIGHT)
    app.wait(lambda: blocks(app, number) == ["Crossing, cut", "Crossing", "Landing"], "a place on, by a key")
    app.all("[data-testid=sequence]")[number].find_element(By.CSS_SELECTOR, "[aria-label^='Undo']").click()
    app.wait(lambda: blocks(app, number) == ["Crossing, cut", "Landing", "Crossing"], "undone")
    app.button("Take Landing out of the sequence")
    app.all("[data-testid=sequence]")[number].find_element(By.CSS_SELECTOR, "[aria-label^='Take Landing']").click()
    app.wait(lambda: blocks(app, number) == ["Crossing, cut", "Crossing"], "one less")
    code = app.all("[data-testid=sequence]")[number].find_element(By.CSS_SELECTOR, ".timecode input")
    code.send_keys(Keys.CONTROL, "a")
    code.send_keys("01:00:00:00", Keys.ENTER)
    app.wait(lambda: "01:00:04:00" in app.all("[data-testid=sequence]")[number].text, "a running time code")
    app.all("[data-testid=sequence]")[number].find_element(By.CSS_SELECTOR, "[aria-label^='More for']").click()
    app.find("[role=menuitem]").click()
    app.wait(lambda: len(app.all("[data-testid=sequence]")) == count, "gone")


def test_playing_goes_on_into_the_next_scene_and_the_time_code_runs_on(app: App) -> None:
    opened(app)
    app.go_to(1090)
    app.button("loop").click()
    app.script("document.activeElement.blur()")
    app.keys(" ")
    app.wait(lambda: app.title == "Landing", "the next scene")
    app.wait(lambda: app.frame == 2072 and app.all("[aria-label=Play]"), "to its end, and no further")
    app.first = 2001
    app.go_to(2013)
    assert app.text(".sequence-strip .mono") == "00:00:04:12", "96 frames and 12"
    assert app.all(".caption .mono")[1].text == "00:00:00:12", "the scene's own beside it"
    landing = app.picture()
    app.all(".sequence-strip .block")[0].click()
    app.wait(lambda: app.title == "Crossing, cut", "a click goes there")
    assert differs(app.picture(), landing) > 0.1
    app.hold(Keys.ALT, Keys.PAGE_DOWN)
    app.wait(lambda: app.title == "Landing", "and a key")
    app.button("by itself").click()
    app.wait(lambda: "/scenes/" in app.driver.current_url, "the scene alone")
    app.by_id("sheet-rows")
    assert not app.all("[data-testid=sequence-strip]")
    app.driver.back()
    app.by_id("sequence-strip")
