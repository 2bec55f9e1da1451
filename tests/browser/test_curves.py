"""The curves of a camera's keys in the Sheet, in the real interface: bent by hand, and given a key more."""

from __future__ import annotations

from typing import Any

import msgpack
import pytest
import requests

from eddyfield.core.time.keys import KEY_SHAPES

from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser
CRANE_KEY, FIRST_KEYED, LAST_KEYED = "5", 1066, 1096
LEFT, WIDTH = 176, 142
"""Of the column of curves, px from the left edge of the Sheet."""


def at_playhead(app: App) -> str:
    """What the head of the curve says of the playhead's frame."""
    return app.find(".curve-head .mono").text


def place(app: App, frame: float, share: float) -> tuple[int, int]:
    """Of a frame and a share of the column's width, from the middle of the Sheet."""
    rows = app.by_id("sheet-rows")
    y = (frame - app.first + 0.5) * 13 - app.script("return arguments[0].scrollTop", rows) - rows.rect["height"] / 2
    return round(LEFT + WIDTH * share - rows.rect["width"] / 2), round(y)


def drag(app: App, start: tuple[int, int], dx: int, dy: int) -> None:
    hand = app.hand().move_to_element_with_offset(app.by_id("sheet-rows"), *start).click_and_hold()
    hand.move_by_offset(dx // 2, dy // 2).move_by_offset(dx - dx // 2, dy - dy // 2).release().perform()


def open_curves(app: App) -> None:
    app.keys(CRANE_KEY, "K", "K")
    app.wait(lambda: app.all(".curve-head select"), "the curves")
    app.go_to(LAST_KEYED)


# Fitted with six hundredths of the range on both sides.
LOW, HIGH = 0.06 / 1.12, 1.06 / 1.12


def test_handles_bend_a_curve_and_a_double_click_sets_a_key_that_changes_nothing(app: App) -> None:
    open_curves(app)
    middle = (FIRST_KEYED + LAST_KEYED) // 2
    app.go_to(middle)
    start, before = app.revision, app.picture()
    rows = app.by_id("sheet-rows")
    app.hand().move_to_element_with_offset(rows, *place(app, middle, 0.3)).double_click().perform()
    app.saved(start + 1)
    assert differs(app.picture(), before) < 1e-4, "the curve runs as it ran"
    assert keys_of(app)["times"] == ["1066", str(middle), "1096"]
    app.go_to(FIRST_KEYED)
    app.hand().move_to_element_with_offset(rows, *place(app, FIRST_KEYED, LOW)).click().perform()
    # The chosen key shows how the curve leaves it: straight down, by a third of the way to the next.
    drag(app, place(app, FIRST_KEYED + (middle - FIRST_KEYED) / 3, LOW), 60, 0)
    app.saved(start + 2)
    app.go_to(FIRST_KEYED + 6)
    app.wait(lambda: float(at_playhead(app).split("°")[0]) > 5, "it is under way earlier")
    assert KEY_SHAPES[keys_of(app)["shapes"][0]] == "curve"


def keys_of(app: App) -> dict[str, Any]:
    """The keys of the crane's pitch, as the server has them."""
    scene = app.driver.current_url.rsplit("/", 1)[1]
    cookies = {c["name"]: c["value"] for c in app.driver.get_cookies()}
    answer = requests.post(
        f"{app.base}/api/scenes/{scene}/view", json={"view": {"judged": False}}, cookies=cookies,
        headers={"Origin": app.base}, timeout=30,
    )  # fmt: skip
    unpacked = msgpack.unpackb(answer.content, strict_map_key=False)
    parts = unpacked["parts"]
    camera = next(parts[name] for name in unpacked["scene"]["cameras"] if parts[name]["name"].startswith("Crane"))
    pitch = parts[camera["channels"]]["keyed"]["arm_pitch"]
    return {"times": pitch["times"], "shapes": list(pitch["shapes"].data)}
