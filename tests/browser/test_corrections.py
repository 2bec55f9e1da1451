"""A fault is found, looked into, corrected, and gone; a joint is pushed in the Picture, and its source told what to change."""

from __future__ import annotations

import csv
import io

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from .conftest import App
from .pixels import differs

KINKED = 1043


def listed(app: App, kind: str) -> bool:
    return any(row.text.startswith(kind) for row in app.all(".readings .what"))


def test_a_kinked_arc_is_found_looked_into_and_corrected(app: App) -> None:
    start = app.revision
    row = app.wait(lambda: next(r for r in app.all(".readings .what") if r.text.startswith("off the arc")), "the kink")
    row.click()
    assert app.frame == KINKED
    app.wait(lambda: app.all("[data-testid=why] svg circle.fault"), "why")
    app.stage("judge")
    off = float(app.wait(lambda: app.by_id("off-arc").text, "the figure").split()[0])
    assert abs(off) > 10
    before = app.picture()
    fix = next(b for b in app.all(".readings li button") if b.text == "Correct it")
    app.hand().move_to_element(fix).perform()
    assert "gone off the arc" in app.text("[data-testid=effect]")
    assert "Raises nothing" in app.text("[data-testid=effect]")
    app.wait(lambda: differs(app.picture(), before) > 0.0005, "the arm where it should be")
    assert app.revision == start
    fix.click()
    app.saved(start + 1)
    app.wait(lambda: not listed(app, "off the arc"), "no more in the list")
    app.wait(lambda: abs(float(app.by_id("off-arc").text.split()[0])) < 1, "nor in the figures")
    assert differs(app.picture(), before) > 0.0005
    app.wait(lambda: not app.all("[data-testid=arc-fault]"), "nor on the arc")
    (correction,) = app.all("[data-testid=correction]")
    correction.find_element(By.TAG_NAME, "button").click()
    told = app.text("[data-testid=at-source]")
    assert "upper_arm_r turned" in told
    assert "on that frame alone" in told
    app.find("[aria-label^='Take the correction']").click()
    app.saved(start + 2)
    app.wait(lambda: listed(app, "off the arc"), "the fault again")
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 3)
    app.wait(lambda: not listed(app, "off the arc"), "corrected again")
    app.driver.refresh()
    app.wait(lambda: app.stage("judge") or app.all("[data-testid=correction]"), "as it was stored")


def test_a_joint_is_pushed_in_the_picture_by_hand_and_by_number(app: App) -> None:
    app.choose_joint("hand_r")
    app.stage("judge")
    app.go_to(1060)
    mark = app.by_id("arc-hand").find_element(By.CSS_SELECTOR, "circle")
    app.hand().move_to_element(mark).pause(0.4).perform()
    start, before = app.revision, app.picture()
    app.hand().click_and_hold().move_by_offset(24, -18).perform()
    app.wait(lambda: "px" in app.text("[data-testid=arc-hand] text"), "how far")
    app.wait(lambda: differs(app.picture(), before) > 0.01, "the arm in the hand")
    assert app.revision == start
    app.keys(Keys.ESCAPE)
    app.wait(lambda: differs(app.picture(), before) < 0.001, "as it was")
    app.hand().release().perform()
    assert app.revision == start
    app.hand().move_by_offset(60, 60).move_to_element(mark).pause(0.4).click_and_hold().move_by_offset(
        24, -18
    ).perform()
    app.hand().release().perform()
    app.saved(start + 1)
    place = app.wait(lambda: app.by_id("arc-hand").get_attribute("data-x"), "the cross")
    right = app.field("right")
    right.send_keys(Keys.CONTROL, "a")
    right.send_keys("-5", Keys.ENTER)
    app.saved(start + 2)
    app.wait(lambda: float(app.by_id("arc-hand").get_attribute("data-x") or 0) < float(place), "to the left")
    assert len(app.all("[data-testid=correction]")) == 1, "pushed again it is the same one"
    app.stage("hand over")
    link = str(app.button("Corrections as CSV").get_attribute("href"))
    text = app.driver.execute_async_script("fetch(arguments[0]).then(r => r.text()).then(arguments[1])", link)
    rows = list(csv.DictReader(io.StringIO(text)))
    assert {row["changed_joint"] for row in rows} == {"upper_arm_r", "forearm_r", "hand_r"}
    assert {(row["frame"], row["first"], row["last"]) for row in rows} == {("1060", "1057", "1063")}
    assert float(rows[0]["world_y_mm"]) > 20
