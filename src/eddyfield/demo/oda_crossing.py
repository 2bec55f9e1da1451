"""Oda's crossing: 96 frames at 24 frames a second over the stepping stones, lantern pole in both hands.

Worked out pose by pose, in the world, then stored as an animator would key it: every key pose and breakdown on all
joints, more keys on hips and legs so that the planted feet stay down. Row i is frame 1001 + i.
"""

from __future__ import annotations

import numpy as np

from eddyfield.core.arrays import Floats
from eddyfield.core.rig import transforms

from .oda_model import GRIP_FROM_BUTT, LEFT_GRIP_FROM_BUTT, NAMES, PARENT, PLACE, face
from .posing import RATE, bump, continuous, rotation, smooth
from .rigged_glb import FACE

FRAMES = 96
STEP_FRAMES, STRIDE = 16, 0.62
FIRST_FOOTPRINT = -0.31
UP = np.array([0.0, 1.0, 0.0])
KEY_EVERY, LEG_KEY_EVERY = 4, 2
KINK_ROW, KINK_DEG = 42, -2.4
JOLT_ROW, JOLT_DEG = 66, 3.5
"""What her second version has in the place of the kink: a nod that is off on one frame."""
LEGS = tuple(f"{part}_{side}" for part in ("thigh", "shin", "foot", "toe") for side in ("l", "r"))


def _frame(direction: Floats, hint: Floats) -> Floats:
    """Orthonormal axes whose first follows ``direction`` and whose second leans to ``hint``."""
    first = transforms.normalized(direction, (1, 0, 0))
    third = transforms.normalized(np.cross(first, hint), (0, 0, 1))
    return np.stack([first, np.cross(third, first), third], axis=-1)


def _aligned(bind: Floats, bind_hint: Floats, wanted: Floats, hint: Floats) -> Floats:
    """Rotations that turn ``bind`` onto ``wanted`` and keep ``bind_hint`` towards ``hint``."""
    return np.asarray(_frame(wanted, hint) @ np.swapaxes(_frame(bind, bind_hint), -1, -2))


def _middle_of_limb(root: Floats, end: Floats, upper: float, lower: float, toward: Floats) -> tuple[Floats, Floats]:
    """Two-bone solution: the middle joint (rows, 3), bent ``toward``, and the end, pulled in where it is out of reach."""
    line = end - root
    distance = np.linalg.norm(line, axis=-1)
    reach = np.minimum(distance, 0.9995 * (upper + lower))
    along = line / distance[:, None]
    share = (reach**2 + upper**2 - lower**2) / (2 * reach)
    height = np.sqrt(np.maximum(upper**2 - share**2, 0))
    side = toward - np.einsum("fi,fi->f", toward, along)[:, None] * along
    side = transforms.normalized(side, (0, 0, 1))
    return root + along * share[:, None] + side * height[:, None], root + along * reach[:, None]


class _Pose:
    """World rotations (rows, 3, 3) and places (rows, 3) of the joints, filled from the hips outwards."""

    def __init__(self, rows: int) -> None:
        self.rotation: dict[str, Floats] = {}
        self.place: dict[str, Floats] = {}
        self._rows = rows

    def rest_place(self, joint: str) -> Floats:
        """Where a joint stands if it keeps its place on its parent."""
        parent = PARENT[joint]
        offset = PLACE[joint] - PLACE[parent]
        return np.asarray(self.place[parent] + np.einsum("fij,j->fi", self.rotation[parent], offset))

    def set(self, joint: str, rotation: Floats) -> None:
        self.place[joint] = self.rest_place(joint)
        self.rotation[joint] = rotation

    def follow(self, joint: str, local: Floats | None = None) -> None:
        above = self.rotation[PARENT[joint]]
        self.set(joint, above if local is None else above @ local)

    def limb(self, upper: str, lower: str, end: str, target: Floats, toward: Floats, bind_toward: Floats) -> None:
        """Bend a limb so that ``end`` comes to ``target``; sets the upper and lower joints and the place of the end."""
        root = self.rest_place(upper)
        lengths = float(np.linalg.norm(PLACE[lower] - PLACE[upper])), float(np.linalg.norm(PLACE[end] - PLACE[lower]))
        middle, reached = _middle_of_limb(root, target, lengths[0], lengths[1], toward)
        bend = np.broadcast_to(bind_toward, root.shape)
        for joint, after, direction in ((upper, lower, middle - root), (lower, end, reached - middle)):
            bind = np.broadcast_to(PLACE[after] - PLACE[joint], root.shape)
            self.set(joint, _aligned(bind, bend, direction, toward))


def poses(second: bool = False) -> tuple[Floats, Floats]:
    """Her motion on every frame: local rotations (rows, joints, 4) and the place of the hips (rows, 3). In the ``second`` version
    the lantern's kink is mended, and her head jolts."""
    row = np.arange(FRAMES, dtype=np.float64)
    pose = _Pose(FRAMES)
    step = row / STEP_FRAMES
    phase = step % 1.0
    # Which foot swings: 1 while it is the right one's turn, -1 for the left; smooth at the change.
    sway = np.cos(np.pi * step)
    lift_lantern = bump(row, 40, 84, 16)
    hips_y = 0.792 + 0.020 * np.cos(2 * np.pi * (phase - 0.62)) + 0.004 * np.cos(np.pi * step * 4)
    hips_z = STRIDE * step + 0.014 * np.sin(2 * np.pi * (phase - 0.1))
    hips_x = 0.024 * np.cos(np.pi * (step - 0.45))
    pose.place["hips"] = np.stack([hips_x, hips_y, hips_z], axis=-1)
    pose.rotation["hips"] = rotation(5 + 2 * np.sin(2 * np.pi * phase), 7 * sway, 3.0 * np.sin(np.pi * (step - 0.1)))
    _legs(pose, row)
    lean = 7 + 2.5 * np.sin(2 * np.pi * (phase - 0.12)) - 3 * lift_lantern
    pose.set("spine", rotation(lean, 0.5 * sway, -1.0 * np.sin(np.pi * (step - 0.2))))
    pose.set("chest", rotation(lean + 2, -6.5 * np.cos(np.pi * (step - 0.12)), -2 * np.sin(np.pi * (step - 0.25))))
    glance = 26 * bump(row, 50, 88, 12)
    pose.set("neck", rotation(8 - 2 * np.sin(2 * np.pi * (phase - 0.2)), glance * 0.4, 0 * row))
    nod = 4 + 2.5 * np.sin(2 * np.pi * (phase - 0.25)) - 9 * lift_lantern
    nod = nod + JOLT_DEG * second * (row == JOLT_ROW)
    pose.set("head", rotation(nod, glance - 2 * sway, 2.5 * np.sin(np.pi * (step - 0.3))))
    _face(pose, row)
    _arms(pose, row, phase, lift_lantern, 0.0 if second else KINK_DEG)
    _cloth(pose, row, step)
    return _local(pose), pose.place["hips"]


def _footprint(number: Floats) -> Floats:
    return FIRST_FOOTPRINT + STRIDE * number


def _legs(pose: _Pose, row: Floats) -> None:
    for side, sign, own in (("l", 1.0, 1), ("r", -1.0, 0)):
        # Right feet land on even footprints, left ones on odd. The step k swings the foot of footprint k to k + 2.
        step = np.floor(row / STEP_FRAMES).astype(int)
        share = row / STEP_FRAMES - step
        swings = step % 2 == own
        standing = np.where(swings, step, np.where((step - 1) % 2 == own, step + 1, step))
        moved = smooth((share - 0.10) / 0.80) * swings
        z = _footprint(standing + 2 * moved)
        up = np.sin(np.pi * np.clip((share - 0.10) / 0.80, 0, 1)) * swings
        heel_first = np.where(swings, bump(share, 0.62, 1.0, 0.19), 0)
        roll_off = np.where(swings, bump(share, 0.0, 0.55, 0.22), 0)
        pitch = 34 * roll_off - 20 * heel_first
        ankle = np.stack(
            [np.full(FRAMES, sign * 0.075), PLACE["foot_l"][1] + 0.15 * up**1.3 + 0.035 * roll_off, z], axis=-1
        )
        thigh, shin, foot, toe = (f"{n}_{side}" for n in ("thigh", "shin", "foot", "toe"))
        ahead = np.broadcast_to([sign * 0.12, 0.0, 1.0], ankle.shape)
        pose.limb(thigh, shin, foot, ankle, ahead, np.array([0.0, 0.0, 1.0]))
        pose.set(foot, rotation(pitch, np.full(FRAMES, sign * 4.0), 0 * row))
        pose.follow(toe, rotation(-0.5 * np.maximum(pitch, 0), 0 * row, 0 * row))


def _face(pose: _Pose, row: Floats) -> None:
    blink = np.maximum(bump(row, 29, 34, 2.5), bump(row, 74, 79, 2.5))
    wonder = bump(row, 52, 86, 8)
    talks = sum(open_deg * bump(row, at - 3, at + 3, 3) for at, open_deg in SPOKEN_OPEN)
    pose.follow("jaw", rotation(4 * wonder + talks, 0 * row, 0 * row))
    look = 9 * bump(row, 46, 88, 6)
    glad = 9 * smooth((row - 78) / 10)
    for side, sign in (("l", 1.0), ("r", -1.0)):
        pose.follow(f"brow_{side}", rotation(-7 * wonder, 0 * row, sign * 5 * wonder))
        pose.follow(f"eye_{side}", rotation(2 - 4 * wonder, look, 0 * row))
        pose.follow(f"lid_{side}", rotation((4 - 13 * wonder + glad) * (1 - blink) + 62 * blink, 0 * row, 0 * row))


# “There you are.”: on which row the jaw is open by how many degrees, and what the mouth forms.
SPOKEN_OPEN = ((63, 5.0), (69, 6.5), (76, 9.0))
SPOKEN: dict[str, tuple[tuple[float, float], ...]] = {
    "wide": ((63, 0.8), (73, 0.3)),
    "lips apart": ((63, 0.8), (66, 0.5), (70, 0.6), (76, 1.0)),
    "rounded": ((70, 1.0), (79, 0.5)),
    "pressed": ((60, 0.7), (82, 0.8)),
    "upper lip up": ((65, 0.6),),
    "lower lip in": ((61.5, 0.35),),
}


def face_weights() -> Floats:
    """How much of every shape of her face on every frame (rows, shapes): careful on the stones, wonder at the heron, what she
    says to it, and a smile that comes from one corner of the mouth."""
    row = np.arange(FRAMES, dtype=np.float64)
    wonder, glad = bump(row, 50, 64, 5), smooth((row - 78) / 10)
    careful = 1 - smooth((row - 44) / 8)
    weights: dict[str, Floats] = {
        "brows together": 0.55 * careful,
        "lower lids up": 0.25 * careful + 0.6 * glad,
        "corners down": 0.45 * careful,
        "pressed": 0.5 * bump(row, 8, 26, 6) + 0.4 * bump(row, 34, 46, 5),
        "brows up in the middle": 0.9 * bump(row, 48, 88, 6),
        "lips apart": 0.55 * wonder,
        "nostrils wide": 0.7 * wonder + 0.4 * bump(row, 4, 18, 6),
        "left corner up": 0.7 * bump(row, 74, 86, 5),
        "right corner up": 0.35 * bump(row, 80, 88, 4),
        "smile": 0.85 * glad,
        "cheeks full": 0.8 * bump(row, 12, 24, 6),
    }
    for shape, moments in SPOKEN.items():
        for at, much in moments:
            weights[shape] = weights.get(shape, 0 * row) + much * bump(row, at - 3.5, at + 3.5, 3.5)
    return np.stack([np.clip(weights.get(name, 0 * row), 0, 1) for name in face().shapes], axis=1)


def _arms(pose: _Pose, row: Floats, phase: Floats, lift: Floats, kink_deg: float) -> None:
    bob = np.sin(2 * np.pi * (phase - 0.22))
    for side, sign in (("l", 1.0), ("r", -1.0)):
        shrug = 5 * lift if side == "r" else 2 * lift
        pose.follow(f"clavicle_{side}", rotation(0 * row, -sign * 6.0 + 0 * row, sign * shrug))
    chest, chest_place = pose.rotation["chest"], pose.place["chest"]

    def in_chest(x: Floats, y: Floats, z: Floats) -> Floats:
        return np.asarray(chest_place + np.einsum("fij,fj->fi", chest, np.stack([x, y, z], axis=-1)))

    still = np.zeros(FRAMES)
    grip = in_chest(still - 0.15, 0.0 + 0.018 * bob + 0.11 * lift, 0.30 + 0.008 * bob + 0.03 * lift)
    # The pole drags behind her: its tip follows the bob of the step late, and drops before it is lifted.
    rise = 40 + 3.2 * np.sin(2 * np.pi * (phase - 0.47)) + 17 * bump(row, 43, 87, 17) - 3.5 * bump(row, 38, 48, 5)
    rise = rise + kink_deg * (row == KINK_ROW)
    drift = -3 + 5 * np.cos(np.pi * (row / STEP_FRAMES - 0.35))
    heading = np.radians(drift)
    tilt = np.radians(rise)
    pole = np.stack([np.cos(tilt) * np.sin(heading), np.sin(tilt), np.cos(tilt) * np.cos(heading)], axis=-1)
    left_grip = grip - pole * (GRIP_FROM_BUTT - LEFT_GRIP_FROM_BUTT) + chest @ np.array([0.035, 0.0, 0.0])
    for side, sign, target in (("r", -1.0, grip), ("l", 1.0, left_grip)):
        upper, fore, hand = (f"{n}_{side}" for n in ("upper_arm", "forearm", "hand"))
        elbow = np.einsum("fij,j->fi", chest, np.array([sign * 0.75, -1.0, -0.35]))
        pose.limb(upper, fore, hand, target - pole * 0.02, elbow, np.array([0.0, 0.0, -1.0]))
        bind = np.broadcast_to(PLACE[f"fingers_1_{side}"] - PLACE[hand], target.shape)
        inward = np.einsum("fij,j->fi", chest, np.array([-sign * 0.8, -0.15, 0.9]))
        pose.set(hand, _aligned(bind, np.broadcast_to([0.0, 0.0, 1.0], target.shape), inward, pole))
        curl = rotation(0 * row, -sign * 38.0 + still, -sign * 28.0 + still)
        for joint in ("fingers_1", "fingers_2"):
            pose.follow(f"{joint}_{side}", curl)
        for joint in ("thumb_1", "thumb_2"):
            pose.follow(f"{joint}_{side}", rotation(18.0 + still, sign * 14.0 + still, still))
    upright = _aligned(
        np.broadcast_to(UP, pole.shape),
        np.broadcast_to([0.0, 0.0, 1.0], pole.shape),
        pole,
        np.broadcast_to(UP, pole.shape),
    )
    pose.set("pole", upright)
    pose.follow("pole_tip", rotation(1.6 * np.sin(2 * np.pi * (phase - 0.6)), still, still))
    pose.place["lantern_ring"] = pose.rest_place("lantern_ring")
    swing_z, swing_x = _pendulum(pose.place["lantern_ring"])
    hang = rotation(np.degrees(-swing_z), still, np.degrees(swing_x))
    pose.set("lantern_ring", hang)
    pose.follow("lantern", rotation(0.25 * np.degrees(-swing_z), still, still))


def _pendulum(pivot: Floats) -> tuple[Floats, Floats]:
    """Angles, radians, of a damped pendulum of 0.24 m that hangs from a moving pivot, along z and along x."""
    length, damping, finer = 0.24, 2.6, 16
    time = np.arange(FRAMES) / RATE
    fine = np.linspace(0, time[-1], (FRAMES - 1) * finer + 1)
    step = fine[1]
    out = []
    for axis in (2, 0):
        path = np.interp(fine, time, pivot[:, axis])
        push = np.gradient(
            np.gradient(
                np.convolve(np.pad(path, 24, mode="reflect", reflect_type="odd"), np.ones(49) / 49, "valid"), step
            ),
            step,
        )
        angle, speed = 0.0, 0.0
        angles = []
        for pull in push:
            speed += step * (-(9.81 / length) * np.sin(angle) - pull / length * np.cos(angle) - damping * speed)
            angle += step * speed
            angles.append(angle)
        out.append(np.array(angles)[::finer])
    return out[0], out[1]


def _cloth(pose: _Pose, row: Floats, step: Floats) -> None:
    flare = 4 + 3 * np.sin(2 * np.pi * (step - 0.35))
    ahead = {}
    for side in ("l", "r"):
        direction = pose.rotation[f"thigh_{side}"] @ np.array([0.0, -1.0, 0.0])
        ahead[side] = np.degrees(np.arctan2(direction[:, 2], -direction[:, 1]))
    forward, back = np.maximum(ahead["l"], ahead["r"]), np.minimum(ahead["l"], ahead["r"])
    lag = np.concatenate([[0.0], np.diff(forward)])
    hips_pitch = 5.0
    pose.follow("coat_front", rotation(-(0.80 * forward + 0.5 * lag + hips_pitch), 0 * row, 0 * row))
    pose.follow("coat_back", rotation(-(0.72 * back + hips_pitch), 0 * row, 0 * row))
    middle = (forward + back) * 0.25
    for side, sign in (("l", 1.0), ("r", -1.0)):
        pose.follow(f"coat_{side}", rotation(-middle, 0 * row, sign * flare))
    flutter = 8 + 6 * np.sin(2 * np.pi * (step - 0.5))
    pose.follow("scarf_1", rotation(flutter, 3 * np.sin(np.pi * step), 0 * row))
    pose.follow("scarf_2", rotation(0.8 * flutter + 5 * np.sin(2 * np.pi * (step - 0.7)), 0 * row, 0 * row))
    sag = 4 * np.sin(2 * np.pi * (step - 0.45))
    pose.follow("hood_tip", rotation(sag, 0 * row, 0 * row))


def _local(pose: _Pose) -> Floats:
    out = np.empty((FRAMES, len(NAMES), 4))
    for index, name in enumerate(NAMES):
        turned = pose.rotation[name]
        if PARENT[name]:
            turned = np.swapaxes(pose.rotation[PARENT[name]], -1, -2) @ turned
        out[:, index] = transforms.quaternion_from_matrix(turned)
    return continuous(out)


def key_rows(joint: str) -> np.ndarray:
    """Rows on which a joint is keyed: key poses and breakdowns, the last frame, more on hips and legs, and what is planted."""
    every = LEG_KEY_EVERY if joint in (*LEGS, "hips", "jaw", "lid_l", "lid_r", FACE) else KEY_EVERY
    rows = set(range(0, FRAMES, every)) | {FRAMES - 1}
    if joint == "pole":
        rows |= {KINK_ROW - 1, KINK_ROW, KINK_ROW + 1}
    if joint == "head":
        rows |= {JOLT_ROW - 1, JOLT_ROW, JOLT_ROW + 1}
    return np.array(sorted(rows))
