"""The cut in the real interface: made while it plays, and one shot that takes over from another."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.keys import Keys

from .card import type_number
from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser
ANOTHER = 0.1
"""Of the pixels: so many differ between the pictures of two cameras."""


CAMERAS = ("Bank rail 35", "Two-shot Oda Quill 50", "Over Quill's shoulder 50")
# Keys pressed when frames come by, however slowly the rest of a busy machine is; what the caption said just before each.
PRESSES = """
const due = arguments[0];
window.captions = [];
const look = () => {
  const frame = Number(document.querySelector('.caption .mono').textContent);
  if (document.querySelector('.caption.live') && frame >= due[0][1]) {
    window.captions.push(document.querySelector('.caption').innerText);
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: due[0][0], bubbles: true }));
    due.shift();
  }
  if (due.length) requestAnimationFrame(look);
};
requestAnimationFrame(look);
"""


def cut(app: App, frame: int, key: str) -> None:
    start = app.revision
    app.go_to(frame)
    app.keys(key, "c")
    app.saved(start + 1)


def shots(app: App) -> list[tuple[str, str, int, int]]:
    """Title, camera, first and last frame of every shot, as the window has them."""
    return [
        tuple(shot)
        for shot in app.script(
            "return fetch(`/api/scenes/${location.pathname.split('/')[2]}/cut`).then(r => r.json()).then(c => c.shots.map("
            "s => [s.name, s.camera, s.first, s.last]))"
        )
    ]


def test_cutting_while_it_plays_is_kept_or_thrown_away(app: App) -> None:
    app.keys(Keys.HOME)
    start = app.revision
    app.script(PRESSES, [["3", 1010], ["4", 1030], [" ", 1050]])
    app.hold(Keys.SHIFT, " ")
    app.saved(start + 1)
    told = app.script("return window.captions")
    assert "the number keys cut" in told[0], "the mode is told"
    assert [next(n for n in CAMERAS if n in caption) for caption in told] == [*CAMERAS], "seen at once"
    app.wait(lambda: "the number keys cut" not in app.caption, "it ends with playing")
    made = shots(app)
    assert [s[1] for s in made[:3]] == [*CAMERAS]
    assert made[-1][1:] == ("Bank rail 35", made[-2][3] + 1, 1096), "after what was played it goes on as it was"
    assert app.frame == made[1][2]
    app.hold(Keys.CONTROL, "z")
    app.wait(lambda: len(shots(app)) == 1, "thrown away by one undo")


def test_one_shot_takes_over_from_another_as_it_is_said(app: App) -> None:
    app.stage("time")
    cut(app, 1030, "5")
    start = app.revision
    app.keys("g")
    app.hold(Keys.ALT, "d")
    app.saved(start + 1)
    app.go_to(1032)
    app.wait(lambda: "dissolve 9 of 12" in app.caption, "the caption counts its frames")
    mixed = app.picture()
    app.keys("1")
    one = app.picture()
    app.keys("5")
    other = app.picture()
    app.keys("0")
    by_hand = one.astype(float) * (4 / 13) + other.astype(float) * (9 / 13)
    middle = (slice(60, 300), slice(60, 300))
    assert abs(mixed.astype(float) - by_hand)[middle].mean() < 2.5, "nine thirteenths of the later picture"
    app.hold(Keys.ALT, "d")
    app.saved(start + 2)
    app.go_to(1030)
    app.wait(lambda: "dip 7 of 12" in app.caption, "a dip")
    assert app.picture()[middle].mean() < 3, "all black on the frame of the cut"
    app.hold(Keys.ALT, "d")
    app.saved(start + 3)
    app.wait(lambda: "blend 7 of 12" in app.caption, "a blended move")
    moving = app.picture()
    assert differs(moving, one) > ANOTHER
    assert differs(moving, other) > ANOTHER
    type_number(app, "frames", "4")
    app.saved(start + 4)
    app.wait(lambda: "of 4" in app.caption, "as long as it was typed")
    for _ in range(5):
        app.hold(Keys.CONTROL, "z")
    app.saved(start + 9)
