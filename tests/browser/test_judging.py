"""Judging and stepping: arcs, exposures and Ride, in the browser."""

from __future__ import annotations

import numpy as np
import pytest

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


def fetched(app: App, link: str) -> str:
    app.driver.set_script_timeout(20)
    return str(app.driver.execute_async_script("fetch(arguments[0]).then(r => r.text()).then(arguments[1])", link))


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


def test_what_would_be_best_is_tried_shown_and_taken(app: App) -> None:
    app.stage("step")
    start, slips = app.revision, float(app.by_id("slip-rms").text)
    app.button("What would be best").click()
    ways = app.wait(lambda: app.all("[data-testid=trying] section"), "the ways")
    assert len(ways) == 6
    assert ways[0].text.startswith("Ride\nbest")
    assert app.revision == start, "nothing is stored by trying"
    shown = app.find("[data-testid=picture] canvas").get_attribute("data-drawn")
    app.wait(lambda: app.find("[data-testid=picture] canvas").get_attribute("data-drawn") != shown, "that they play")
    app.find("[data-testid=trying] section[aria-label='Ride'] button").click()
    app.saved(start + 1)
    assert not app.all("[data-testid=trying]")
    app.wait(lambda: float(app.by_id("slip-rms").text) < 0.1 * slips, "held poses stand still")
    assert app.text("[data-testid=reversals]") == "0"
    app.wait(lambda: not any(r.text.startswith("strobes") for r in app.all(".readings .what")), "no more in the list")
    assert "0 mm" in app.text("[data-testid=feet-slide]")


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
