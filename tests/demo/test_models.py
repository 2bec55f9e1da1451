"""The demo's models: whole, facing outwards, inside their skins; and the interface's colours that they stand beside."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import pytest

from eddyfield.core.arrays import Floats
from eddyfield.core.bake import Baker
from eddyfield.core.rig import transforms
from eddyfield.core.rig.rig import Rig
from eddyfield.core.scene import Scene
from eddyfield.demo import lantern_pole, mill_landing, mill_race, mill_set, oda_crossing, oda_face, oda_model
from eddyfield.demo.modelling import Model, Ring, linear_color
from eddyfield.formats import gltf

STYLES = Path(__file__).resolve().parents[2] / "web" / "src" / "styles.css"


def volume(model: Model) -> float:
    """Signed volume: positive where closed surfaces face outwards."""
    corners = np.array(model.positions)[np.array(model.triangles)]
    return float(np.einsum("ti,ti->t", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum() / 6)


@pytest.mark.parametrize(
    ("across", "deep", "direction"),
    [((1, 0, 0), (0, 0, 1), -1), ((1, 0, 0), (0, 0, 1), 1), ((1, 0, 0), (0, 1, 0), 1), ((0, 1, 0), (0, 0, 1), -1)],
)
def test_lofts_face_outwards_whichever_way_they_run(
    across: tuple[int, int, int], deep: tuple[int, int, int], direction: int
) -> None:
    along = np.cross(across, deep) * direction
    rings = [Ring(tuple(along * t), 0.5, 0.5, {"a": 1}) for t in (0.0, 1.0, 2.0)]
    model = Model()
    model.loft(rings, "#808080", sides=24, across=across, deep=deep)
    assert volume(model) == pytest.approx(np.pi * 0.25 * 2, rel=0.03)


def test_boxes_and_balls_face_outwards() -> None:
    box, ball = Model(), Model()
    box.box((1, 2, 3), (1, 2, 3), "#808080", {"a": 1})
    ball.ball((0, 1, 0), (1, 1, 1), "#808080", {"a": 1}, sides=32, rows=16)
    assert volume(box) == pytest.approx(6)
    assert volume(ball) == pytest.approx(4 / 3 * np.pi, rel=0.04)


def test_colours_become_linear_light() -> None:
    assert linear_color("#ffffff").tolist() == [1, 1, 1]
    assert linear_color("#808080")[0] == pytest.approx(0.2159, abs=1e-3)


@pytest.fixture(scope="module")
def oda() -> Rig:
    return gltf.read(mill_race.oda_glb(), with_mesh=True)


def test_making_her_twice_gives_the_same_bytes() -> None:
    assert mill_race.oda_glb() == mill_race.oda_glb()
    assert mill_race.set_glb() == mill_race.set_glb()


def test_every_part_of_her_follows_joints_that_there_are() -> None:
    models = (oda_model.model(), oda_model.face())
    weights = [w for model in models for w in model.weights]
    used = {name for w in weights for name in w}
    assert used <= set(oda_model.NAMES)
    assert {name for w in lantern_pole.model().weights for name in w} == set(lantern_pole.NAMES)
    assert all(sum(w.values()) > 0.99 for w in weights)
    assert {"jaw", "lid_l", "brow_r", "eye_l", "toe_r", "fingers_2_l"} <= used
    assert sum(len(model.triangles) for model in models) < 8000, "a low-polygon figure"


def test_what_is_smooth_has_the_normals_of_the_ball_that_it_is() -> None:
    ball = Model()
    ball.ball((0, 0, 0), (1, 1, 1), "#808080", {"a": 1}, sides=40, rows=20)
    smooth = ball.arrays(["a"], crease_deg=60)
    assert smooth.normals is not None
    assert np.einsum("vi,vi->v", smooth.normals, smooth.positions).min() > 0.995
    box = Model()
    box.box((0, 0, 0), (2, 2, 2), "#808080", {"a": 1})
    hard = box.arrays(["a"], crease_deg=60)
    assert hard.normals is not None
    assert len(hard.positions) == 24, "every corner once for every side"
    assert np.abs(hard.normals).max(axis=1).min() == pytest.approx(1)


def test_her_face_speaks_and_blinks(oda: Rig) -> None:
    assert oda.mesh is not None
    names = [shape.name for shape in oda.mesh.shapes]
    assert len(names) >= 12
    weights = oda_crossing.face_weights()
    assert weights.shape == (96, len(names))
    assert (weights.max(axis=0) > 0.1).all(), "every shape has its moment"
    assert weights.min() >= 0
    baked = oda.motion.shape_weights(np.arange(96) / 24)
    rows = oda_crossing.key_rows("face")
    assert baked[rows] == pytest.approx(weights[rows], abs=1e-6)
    face = oda_model.face()
    apart = face.shapes["lips apart"][:, 1]
    assert apart.min() < -0.008, "the lower lip goes down"
    assert apart.max() > 0.002, "the upper one up"


def test_her_lids_close_over_her_eyes(oda: Rig) -> None:
    """At the deepest of each blink the edge of the upper lid comes down to the lower one."""
    face = oda_model.face()
    lash = [n for n, w in enumerate(face.weights) if "lid_l" in w]
    lower = [n for n, tone in enumerate(face.colors) if tuple(tone) == tuple(linear_color(oda_face.LASH)) and n in lash]
    eye = oda_model.PLACE["eye_l"]
    world = oda.world_matrices(np.array([32, 76]) / 24)
    head, lid = world[:, oda.find("head")], world[:, oda.find("lid_l")]
    edge = np.array(face.positions)[lower] - eye
    for f in range(2):
        in_head = np.linalg.inv(head[f]) @ lid[f]
        places = edge @ in_head[:3, :3].T
        front = places[np.argmax(places[:, 2])]
        assert np.degrees(np.arctan2(front[1], front[2])) < -28


def test_she_is_as_high_as_a_person_and_stands_on_the_ground(oda: Rig) -> None:
    assert oda.mesh is not None
    assert oda.skinning is not None
    head = oda.mesh.positions[:, 1].max()
    assert 1.5 < head < 2.4
    assert abs(oda.mesh.positions[:, 1].min()) < 0.02


def test_her_feet_come_down_on_stones_and_banks(oda: Rig) -> None:
    seconds = np.arange(96) / 24
    feet = oda.world_positions(seconds, np.array([oda.find("foot_l"), oda.find("foot_r")]))
    stones = [oda_crossing.FIRST_FOOTPRINT + oda_crossing.STRIDE * n for n in range(2, 6)]
    low = feet[..., 1] < feet[..., 1].min() + 0.012
    for z in feet[low][:, 2]:
        on_bank = z < 0.56 or z > 3.38
        assert on_bank or min(abs(z - s) for s in stones) < 0.06


def carried_pole(scene: Scene, pole_id: str) -> tuple[Floats, Floats]:
    """World matrices of the pole, and of Oda's joints, on ones, (frames, joints, 4, 4)."""
    digests = {piece.performance.source.digest for piece in scene.things}
    names = mill_race.OF_CROSSING if scene.name == "Crossing" else mill_landing.OF_LANDING
    assert digests == set(names)
    work = Baker(scene, lambda source: mill_race.demo_rig(source.digest), {})
    pole = scene.piece(pole_id)
    in_file = work.rig(pole).world_matrices(np.arange(scene.frames.count) / 24)
    return work.value(work.carrier_part(pole))[:, None] @ in_file, work.world(scene.characters[0])


def test_the_hands_hold_the_pole(oda: Rig) -> None:
    pole, world = carried_pole(mill_race.scene(*mill_race.OF_CROSSING), mill_race.POLE)
    for hand in ("hand_l", "hand_r"):
        place = transforms.apply(np.linalg.inv(pole[:, 0]), world[:, oda.find(hand), :3, 3])
        assert np.hypot(place[:, 0], place[:, 2]).max() < 0.11, f"{hand} stays at the pole"


def test_she_sets_her_lantern_down_and_it_stays(oda: Rig) -> None:
    pole, world = carried_pole(mill_landing.scene(mill_landing.OF_LANDING, "0" * 64), mill_landing.POLE)
    down = mill_landing.SETS_DOWN - mill_landing.FIRST
    hand = world[:, oda.find("hand_r"), :3, 3]
    at = transforms.apply(np.linalg.inv(pole[:, 0]), hand)
    assert np.hypot(at[: down + 1, 0], at[: down + 1, 2]).max() < 0.11, "until then it is in her hand"
    assert np.linalg.norm(hand[-1] - pole[-1, 0, :3, 3]) > 0.3, "and at the end it is not"
    assert np.abs(pole[down + 1 :, 0] - pole[down, 0]).max() < 0.01, "it stands"
    butt = transforms.apply(pole[down:, 0], np.array([0.0, -lantern_pole.GRIP_FROM_BUTT, 0.0]))
    assert -0.12 < butt[:, 1].min() < butt[:, 1].max() < 0.02, "in the ground"
    assert pole[down, 0, 1, 1] > 0.98, "upright"
    feet = world[:, [oda.find("foot_l"), oda.find("foot_r")]][..., :3, 3]
    assert np.ptp(feet[20:], axis=0).max() < 0.01, "her feet are planted"


def test_joints_do_not_break(oda: Rig) -> None:
    fine = oda.world_matrices(np.arange(0, 95.01, 0.25) / 24)
    turn = np.einsum("fnji,fnjk->fnik", fine[:-1, :, :3, :3], fine[1:, :, :3, :3])
    angle = np.degrees(np.arccos(np.clip((np.trace(turn, axis1=-2, axis2=-1) - 1) / 2, -1, 1)))
    calm = [n for n, name in enumerate(oda.names[:-1]) if not name.startswith(("lid", "lantern"))]
    assert angle[:, calm].max() < 14, "no joint turns more than fourteen degrees in a quarter of a frame"


def test_the_set_stands_where_she_walks() -> None:
    model = mill_set.model()
    places = np.array(model.positions)
    assert places[:, 1].min() < mill_set.WATER_Y < 0
    assert {name for w in model.weights for name in w} == {"world"}


# --- the colours of the interface ---


def tokens(block: str) -> dict[str, str]:
    return dict(re.findall(r"--([a-z-]+):\s*(#[0-9a-f]{6});", block))


def contrast(one: str, other: str) -> float:
    """Contrast ratio of two colours (WCAG 2.2)."""
    a, b = (float(linear_color(c) @ [0.2126, 0.7152, 0.0722]) for c in (one, other))
    return (max(a, b) + 0.05) / (min(a, b) + 0.05)


@pytest.mark.parametrize("theme", ["light", "dim"])
def test_text_has_contrast_enough_in_both_themes(theme: str) -> None:
    light, dim = STYLES.read_text().split("[data-mantine-color-scheme", 1)
    colors = tokens(light) | (tokens(dim.split("}", 1)[0]) if theme == "dim" else {})
    pairs = [(ink, ground) for ink in ("graphite", "soft") for ground in ("paper", "well", "sheet")]
    pairs += [("ochre", "paper"), ("ochre", "ochre-ground"), ("ochre", "sheet"), ("red", "sheet"), ("red", "paper")]
    pairs += [
        ("blue", "paper"),
        ("blue-deep", "blue-pale"),
        ("blue-deep", "sheet"),
        ("on-red", "red"),
        ("paper", "graphite"),
    ]
    weak = {pair: round(contrast(colors[pair[0]], colors[pair[1]]), 2) for pair in pairs}
    assert {pair: ratio for pair, ratio in weak.items() if ratio < 4.5} == {}
