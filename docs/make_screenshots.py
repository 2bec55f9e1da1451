"""Makes the pictures of the main views from the demo scene: ``python docs/make_screenshots.py ADDRESS`` with the sign-in
address of a running ``./eddyfield demo`` whose scene nobody needs: its edits are undone first."""

from __future__ import annotations

import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "src")]

from selenium import webdriver  # noqa: E402
from selenium.webdriver.common.keys import Keys  # noqa: E402

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
    app.go_to(1029)
    app.stage("step")
    app.choose_joint("lantern")
    app.go_to(1043)
    app.keys("i", "o")
    app.wait(lambda: "arc frozen" in app.caption, "a frozen arc")
    shoot(app, "judge")
    app.keys("i", "o")
    app.wait(lambda: "arc frozen" not in app.caption, "the arc through the cut")
    app.stage("step")
    shoot(app, "step-strobing")
    start = app.revision
    app.keys("y")
    app.saved(start + 1)
    shoot(app, "step-riding")
    app.stage("set up")
    app.keys("l")
    app.saved(start + 2)
    app.keys("3")
    shoot(app, "roam")
    app.keys("p")
    app.saved(start + 3)
    shoot(app, "moved-not-keyed")
    app.stage("time")
    app.keys("b")
    app.saved(start + 4)
    shoot(app, "time")
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
    shoot(app, "desk")


if __name__ == "__main__":
    main(sys.argv[1])
