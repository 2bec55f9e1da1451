"""The first minutes: what the Desk says, files that are broken and mended, and from what is seen to what can be done."""

from __future__ import annotations

import base64
from pathlib import Path

import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from eddyfield.demo import mill_race, oda_crossing
from tests.formats.builders import BVH

from .card import drag
from .conftest import DRAG_FROM, App
from .pixels import differs

pytestmark = pytest.mark.browser

DROP = """
const [name, text] = arguments;
const transfer = new DataTransfer();
transfer.items.add(new File([Uint8Array.from(atob(text), (c) => c.charCodeAt(0))], name));
const fire = (target, type) =>
  target.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: transfer }));
const picture = document.querySelector('[data-testid=picture]');
fire(picture, 'dragenter');
setTimeout(() => {
  const target = document.querySelector('.drop.anywhere .mantine-Dropzone-root');
  fire(target, 'dragenter'); fire(target, 'dragover'); fire(target, 'drop');
}, 200);
"""


def dropped(app: App, name: str, data: bytes) -> None:
    app.script(DROP, name, base64.b64encode(data).decode())


# --- files ---


def test_the_desk_says_what_comes_next(app: App) -> None:
    app.button("Eddyfield").click()
    said = app.wait(lambda: app.by_id("next-step").text, "what comes next")
    assert said.startswith("Next: open “Crossing” and ")
    app.by_id("next-step").find_element(By.TAG_NAME, "button").click()
    app.by_id("sheet-rows")


def test_a_broken_file_is_told_in_words_of_files_and_taken_once_it_is_mended(app: App, tmp_path: Path) -> None:
    app.button("Eddyfield").click()
    file = tmp_path / "walk.bvh"
    file.write_text(BVH.replace("}\nMOTION", "}\n}\nMOTION"))
    chooser = app.find(".drop input[type=file]")
    chooser.send_keys(str(file))
    said = app.wait(lambda: app.text("[role=alert]"), "what is wrong")
    assert said.startswith("“walk.bvh” cannot be brought in. The file is damaged, or was cut off on its way here.")
    file.write_text(BVH)
    chooser.send_keys(str(file))
    app.wait(lambda: "joints" in app.text("[role=dialog]"), "what the mended file holds")
    app.button("Leave it").click()


def test_a_file_is_dropped_on_a_scenes_page(app: App) -> None:
    dropped(app, "walk.bvh", b"HIERARCHY nothing")
    app.wait(lambda: "“walk.bvh” cannot be brought in." in app.text("[role=dialog] [role=alert]"), "what is wrong")
    app.keys(Keys.ESCAPE)
    app.wait(lambda: not app.all("[role=dialog]"), "the dialog gone")
    dropped(app, "walk.bvh", BVH.encode())
    app.wait(lambda: app.text(".comes-in h2").startswith("walk.bvh"), "nobody's next version: it is settled what it is")
    app.button("A scene of its own").click()
    app.wait(lambda: "joints" in app.text("[role=dialog]"), "what the file holds")
    app.button("Make the scene").click()
    app.wait(lambda: "Wide 35" in app.caption, "the new scene")


def test_a_next_version_says_what_becomes_better_and_takes_the_place_of_the_one_before(
    app: App, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(oda_crossing, "KINK_M", 0.0)
    file = tmp_path / "oda_v2.glb"
    file.write_bytes(mill_race.oda_glb.__wrapped__())
    start = app.revision
    app.choose_joint("lantern")
    assert "off the arc" in app.text(".readings")
    app.find("input[aria-label='Rig file dropped on the scene']").send_keys(str(file))
    said = app.wait(lambda: app.by_id("version-changes").text, "what would change")
    assert "gone\noff the arc" in said
    assert app.find("[role=dialog] input").get_attribute("value") == "Oda"
    app.button("Bring it in").click()
    app.saved(start + 1)
    app.wait(lambda: "off the arc" not in app.text(".readings"), "the kink gone")
    assert app.caption.startswith("CUT · Bank rail 35"), "everything else stays"
    app.stage("set up")
    next(e for e in app.all(".contents button") if e.text == "Oda").click()
    app.wait(lambda: app.text(".version + .version").startswith("oda_v2.glb"), "both versions")
    app.wait(lambda: "frames differ from the version before; most, " in app.text(".thing-card"), "what it changed")
    kinked = app.picture()
    look = next(b for b in app.all(".version .toggle") if b.text == "look")  # at the first one
    look.click()
    app.wait(lambda: look.get_attribute("aria-pressed") == "true", "looking")
    app.go_to(1043)
    look.click()
    assert app.revision == start + 1, "looking changes nothing"
    app.go_to(1001)
    app.wait(lambda: differs(app.picture(), kinked) < 0.001, "as it was")
    app.script("document.activeElement.blur()")
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 2)
    app.wait(lambda: "off the arc" in app.text(".readings"), "the version before")


# --- from what is seen to what can be done ---


def test_an_arcs_tag_says_what_the_list_says_and_is_tied_to_its_place(app: App) -> None:
    app.choose_joint("lantern")
    app.go_to(1043)
    tag = app.by_id("arc-fault")
    words = tag.text
    rows = [row.text for row in app.all(".readings li")]
    title, amount, frame = "off the arc", *words.removeprefix("off the arc ").split(" · ")
    assert any(title in row and amount in row and frame in row for row in rows), (words, rows)
    ring = tag.find_element(By.TAG_NAME, "circle").rect
    here = app.by_id("arc-now").rect
    centre = lambda box: (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)  # noqa: E731
    assert centre(ring) == pytest.approx(centre(here), abs=1.5)
    line, label = tag.find_element(By.TAG_NAME, "path").rect, tag.find_element(By.TAG_NAME, "rect").rect
    assert label["x"] - 1 <= line["x"] + line["width"] / 2 <= label["x"] + label["width"] + 1


def test_a_drag_that_begins_on_a_mark_by_accident_moves_the_camera(app: App) -> None:
    start = app.revision
    app.keys("5")
    app.go_to(1050)
    before = app.picture()
    drag(app, app.by_id("aim-mark"), 60, 0)
    app.saved(start + 1)
    assert "place camera" in str(app.find("[aria-label^='Undo']").get_attribute("aria-label"))
    assert differs(app.picture(), before) > 0.05


def test_a_drag_in_the_picture_that_the_system_cancels_changes_nothing(app: App) -> None:
    start = app.revision
    app.keys("6")
    before = app.picture()
    picture = app.by_id("picture")
    chain = ActionChains(app.driver, duration=60).move_to_element_with_offset(picture, *DRAG_FROM)
    chain.click_and_hold().move_by_offset(40, 10).perform()
    app.wait(lambda: differs(app.picture(), before) > 0.05, "the camera in the hand")
    app.script("arguments[0].dispatchEvent(new PointerEvent('pointercancel', {bubbles: true}))", picture)
    app.wait(lambda: differs(app.picture(), before) < 0.002, "the picture as it was")
    app.hand().release().perform()
    assert app.revision == start


# --- readings ---
