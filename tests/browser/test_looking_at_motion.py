"""Looking at the motion: arcs side by side, onion skins, outlines, spacing, and the subject's part apart from the camera's."""

from __future__ import annotations

import numpy as np
from selenium.webdriver.common.keys import Keys

from .conftest import App
from .pixels import differs


def pick(app: App, group: str, name: str) -> None:
    """Choose one of a row of choices by its name."""
    next(e for e in app.all(f"[aria-label='{group}'] label") if e.text == name).click()


def test_arcs_stay_beside_each_other_and_fade_around_the_playhead(app: App) -> None:
    app.choose_joint("hand_r")
    app.keys("A")
    app.choose_joint("lantern")
    app.keys("A")
    app.choose_joint("head")
    app.wait(lambda: len(app.all("[data-testid=arc-also]")) == 2, "two arcs that stayed")
    names = [e.get_attribute("aria-label") for e in app.all("[data-testid=arc-also]")]
    assert names == ["hand_r", "lantern"]
    assert len(app.all("[data-testid=arc] > rect")) == 48
    pick(app, "Frames of the arc around the playhead", "± 6")
    app.go_to(1048)
    drawn = app.wait(lambda: app.all("[data-testid=arc-line] > path"), "the frames around")
    assert len(drawn) == 12
    strengths = [float(e.get_attribute("stroke-opacity") or 1) for e in drawn]
    assert strengths[5] > 0.8 > 0.4 > strengths[0]
    app.driver.refresh()
    app.wait(lambda: len(app.all("[data-testid=arc-also]")) == 2, "the same after a reload")
    app.stage("judge")
    app.find("[aria-label='Let the arc of Oda hand_r go']").click()
    app.wait(lambda: len(app.all("[data-testid=arc-also]")) == 1, "one fewer")


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


def test_the_subject_and_the_camera_play_apart(app: App) -> None:
    app.go_to(1020)
    app.keys("I")
    assert "camera still on 1020" in app.caption
    here = app.picture()
    app.go_to(1024)
    still = app.picture()
    app.keys("I")
    assert "camera alone on 1024" in app.caption
    app.go_to(1020)
    alone = app.picture()
    corner = lambda picture: picture[-60:-20, 40:200]  # noqa: E731 -- ground where nobody walks
    assert differs(corner(still), corner(here)) < 0.001, "the ground stands still"
    assert differs(still, here) > 0.002, "she walks on"
    app.keys("I")
    assert "alone" not in app.caption
    assert differs(alone, app.picture()) > 0.002, "she stands as on 1024, the camera as on 1020"


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


def test_two_frames_are_flipped_by_a_key(app: App) -> None:
    app.go_to(1020)
    app.keys("F")
    app.go_to(1048)
    app.keys("F")
    assert app.frame == 1020
    app.keys("F")
    assert app.frame == 1048
    app.go_to(1030)
    app.keys("F")
    assert app.frame == 1020, "from wherever one is, to the one of before"
    app.keys("F")
    assert app.frame == 1030


def test_the_spacing_between_two_poses_is_charted(app: App) -> None:
    app.choose_joint("hand_r")
    app.go_to(1030)
    app.wait(lambda: app.all(".spacing-chart .is"), "a chart")
    ticks = len(app.all(".spacing-chart .is"))
    assert len(app.all(".spacing-chart .meant")) == ticks
    best = float(app.by_id("spacing-off").text.split()[0])
    field = app.field("Meant to be")
    field.click()
    options = [o.text for o in app.all("[role=option]") if "off by" in o.text]
    offs = [float(text.split("off by ")[1].split()[0]) for text in options]
    assert min(offs) == best
    worst = options[int(np.argmax(offs))]
    app.option(worst).click()
    app.wait(lambda: float(app.by_id("spacing-off").text.split()[0]) == max(offs), "off by more")
    app.find(".reading-link").click()
    assert 1001 <= app.frame <= 1096


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


def test_a_hand_is_seen_from_the_head(app: App) -> None:
    app.choose_joint("head")
    app.keys("A")
    app.choose_joint("hand_r")
    app.go_to(1030)
    far = app.find("[data-testid=arc-line]").get_attribute("d")
    app.field("As seen from").click()
    app.option("head").click()
    app.wait(lambda: app.find("[data-testid=arc-line]").get_attribute("d") != far, "seen from the head")
    near = app.find("[data-testid=arc-line]").get_attribute("d")

    def widest(line: str) -> float:
        x = [float(p.split()[0]) for p in line.replace("M", "L").split("L") if p]
        return max(x) - min(x)

    assert widest(near) < 0.7 * widest(far), "the way of the body is taken out"
    app.go_to(1060)
    assert app.find("[data-testid=arc-line]").get_attribute("d") != near, "it goes along with the head"


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
