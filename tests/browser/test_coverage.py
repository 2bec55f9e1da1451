"""Several cameras and cuts side by side, both sides of a cut, and the scene's own time, through the real interface."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.keys import Keys

from .card import type_number
from .conftest import App, Picture, decoded
from .pixels import differs

pytestmark = pytest.mark.browser


def inset(app: App, number: int) -> Picture:
    """What one of the pictures beside the large one shows."""
    app.settled()
    return decoded(app.all("[data-testid=coverage] .through")[number].screenshot_as_png)


def cut_at(app: App, frame: int, camera: str) -> None:
    """Cut on a frame to the camera of a number key."""
    start = app.revision
    app.keys(camera)
    app.go_to(frame)
    app.keys("c")
    app.saved(start + 1)


def test_coverage_plays_in_step_and_shows_what_its_cameras_see(app: App) -> None:
    app.hold(Keys.ALT, "v")
    app.by_id("coverage")
    assert len(app.all("[data-testid=coverage] .through")) == 3
    app.go_to(1040)
    face, two = inset(app, 0), inset(app, 1)
    app.all("[data-testid=coverage] .through")[0].click()
    app.wait(lambda: app.caption.startswith("CAMERA · Face Oda 85"), "looked through")
    large = app.picture()
    assert large.shape[0] > 1.5 * face.shape[0], "one large picture"
    app.keys("0")
    app.keys(" ")
    app.wait(lambda: app.frame >= 1050, "it plays")
    app.keys(" ")
    app.settled()
    frame, playing = app.frame, inset(app, 1)
    app.go_to(1001)
    app.go_to(frame)
    assert differs(inset(app, 1), playing) < 0.002, "the picture beside is that of the very frame"
    assert differs(playing, two) > 0.002, "she has walked on: a face that is gone along with may look the same again"
    app.all("[data-testid=coverage] .head button")[0].click()
    app.wait(lambda: len(app.all("[data-testid=coverage] .through")) == 2, "one less")
    app.hold(Keys.ALT, "v")
    app.wait(lambda: not app.all("[data-testid=coverage]"), "alone again")


def test_another_cut_is_tried_compared_and_taken_up(app: App) -> None:
    start = app.revision
    app.stage("time")
    app.go_to(1060)
    first = app.picture()
    app.button("Keep this cut, try another").click()
    app.saved(start + 1)
    cut_at(app, 1050, "2")
    app.go_to(1060)
    second = app.picture()
    assert differs(second, first) > 0.1
    app.button("Compare").click()
    app.wait(lambda: "With cut A instead of B" in app.text(".other-cuts"), "compared")
    app.by_id("version-changes")
    app.hold(Keys.ALT, "v")
    app.find("[aria-label='What picture 3 shows']").click()
    app.option("Bank rail 35").click()
    app.wait(lambda: differs(inset(app, 0), inset(app, 1)) < 0.002, "the other cut beside: there it is on the rail")
    assert differs(inset(app, 0), inset(app, 2)) > 0.05
    app.hold(Keys.ALT, "v")
    app.button("Take up").click()
    app.saved(start + 3)
    app.wait(lambda: differs(app.picture(), first) < 0.002, "the first again")
    assert "2 shots" in app.text(".other-cuts")


def test_another_camera_is_laid_over_and_cut_to_where_the_two_are_nearest(app: App) -> None:
    app.go_to(1020)
    alone = app.picture()
    app.hold(Keys.ALT, "l")
    app.wait(lambda: "Cut to it on 1020" in app.text(".laid-over"), "what the other camera makes of it")
    app.find("[aria-label='Which camera lies over the picture']").click()
    app.option("Two-shot Oda Quill 50").click()
    app.wait(lambda: "Quill nearest on" in app.text(".laid-over"), "both are in both")
    assert differs(app.picture(), alone) > 0.3, "both pictures are seen"
    (oda,) = (text.text for text in app.all(".laid-marks text") if text.text.startswith("Oda"))
    app.hold(Keys.SHIFT, "l")
    app.wait(lambda: app.caption.startswith("CAMERA · Two-shot"), "the two have changed places")
    app.wait(lambda: any(t.text.startswith(oda[:10]) for t in app.all(".laid-marks text")), "as far apart as before")
    app.keys("0")
    app.find("[aria-label='Which camera lies over the picture']").click()
    app.option("Two-shot Oda Quill 50").click()
    start = app.revision
    app.wait(lambda: "Cut to it on 1020" in app.text(".laid-over"), "it can be cut to")
    app.button("Cut to it on 1020").click()
    app.saved(start + 1)
    app.wait(lambda: "Here it is the same camera." in app.text(".laid-over"), "it is the cut's now")
    app.keys(Keys.ESCAPE)
    app.wait(lambda: not app.all(".laid-over"), "alone again")


def test_shots_have_pictures_an_order_and_handles(app: App) -> None:
    cut_at(app, 1050, "2")
    start = app.revision
    cut_at(app, 1080, "3")
    app.stage("time")
    app.wait(lambda: len(app.all(".shot-picture canvas[data-drawn]")) == 3, "a picture of each")
    order = app.find("[aria-label='In the order of']")
    order.click()
    app.option("in order of length").click()
    names = [row.text.split("\n")[0] for row in app.all(".shot-row")]
    assert names == ["030", "020", "010"]
    app.go_to(1055)
    type_number(app, "handle before", "8")
    app.saved(start + 2)
    app.wait(lambda: app.field("handle before").get_attribute("value") == "8 f", "kept")
    app.all(".shot-picture")[0].click()
    app.wait(lambda: app.frame == 1088, "the middle of the shortest")
