"""Looking at the motion: arcs side by side, onion skins, outlines, spacing, and the subject's part apart from the camera's."""

from __future__ import annotations

import numpy as np
from selenium.webdriver.common.keys import Keys

from .conftest import App
from .pixels import differs


def pick(app: App, group: str, name: str) -> None:
    """Choose one of a row of choices by its name."""
    next(e for e in app.all(f"[aria-label='{group}'] label") if e.text == name).click()


def test_onion_skins_show_as_many_poses_as_asked_for(app: App) -> None:
    app.stage("judge")
    app.go_to(1048)
    plain = app.picture()
    app.keys("o")
    one = app.picture()
    pick(app, "How many before and after", "4")
    app.wait(lambda: differs(app.picture(), one) > 0.002, "more of them")
    four = app.picture()
    assert differs(four, plain) > differs(one, plain) > 0.002
    pick(app, "Onion skin of", "key poses")
    app.wait(lambda: differs(app.picture(), four) > 0.002, "those of the key poses")


def test_outlines_and_the_line_of_action_are_shown_alone(app: App) -> None:
    app.stage("judge")
    app.go_to(1048)
    plain = app.picture()
    pick(app, "How characters are shown (H)", "silhouette")
    app.wait(lambda: differs(app.picture(), plain) > 0.2, "the set is left out")
    outline = app.picture()[40:-20, 20:-20]
    dark = (outline.max(axis=-1) < 80).mean()
    assert 0.02 < dark < 0.3, "who is there is dark"
    app.keys("O")
    line = app.find("[data-testid=action-line] path").get_attribute("d")
    x, y = app.joint_on_screen("head")
    places = [float(v) for v in line.replace("M", " ").replace("C", " ").split()]
    ends = np.array(places).reshape(-1, 2)
    assert np.hypot(*(ends - [x, y]).T).min() < 1.5, "through the head"
    assert ends[0, 1] > y + 60, "from below the hips"
    app.keys("O")
    assert not app.all("[data-testid=action-line]")


def test_what_slips_is_seen_twice(app: App) -> None:
    app.go_to(1080)
    held = app.picture()
    app.keys("Y")
    app.wait(lambda: differs(app.picture(), held) > 0.001, "where the pose stood when it was new")
    app.keys("y")  # it rides, and nothing slips any more
    app.saved(app.revision)
    app.wait(
        lambda: "0.0" in app.text("[data-testid=slip-rms]") if app.all("[data-testid=slip-rms]") else True, "riding"
    )
    app.go_to(1079)
    new = app.picture()
    app.keys("Y")
    assert differs(app.picture(), new) < 0.001, "a new pose has no other place"


def test_spacing_is_drawn_by_hand_and_given_to_the_motion(app: App) -> None:
    app.choose_joint("hand_l")
    app.stage("judge")
    app.go_to(1055)
    start = app.revision
    holds = app.wait(lambda: app.all(".spacing-chart .hold"), "ticks to take hold of")
    app.hand().click_and_hold(holds[0]).move_by_offset(16, 0).release().perform()
    app.wait(lambda: "as drawn" in app.text(".spacing-chart"), "what was drawn")
    off = float(app.wait(lambda: app.by_id("spacing-off").text, "how far off").split()[0])
    assert off > 1
    app.button("Space it so").click()
    app.saved(start + 1)
    app.wait(lambda: float(app.by_id("spacing-off").text.split()[0]) < 0.2, "as it was meant")
    app.hold(Keys.CONTROL, "z")
    app.saved(start + 2)
    app.wait(lambda: abs(float(app.by_id("spacing-off").text.split()[0]) - off) < 0.2, "as it was")


def test_an_arc_is_seen_in_the_world_from_roam_and_on_the_plan(app: App) -> None:
    app.choose_joint("hand_r")
    app.go_to(1050)
    flat = app.wait(lambda: app.all("[data-testid=plan-arc] path"), "the arc on the Plan")[0].get_attribute("d")
    assert str(flat).count("L") == 95
    app.keys("r")
    ticks = app.wait(lambda: app.all("[data-testid=roam-arc] rect"), "the arc in Roam")
    assert len(ticks) == 48
    line = lambda: app.find("[data-testid=roam-arc] path").get_attribute("d")  # noqa: E731
    before = line()
    app.drag(90, 0)
    app.wait(lambda: line() != before, "the same arc from elsewhere")
    app.keys("r")
    app.choose_joint("lantern")
    app.keys("r")
    app.wait(lambda: app.all("[data-testid=roam-arc] path"), "that of what she holds")
    app.keys("a")
    app.wait(lambda: not app.all("[data-testid=roam-arc], [data-testid=plan-arc]"), "none where arcs are off")
