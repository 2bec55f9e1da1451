"""Makes the pictures of the main views from the demo scene: ``python docs/make_screenshots.py ADDRESS`` with the sign-in
address of a running ``./eddyfield demo`` whose scene nobody needs: its edits are undone first."""

from __future__ import annotations

import contextlib
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "src")]

from selenium import webdriver  # noqa: E402
from selenium.webdriver.common.keys import Keys  # noqa: E402

from eddyfield.demo import mill_race, oda_crossing  # noqa: E402
from tests.browser.conftest import FLAGS, App  # noqa: E402

TARGET = ROOT / "docs" / "screenshots"


def main(address: str) -> None:
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    for flag in FLAGS.split():
        options.add_argument(flag)
    driver = webdriver.Chrome(options=options, service=webdriver.ChromeService("/usr/bin/chromedriver"))
    metrics = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    app = App(driver, address)
    try:
        app.open_demo()
        take(app)
    finally:
        driver.quit()


def shoot(app: App, name: str) -> None:
    app.picture() if app.all("[data-testid=picture]") else None
    app.script("document.activeElement.blur()")
    app.driver.save_screenshot(str(TARGET / f"{name}.png"))


def take(app: App) -> None:
    contents(app)
    app.go_to(1029)
    app.stage("step")
    for joint in ("lantern", "foot_l"):
        app.choose_joint(joint)
        app.keys("A")
    next(row for row in app.all(".readings .what") if row.text.startswith("off the arc")).click()
    app.wait(lambda: app.all("[data-testid=why] .fault"), "why it is told")
    app.keys("o", "O")
    app.wait(lambda: len(app.all("[data-testid=arc-also]")) == 2, "arcs side by side")
    app.script("document.querySelector('[data-testid=why]').scrollIntoView({block: 'end'})")
    app.script("document.querySelector('.spacing-chart').scrollIntoView({block: 'center'})")
    shoot(app, "judge")
    app.keys("o", "O")
    for name in ("foot_l", "lantern"):
        app.find(f"[aria-label$='{name} go']").click()
    app.stage("step")
    shoot(app, "step-strobing")
    app.button("What would be best").click()
    app.by_id("trying")
    app.driver.save_screenshot(str(TARGET / "best.png"))
    app.keys(Keys.ESCAPE)
    next_version(app)
    app.stage("set up")
    cameras(app)
    with saving(app):
        app.keys("0", "l")
    app.keys("r")
    app.hold(Keys.ALT, "2")
    for _ in range(3):
        app.wheel(350)
    shoot(app, "roam")
    app.hold(Keys.ALT, "5")
    with saving(app):
        app.keys("p")
    app.go_to(1071)
    app.keys("1")
    app.stage("time")
    app.go_to(1048)
    with saving(app):
        app.keys("b")
    app.keys("5", "K", "K")
    app.go_to(1080)
    shoot(app, "curves")
    app.keys("K", "K")
    app.stage("hand over")
    app.wait(lambda: app.all("[data-testid=export-notes]"), "the notes")
    app.button("Dim theme").click()
    shoot(app, "hand-over-dim")
    app.button("Paper theme").click()
    app.keys("?")
    app.wait(lambda: "Set a key" in app.text("[role=dialog]"), "the keys")
    shoot(app, "keys")
    app.keys(Keys.ESCAPE)
    app.button("Eddyfield").click()
    app.wait(lambda: app.all(".scene img"), "the scenes")
    app.wait(lambda: app.script("return document.querySelector('.scene img').naturalWidth"), "their pictures")
    app.wait(lambda: app.text(".desk").count(" readings: ") == 3, "what needs attention in each scene")
    shoot(app, "desk")
    app.driver.find_element("xpath", "//*[normalize-space(.)='Crossing, cut']").click()
    app.by_id("sheet-rows")
    app.go_to(1031)
    app.stage("time")
    app.keys("K", "K", "K")
    shoot(app, "time")
    app.keys("K")
    app.go_to(1053)
    app.hold(Keys.ALT, "h")
    app.wait(lambda: app.all(".matching table"), "its figures")
    next(label for label in app.all(".matching label") if "over each other" in label.text).click()
    shoot(app, "matching")
    app.keys(Keys.ESCAPE)
    app.hold(Keys.ALT, "v")
    app.go_to(1062)
    shoot(app, "coverage")
    app.hold(Keys.ALT, "v")
    app.driver.get(f"{app.base}/sequences/{mill_race.demo_id('sequence')}")
    app.by_id("sequence-strip")
    app.by_id("sheet-rows")
    app.hold(Keys.ALT, Keys.PAGE_DOWN)
    app.wait(lambda: app.title == "Landing", "its second scene")
    app.first = 2001
    app.go_to(2039)
    app.button("whole sequence").click()
    app.wait(lambda: app.all("[data-testid=sequence-readings] li"), "its readings")
    shoot(app, "sequence")


def next_version(app: App) -> None:
    """A version of Oda with a worse kink than the demo's."""
    app.stage("judge")
    kink = oda_crossing.KINK_M
    oda_crossing.KINK_M = 0.06
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "oda_v2.glb"
        file.write_bytes(mill_race.oda_glb.__wrapped__())
        app.find("input[aria-label='Rig file dropped on the scene']").send_keys(str(file))
        app.wait(lambda: app.all("[data-testid=version-changes]"), "what it changes")
    oda_crossing.KINK_M = kink
    app.driver.save_screenshot(str(TARGET / "next-version.png"))
    app.button("Leave it").click()
    app.wait(lambda: not app.all("[role=dialog]"), "the dialog gone")


def contents(app: App) -> None:
    """A wall that comes in, and a ball in Oda's hand; both are taken back."""
    app.stage("set up")
    app.go_to(1029)
    stand_in(app, "Wall")
    app.wait(lambda: "Wall" in app.text(".comes-in h2"), "the wall")
    app.button("Leave it").click()
    stand_in(app, "Ball")
    with saving(app):
        app.button("Bring it in").click()
    app.find(".thing-card")
    with saving(app):
        app.button("Set key").click()
    shoot(app, "thing")
    for _ in range(2):
        app.script("document.activeElement.blur()")
        with saving(app):
            app.hold(Keys.CONTROL, "z")


def stand_in(app: App, shape: str) -> None:
    app.find("[aria-label='Bring in']").click()
    app.wait(lambda: next((e for e in app.all(".mantine-Menu-item") if e.text == shape), None), shape).click()
    app.find(".comes-in")


def cameras(app: App) -> None:
    """The Bench and the Card of cameras, question by question."""
    only(app, "How is the framing held?")
    app.keys("a", "3")
    app.go_to(1040)
    shoot(app, "two-shot")
    only(app, "How is it carried?")
    app.keys("2")
    app.go_to(1030)
    shoot(app, "comes-along")
    app.keys("1")
    app.go_to(1036)
    shoot(app, "rail-run")
    only(app, "How is it carried?")
    app.keys("5")
    app.go_to(1078)
    app.button("Plan into the large place").click()
    shoot(app, "plan-large")
    app.keys(Keys.ESCAPE)
    only(app, "What does the lens do?")
    app.keys("6")
    app.go_to(1046)
    frame = app.find("input[aria-label='Delivery frame']")
    app.script("arguments[0].scrollIntoView({block: 'center'})", frame)
    frame.click()
    with saving(app):
        app.option("Cinema scope, 2.39, 2048 × 858").click()
    app.script("document.querySelector('[data-testid=gains]').scrollIntoView({block: 'end'})")
    shoot(app, "lens")
    with saving(app):
        app.hold(Keys.CONTROL, "z")
    app.keys("a")
    only(app, "Where does it stand?")


@contextlib.contextmanager
def saving(app: App) -> Iterator[None]:
    """Wait until what is done inside is saved."""
    before = app.revision
    yield
    app.saved(before + 1)


def only(app: App, ask: str) -> None:
    """Open one question of the camera's Card and close the others."""
    for control in app.all(".camera-card button[aria-expanded]"):
        if (control.get_attribute("aria-expanded") == "true") != (ask in control.text):
            app.script("arguments[0].click()", control)


if __name__ == "__main__":
    main(sys.argv[1])
