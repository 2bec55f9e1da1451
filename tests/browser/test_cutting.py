"""The cut in the real interface: made by keys, by hands in the Sheet, while it plays, and from the list of shots."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from .card import type_number
from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser
ROW_PX, CUT_X = 13, 64
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


def y_of(app: App, frame: int) -> float:
    """Where the upper edge of a row is, from the middle of the Sheet."""
    rows = app.by_id("sheet-rows")
    return (frame - app.first) * ROW_PX - app.script("return arguments[0].scrollTop", rows) - rows.rect["height"] / 2


def drag_in_cut(app: App, frame: int, by: int, inside: int = 0, modifier: str | None = None) -> None:
    rows = app.by_id("sheet-rows")
    chain = app.hand()
    if modifier:
        chain.key_down(modifier)
    at = (CUT_X - rows.rect["width"] / 2, y_of(app, frame) + inside)
    chain.move_to_element_with_offset(rows, *(round(v) for v in at)).click_and_hold()
    chain.move_by_offset(0, by * ROW_PX // 2).move_by_offset(0, by * ROW_PX - by * ROW_PX // 2).release()
    if modifier:
        chain.key_up(modifier)
    chain.perform()


def test_a_cut_is_made_by_two_keys_and_seen_on_the_very_frame(app: App) -> None:
    app.go_to(1048)
    bank = app.picture()
    cut(app, 1048, "2")
    assert app.caption.startswith("CUT · 020 · Face Oda 85")
    face = app.picture()
    assert differs(face, bank) > ANOTHER
    app.keys(Keys.ARROW_UP)
    app.wait(lambda: app.caption.startswith("CUT · 010 · Bank rail 35"), "the frame before is the other camera's")
    app.keys(Keys.ARROW_DOWN)
    assert differs(app.picture(), face) < 1e-4
    app.keys("c")
    app.wait(lambda: "shows Face Oda 85 on 1048 already" in app.text(".notice"), "that it is so already")
    app.hand().key_down(Keys.ALT).send_keys("c").key_up(Keys.ALT).perform()
    app.wait(lambda: app.caption.startswith("CUT · Bank rail 35"), "one shot again")
    app.hold(Keys.CONTROL, "z")
    app.wait(lambda: app.caption.startswith("CUT · 020 · Face Oda 85"), "taken back")
    assert [s[1:] for s in shots(app)] == [("Bank rail 35", 1001, 1047), ("Face Oda 85", 1048, 1096)]


def test_edges_are_rolled_and_shots_slid_in_the_sheet(app: App) -> None:
    cut(app, 1030, "2")
    cut(app, 1050, "3")
    start = app.revision
    app.go_to(1050)
    drag_in_cut(app, 1050, 4)
    app.saved(start + 1)
    assert [s[2:] for s in shots(app)] == [(1001, 1029), (1030, 1053), (1054, 1096)]
    assert app.frame == 1054, "one sees the first picture of what begins there"
    app.go_to(1040)
    drag_in_cut(app, 1040, -3, inside=ROW_PX // 2, modifier=Keys.SHIFT)
    app.saved(start + 2)
    assert [s[2:] for s in shots(app)] == [(1001, 1026), (1027, 1050), (1051, 1096)], "as long as it was"
    app.go_to(1051)
    drag_in_cut(app, 1051, 0)
    assert app.revision == start + 2, "a click moves nothing"
    app.hand().key_down(Keys.ALT).send_keys(Keys.ARROW_LEFT).key_up(Keys.ALT).perform()
    app.wait(lambda: app.frame == 1027, "the shot before")
    for frame in (1051, 1001, 1027):
        app.hand().key_down(Keys.ALT).send_keys(Keys.ARROW_RIGHT).key_up(Keys.ALT).perform()
        app.wait(lambda wanted=frame: app.frame == wanted, f"the next shot, round at the end: {frame}")


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


def test_shots_are_named_moved_locked_and_joined_in_their_list(app: App) -> None:
    cut(app, 1040, "2")
    start = app.revision
    app.stage("time")
    listed = lambda: [row.text.split("\n") for row in app.all(".shot-row")]  # noqa: E731
    app.wait(lambda: [row[:2] for row in listed()] == [["010", "Bank rail 35"], ["020", "Face Oda 85"]], "two shots")
    assert listed()[1][2] == "57 f 2.38 s"
    name = app.field("name")
    name.send_keys("lantern", Keys.ENTER)
    app.saved(start + 1)
    app.wait(lambda: app.caption.startswith("CUT · lantern · Face"), "its name over the Picture")
    type_number(app, "from", "1044")
    app.saved(start + 2)
    assert [s[0] for s in shots(app)] == ["010", "lantern"]
    assert shots(app)[1][2] == 1044
    app.wait(lambda: app.frame == 1044, "it stays with the shot")
    assert not [n.text for n in app.all(".notice.warning")], "set once, not twice"
    app.button("Lock the shot").click()
    app.saved(start + 3)
    app.wait(lambda: app.find("[aria-label='Camera of the shot']").get_attribute("disabled"), "its camera stays")
    app.go_to(1060)
    app.keys("3", "c")
    app.wait(lambda: "Shot lantern is locked" in app.text(".notice"), "why not")
    app.keys("0")
    app.button("Unlock the shot").click()
    app.saved(start + 4)
    note = app.driver.find_element(By.CSS_SELECTOR, "[aria-label='Note on the shot']")
    note.send_keys("hold on her eyes")
    app.script("arguments[0].blur()", note)
    app.saved(start + 5)
    app.button("Join it to the shot before").click()
    app.saved(start + 6)
    app.wait(lambda: [row[:2] for row in listed()] == [["010", "Bank rail 35"]], "one again")


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
