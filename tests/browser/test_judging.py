"""Judging and stepping: arcs, exposures and Ride, in the browser."""

from __future__ import annotations

import csv
import io

import numpy as np
import pytest
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import Select

from eddyfield.formats import gltf

from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser


def test_an_arc_is_picked_in_the_picture_drawn_and_told(app: App) -> None:
    app.choose_joint("lantern")
    x, y = app.joint_place()
    app.choose_joint("head")
    picture = app.by_id("picture")
    rect = picture.rect
    scale = min((rect["width"] - 24) / 1920, (rect["height"] - 24) / 1080)
    left, top = (rect["width"] - 1920 * scale) / 2, (rect["height"] - 1080 * scale) / 2
    offset = (int(left + x * scale - rect["width"] / 2), int(top + y * scale - rect["height"] / 2))
    chain = app.hand().move_to_element_with_offset(picture, *offset)
    chain.perform()
    name = app.by_id("hovered-joint").text
    assert name in ("Lantern pole lantern", "Lantern pole lantern_ring", "Lantern pole pole_tip")
    chain.click().perform()
    app.wait(lambda: app.text(".card h2").startswith(name.split()[-1]), "the joint's card")


def test_the_arc_has_a_mark_a_frame_and_the_cards_figures_are_right(app: App) -> None:
    app.choose_joint("lantern")
    app.go_to(1043)
    assert len(app.all("[data-testid=arc] > rect")) == 48, "new poses on twos"
    assert len(app.all("[data-testid=arc] > path")) == 48, "a stroke a held frame"
    assert len(app.all("[data-testid=arc-line]")) == 1
    app.by_id("arc-now")
    assert "off the arc" in app.by_id("arc-fault").text
    assert "1043" in app.by_id("arc-fault").text
    link = app.button("Arc as CSV").get_attribute("href")
    rows = list(csv.DictReader(io.StringIO(fetched(app, str(link)))))
    row = rows[42]
    assert float(app.by_id("spacing-here").text) == pytest.approx(float(row["spacing_px"]), abs=0.051)
    assert float(app.by_id("camera-share").text.split()[0]) == pytest.approx(float(row["camera_share_px"]), abs=0.051)
    assert app.joint_place() == pytest.approx((float(row["x_px"]), float(row["y_px"])), abs=0.05), (
        "a new pose is on the arc"
    )
    spread = [float(r["spacing_px"]) for r in rows[1:]]
    said = app.text(".card .body")
    for value in (min(spread), max(spread), float(np.mean(spread))):
        assert f"{value:.1f} px" in said


def fetched(app: App, link: str) -> str:
    app.driver.set_script_timeout(20)
    return str(app.driver.execute_async_script("fetch(arguments[0]).then(r => r.text()).then(arguments[1])", link))


def arc_path(app: App) -> str:
    return str(app.by_id("arc-line").get_attribute("d"))


def test_the_arc_is_frozen_and_follows_the_camera(app: App) -> None:
    app.choose_joint("hips")
    app.go_to(1049)
    through = arc_path(app)
    app.keys("i")
    app.wait(lambda: "arc frozen on 1049" in app.caption, "the caption says that it is frozen")
    app.wait(lambda: arc_path(app) != through, "another path")
    frozen = np.array([p.split() for p in arc_path(app).replace("M", "").split("L")], dtype=float)
    assert (np.diff(frozen[:, 0]) > -0.5).all(), "frozen, she walks across the picture; through the cut it is a knot"
    app.keys("i")
    app.wait(lambda: arc_path(app) == through, "the path through the cut again")
    start = app.revision
    app.keys("l")
    app.saved(start + 1)
    app.drag(60, 0)
    app.saved(start + 2)
    assert arc_path(app) != through


# --- 6 and 7: step it, see it strobe, let it ride ---


def test_stepping_changes_what_is_held(app: App) -> None:
    app.choose_joint("head")
    app.stage("step")
    start = app.revision
    sheet = app.find(".sheet canvas").screenshot_as_png
    app.button("threes").click()
    app.saved(start + 1)
    assert len(app.all("[data-testid=arc] > rect")) == 32
    assert app.find(".sheet canvas").screenshot_as_png != sheet
    app.script("document.activeElement.blur()")
    app.keys(Keys.ARROW_RIGHT)
    assert app.frame == 1004
    app.button("ones").click()
    app.saved(start + 2)
    assert len(app.all("[data-testid=arc] > rect")) == 96
    assert "nothing is held" in app.text(".card .body")
    app.button("twos").click()
    app.saved(start + 3)
    field = app.find(".card input")
    field.send_keys(Keys.ARROW_UP)
    app.saved(start + 4)
    app.script("document.activeElement.blur()")
    app.keys(Keys.HOME, Keys.ARROW_RIGHT)
    assert app.frame == 1002, "the grid moved by a frame"


def test_a_part_and_a_prop_get_exposures_of_their_own(app: App) -> None:
    app.stage("step")
    app.go_to(1042)
    start, held = app.revision, app.picture()
    parts = app.find("[aria-label='A part with exposures of its own']")
    parts.click()
    parts.send_keys("scarf_1", Keys.ARROW_DOWN, Keys.ENTER)
    app.saved(start + 1)
    assert app.text("[data-testid=own-exposures] b") == "scarf_1"
    app.wait(lambda: differs(app.picture(), held) > 0.00005, "a scarf that moves on while she is held")
    with_scarf = app.picture()
    Select(app.find("[aria-label='Exposures of Lantern pole']")).select_by_visible_text("on ones")
    app.saved(start + 2)
    app.wait(lambda: differs(app.picture(), with_scarf) > 0.00005, "and a lantern")
    app.find("[aria-label='scarf_1 with the body again']").click()
    app.saved(start + 3)
    assert not app.all("[data-testid=own-exposures]")
    app.driver.refresh()
    app.wait(lambda: app.stage("step") or app.all("[aria-label='Exposures of Lantern pole']"), "the card")
    assert Select(app.find("[aria-label='Exposures of Lantern pole']")).first_selected_option.text == "on ones"


def test_riding_takes_the_strobing_away_and_shows_its_price(app: App) -> None:
    app.choose_joint("head")
    app.stage("step")
    assert float(app.by_id("slip-rms").text) > 5
    assert int(app.by_id("reversals").text) > 30
    app.go_to(1041)
    at_pose = app.joint_place()
    app.keys(Keys.ARROW_DOWN)
    drifted = app.joint_place()
    assert np.hypot(drifted[0] - at_pose[0], drifted[1] - at_pose[1]) > 3
    start, before = app.revision, app.picture()
    app.keys("y")
    app.saved(start + 1)
    assert app.joint_place() == pytest.approx(at_pose, abs=0.05), "the held pose stands still on the screen"
    app.wait(lambda: app.by_id("slip-rms").text == "0.0", "what strobes, judged anew")
    assert app.by_id("reversals").text == "0"
    assert app.by_id("feet-slide").text.startswith("0 mm"), "feet stay where they stand"
    assert float(app.by_id("legs-stretch").text.split()[0]) < 1, "and legs hardly grow"
    planted = app.picture()
    app.script(
        "document.evaluate(\"//label[.='Feet stay where they stand']\", document, null, 9).singleNodeValue.click()"
    )
    app.saved(start + 2)
    app.wait(lambda: int(app.by_id("feet-slide").text.split()[0]) > 5, "the price, in millimetres")
    assert differs(app.picture(), planted) > 0.0002, "the legs are seen to go along"
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 3)
    riding = app.picture()
    assert differs(riding, before) > 0.002, "and the Picture shows it"
    app.find("[aria-label='Ride the camera']").send_keys(Keys.SPACE)
    app.saved(start + 4)
    assert differs(app.picture(), before) < 0.001


def test_ride_is_eased_in_where_it_strobes_and_its_weight_is_keyed(app: App) -> None:
    app.stage("step")
    app.go_to(1041)
    start = app.revision
    app.keys("y")
    app.saved(start + 1)
    app.button("Only where it strobes").click()
    app.saved(start + 2)
    app.wait(lambda: "1095: 100 %" in app.text("[data-testid=ride-keys]"), "its keys")
    assert app.by_id("slip-rms").text == "0.0"
    weight = app.field("weight on 1041")
    weight.send_keys(Keys.CONTROL, "a")
    weight.send_keys("0", Keys.ENTER)
    app.saved(start + 3)
    app.wait(lambda: float(app.by_id("slip-rms").text) > 0.1, "what slips with less of it")
    app.button("Take this key away").click()
    app.saved(start + 4)
    app.wait(lambda: app.by_id("slip-rms").text == "0.0", "nothing again")
    app.button("Throughout").click()
    app.saved(start + 5)
    app.wait(lambda: not app.all("[data-testid=ride-keys]"), "no keys")


# --- 8: bring in a rig ---


def test_the_shot_is_taken_out(app: App) -> None:
    app.stage("hand over")
    app.wait(lambda: "film back" in app.text("[data-testid=export-notes]"), "what the format cannot carry")
    link = str(app.button("Shot as .glb").get_attribute("href"))
    size = app.driver.execute_async_script(
        "fetch(arguments[0]).then(r => r.arrayBuffer()).then(b => arguments[1](Array.from(new Uint8Array(b))))", link
    )
    rig = gltf.read(bytes(size))
    assert rig.cameras[0].name == "Bank rail 35"
    assert "lantern" in rig.names
    slip = fetched(app, str(app.button("Slip as CSV").get_attribute("href")))
    assert len(slip.splitlines()) == 97


# --- around it ---


def test_a_point_on_the_mesh_is_clicked_and_followed(app: App) -> None:
    app.keys("2")
    app.stage("judge")
    app.go_to(1061)
    app.button("Point on the mesh").click()
    picture = app.by_id("picture")
    app.hand().move_to_element_with_offset(picture, 4, -10).click().perform()
    app.wait(lambda: app.text(".card h2").startswith("point "), "a point of the mesh")
    app.by_id("arc-line")
    box, cross = picture.rect, app.by_id("arc-now").rect
    away = np.hypot(
        cross["x"] + cross["width"] / 2 - (box["x"] + box["width"] / 2 + 4),
        cross["y"] + cross["height"] / 2 - (box["y"] + box["height"] / 2 - 10),
    )
    assert away < 12, "where it was clicked"
    assert "px spacing" in app.text(".card")
    app.field("Character or prop").click()
    app.option("Mill race").click()
    app.wait(lambda: app.text(".card h2").startswith("Mill race"), "the set piece")


def test_a_fault_is_found_in_the_list_and_shown_by_a_click(app: App) -> None:
    app.go_to(1010)
    row = app.wait(lambda: next(b for b in app.all(".readings .what") if "off the arc" in b.text), "the kink, unasked")
    assert "1043" in row.text
    assert "beside the arc" in str(row.get_attribute("title"))
    row.click()
    app.wait(lambda: app.frame == 1043, "its frame")
    app.wait(lambda: any("off the arc" in t.text for t in app.all("[data-testid=arc-fault]")), "drawn on its arc")


def test_a_reading_is_let_stand_for_a_reason_and_told_again(app: App) -> None:
    def kink() -> WebElement:
        return app.wait(lambda: next(li for li in app.all(".readings li") if "off the arc" in li.text), "the kink")

    start = app.revision
    count = app.text(".readings-pane h2")
    kink().find_element("css selector", "[aria-label='Let it stand']").click()
    app.find("[aria-label='Why it may stand']").send_keys("she trips", Keys.ENTER)
    app.saved(start + 1)
    app.wait(lambda: app.text(".readings-pane h2") != count, "one less")
    next(b for b in app.all(".readings .more") if "may stand" in b.text).click()
    assert "May stand: she trips" in kink().text
    kink().find_element("xpath", ".//button[contains(., 'Tell again')]").click()
    app.saved(start + 2)
    app.wait(lambda: app.text(".readings-pane h2") == count, "told again")


def test_the_list_is_sieved(app: App) -> None:
    choice = app.find("[aria-label='Which readings are listed']")
    all_of_them = app.text(".readings-pane h2")
    option = next(o for o in choice.find_elements("tag name", "option") if o.text == "Quill")
    option.click()
    app.wait(lambda: app.text(".readings-pane h2") != all_of_them, "fewer")
    assert all("Quill" in row.text for row in app.all(".readings .what"))
    choice.find_elements("tag name", "option")[0].click()
    app.wait(lambda: app.text(".readings-pane h2") == all_of_them, "all again")


def test_exposures_are_drawn_by_hand_in_the_sheet(app: App) -> None:
    app.stage("step")
    start, rows = app.revision, app.by_id("sheet-rows")
    box = rows.rect
    column, edge = 110 - box["width"] / 2, 10 * 13 - box["height"] / 2  # where the pose of 1011 begins
    app.hand().move_to_element_with_offset(rows, column, edge).click_and_hold().move_by_offset(0, 7).move_by_offset(
        0, 6
    ).release().perform()
    app.saved(start + 1)
    assert "1 on ones, 46 on twos, 1 on threes" in app.text("[data-testid=exposure-list]")
    app.hand().move_to_element_with_offset(rows, column, 19 * 13 + 7 - box["height"] / 2).double_click().perform()
    app.saved(start + 2)
    assert "3 on ones, 45 on twos, 1 on threes" in app.text("[data-testid=exposure-list]")
    app.script("document.activeElement.blur()")
    app.keys(Keys.HOME, *[Keys.ARROW_DOWN] * 9, "P")  # in the middle of the hold that is three long
    app.saved(start + 3)
    assert "4 on ones, 46 on twos" in app.text("[data-testid=exposure-list]"), "a pose of its own on 1010"
    for _ in range(3):
        app.hold(Keys.CONTROL, "z")
    app.saved(start + 6)
    assert not app.all("[data-testid=exposure-list]")
    app.all("[aria-label^='Hold poses from'] button")[3].click()
    app.saved(start + 7)
    assert "on fours" in app.text("[data-testid=exposure-list]")


def test_why_a_reading_is_told_is_drawn_beside_it(app: App) -> None:
    row = lambda kind: next(r for r in app.all(".readings .what") if r.text.startswith(kind))  # noqa: E731
    app.wait(lambda: row("off the arc"), "a kinked arc in the list")
    row("off the arc").click()
    assert app.frame == 1043
    drawn = app.wait(lambda: app.all("[data-testid=why] svg circle.fault"), "the frame that is off")
    assert len(drawn) == 1
    assert len(app.all("[data-testid=why] svg circle.tick")) == 14
    assert app.all("[data-testid=arc] > rect"), "and the arc in the Picture"
    row("off the arc").click()
    assert not app.all("[data-testid=why]")
    row("strobes").click()
    assert len(app.wait(lambda: app.all("[data-testid=why] rect.over"), "what slips")) == 1094 - 1003 + 1


@pytest.mark.parametrize("title", ["Ride", "Ride along the picture", "every key pose shown"])
def test_what_would_be_best_is_tried_shown_and_taken(app: App, title: str) -> None:
    app.stage("step")
    start, slips = app.revision, float(app.by_id("slip-rms").text)
    lost = app.text("[data-testid=keys-lost]")
    app.button("What would be best").click()
    ways = app.wait(lambda: app.all("[data-testid=trying] section"), "the ways")
    assert len(ways) == 6
    assert ways[0].text.startswith("Ride\nbest")
    assert app.revision == start, "nothing is stored by trying"
    shown = app.find("[data-testid=picture] canvas").get_attribute("data-drawn")
    app.wait(lambda: app.find("[data-testid=picture] canvas").get_attribute("data-drawn") != shown, "that they play")
    app.find(f"[data-testid=trying] section[aria-label='{title}'] button").click()
    app.saved(start + 1)
    assert not app.all("[data-testid=trying]")
    if title.startswith("Ride"):
        app.wait(lambda: float(app.by_id("slip-rms").text) < 0.1 * slips, "held poses stand still")
        assert app.text("[data-testid=reversals]") == "0"
        app.wait(
            lambda: not any(r.text.startswith("strobes") for r in app.all(".readings .what")), "no more in the list"
        )
        assert "0 mm" in app.text("[data-testid=feet-slide]")
    else:
        app.wait(lambda: app.text("[data-testid=keys-lost]") == "none", f"no lost key pose instead of {lost}")


def test_a_fix_is_shown_before_it_is_taken_and_what_changed_is_told(app: App) -> None:
    start = app.revision
    fix = app.wait(lambda: next(b for b in app.all(".readings li button") if b.text == "Ride"), "the fix")
    app.button("changes").click()
    app.button("Looked through").click()
    app.go_to(1048)
    before = app.picture()
    app.hand().move_to_element(fix).perform()
    assert "gone strobes" in app.text("[data-testid=effect]")
    assert "Raises nothing" in app.text("[data-testid=effect]")
    app.wait(lambda: differs(app.picture(), before) > 0.002, "what it would look like")
    assert app.revision == start
    app.hand().move_to_element(app.find(".header h1")).perform()
    app.wait(lambda: differs(app.picture(), before) < 0.001, "as it is stored")
    fix.click()
    app.saved(start + 1)
    app.wait(lambda: not any(b.text == "Ride" for b in app.all(".readings li button")), "no more in the list")
    app.button("changes").click()
    assert "1 gone" in app.text("[data-testid=since] h2")
