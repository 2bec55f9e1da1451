"""The real application, served by its own command, in headless Chromium."""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any, ClassVar

import cv2
import numpy as np
import pytest
from numpy.typing import NDArray
from selenium import webdriver
from selenium.common.exceptions import ElementClickInterceptedException, ElementNotInteractableException
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from eddyfield.demo import lantern_pole, mill_race

ROOT = Path(__file__).resolve().parents[2]
FRONT_END = Path(os.environ.get("EDDYFIELD_VAR", ROOT / "var")) / "front-end"
SERVE_SECONDS = 40
CLICK_SECONDS = 5
HAND_MS = 40
DRAG_FROM = (-150, -90)
FLAGS = (
    "--headless=new --no-sandbox --hide-scrollbars --no-first-run --disable-background-networking"
    " --disable-component-update --disable-sync --disable-gpu-compositing --use-gl=angle"
    " --use-angle=gl-egl --ignore-gpu-blocklist --force-prefers-reduced-motion"
)
Picture = NDArray[np.uint8]


@pytest.fixture(scope="session")
def var(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Where the server of this run keeps what it has."""
    return tmp_path_factory.mktemp("var")


@pytest.fixture(scope="session")
def address(var: Path) -> Iterator[str]:
    """The sign-in address of a server of this run, with the demo scene."""
    (var / "front-end").symlink_to(FRONT_END)
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "EDDYFIELD_VAR": str(var)}
    log = var / "server.log"
    with log.open("w") as out:
        server = subprocess.Popen(
            [sys.executable, "-m", "eddyfield", "serve", "--demo", "--port", "0"],
            env=environment,
            stderr=out,
            stdout=out,
        )
    until = time.monotonic() + SERVE_SECONDS
    while not (found := re.search(r"ready: open (\S+)", log.read_text())):
        assert server.poll() is None, log.read_text()
        assert time.monotonic() < until, log.read_text()
        time.sleep(0.05)
    yield found[1]
    server.terminate()
    server.wait(20)


class PatientElement(WebElement):
    """An element that is clicked once it can be: the Card may just be unfolding, or a message be going."""

    def click(self) -> None:
        until = time.monotonic() + CLICK_SECONDS
        while True:
            try:
                return super().click()
            except (ElementNotInteractableException, ElementClickInterceptedException):
                if time.monotonic() > until:
                    raise
                time.sleep(0.05)


class App:
    """The application in one browser window, driven as a person would: keys, mouse, and what can be seen."""

    def __init__(self, driver: webdriver.Chrome, address: str) -> None:
        self.driver = driver
        self.address = address
        self.base = address.split("/sign-in")[0]
        self.meets = {"thumbnail", "422", "favicon.ico"}
        """Errors by a part of their message that the page may report, being what the test is about."""

    # --- finding and waiting ---

    def find(self, selector: str) -> WebElement:
        return self.wait(lambda: next(iter(self.driver.find_elements(By.CSS_SELECTOR, selector)), None), selector)

    def all(self, selector: str) -> list[WebElement]:
        return self.driver.find_elements(By.CSS_SELECTOR, selector)

    def by_id(self, test_id: str) -> WebElement:
        return self.find(f"[data-testid={test_id}]")

    def text(self, selector: str) -> str:
        return self.find(selector).text

    def button(self, name: str) -> WebElement:
        path = f"//*[self::button or self::a][contains(normalize-space(.), '{name}') or @aria-label='{name}']"
        return self.wait(lambda: next(iter(self.driver.find_elements(By.XPATH, path)), None), name)

    def wait(self, ready: Callable[[], Any], what: str, seconds: float = 12) -> Any:
        until = time.monotonic() + seconds
        while True:
            try:
                value = ready()
                if value:
                    return value
            except Exception:  # the page may be between two states
                if time.monotonic() > until:
                    raise
            assert time.monotonic() < until, f"waited in vain for: {what}\n{self.logs()}"
            time.sleep(0.03)

    def logs(self) -> str:
        return "\n".join(entry["message"][:300] for entry in self.driver.get_log("browser"))

    def script(self, source: str, *arguments: Any) -> Any:
        return self.driver.execute_script(source, *arguments)

    # --- doing ---

    def hand(self) -> ActionChains:
        """Moves of the pointer and keys, one after another; a move takes no longer than a quick hand's."""
        return ActionChains(self.driver, duration=HAND_MS)

    def keys(self, *keys: str) -> None:
        for key in keys:
            self.find("body").send_keys(key)

    def hold(self, modifier: str, key: str) -> None:
        self.hand().key_down(modifier).send_keys(key).key_up(modifier).perform()

    def drag(self, dx: int, dy: int, modifier: str | None = None) -> None:
        picture = self.by_id("picture")
        chain = ActionChains(self.driver, duration=60)
        if modifier:
            chain.key_down(modifier)
        # Beside the middle, where what the camera aims at has its mark.
        chain.move_to_element_with_offset(picture, *DRAG_FROM).click_and_hold().move_by_offset(
            dx // 2, dy // 2
        ).move_by_offset(dx - dx // 2, dy - dy // 2)
        chain.release()
        if modifier:
            chain.key_up(modifier)
        chain.perform()

    def wheel(self, delta: int) -> None:
        self.script(
            "arguments[0].dispatchEvent(new WheelEvent('wheel', {deltaY: arguments[1], bubbles: true, cancelable: true}))",
            self.by_id("picture"), delta,
        )  # fmt: skip

    def go_to(self, frame: int) -> None:
        """By the Sheet: click the row of the frame."""
        rows = self.by_id("sheet-rows")
        self.script(
            "arguments[0].scrollTop = Math.max(0, (arguments[1] - arguments[2]) * 13 - 300)", rows, frame, self.first
        )
        top = self.script("return arguments[0].scrollTop", rows)
        y = (frame - self.first) * 13 + 6 - top
        box = rows.rect
        self.hand().move_to_element_with_offset(rows, 20 - box["width"] / 2, y - box["height"] / 2).click().perform()
        self.wait(lambda: self.frame == frame, f"frame {frame}")

    def stage(self, name: str) -> None:
        self.find(f"[id='stage-{name}']").click()

    def saved(self, revision: int) -> None:
        self.wait(
            lambda: self.revision >= revision and "saved" in self.text(".header [role=status]"), f"revision {revision}"
        )

    # --- seeing ---

    @property
    def caption(self) -> str:
        return self.by_id("caption").text

    @property
    def title(self) -> str:
        """The name of the scene that is shown."""
        return self.text(".header h1")

    @property
    def frame(self) -> int:
        return int(self.all(".caption .mono")[0].text)

    @property
    def revision(self) -> int:
        return int(re.search(r"rev (\d+)", self.text(".header [role=status]"))[1])

    def picture(self) -> Picture:
        """What the Picture shows, as pixels (rows, columns, blue-green-red), once it is drawn for this frame."""
        self.settled()
        return decoded(self.by_id("picture").screenshot_as_png)

    def settled(self) -> None:
        """Wait until what is drawn no longer changes."""
        last = None
        for _ in range(60):
            now = self.find("[data-testid=picture] canvas").get_attribute("data-drawn")
            if now == last:
                return
            last = now
            time.sleep(0.12)

    def joint_place(self) -> tuple[float, float]:
        """The chosen joint on the delivery frame, px, as drawn."""
        mark = self.by_id("chosen-joint")
        return float(mark.get_attribute("data-x") or "nan"), float(mark.get_attribute("data-y") or "nan")

    def joint_on_screen(self, name: str) -> tuple[float, float]:
        """A joint of Oda in CSS pixels of the Picture, which it is chosen for."""
        self.choose_joint(name)
        circle = self.find("[data-testid=chosen-joint] circle")
        return float(circle.get_attribute("cx") or "nan"), float(circle.get_attribute("cy") or "nan")

    def field(self, label: str) -> WebElement:
        """The input of this label, the first that is shown."""
        path = f"//label[normalize-space(.)='{label}']/following::input[1]"
        return self.wait(
            lambda: next((e for e in self.driver.find_elements(By.XPATH, path) if e.is_displayed()), None), label
        )

    def option(self, name: str) -> WebElement:
        """The shown option of a list with exactly this name."""
        path = f"//*[@role='option'][normalize-space(.)='{name}']"
        return self.wait(
            lambda: next((e for e in self.driver.find_elements(By.XPATH, path) if e.is_displayed()), None), name
        )

    def choose_joint(self, name: str) -> None:
        """Of Oda, or of her lantern."""
        self.stage("judge")
        whose = "Lantern pole" if name in lantern_pole.NAMES else "Oda"
        chosen = self.field("Character or prop")
        if chosen.get_attribute("value") != whose:
            chosen.click()
            self.option(whose).click()
            self.wait(lambda: self.field("Character or prop").get_attribute("value") == whose, whose)
        field = self.field("Joint")
        field.click()
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(name)
        self.option(name).click()
        self.wait(lambda: self.text(".card h2").startswith(name), f"the card of {name}")
        self.script("document.activeElement.blur()")
        self.by_id("arc-line")

    # --- beginning ---

    renewed: ClassVar[str] = ""
    """The address to sign in with, once a test has renewed it."""

    def open_demo(self) -> None:
        """The demo scene as it was loaded, at its first frame."""
        # A page of this origin that runs nothing, so that the application is loaded once a test.
        quiet = f"{self.base}/api/access"
        self.driver.get(quiet)
        if not self.driver.get_cookies():  # not signed in yet
            self.driver.get(self.renewed or self.address)
            self.driver.get(quiet)
        self.driver.get_log("browser")
        self.script("localStorage.clear(); sessionStorage.clear()")
        self.driver.set_script_timeout(60)
        scene = self.driver.execute_async_script(RESET, mill_race.demo_id("crossing"))
        assert isinstance(scene, str), scene
        self.driver.get(f"{self.base}/scenes/{scene}")
        self.first = 1001
        self.by_id("sheet-rows")
        self.wait(lambda: self.find("[data-testid=picture] canvas").get_attribute("data-drawn"), "a first picture")
        self.wait(lambda: "Being judged" not in self.text(".readings-pane"), "its readings")


# Undo whatever earlier tests did to the demo's scenes; answers the id of the one that is opened.
RESET = """
const [id, done] = arguments;
(async () => {
  const { scenes } = await (await fetch('/api/scenes')).json();
  for (const scene of scenes) {
    let revision = scene.revision;
    while (revision > 1) {
      const answer = await fetch(`/api/scenes/${scene.id}/undo`, {
        method: 'POST', headers: {'Content-Type': 'application/json'},
        body: JSON.stringify({ revision, view: { judged: false } }) });
      if (answer.status === 422) break;
      if (!answer.ok) throw new Error(await answer.text());
      revision += 1;
    }
  }
  done(id);
})().catch((error) => done({ error: String(error) }));
"""


def decoded(png: bytes) -> Picture:
    picture = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_COLOR)
    assert picture is not None
    return np.asarray(picture, dtype=np.uint8)


@pytest.fixture(scope="session")
def driver(tmp_path_factory: pytest.TempPathFactory) -> Iterator[webdriver.Chrome]:
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    for flag in FLAGS.split():
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    options.add_experimental_option("prefs", {"download.default_directory": str(tmp_path_factory.mktemp("downloads"))})
    driver = webdriver.Chrome(options=options, service=webdriver.ChromeService("/usr/bin/chromedriver"))
    driver._web_element_cls = PatientElement
    metrics = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    yield driver
    driver.quit()


@pytest.fixture
def app(driver: webdriver.Chrome, address: str) -> Iterator[App]:
    """The demo scene in the browser; afterwards the page must not have reported an error."""
    app = App(driver, address)
    app.open_demo()
    window = driver.current_window_handle
    yield app
    # A test that failed between two windows leaves one behind, and the next would look at the wrong one.
    for other in set(driver.window_handles) - {window}:
        driver.switch_to.window(other)
        driver.close()
    driver.switch_to.window(window)
    severe = [e["message"] for e in driver.get_log("browser") if e["level"] == "SEVERE"]
    assert not [m for m in severe if not any(known in m for known in app.meets)], severe


__all__ = ["App", "Keys", "decoded"]
