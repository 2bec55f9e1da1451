"""Sound beside the frames, in the real interface: heard in time with the picture, marked, and cut to."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from selenium.webdriver.common.keys import Keys

from eddyfield.demo import mill_sounds

from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser
# Every sound that is begun: when and where in its file, on the clock of what is heard; and every frame that is shown, when.
LISTEN = """
window.begun = []; window.shown = [];
const start = AudioBufferSourceNode.prototype.start;
AudioBufferSourceNode.prototype.start = function (when, offset, lasts) {
  window.ear = this.context;
  window.begun.push({ when, offset, lasts, seconds: this.buffer.duration });
  return start.call(this, when, offset, lasts);
};
const canvas = document.querySelector('[data-testid=picture] canvas');
new MutationObserver(() => {
  const frame = Number(canvas.dataset.drawn.split(' ')[1]);
  if (window.ear && frame !== window.shown.at(-1)?.[1]) window.shown.push([window.ear.currentTime, frame]);
}).observe(canvas, { attributes: true, attributeFilter: ['data-drawn'] });
"""


def bring(app: App, folder: Path) -> None:
    file = folder / "voices.flac"
    file.write_bytes(mill_sounds.voices())
    start = app.revision
    app.stage("time")
    app.find(".sounds input[type=file]").send_keys(str(file))
    app.saved(start + 1)
    app.wait(lambda: "voices" in app.text(".sounds"), "the sound in the list")


def test_what_is_heard_keeps_time_with_what_is_seen(app: App, tmp_path: Path) -> None:
    app.go_to(1001)
    bring(app, tmp_path)
    app.script(LISTEN)
    app.keys(Keys.SPACE)
    app.wait(lambda: app.script("return window.shown.length") > 20, "it plays")
    app.keys(Keys.SPACE)
    (begun, *again), shown = app.script("return [window.begun, window.shown.slice(3)]")
    assert begun["seconds"] == pytest.approx(4.0, abs=0.01)
    ends = min((sound["when"] for sound in again), default=np.inf)
    times, frames = np.array([picture for picture in shown if picture[0] < ends and picture[1] > 1003]).T
    assert len(frames) > 8
    late = (begun["offset"] + times - begun["when"]) * 24 - (frames - 1001)
    assert late.min() >= -0.6, "no picture comes before what is heard with it"
    # A picture stands until the next one is due, and is seen once it is drawn: on a machine that draws in software that
    # takes as long as there is between two of them.
    assert np.median(late) <= 1 + np.median(np.diff(times)) * 24
    heard = app.script("return window.begun.length")
    app.go_to(1050)
    app.wait(lambda: app.script("return window.begun.length") > heard, "a frame's worth is heard")
    assert app.script("return window.begun.at(-1).lasts") <= 0.07
    app.find("[aria-label='Mute voices']").click()
    app.wait(lambda: app.all("[aria-label='Hear voices']"), "it is muted")
    before = app.script("return window.begun.length")
    app.go_to(1051)
    assert app.script("return window.begun.length") == before


def test_lines_are_found_marked_and_cut_to(app: App, tmp_path: Path) -> None:
    app.go_to(1001)
    app.keys("K", "K", "K")
    rows = app.by_id("sheet-rows")
    empty = app.script("return arguments[0].querySelector('canvas').toDataURL()", rows)
    bring(app, tmp_path)
    app.wait(
        lambda: app.script("return arguments[0].querySelector('canvas').toDataURL()", rows) != empty, "its waveform"
    )
    start = app.revision
    app.find(".sound-row .name").click()
    app.button("Find lines").click()
    app.saved(start + 1)
    app.wait(lambda: len(app.all(".mark-row")) == 4, "two lines, marked where they begin and end")
    assert "2 lines found" in app.text(".notice")
    app.keys("5", "0")
    line = next(row for row in app.all(".mark-row") if "1051" in row.text)
    before = app.picture()
    next(b for b in line.find_elements("tag name", "button") if b.text == "cut").click()
    app.saved(start + 2)
    app.wait(lambda: app.frame == 1045, "six frames before the line")
    app.wait(lambda: "Crane up" in app.caption, "the camera that was looked through last")
    assert differs(app.picture(), before) > 0.1
    app.script("document.activeElement.blur()")
    app.hold(Keys.ALT, "a")
    app.saved(start + 3)
    app.wait(lambda: any("action" in row.text for row in app.all(".mark-row")), "an action is marked here")
    app.hold(Keys.ALT, "a")
    app.saved(start + 4)
    app.wait(lambda: len(app.all(".mark-row")) == 4, "the same key takes it away")
    for _ in range(5):
        app.hold(Keys.CONTROL, "z")
    app.saved(start + 9)
