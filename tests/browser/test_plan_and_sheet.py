"""The Plan by hand and by keys, the Sheet in words, where new cameras went, and what is told of keys and cameras."""

from __future__ import annotations

from itertools import pairwise

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from .card import drag, handle
from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser


def unlocked(app: App, number: str) -> int:
    """Look through a camera of the Bench and let it go; the revision after that."""
    start = app.revision
    app.keys(number, "l")
    app.saved(start + 1)
    return start + 1


def middle(app: App, element: WebElement) -> tuple[float, float]:
    found = app.script(
        "const b = arguments[0].getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2]", element
    )
    return found[0], found[1]


# --- the Plan ---


def test_the_plan_lies_still_under_the_hand_and_nothing_of_it_is_selected(app: App) -> None:
    revision = unlocked(app, "1")
    other, at = middle(app, handle(app, "rail 0")), middle(app, handle(app, "rail 3"))
    drag(app, handle(app, "rail 3"), 12, 10)
    app.saved(revision + 1)
    after = middle(app, handle(app, "rail 3"))
    assert after == pytest.approx((at[0] + 12, at[1] + 10), abs=2), "it lies where it was let go"
    assert middle(app, handle(app, "rail 0")) == pytest.approx(other, abs=1), "and the others where they lay"
    assert app.script("return String(getSelection())") == ""


@pytest.mark.parametrize("number", ["1", "5"])
def test_the_name_of_a_camera_keeps_clear_of_its_handles(app: App, number: str) -> None:
    unlocked(app, number)
    name = app.by_id("plan-name").rect
    marks = [
        m
        for m in app.all(".plan-drawing [data-testid^='handle']")
        if "handle camera" not in m.get_dom_attribute("data-testid")
    ]
    assert marks
    for mark in marks:
        x, y = middle(app, mark)
        assert not (name["x"] < x < name["x"] + name["width"] and name["y"] < y < name["y"] + name["height"])


# --- the Sheet ---


def test_long_heads_are_cut_with_a_tip(app: App) -> None:
    app.choose_joint("lantern_ring")
    heads = app.all(".sheet .head")
    spaces = sorted((h.rect["x"], h.rect["x"] + h.rect["width"]) for h in heads)
    assert all(end <= start + 0.5 for (_, end), (start, _) in pairwise(spaces))
    assert "spacing lantern_ring, px" in [h.get_attribute("title") for h in heads]


# --- new cameras, keys, messages ---


def test_a_review_set_is_shown_where_it_went_and_has_keys(app: App) -> None:
    start, cameras = app.revision, len(app.all("[data-testid=bench-camera]"))
    app.button("new").click()
    app.driver.find_elements(By.XPATH, "//*[@role='menuitem'][contains(., 'Review set: front')]")[0].click()
    app.saved(start + 1)
    app.wait(lambda: app.caption.startswith("CAMERA · Front Oda"), "the first of them looked through")
    notice = app.text(".notice")
    assert "Shift" in notice or f"{cameras + 1} looks" in notice
    here = app.find(".bench-camera.here").rect
    row = app.by_id("bench-row").rect
    assert row["x"] <= here["x"]
    assert here["x"] + here["width"] <= row["x"] + row["width"] + 1, "in sight on the Bench"
    app.keys("j")
    app.wait(lambda: app.caption.startswith("CAMERA · Side Oda"), "the next one")
    app.hold(Keys.SHIFT, "j")
    app.wait(lambda: app.caption.startswith("CAMERA · Front Oda"), "the one before")
    app.keys("1")
    app.hold(Keys.SHIFT, "1")
    tenth = app.find(".bench-camera.here .number").text
    assert tenth == "10"


def test_layers_are_dragged_hidden_and_chosen_in_the_sheet(app: App) -> None:
    start = app.revision
    next(b for b in app.all(".zoom .toggle") if b.text == "layers").click()
    rows = app.by_id("sheet-rows")
    heads = {e.text: e.rect for e in app.all(".head.of-group")}
    assert {"Oda", "Quill"} <= set(heads)
    left = rows.rect["x"] + rows.rect["width"] / 2

    def over(name: str, frame: int, dy: int, alt: bool = False) -> None:
        x = heads[name]["x"] + heads[name]["width"] / 2 - left
        y = (frame - app.first) * 13 + 6 - rows.rect["height"] / 2
        hand = app.hand()
        if alt:
            hand.key_down(Keys.ALT)
        hand.move_to_element_with_offset(rows, int(x), int(y)).click_and_hold()
        hand.move_by_offset(0, dy // 2).move_by_offset(0, dy - dy // 2).release()
        if alt:
            hand.key_up(Keys.ALT)
        hand.perform()

    # Oda's crossing begins ten frames later; where she stands before that is her first pose.
    over("Oda", 1010, 130)
    app.saved(start + 1)
    app.wait(lambda: app.field("starts on").get_attribute("value") == "1011", "its new beginning")
    # With Alt a stretch is hidden; its edge is dragged; the same back.
    before = app.picture()
    over("Quill", 1016, 8 * 13, alt=True)
    app.saved(start + 2)
    app.go_to(1020)
    app.wait(lambda: differs(app.picture(), before) > 0.001, "no heron")
    over("Quill", 1016, -3 * 13 - 6)
    app.saved(start + 3)
    app.go_to(1013)
    app.wait(lambda: differs(app.picture(), before) > 0.001, "none three frames earlier either")
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 4)
    # Nothing of the cut is drawn beyond the last frame.
    app.find("[aria-label='Shorter rows']").click()
    for _ in range(4):
        app.find("[aria-label='Shorter rows']").click()
    blank = "const c = document.querySelector('.sheet canvas'); return [...c.getContext('2d').getImageData(46, 520, 38, 40).data]"
    colours = app.script(blank)
    assert len({tuple(colours[n : n + 4]) for n in range(0, len(colours), 4)}) == 1
