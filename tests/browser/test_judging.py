"""Judging and stepping: arcs, exposures and Ride, in the browser."""

from __future__ import annotations

import numpy as np
import pytest

from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser


def test_an_arc_is_picked_in_the_picture_drawn_and_told(app: App) -> None:
    app.choose_joint("lantern")
    x, y = app.joint_place()
    app.choose_joint("head")
    picture = app.by_id("picture")
    rect = picture.rect
    scale = min((rect["width"] - 24) / 1920, (rect["height"] - 24) / 1080)
    left, top = (rect["width"] - 1920 * scale) / 2, (rect["height"] - 1080 * scale) / 2
    offset = (int(left + x * scale - rect["width"] / 2), int(top + y * scale - rect["height"] / 2))
    chain = app.hand().move_to_element_with_offset(picture, *offset)
    chain.perform()
    name = app.by_id("hovered-joint").text
    assert name in ("Lantern pole lantern", "Lantern pole lantern_ring", "Lantern pole pole_tip")
    chain.click().perform()
    app.wait(lambda: app.text(".card h2").startswith(name.split()[-1]), "the joint's card")


def test_a_point_on_the_mesh_is_clicked_and_followed(app: App) -> None:
    app.keys("2")
    app.stage("judge")
    app.go_to(1061)
    app.button("Point on the mesh").click()
    picture = app.by_id("picture")
    app.hand().move_to_element_with_offset(picture, 4, -10).click().perform()
    app.wait(lambda: app.text(".card h2").startswith("point "), "a point of the mesh")
    app.by_id("arc-line")
    box, cross = picture.rect, app.by_id("arc-now").rect
    away = np.hypot(
        cross["x"] + cross["width"] / 2 - (box["x"] + box["width"] / 2 + 4),
        cross["y"] + cross["height"] / 2 - (box["y"] + box["height"] / 2 - 10),
    )
    assert away < 12, "where it was clicked"
    assert "px spacing" in app.text(".card")
    app.field("Character or prop").click()
    app.option("Mill race").click()
    app.wait(lambda: app.text(".card h2").startswith("Mill race"), "the set piece")


def pick(app: App, group: str, name: str) -> None:
    """Choose one of a row of choices by its name."""
    next(e for e in app.all(f"[aria-label='{group}'] label") if e.text == name).click()


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
