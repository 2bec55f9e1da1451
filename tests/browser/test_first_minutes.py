"""The first minutes: files that are let go over the page, and what an arc says of itself."""

from __future__ import annotations

import base64

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.formats.builders import BVH

from .conftest import App

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
