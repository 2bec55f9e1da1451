"""How well faults of arcs are told from honest motion: recall, false alarms, frame and size, class by class."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from fractions import Fraction

import numpy as np

from eddyfield.core.optics.camera_path import CameraPath
from eddyfield.core.optics.lens import DeliveryFrame
from eddyfield.core.readings.arcs import NOISE_FLOOR_PX_AT_1080, judge_arc, with_causes
from eddyfield.core.readings.fault_shapes import SHAPES
from eddyfield.core.readings.faults import fit
from eddyfield.core.readings.window import Window
from eddyfield.core.rig import transforms
from eddyfield.core.time.frames import Rate

from .cameras import MOVES
from .motions import MOTIONS, Floats

LASTS_S = 4
NOISES_PX = (0.0, 0.5, 1.0, 2.0)
LEAST_SPEED_PX, MOST_LOST = 4.0, 1.5
"""Of the subject itself, where time is lost, and frames that are."""
RATES = (12, 24, 25, 30, 48, 60, 120)
SHORT = (5, 6, 7, 8, 9, 12)
"""Frames of a shot, of which few can be fitted to."""
MARGIN_S = 0.5
"""At both ends without a planted fault."""
FAULTS = ("displaced across", "displaced along", "jump", "time lost", "camera jolt")
_DISPLACED, _STEPS = ("off_arc", "off_spacing"), ("pop", "hitch")
OF_KIND = {
    "displaced across": _DISPLACED, "displaced along": _DISPLACED, "jump": _STEPS, "time lost": ("hitch",),
    "camera jolt": _DISPLACED,
}  # fmt: skip
"""What each is told as. Which of a pair can depend on noise, where the travel is short."""


@dataclass
class Score:
    """Of one class. ``planted`` faults at twice the least, of which so many were ``found`` (on the very frame: ``exact``; said
    to be of who made them: ``by_whom``), and the shares by which their sizes were off."""

    clean_frames: int = 0
    false: int = 0
    planted: int = 0
    found: int = 0
    exact: int = 0
    by_whom: int = 0
    size_off: list[float] = field(default_factory=list)

    @property
    def false_per_1000(self) -> float:
        return 1000 * self.false / max(1, self.clean_frames)

    @property
    def recall(self) -> float:
        return self.found / max(1, self.planted)


def run_class(
    name: str, seeds: int, times_least: float = 2.0, noises: tuple[float, ...] = NOISES_PX, rate: int = 24
) -> dict[str, Score]:
    """Scores of a class of motion by kind of fault, over all camera moves, as sampled so often a second and seen at that rate;
    ``clean`` counts false alarms."""
    scores = {kind: Score() for kind in ("clean", *FAULTS)}
    number = sorted(MOTIONS).index(name)
    for move_number, move in enumerate(MOVES.values()):
        for noise_px in noises:
            for seed in range(seeds):
                rng = np.random.default_rng([number, move_number, round(10 * noise_px), seed])
                at = np.linspace(0.0, 24.0 * LASTS_S, LASTS_S * rate, endpoint=False)
                points = MOTIONS[name](rng, at)
                path = move(rng, at, points)
                points = points + _noise(rng, path, points, noise_px)
                _one(rng, path, points, scores, times_least, Rate(Fraction(rate)))
    return scores


def _one(
    rng: np.random.Generator, path: CameraPath, points: Floats, scores: dict[str, Score], times: float, rate: Rate
) -> None:
    pixels, window = path.project(points).pixels, Window.at(rate)
    judged = judge_arc(pixels, path.delivery, window=window)
    scores["clean"].clean_frames += len(points)
    scores["clean"].false += len(judged.faults)
    margin = round(MARGIN_S * float(rate))
    row = int(rng.integers(margin, len(points) - margin))
    already = {fault.row for fault in judged.faults}
    limits = _least(pixels, path.delivery.height, row, window)
    for kind in FAULTS:
        size_px = times * limits[kind]
        if not np.isfinite(size_px) or size_px > 60:
            continue
        seen_by, spoilt, told = path, points, size_px
        if kind == "camera jolt":
            seen_by = _jolted(rng, path, row, size_px)
        else:
            moved = _spoilt(kind, points, path, row, size_px)
            if moved is None:
                continue
            spoilt = moved
        score = scores[kind]
        score.planted += 1
        found = judge_arc(seen_by.project(spoilt).pixels, path.delivery, window=window)
        found = with_causes(found, seen_by, spoilt)
        # Jumps are told on the frame that comes late.
        near = [
            f for f in found.faults
            if abs(f.row - row) <= 1 and f.kind in OF_KIND[kind] and f.row not in already
        ]  # fmt: skip
        if near:
            best = min(near, key=lambda f: abs(f.row - row))
            score.found += 1
            score.exact += best.row == row
            score.by_whom += best.cause == ("camera" if kind == "camera jolt" else "subject")
            score.size_off.append(abs(abs(best.size_px) / told - 1))


def _least(pixels: Floats, height: int, row: int, window: Window) -> dict[str, float]:
    """What can be told at a row of clean motion, by kind of fault, px."""
    threshold, noise = 1.5 * height / 1000, NOISE_FLOOR_PX_AT_1080 * height / 1080
    errors = {shape: float(fit(pixels, shape, noise, window=window).error[row]) for shape in SHAPES}
    steps = np.linalg.norm(np.diff(pixels[row - window.half : row + window.half + 1], axis=0), axis=1)
    displaced = max(threshold, 7 * errors["displaced"])
    step = max(threshold, 7 * errors["step"], 0.3 * float(np.median(steps)))
    return {"displaced across": displaced, "displaced along": displaced, "jump": step, "time lost": step,
            "camera jolt": displaced}  # fmt: skip


def _jolted(rng: np.random.Generator, path: CameraPath, row: int, size_px: float) -> CameraPath:
    """The camera turned on one frame, so that what is seen moves by a size, px."""
    focal_px = float(np.asarray(path.lens.focal_mm)[row]) / 36.0 * path.delivery.width
    turn = np.degrees(np.arctan(size_px / focal_px)) * np.array([np.cos(a := rng.uniform(0, 6.28)), np.sin(a), 0.0])
    world = path.world_from_camera.copy()
    world[row, :3, :3] = world[row, :3, :3] @ transforms.rotation_from_angles(*turn[:, None])[0]
    return replace(path, world_from_camera=world)


def _spoilt(kind: str, points: Floats, path: CameraPath, row: int, size_px: float) -> Floats | None:
    """The motion with a fault of about a size at a row, px; None where there is none to plant."""
    camera = path.world_from_camera[row, :3, :3]
    depth = path.project(points).depth[row]
    metres = size_px / float(
        path.at_rows(np.array([row])).lens.pixels_per_metre(np.array([depth]), path.delivery)[1][0]
    )
    pixels = path.project(points).pixels
    travel = pixels[row + 1] - pixels[row - 1]
    length = float(np.hypot(*travel))
    if length < 1.0 and kind != "jump":
        return None  # nothing is along or across where nothing travels
    along = np.array([travel[0], -travel[1], 0.0]) / max(length, 1e-9)
    across = np.array([-along[1], along[0], 0.0])
    out = points.copy()
    if kind == "displaced across":
        out[row] += camera @ across * metres
    elif kind == "displaced along":
        out[row] += camera @ along * metres
    elif kind == "jump":
        out[row:] += camera @ (across if length >= 1.0 else np.array([1.0, 0.0, 0.0])) * metres
    else:
        # The motion stands for a part of a frame or more, and goes on from there: so much time is lost for good.
        still = path.at_rows(np.full(3, row))
        speed = float(np.linalg.norm(np.diff(still.project(points[row - 1 : row + 2]).pixels[[0, 2]], axis=0))) / 2
        lost = size_px / max(speed, 1e-9)
        if speed < LEAST_SPEED_PX or lost > MOST_LOST:
            return None
        times = np.arange(len(points), dtype=np.float64)
        times[row:] -= lost
        out = _smoothly(points, times)
    return out


def _smoothly(points: Floats, times: Floats) -> Floats:
    from scipy.interpolate import CubicSpline

    return np.asarray(CubicSpline(np.arange(len(points)), points)(times))


def _noise(rng: np.random.Generator, path: CameraPath, points: Floats, noise_px: float) -> Floats:
    """Of a capture, as large as it is seen."""
    depth = path.project(points).depth
    per_metre = path.lens.pixels_per_metre(depth, path.delivery)[1]
    return rng.normal(0, 1, points.shape) * (noise_px / np.asarray(per_metre))[:, None]


def table(seeds: int, times_least: float = 2.0, show: Callable[[str], None] = print, rate: int = 24) -> None:
    """Of every class, at a rate: false alarms, then of each kind of fault recall, exact frames, right causes, and how far sizes
    are off."""
    show(f"{'':21}{'false':>6}" + "".join(f"{kind:>22}" for kind in FAULTS))
    show(f"{'':21}{'/1000':>6}" + "".join(f"{'rec':>7}{'frm':>5}{'who':>5}{'size':>5}" for _ in FAULTS))
    for name in MOTIONS:
        scores = run_class(name, seeds, times_least, rate=rate)
        line = f"{name:21}{scores['clean'].false_per_1000:6.2f}"
        for kind in FAULTS:
            line += _cells(scores[kind])
        show(line)


def _cells(score: Score) -> str:
    if not score.found:
        return f"{'–':>22}"
    exact, whom = score.exact / score.found, score.by_whom / score.found
    return f"{score.recall:7.3f}{_share(exact)}{_share(whom)}{100 * float(np.median(score.size_off)):4.0f}%"


def _share(value: float) -> str:
    return f"{value:5.2f}"


def rates(seeds: int, show: Callable[[str], None] = print) -> None:
    """Of every class at every rate: false alarms per 1,000, and recall of displaced frames and of jumps."""
    show(f"{'':21}" + "".join(f"{rate:>9} a second" for rate in RATES))
    show(f"{'':21}" + "".join(f"{'false':>6}{'disp':>6}{'jump':>6}" for _ in RATES))
    for name in MOTIONS:
        line = f"{name:21}"
        for rate in RATES:
            scores = run_class(name, seeds, rate=rate)
            frames = [scores["displaced across"], scores["displaced along"]]
            recall = sum(s.found for s in frames) / max(1, sum(s.planted for s in frames))
            jumps = f"{scores['jump'].recall:6.3f}" if scores["jump"].planted else f"{'–':>6}"
            shown = f"{recall:6.3f}" if any(s.planted for s in frames) else f"{'–':>6}"
            line += f"{scores['clean'].false_per_1000:6.2f}{shown}{jumps}"
        show(line)


def short_shots(seeds: int, show: Callable[[str], None] = print) -> None:
    """False alarms per 1,000 frames in shots of few frames, over all classes."""
    for count in SHORT:
        false = frames = 0
        for number, name in enumerate(sorted(MOTIONS)):
            for move_number, move in enumerate(MOVES.values()):
                for seed in range(seeds):
                    rng = np.random.default_rng([number, move_number, seed, count])
                    at = np.arange(96.0)
                    points = MOTIONS[name](rng, at)
                    pixels = move(rng, at, points).project(points).pixels
                    starts = tuple(range(0, len(at), count))
                    false += len(judge_arc(pixels, DeliveryFrame(), starts).faults)
                    frames += len(at)
        show(f"shots of {count:2} frames: {1000 * false / frames:.2f} false alarms per 1,000 of {frames}")


def sizes_against_recall(seeds: int, show: Callable[[str], None] = print) -> None:
    """Whether what is larger is found more surely, over all classes: recall by size, in times the least."""
    for times in (0.5, 0.75, 1.0, 1.25, 1.5, 2.0, 3.0):
        found = planted = 0
        for name in MOTIONS:
            scores = run_class(name, seeds, times, (0.5,))
            found += sum(scores[kind].found for kind in ("displaced across", "displaced along", "jump"))
            planted += sum(scores[kind].planted for kind in ("displaced across", "displaced along", "jump"))
        show(f"{times:5.2f} times the least: recall {found / max(1, planted):.3f} of {planted}")
