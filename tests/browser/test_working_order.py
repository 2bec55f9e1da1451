"""The whole job in the real interface, in its working order; what the Picture shows is read from its pixels."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from selenium.webdriver.common.keys import Keys

from eddyfield.demo import mill_race
from tests.formats.builders import BVH

from .conftest import App
from .pixels import differs, surround

pytestmark = pytest.mark.browser

# --- 1: look ---


def test_the_picture_says_what_is_looked_through_and_shows_the_delivery_frame(app: App) -> None:
    assert app.caption.split("\n")[0] == "CUT · Bank rail 35"
    assert "35 mm" in app.caption
    assert "00:00:00:00" in app.caption
    assert "1920 × 1080" in app.caption
    picture = app.picture()
    height, width = picture.shape[:2]
    grey = surround(picture)
    inside = ~grey[height // 2]
    left, right = int(inside.argmax()), width - int(inside[::-1].argmax())
    column = ~grey[:, width // 2]
    top, bottom = int(column.argmax()), height - int(column[::-1].argmax())
    assert (right - left) / (bottom - top) == pytest.approx(1920 / 1080, rel=0.01)
    assert len(np.unique(picture[top:bottom, left:right].reshape(-1, 3), axis=0)) > 60, "a scene, not a flat colour"


def test_mask_and_safe_lines_can_be_switched(app: App) -> None:
    closed = app.picture()
    app.keys("m")
    open_mask = app.picture()
    corner = (slice(0, 8), slice(40, 400))
    assert surround(closed)[corner].all()
    assert not surround(open_mask)[corner].all(), "the picture goes on beside the frame"
    app.keys("m", "g")
    assert not app.all("[data-testid=safe-lines]")
    assert differs(closed, app.picture()) > 0.001


def test_stepping_scrubbing_and_new_poses(app: App) -> None:
    app.keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN, Keys.ARROW_DOWN)
    assert app.frame == 1004
    app.keys(Keys.ARROW_RIGHT)
    assert app.frame == 1005, "the next new pose on twos"
    app.keys(Keys.ARROW_LEFT)
    assert app.frame == 1003
    app.keys("f")
    assert app.frame == 1005, "flip to the new pose one came from"
    app.keys("f")
    assert app.frame == 1003
    app.keys(Keys.END)
    assert app.frame == 1096
    app.keys(Keys.HOME, Keys.ARROW_UP)
    assert app.frame == 1001
    before = app.picture()
    bar = app.find(".scrub")
    app.hand().move_to_element(bar).click().perform()
    assert app.frame in range(1047, 1051)
    assert differs(before, app.picture()) > 0.1


def test_playing_keeps_time_counts_what_it_drops_and_can_play_every_frame(app: App) -> None:
    app.button("loop").click()
    app.go_to(1060)
    app.button("Play").click()
    app.wait(lambda: app.frame > 1064, "frames going by")
    app.by_id("dropped")
    app.wait(lambda: app.frame == 1096 and app.all("[aria-label=Play]"), "the end, where it stops without a loop")
    app.button("every frame").click()
    app.stage("time")
    app.go_to(1080)
    app.button("From here").click()
    app.go_to(1086)
    app.button("To here").click()
    assert "/ 7" in app.text(".transport")
    app.script(
        "window.seen = []; const c = document.querySelector('[data-testid=picture] canvas');"
        "new MutationObserver(() => seen.push(+c.dataset.drawn.split(' ')[1])).observe(c, {attributes: true})"
    )
    app.script("document.activeElement.blur()")
    app.keys(" ")
    app.wait(lambda: app.all("[aria-label=Play]") and app.frame == 1086, "the end of the range")
    seen = list(dict.fromkeys(app.script("return seen")))
    assert seen[-7:] == list(range(1080, 1087)), "each frame of the range was drawn, in order"


def test_full_picture_and_magnifier(app: App) -> None:
    small = app.picture()
    app.keys(Keys.ENTER)
    large = app.picture()
    assert large.shape[1] > 1.8 * small.shape[1]
    assert not app.find(".sheet").is_displayed()
    app.keys(Keys.ESCAPE)
    app.wait(lambda: app.find(".sheet").is_displayed(), "the Sheet again")
    app.hand().move_to_element(app.by_id("picture")).perform()
    app.keys("z")
    assert "1:1" in app.by_id("picture").text
    magnified = app.picture()
    changed = np.abs(magnified.astype(int) - small).max(axis=-1) > 8
    rows, columns = np.nonzero(changed)
    assert 150 < np.ptp(rows) <= 224
    assert 150 < np.ptp(columns) <= 224, "a detail round the pointer, and nothing else"


# --- 2: roam ---


def test_roaming_leaves_the_camera_where_it_is(app: App) -> None:
    through_cut = app.picture()
    app.keys("r")
    assert app.caption.startswith("ROAM")
    app.drag(180, 40)
    orbited = app.picture()
    app.drag(60, 30, Keys.SHIFT)
    slid = app.picture()
    app.wheel(-300)
    nearer = app.picture()
    seen = [through_cut, orbited, slid, nearer]
    for side in "1237":
        app.hold(Keys.ALT, side)
        seen.append(app.picture())
    for a in range(len(seen)):
        for b in range(a):
            assert differs(seen[a], seen[b]) > 0.05, (a, b)
    app.keys("r")
    assert app.caption.startswith("CUT")
    assert np.array_equal(app.picture(), through_cut)
    assert app.revision == app.revision
    assert "saved" in app.text(".header [role=status]")


# --- 3: move and key ---


def test_placing_and_keying_the_camera_with_undo_after_a_reload(app: App) -> None:
    start = app.revision
    app.keys("l")
    app.saved(start + 1)
    app.go_to(1005)
    app.keys("r")
    app.hold(Keys.ALT, "5")
    roam = app.picture()
    app.keys("p")
    app.saved(start + 2)
    assert app.caption.startswith("CUT")
    assert "moved, not keyed" in app.caption
    app.keys("g")
    in_cut = app.picture()
    inner = (slice(30, -30), slice(30, -30))
    assert differs(in_cut[inner], roam[inner]) < 0.08, "the camera sees what Roam saw, drawn cameras aside"
    app.keys(Keys.ARROW_DOWN)
    assert "moved, not keyed" in app.caption, "it stands there on every frame until it is keyed"
    app.keys(Keys.ARROW_UP, "k")
    app.saved(start + 3)
    assert "moved, not keyed" not in app.caption
    keyed = app.picture()
    assert differs(keyed, in_cut) < 0.002
    app.go_to(1030)
    other = app.picture()
    app.drag(90, 0)
    app.saved(start + 4)
    app.keys("k")
    app.saved(start + 5)
    moved = app.picture()
    assert differs(moved, other) > 0.1
    app.go_to(1012)
    assert differs(app.picture(), moved) > 0.1, "between its keys it is on its way"
    app.driver.refresh()
    app.wait(lambda: app.revision == start + 5, "the scene again")
    app.keys("g")
    for number in range(5):
        app.hold(Keys.CONTROL, "z")
        app.saved(start + 6 + number)
    assert app.find("[aria-label='Nothing to undo']").get_attribute("disabled") is not None
    assert "locked" in app.caption
    app.go_to(1030)
    app.keys("g")
    for number in range(5):
        app.hand().key_down(Keys.CONTROL).key_down(Keys.SHIFT).send_keys("z").key_up(Keys.SHIFT).key_up(
            Keys.CONTROL
        ).perform()
        app.saved(start + 11 + number)
    assert differs(app.picture(), moved) < 0.002


# --- 4: the sheet ---


def test_the_sheet_leads_to_frames_and_zooms(app: App) -> None:
    app.go_to(1020)
    rule = app.by_id("playhead")
    assert rule.get_attribute("style") == f"transform: translateY({19 * 13 + 6.5}px);"
    app.go_to(1090)
    assert 0 < rule.rect["y"] < 800, "the playhead stays in sight"
    sheet = app.find(".sheet canvas").screenshot_as_png
    for _ in range(6):
        app.keys("-")
    assert row_height(app) == "4px"
    assert app.find(".sheet canvas").screenshot_as_png != sheet
    for _ in range(20):
        app.keys("+")
    assert row_height(app) == "30px"


def row_height(app: App) -> str:
    return str(app.script("return arguments[0].style.getPropertyValue('--row')", app.find(".rows")))


# --- 5: an arc ---


@pytest.mark.parametrize(("name", "data"), [("oda.glb", mill_race.oda_glb()), ("walk.bvh", BVH.encode())])
def test_a_rig_is_brought_in_and_fits_the_picture(app: App, tmp_path: Path, name: str, data: bytes) -> None:
    app.button("Eddyfield").click()
    app.wait(lambda: app.all("[data-testid=scene-card]"), "the scenes")
    count = len(app.all("[data-testid=scene-card]"))
    file = tmp_path / name
    file.write_bytes(data)
    app.find(".drop input[type=file]").send_keys(str(file))
    app.wait(lambda: "joints" in app.text("[role=dialog]"), "what the file holds")
    assert "m high" in str(app.find("[role=dialog] input[value*='high']").get_attribute("value"))
    app.button("Make the scene").click()
    app.by_id("sheet-rows")
    assert "Wide 35" in app.caption
    app.keys("g")
    picture = app.picture()
    inside = ~surround(picture)
    rows, columns = np.nonzero(inside)
    frame = picture[rows.min() : rows.max() + 1, columns.min() : columns.max() + 1].astype(int)
    height, width = frame.shape[:2]
    body = np.abs(frame - np.median(frame[:, :6], axis=1, keepdims=True)).max(axis=-1) > 60
    body[:, : width // 200] = body[:, -(width // 200) :] = False
    at = np.argwhere(body)
    assert len(at) > 200, "somebody is there"
    assert at[:, 0].min() >= 0.02 * height
    assert at[:, 0].max() <= 0.98 * height
    app.button("Eddyfield").click()
    app.wait(lambda: len(app.all("[data-testid=scene-card]")) == count + 1, "one more scene on the Desk")


# --- 9: take it out ---


def test_keys_help_and_the_dim_theme(app: App) -> None:
    app.keys("?")
    app.wait(lambda: "Set a key on the camera" in app.text("[role=dialog]"), "the keys")
    app.keys(Keys.ESCAPE)
    app.wait(lambda: not app.all("[role=dialog]"), "the help gone")
    paper = app.find(".card").value_of_css_property("background-color")
    app.button("Dim theme").click()
    app.wait(lambda: app.find(".card").value_of_css_property("background-color") != paper, "dim paper")
    app.button("Paper theme").click()
