"""A scene of 20,000 frames, 2,000 cuts and 20,000 keys against the demo of 96 frames: edits over loopback, and the script of
the Sheet while it is scrolled and while a key is dragged."""

from __future__ import annotations

from statistics import median, quantiles
from time import perf_counter
from typing import Any

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.support.wait import WebDriverWait

from .playing import browser_at, settled
from .served import Client, served_in

FRAMES, CUTS, KEYS_A_CHANNEL = 20_000, 2_000, 5_000
CHANNELS = ("x", "y", "z", "pan")
EDITS = 60
OPENS_SECONDS = 300
# Milliseconds of script for each of many scrolled-to places: the Sheet draws in the same task as the scroll event.
SCROLL = """
const rows = document.querySelector('[data-testid=sheet-rows]');
const done = arguments[0];
const most = rows.scrollHeight - rows.clientHeight;
const took = [];
let step = 0;
function next() {
  if (step === 120) return done(took);
  rows.scrollTop = most * (step++ % 60) / 60;
  const began = performance.now();
  rows.dispatchEvent(new Event('scroll', { bubbles: true }));
  requestAnimationFrame(() => { took.push(performance.now() - began); setTimeout(next); });
}
next();
"""


def run() -> None:
    with served_in() as few, served_in() as many:
        clients = [few.start(), many.start()]
        long = clients[1]
        _lengthen(long)
        for name, edit in (("a key moved", _key), ("a cut rolled", _cut)):
            one, other = ([edit(client, number) for number in range(EDITS)] for client in clients)
            _show(f"{name}, saved", one, other)
        sheets = []
        for client, served in zip(clients, (few, many), strict=True):
            browser = browser_at(*served.wait(), client.scene_id)
            try:
                sheets.append(_scrolled(browser))
            finally:
                browser.quit()
        for name, scrolled in zip(
            ("spacing and slip", "keys by groups", "curves", "sound"), zip(*sheets, strict=True), strict=True
        ):
            _show(f"the Sheet scrolled, {name}", *([ms / 1000 for ms in times] for times in scrolled))


def _lengthen(client: Client) -> None:
    client.edit(edit="set play range", first=1001, last=1000 + FRAMES)
    view = client.cameras[-1]["id"]
    client.edit(edit="lock camera", camera_id=view, locks=[])
    step = FRAMES // KEYS_A_CHANNEL
    keys = {
        name: [
            {"time": str(1001 + step * n), "value": 2 + (n % 7) / 10, "shape": "smooth"} for n in range(KEYS_A_CHANNEL)
        ]
        for name in CHANNELS
    }
    client.edit(edit="paste camera keys", camera_id=view, keys=keys, at="1001")
    ids = [camera["id"] for camera in client.cameras]
    length = FRAMES // CUTS
    takes = [{"first": 1001 + length * n, "camera_id": ids[n % len(ids)]} for n in range(CUTS)]
    client.edit(edit="cut live", takes=takes, last=1000 + FRAMES)


def _key(client: Client, number: int) -> float:
    camera = client.cameras[-1] if len(client.scene["cut"]) > 1 else client.cameras[5]
    keys = camera["keys"]
    key = keys[(len(keys) // 2 + number) % len(keys)]["time"]  # another one each time: nothing that is remembered helps
    return client.edit(edit="retime camera keys", keys={"camera_id": camera["id"], "times": [key]}, by="1/3")


def _cut(client: Client, number: int) -> float:
    cut: list[dict[str, Any]] = client.scene["cut"]
    if len(cut) == 1:
        client.edit(edit="cut to", frame=1050, camera_id=client.cameras[1]["id"])
        cut = client.scene["cut"]
    shot = cut[len(cut) // 2]
    to = shot["begins"] + (1 if number % 2 == 0 else -1)
    return client.edit(edit="roll cut", first=shot["begins"], to=to)


def _scrolled(browser: webdriver.Chrome) -> list[list[float]]:
    """Milliseconds a place, for each thing that the Sheet's right side can show."""
    began = perf_counter()
    WebDriverWait(browser, OPENS_SECONDS).until(lambda b: b.find_elements(By.CSS_SELECTOR, ".bench-camera"))
    print(f"the page open: {perf_counter() - began:.1f} s")
    settled(browser)
    browser.set_script_timeout(300)
    browser.find_elements(By.CSS_SELECTOR, ".bench-camera")[-1].click()
    settled(browser)
    out = [browser.execute_async_script(SCROLL)]
    for side in ("keys", "curves", "sound"):
        next(b for b in browser.find_elements(By.CSS_SELECTOR, ".sheet .zoom button") if b.text == side).click()
        out.append(browser.execute_async_script(SCROLL))
    return out


def _show(name: str, one: list[float], other: list[float]) -> None:
    a, b = 1000 * median(one), 1000 * median(other)
    p95 = [1000 * quantiles(times, n=20)[-1] for times in (one, other)]
    print(
        f"{name}: {a:.1f} ms in the demo, {b:.1f} ms in the long scene, ratio {b / a:.1f}; p95 {p95[0]:.1f} and {p95[1]:.1f} ms"
    )
