"""What a shot is made of, in the real interface: it comes in, stands where it is put, is held, hidden and taken out."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from selenium.webdriver.common.keys import Keys

from eddyfield.demo import mill_race
from eddyfield.formats.stand_in import StandIn, write
from tests.core.scenery import SCENE
from tests.formats.test_looks_and_shapes import image, quad
from tests.formats.test_rigs_of_files import people
from tests.formats.test_usd import usda, walker

from .conftest import App
from .pixels import differs

pytestmark = pytest.mark.browser
ANOTHER = 0.002
"""Of the pixels: so many differ where something of the size of a crate has come or gone."""


def stand_in(app: App, shape: str) -> None:
    app.find("[aria-label='Bring in']").click()
    app.wait(lambda: next((e for e in app.all(".mantine-Menu-item") if e.text == shape), None), shape).click()
    app.find(".comes-in")


def files(app: App, *paths: Path) -> None:
    app.find("input[aria-label='Rig file dropped on the scene']").send_keys("\n".join(map(str, paths)))


def test_cloth_with_holes_and_a_face_that_changes_are_seen_as_their_file_has_them(app: App, tmp_path: Path) -> None:
    """A square of four looks in one image: red, blue, nothing (masked away) and white; its upper right corner goes up by a
    shape within a second."""
    picture = Image.new("RGBA", (64, 64), (255, 0, 0, 255))
    for box, color in (
        ((32, 0, 64, 32), (0, 0, 255, 255)),
        ((0, 32, 32, 64), (0, 0, 0, 0)),
        ((32, 32, 64, 64), (255,) * 4),
    ):
        picture.paste(color, box)
    file = io.BytesIO()
    picture.save(file, "PNG")
    g = quad()
    g.json["images"] = []
    image(g, file.getvalue())
    base = {"baseColorTexture": {"index": 0}}
    unlit: dict[str, object] = {"KHR_materials_unlit": {}}
    g.json["materials"] = [
        {"pbrMetallicRoughness": base, "alphaMode": "MASK", "extensions": unlit, "doubleSided": True}
    ]
    (one,) = g.json["meshes"][0]["primitives"]
    one["targets"] = [{"POSITION": g.accessor([[0, 0, 0], [0, 0, 0], [0, 2, 0], [0, 0, 0]])}]
    g.animate((0, "weights", [0, 1], [[0], [1]], "LINEAR"))
    cloth = tmp_path / "cloth.glb"
    cloth.write_bytes(g.glb())
    app.keys("4")  # from where the square is seen whole
    app.go_to(1001)
    before = app.picture().astype(int)
    files(app, cloth)
    app.wait(lambda: app.text(".comes-in h2").startswith("cloth.glb"), "what it is to be")

    def of_color(*rgb: int) -> int:
        now = app.picture().astype(int)
        new = np.abs(now - before).max(axis=-1) > 8
        return int((new & (np.abs(now - rgb).max(axis=-1) < 6)).sum())

    red = app.wait(lambda: of_color(255, 0, 0), "the red quarter", 20)
    assert of_color(0, 0, 255) > red / 3
    assert of_color(255, 255, 255) > red / 3
    changed = int((np.abs(app.picture().astype(int) - before).max(axis=-1) > 8).sum())
    assert changed < 1.15 * (red + of_color(0, 0, 255) + of_color(255, 255, 255)), (
        "and a hole where the fourth would be"
    )
    app.button("Bring it in").click()
    app.wait(lambda: app.all(".thing-card"), "its card")
    blue = of_color(0, 0, 255)
    app.keys("h")
    app.wait(lambda: of_color(255, 0, 0) == 0, "form alone")
    app.keys("h", "h", "h")
    app.wait(lambda: of_color(0, 0, 255) == blue, "as it comes")


def test_several_files_are_settled_one_after_the_other(app: App, tmp_path: Path) -> None:
    crate, pole = tmp_path / "crate.standin", tmp_path / "mill.glb"
    crate.write_bytes(write(StandIn("box", 0.5, 0.5, 0.5)))
    pole.write_bytes(mill_race.set_glb())
    start = app.revision
    files(app, crate, pole)
    app.wait(lambda: "1 more after it" in app.text(".comes-in h2"), "both of them")
    assert app.text(".comes-in h2").startswith("crate.standin")
    app.button("Bring it in").click()
    app.wait(lambda: app.text(".comes-in h2").startswith("mill.glb"), "the next one")
    assert (
        app.find(".comes-in [aria-label='Where it comes to stand'] [aria-pressed=true]").text == "where its file has it"
    )
    app.button("Leave it").click()
    app.saved(start + 1)
    app.wait(lambda: app.all(".thing-card"), "the card of the crate")


def test_the_rigs_of_a_file_come_in_one_of_them_or_each_by_itself(app: App, tmp_path: Path) -> None:
    file = tmp_path / "people.glb"
    file.write_bytes(people().glb())
    before, start = app.picture(), app.revision
    files(app, file)
    app.wait(lambda: differs(app.picture(), before) > ANOTHER, "those of its scene, as they would stand")
    app.field("It holds 3 rigs").click()
    app.option("Cleo, 2 joints").click()
    app.wait(lambda: "2 joints, 6 triangles" in app.text(".comes-in .why"), "what is chosen")
    assert app.field("Name").get_attribute("value") == "Cleo"
    app.field("It holds 3 rigs").click()
    app.option("each by itself").click()
    app.button("Bring it in").click()
    app.saved(start + 3)
    app.wait(lambda: {"Anna", "Bert", "Cleo"} <= {chip.text for chip in app.all(".card button")}, "all three")
    app.wait(lambda: differs(app.picture(), before) > ANOTHER, "and they are seen")
    app.hold(Keys.CONTROL, "z")
    app.wait(lambda: "Cleo" not in {chip.text for chip in app.all(".card button")}, "each is taken out by itself")


def test_a_usd_file_comes_in_with_its_camera(app: App, tmp_path: Path) -> None:
    file = tmp_path / "walker.usda"
    file.write_bytes(usda(walker()))
    app.keys("3")
    app.go_to(1013)
    before, start = app.picture(), app.revision
    files(app, file)
    app.wait(lambda: app.text(".comes-in h2").startswith("walker.usda"), "what it is to be", 20)
    app.wait(lambda: differs(app.picture(), before) > ANOTHER, "as it would stand")
    assert "With its camera: Lens" in app.text(".comes-in")
    app.button("Bring it in").click()
    app.saved(start + 2)
    app.script("document.activeElement.blur()")
    app.keys(*["j"] * (len(SCENE.cameras) - 2))  # from the third on to the last
    app.wait(lambda: app.caption.startswith("CAMERA · Lens"), "its camera, last on the Bench")
    stand_in(app, "Steps")
    app.driver.switch_to.active_element.send_keys(Keys.ESCAPE)
    app.wait(lambda: not app.all(".comes-in"), "left by its key")
    assert app.revision == start + 2


def test_another_character_comes_in_where_it_was_let_go_and_can_be_judged(app: App, tmp_path: Path) -> None:
    heron = tmp_path / "heron.glb"
    heron.write_bytes(mill_race.quill_glb())
    start = app.revision
    files(app, heron)
    app.wait(lambda: "is already" in app.text("[role=dialog]"), "that Quill is it already")
    app.button("One more in this scene").click()
    app.wait(lambda: app.text(".comes-in h2").startswith("heron.glb"), "what it is to be")
    app.button("Bring it in").click()
    app.saved(start + 1)
    app.wait(lambda: "heron" in app.text("[aria-label='What is in the scene']"), "a third character")
    app.stage("judge")
    assert app.field("Character or prop").get_attribute("value") == "heron"
    app.choose_joint("head")
    app.by_id("arc")
