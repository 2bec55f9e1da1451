"""The panes of the window, and what assistive technology finds in it."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from eddyfield.demo import mill_race

from .card import drag
from .conftest import ROOT, App

pytestmark = pytest.mark.browser

AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
RUN_AXE = """
const [within, rules, done] = arguments;
const runOnly = rules.length ? { runOnly: { type: 'rule', values: rules } } : {};
axe.run(document.querySelector(within) ?? document, { resultTypes: ['violations'], ...runOnly }).then(
  ({ violations }) => done(violations.map((v) => `${v.id}: ${v.help}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)),
  (error) => done([String(error)]),
);
"""


def width(app: App, selector: str) -> float:
    return float(app.find(selector).rect["width"])


def test_panes_are_pulled_to_size_and_remembered(app: App) -> None:
    before, picture = width(app, ".sheet"), width(app, "[data-testid=picture]")
    edge = app.find("[aria-label='Edge of the Sheet']")
    drag(app, edge, -80, 0)
    app.wait(lambda: width(app, ".sheet") == pytest.approx(before - 80, abs=3), "a narrower Sheet")
    assert width(app, "[data-testid=picture]") == pytest.approx(picture + 80, abs=3), "the Picture has what it gave"
    app.driver.refresh()
    app.by_id("sheet-rows")
    assert width(app, ".sheet") == pytest.approx(before - 80, abs=4), "as it was left"
    app.find("[aria-label='Edge of the Sheet']").send_keys(Keys.ARROW_RIGHT)
    app.wait(lambda: width(app, ".sheet") > before - 76, "wider, by a key")


def test_arrangements_give_the_picture_most_of_the_window(app: App) -> None:
    app.keys("q", "q", "q")
    app.wait(lambda: app.find("[data-testid=picture]").rect["width"] > 1270, "the Picture across the window")
    assert "reviewing" in app.text(".notice")
    app.find("[aria-label='Arrange the panes']").click()
    app.wait(lambda: app.driver.find_element(By.XPATH, "//*[@role='menuitem'][.='all panes']"), "the menu").click()
    app.wait(lambda: width(app, ".sheet") == pytest.approx(336, abs=3), "all panes again")


def test_a_key_goes_from_pane_to_pane(app: App) -> None:
    script = "return document.activeElement.closest('.sheet, .middle, .plan-pane, .readings-pane, .card')?.className"
    seen = []
    for _ in range(5):
        app.driver.switch_to.active_element.send_keys(Keys.F6)
        seen.append(str(app.script(script)).split()[-1])
    assert seen == ["sheet", "middle", "plan-pane", "readings-pane", "card"]
    app.driver.switch_to.active_element.send_keys(Keys.SHIFT, Keys.F6)
    assert str(app.script(script)).split()[-1] == "readings-pane"


def in_theme(app: App, theme: str) -> None:
    """At once: colours that are still on their way are in neither theme."""
    app.script(
        "document.head.append(Object.assign(document.createElement('style'), {textContent: '* {transition: none !important}'}))"
    )
    app.script("document.documentElement.dataset.mantineColorScheme = arguments[0]", theme)


def stage(name: str) -> Callable[[App], None]:
    return lambda app: app.stage(name)


def every_question(app: App) -> None:
    for control in app.all(".camera-card button[aria-expanded=false]"):
        app.script("arguments[0].click()", control)


def desk(app: App) -> None:
    app.find(".crumbs .link").click()
    app.find(".desk")


def next_version(app: App) -> None:
    with tempfile.NamedTemporaryFile(suffix=".glb") as file:
        file.write(mill_race.quill_glb() + b"    ")
        file.flush()
        app.find("input[aria-label='Rig file dropped on the scene']").send_keys(file.name)
        app.wait(lambda: app.button("Bring it in").is_enabled(), "what it changes")


def settling(app: App) -> None:
    next_version(app)
    app.button("One more in this scene").click()
    app.find(".comes-in")


def thing(app: App) -> None:
    settling(app)
    app.button("Bring it in").click()
    app.find(".thing-card")


SCREENS: dict[str, tuple[str, Callable[[App], None]]] = {
    "time": ("body", stage("time")),
    **{name: (".card", stage(name)) for name in ("judge", "step", "hand over", "set up")},
    "help": ("[role=dialog]", lambda app: app.keys("?")),
    "making cameras": ("[role=menu]", lambda app: app.find(".bench-head button:last-child").click()),
    "large plan": (".middle", lambda app: app.button("Plan into the large place").click()),
    "all questions": (".card", every_question),
    "companions": (".middle", lambda app: app.keys("v")),
    "roam": (".middle", lambda app: app.keys("r")),
    "next version": ("[role=dialog]", next_version),
    "settling what comes in": ("body", settling),
    "a thing's card": (".card", thing),
    "desk": ("body", desk),
}
"""What is new in each, and how one comes to it: what stood there before has been looked through."""


def test_assistive_technology_finds_its_way(app: App) -> None:
    found: dict[str, list[str]] = {}
    app.script(AXE.read_text())
    for name, (within, show) in SCREENS.items():
        show(app)
        if name != "desk":
            app.settled()
        time.sleep(0.3)  # until what unfolds has unfolded
        told = app.driver.execute_async_script(RUN_AXE, within, [])
        in_theme(app, "dark")
        # Of all rules the theme matters to one alone.
        told += app.driver.execute_async_script(RUN_AXE, within, ["color-contrast"])
        in_theme(app, "light")
        if told:
            found[name] = told
        app.driver.switch_to.active_element.send_keys(Keys.ESCAPE)
    assert not found, "\n".join(f"{name}: {told[:400]}" for name, some in found.items() for told in some)
