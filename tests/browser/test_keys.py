"""The keys of a camera in the Sheet, in the real interface: many at once, by groups, and set by moving the camera."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from .card import type_number
from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser
ZOOM_KEY = "6"
KEYS_X = 146
"""Middle of the column of all keys, px from the left of the Sheet."""


def head(app: App, title: str) -> WebElement:
    """The head of a column of keys."""
    return app.wait(lambda: next(h for h in app.all(".heads .of-group") if h.text == title), title)


def middle(app: App, title: str) -> float:
    """Of a column of keys, px from the left of the Sheet."""
    box = head(app, title).rect
    return float(box["x"] + box["width"] / 2 - app.by_id("sheet-rows").rect["x"])


def place(app: App, frame: float, x: float) -> tuple[int, int]:
    """Of a frame and a column, from the middle of the Sheet."""
    rows = app.by_id("sheet-rows")
    y = (frame - app.first + 0.5) * 13 - app.script("return arguments[0].scrollTop", rows) - rows.rect["height"] / 2
    return round(x - rows.rect["width"] / 2), round(y)


def drag(app: App, start: tuple[int, int], end: tuple[int, int], held: str = "") -> None:
    hand = app.hand()
    if held:
        hand = hand.key_down(held)
    hand = hand.move_to_element_with_offset(app.by_id("sheet-rows"), *start).click_and_hold()
    dx, dy = end[0] - start[0], end[1] - start[1]
    hand = hand.move_by_offset(dx // 2, dy // 2).move_by_offset(dx - dx // 2, dy - dy // 2).release()
    (hand.key_up(held) if held else hand).perform()


def chosen(app: App) -> str:
    return next((h.text for h in app.all(".keys h3") if "ey" in h.text), "")


def test_a_box_of_one_group_is_moved_and_taken_back(app: App) -> None:
    app.stage("time")
    app.keys(ZOOM_KEY, "K")
    app.go_to(1060)
    # Beside the camera's groups stand the key poses of both; folded, they leave the groups more room.
    wide = head(app, "lens").rect["width"]
    for name in ("Oda", "Quill"):
        head(app, name).click()
    app.wait(lambda: head(app, "lens").rect["width"] > 1.2 * wide, "room for the lens")
    lens = middle(app, "lens")
    drag(app, place(app, 1070.6, lens - 16), place(app, 1074.6, lens + 16))
    app.wait(lambda: chosen(app) == "4 keys of lens, 1071 to 1074", "four keys of the lens")
    start, before = app.revision, app.picture()
    drag(app, place(app, 1072, lens), place(app, 1078, lens))
    app.saved(start + 1)
    assert chosen(app) == "4 keys of lens, 1077 to 1080", "they stay chosen where they are"
    app.go_to(1060)
    assert differs(app.picture(), before) < 1e-4, "what lies before them runs as before"
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 2)


def test_all_keys_are_stretched_run_backwards_and_copied(app: App) -> None:
    app.stage("time")
    app.keys(ZOOM_KEY)
    app.go_to(1046)
    begins, lens = app.picture(), app.text(".caption .facts")
    app.hold(Keys.CONTROL, "a")
    app.wait(lambda: chosen(app) == "29 keys, 1046 to 1074", "all of them")
    start = app.revision
    app.button("Backwards").click()
    app.saved(start + 1)
    app.wait(
        lambda: differs(app.picture(), begins) > 0.05 and app.text(".caption .facts") != lens, "it begins as it ended"
    )
    app.go_to(1074)
    app.wait(lambda: app.text(".caption .facts") == lens, "and ends as it began")
    app.go_to(1046)
    drag(app, place(app, 1074, KEYS_X), place(app, 1060, KEYS_X), Keys.ALT)
    app.saved(start + 2)
    app.hold(Keys.CONTROL, "c")
    app.go_to(1070)
    app.hold(Keys.CONTROL, "v")
    app.saved(start + 3)
    assert chosen(app).startswith("29 keys, 1070 to 10"), "the copy is chosen"
    for _ in range(3):
        app.hold(Keys.CONTROL, "z")
    app.saved(start + 6)


def test_moving_a_camera_while_recording_sets_keys_and_says_so(app: App) -> None:
    app.stage("time")
    app.keys(ZOOM_KEY)
    app.go_to(1080)
    app.hold(Keys.ALT, "k")
    app.wait(lambda: app.all(".caption.recording") and app.all(".sheet .heads.recording"), "hatched in both places")
    start = app.revision
    app.keys(".")
    app.saved(start + 1)
    assert "moved, not keyed" not in app.caption
    app.wait(lambda: "you are recording" in app.find(".notice").text, "the first key says so")
    app.hold(Keys.SHIFT, Keys.PAGE_UP)
    app.wait(lambda: app.frame == 1074, "the key before")
    app.hold(Keys.SHIFT, Keys.PAGE_DOWN)
    app.wait(lambda: app.frame == 1080, "the key that was recorded")
    app.find(".caption.recording .toggle").click()
    app.wait(lambda: not app.all(".caption.recording"), "recording has ended")
    app.keys(",")
    app.saved(start + 2)
    assert "moved, not keyed" not in app.caption, "standing on a key, that key changes"
    app.go_to(1085)
    app.keys(".")
    app.saved(start + 3)
    app.wait(lambda: "moved, not keyed" in app.caption, "elsewhere it waits for K or B")
    for _ in range(3):
        app.hold(Keys.CONTROL, "z")
    app.saved(start + 6)


def test_a_keys_value_and_how_steep_its_curve_is_are_typed(app: App) -> None:
    app.stage("time")
    app.keys(ZOOM_KEY)
    app.go_to(1046)
    start, before = app.revision, app.picture()
    type_number(app, "x, ease", "1.2")
    app.saved(start + 1)
    assert app.field("x, ease").get_attribute("value") == "1.2 m"
    app.wait(lambda: differs(app.picture(), before) > 0.01, "the camera stands elsewhere")
    app.hold(Keys.CONTROL, "a")
    next(b for b in app.all(".keys .shapes button") if b.text == "curve").click()
    app.saved(start + 2)
    app.go_to(1052)
    between = app.picture()
    app.go_to(1046)
    type_number(app, "leaves by", "0.2")
    app.saved(start + 3)
    assert float(app.field("leaves by").get_attribute("value") or "nan") == 0.2
    app.go_to(1052)
    assert differs(app.picture(), between) > 0.005, "it leaves faster"
    for _ in range(3):
        app.hold(Keys.CONTROL, "z")
    app.saved(start + 6)


def test_the_time_of_a_camera_and_of_the_scene_is_bent(app: App) -> None:
    app.stage("time")
    app.keys(ZOOM_KEY)
    app.go_to(1064)
    earlier = app.picture()
    app.go_to(1062)
    of_camera = app.find('[aria-label="Time of Dolly zoom Oda from 1062 to 1074"]')
    start, lasts = app.revision, app.text(".scene-time small")
    next(b for b in of_camera.find_elements("tag name", "button") if b.text == "freeze").click()
    app.saved(start + 1)
    app.go_to(1076)
    app.wait(lambda: "1080" in app.text(".key-list"), "its keys come later")
    assert differs(app.picture(), earlier) > 0.001, "while all else ran on"
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 2)
    app.go_to(1062)
    of_scene = app.find('[aria-label="Time of the scene from 1062 to 1074"]')
    next(b for b in of_scene.find_elements("tag name", "button") if b.text == "freeze").click()
    app.saved(start + 3)
    app.wait(lambda: app.text(".scene-time small") != lasts, "it lasts longer")
    assert app.text(".scene-time small") == f"{int(lasts.split()[0]) + 12} frames"
    app.go_to(1076)
    app.wait(lambda: differs(app.picture(), earlier) < 0.004, "everything stood still for twelve frames")
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 4)
