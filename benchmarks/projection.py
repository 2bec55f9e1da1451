"""Projection against OpenCV, the same points by the same camera."""

from __future__ import annotations

import cv2
import numpy as np

from eddyfield.core.optics.lens import DeliveryFrame, Lens, project

from .timing import medians, show

POINTS = 500_000


def run() -> None:
    points = np.random.default_rng(0).uniform([-3, -2, -9], [3, 2, -1], (POINTS, 3))
    frame, lens = DeliveryFrame(), Lens(35.0)
    width, height = lens.used_back_mm(frame)
    matrix = np.array([[35 / width * 1920, 0, 960], [0, 35 / height * 1080, 540], [0, 0, 1.0]])
    flipped, still = points * [1, -1, -1], np.zeros(3)
    own, other = medians(
        lambda: project(points[None], lens, frame),
        lambda: cv2.projectPoints(flipped, still, still, matrix, None),
    )
    show(f"projection of {POINTS:,} points", own, "OpenCV", other)
