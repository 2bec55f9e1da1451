"""What two windows on one scene do to each other while one of them has no connection, and signing in and out."""

from __future__ import annotations

from typing import Any

import pytest
from selenium.webdriver.common.by import By

from .conftest import App, Keys

pytestmark = pytest.mark.browser


GONE = {"offline": True, "latency": 0, "downloadThroughput": 0, "uploadThroughput": 0}
BACK = {"offline": False, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
MAKE = """
const [id, edit, done] = arguments;
(async () => {
  const headers = {'Content-Type': 'application/json'};
  const { scenes } = await (await fetch('/api/scenes')).json();
  const { revision } = scenes.find((s) => s.id === id);
  const body = { revision, request_id: crypto.randomUUID(), view: {}, edit };
  const answer = await fetch(`/api/scenes/${id}/edits`, { method: 'POST', headers, body: JSON.stringify(body) });
  done(answer.status);
})().catch((error) => done(String(error)));
"""

WATCH_REVISION = """
const status = document.querySelector('.header [role=status]');
const before = status.textContent;
new MutationObserver(() => {
  if (status.textContent !== before) window.followedAt ??= Date.now();
}).observe(status, { characterData: true, childList: true, subtree: true });
"""


def network(app: App, conditions: dict[str, Any]) -> None:
    app.driver.execute_cdp_cmd("Network.enable", {})
    app.driver.execute_cdp_cmd("Network.emulateNetworkConditions", conditions)


def test_edits_made_without_a_connection_do_not_go_over_another_windows(app: App) -> None:
    app.meets |= {"net::ERR_", "409"}
    scene, first = app.driver.current_url.rsplit("/", 1)[1], app.driver.current_window_handle
    app.saved(1)
    app.driver.switch_to.new_window("tab")
    app.driver.get(f"{app.base}/")
    other = app.driver.current_window_handle
    app.driver.switch_to.window(first)
    network(app, GONE)
    app.keys("l")
    app.wait(lambda: "no connection" in app.text(".header [role=status]"), "that there is no connection")
    app.keys("y")
    app.wait(lambda: "2 kept here" in app.text(".header [role=status]"), "both edits kept")
    app.driver.switch_to.window(other)
    for edit in ({"edit": "rename scene", "name": "Named elsewhere"}, {"edit": "set rate", "rate": "25"}):
        assert app.driver.execute_async_script(MAKE, scene, edit) == 200
    app.driver.switch_to.window(first)
    network(app, BACK)
    app.wait(lambda: "Named elsewhere" in app.text(".header"), "what the other window did")
    button = app.button("2 changes were not taken")
    button.click()
    rows = app.wait(lambda: app.driver.find_elements(By.CSS_SELECTOR, "[role=dialog] .readings li"), "the list")
    app.wait(
        lambda: [row.find_element(By.TAG_NAME, "b").text for row in rows] == ["lock camera", "ride"], "what they were"
    )
    assert "changed elsewhere" in rows[0].text
    rows[0].find_element(By.XPATH, ".//button[normalize-space(.)='Try again']").click()
    app.wait(lambda: "lock camera" in app.find("[aria-label^='Undo']").get_attribute("aria-label"), "it is made")
    app.driver.find_element(By.XPATH, "//*[@role='dialog']//button[normalize-space(.)='Give up']").click()
    app.wait(lambda: "Nothing is left" in app.text("[role=dialog]"), "nothing left")
    kept = app.script("return Object.keys(localStorage).filter((n) => n.startsWith('eddyfield.unsent'))")
    assert kept == []
    app.driver.switch_to.window(other)
    app.driver.close()
    app.driver.switch_to.window(first)


def test_a_store_for_each_window(app: App) -> None:
    app.meets |= {"net::ERR_", "409"}
    first = app.driver.current_window_handle
    network(app, GONE)
    app.keys("l")
    app.wait(lambda: "1 kept here" in app.text(".header [role=status]"), "one edit kept")
    address = app.driver.current_url
    app.driver.switch_to.new_window("tab")
    app.driver.get(address)
    app.by_id("sheet-rows")
    app.saved(1)
    assert app.script("return Object.keys(localStorage).filter((n) => n.startsWith('eddyfield.unsent')).length") == 1
    app.driver.close()
    app.driver.switch_to.window(first)
    network(app, BACK)
    app.wait(lambda: "saved" in app.text(".header [role=status]"), "it is sent")


def test_a_second_window_follows_and_undo_is_of_the_own_window(app: App) -> None:
    app.meets |= {"428"}
    address, first = app.driver.current_url, app.driver.current_window_handle
    app.script("return fetch('/api/access', { method: 'PUT', body: JSON.stringify({ name: 'Ada' }) })")
    app.driver.switch_to.new_window("tab")
    app.driver.get(address)
    app.by_id("sheet-rows")
    app.saved(1)
    other = app.driver.current_window_handle
    app.driver.switch_to.window(first)
    app.script(WATCH_REVISION)
    app.driver.switch_to.window(other)
    sent = app.script("return Date.now()")
    app.keys("l")
    app.wait(lambda: "lock camera" in (app.find("[aria-label^='Undo']").get_attribute("aria-label") or ""), "the lock")
    app.driver.switch_to.window(first)
    app.wait(lambda: app.text(".notice").startswith("Ada: lock camera"), "who did what")
    seen = app.wait(lambda: app.script("return window.followedAt"), "that it follows")
    assert seen - sent < 3000, "well below the next time that it would have asked by itself"
    app.keys("y")
    app.wait(lambda: "ride" in (app.find("[aria-label^='Undo']").get_attribute("aria-label") or ""), "an own edit")
    app.driver.switch_to.window(other)
    app.wait(lambda: app.text(".notice").startswith("Ada: ride"), "that it follows, too")
    app.hold(Keys.CONTROL, "z")
    app.wait(lambda: app.text(".notice").startswith("Undone: lock camera"), "its own edit is undone")
    app.hold(Keys.CONTROL, "z")
    dialog = app.wait(lambda: app.text("[role=dialog]"), "that it asks")
    assert "“ride” (Ada)" in dialog
    app.driver.find_element(By.XPATH, "//*[@role='dialog']//button[normalize-space(.)='Undo']").click()
    app.wait(lambda: app.text(".notice").startswith("Undone: ride"), "that it is undone now")
    app.driver.close()
    app.driver.switch_to.window(first)
    app.wait(lambda: app.text(".notice").startswith("Ada: undone: ride"), "that it is told")


def test_signed_out_elsewhere_edits_wait_for_signing_in(app: App) -> None:
    app.meets |= {"401"}
    app.script("return fetch('/api/sign-out', { method: 'POST' })")
    app.keys("l")
    app.wait(lambda: "signed out · 1 kept here" in app.text(".header [role=status]"), "that it is told")
    first = app.driver.current_window_handle
    app.driver.switch_to.new_window("tab")
    app.driver.get(app.renewed or app.address)
    app.driver.close()
    app.driver.switch_to.window(first)
    app.wait(lambda: "saved" in app.text(".header [role=status]"), "that it is sent")
    assert "lock camera" in (app.find("[aria-label^='Undo']").get_attribute("aria-label") or "")


def test_signing_out_and_renewing_the_address_from_the_desk(app: App) -> None:
    app.meets |= {"401"}  # what the Desk was just asking for when the address was renewed
    app.driver.get(f"{app.base}/")
    app.button("Access").click()
    app.driver.find_element(By.XPATH, "//*[@role='menuitem'][contains(., 'Renew')]").click()
    field = app.find("input[aria-label='The new address']")
    address = field.get_attribute("value") or ""
    assert address.startswith(f"{app.base}/sign-in?token=")
    assert address != app.address
    app.driver.get(address)
    app.find("[data-testid=scene-card]")
    type(app).renewed = address  # for the tests after this one
