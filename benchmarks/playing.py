"""Playing in the Picture at 1280 x 800, in software: the demo, and with a heavy character beside it."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.support.wait import WebDriverWait

from . import heavy_character
from .served import ROOT, Client, served_in

FLAGS = (
    "--headless=new --no-sandbox --hide-scrollbars --no-first-run --disable-background-networking --disable-sync"
    " --disable-component-update --disable-gpu-compositing --use-gl=angle --use-angle=gl-egl --ignore-gpu-blocklist"
)
WARM_SECONDS, SECONDS, COME_IN_SECONDS = 2.0, 6.0, 30
PICTURE = "[data-testid=picture] canvas"
COUNT = f"""
window.pictures = 0;
new MutationObserver(() => window.pictures++).observe(document.querySelector('{PICTURE}'),
  {{ attributes: true, attributeFilter: ['data-drawn'] }});
"""


def run() -> None:
    with served_in() as application, tempfile.TemporaryDirectory() as folder:
        application.start()
        host, token = application.wait()
        client = Client(host, token, application.var)
        browser = browser_at(host, token, client.scene_id)
        try:
            settled(browser)
            browser.execute_script(COUNT)
            plain = _played(browser, "the demo")
            file = Path(folder) / "heavy.glb"
            file.write_bytes(heavy_character.glb())
            began = time.perf_counter()
            _bring(application.var, client.scene["name"], file)
            WebDriverWait(browser, COME_IN_SECONDS).until(
                lambda b: "Heavy" in b.find_element(By.CSS_SELECTOR, ".card").text
            )
            print(f"{'heavy character: from the command to its card':<56}{time.perf_counter() - began:8.1f} s")
            settled(browser)
            _played(browser, "with 100,000 triangles, 150 joints, 60 shapes more", plain)
        finally:
            browser.quit()


def browser_at(host: str, token: str, scene_id: str) -> webdriver.Chrome:
    """A browser of 1280 x 800 in which a scene of a served application is open."""
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    for flag in FLAGS.split():
        options.add_argument(flag)
    browser = webdriver.Chrome(options=options, service=webdriver.ChromeService("/usr/bin/chromedriver"))
    metrics = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    browser.get(f"http://{host}/sign-in?token={token}")
    browser.get(f"http://{host}/scenes/{scene_id}")
    return browser


def settled(browser: webdriver.Chrome) -> None:
    """Wait until what is drawn no longer changes."""
    last = ""
    for _ in range(60):
        time.sleep(0.5)
        now = browser.execute_script(f"return document.querySelector('{PICTURE}')?.dataset.drawn ?? ''")
        if now and now == last:
            return
        last = now


def _played(browser: webdriver.Chrome, what: str, plain: float | None = None) -> float:
    body = browser.find_element(By.TAG_NAME, "body")
    body.send_keys(" ")
    time.sleep(WARM_SECONDS)
    before, began = browser.execute_script("return window.pictures"), time.perf_counter()
    time.sleep(SECONDS)
    drawn = browser.execute_script("return window.pictures") - before
    rate = drawn / (time.perf_counter() - began)
    body.send_keys(" ")
    share = f"{rate / plain:10.2f} of that" if plain else ""
    print(f"{'playing ' + what:<56}{rate:8.1f} frames a second (24 are played){share}")
    return float(rate)


def _bring(var: Path, scene: str, file: Path) -> None:
    environment = {**os.environ, "EDDYFIELD_VAR": str(var), "PYTHONPATH": str(ROOT / "src")}
    words = ["bring", str(file), "--scene", scene, "--as", "character", "--name", "Heavy"]
    subprocess.run([sys.executable, "-m", "eddyfield", *words], env=environment, check=True, capture_output=True)
