"""The Card and the handles, worked as a person would."""

from __future__ import annotations

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from .conftest import App


def drag(
    app: App,
    element: WebElement,
    dx: int,
    dy: int,
    modifier: str | None = None,
    rests_s: float = 0,
    lets_go: bool = True,
) -> None:
    """From the middle of an element, which the hand may rest on first."""
    chain = ActionChains(app.driver, duration=60)
    if modifier:
        chain.key_down(modifier)
    # By where it is seen: the driver would scroll to parts of a drawing in its own way.
    middle = (
        "const { x, y, width, height } = arguments[0].getBoundingClientRect(); return [x + width / 2, y + height / 2]"
    )
    chain.w3c_actions.pointer_action.move_to_location(*map(round, app.script(middle, element)))
    chain.w3c_actions.key_action.pause()
    if rests_s:
        chain.pause(rests_s)
    chain.click_and_hold().move_by_offset(dx // 2, dy // 2)
    chain.move_by_offset(dx - dx // 2, dy - dy // 2)
    if lets_go:
        chain.release()
    if modifier:
        chain.key_up(modifier)
    chain.perform()


def at_rest(app: App, element: WebElement) -> WebElement:
    """An element in the middle of what can be seen of the Card, which may just have been unfolding."""
    last = None

    def stands() -> bool:
        nonlocal last
        app.script("arguments[0].scrollIntoView({block: 'center'})", element)
        before, last = last, element.rect
        return before == last

    app.wait(stands, "the Card to be at rest")
    return element


def handle(app: App, name: str, within: str = ".plan-drawing") -> WebElement:
    return app.find(f"{within} [data-testid='handle {name}']")


def question(app: App, ask: str) -> None:
    """Open one question of the Card, and see to it that it can be reached."""
    path = f"//*[@class='camera-card']//button[@aria-expanded][contains(., '{ask}')]"
    control = app.wait(lambda: app.driver.find_element(By.XPATH, path), ask)
    if control.get_attribute("aria-expanded") != "true":
        app.script("arguments[0].click()", control)
        app.wait(lambda: control.get_attribute("aria-expanded") == "true", ask)


def choose(app: App, list_label: str, option: str) -> None:
    fields = lambda: (e for e in app.all(f"input[aria-label='{list_label}']") if e.is_displayed())  # noqa: E731
    field = app.wait(lambda: next(fields(), None), list_label)
    app.script("arguments[0].scrollIntoView({block: 'center'})", field)
    field.click()
    app.option(option).click()


def type_number(app: App, label: str, value: str) -> None:
    def take() -> WebElement:
        field = app.field(label)
        app.script("arguments[0].scrollIntoView({block: 'center'})", field)
        field.click()
        return field

    # What was changed before may just be drawing the Card anew.
    app.wait(take, f"{label} to type into").send_keys(Keys.CONTROL, "a")
    app.driver.switch_to.active_element.send_keys(value, Keys.ENTER)


def number(app: App, label: str) -> float:
    """What a field of the Card says, without its unit."""
    text = str(app.field(label).get_attribute("value"))
    return float(text.rstrip("°%").split()[0])
