"""Routes of the production's limits: from when on something is told, in every scene of it."""

from __future__ import annotations

from flask import Flask, Response, g

from eddyfield.core.readings.limits import LIMITS, USUAL, Limits
from eddyfield.store.limits import ProductionLimits

from .bodies import json_answer, read_body
from .reading_answers import LimitsTold, LimitView
from .requests import LimitsRequest


def install_limits(app: Flask, limits: ProductionLimits) -> None:
    """Read and set."""

    @app.get("/api/limits")
    def tell_limits() -> Response:
        return json_answer(_told(limits.get()))

    @app.put("/api/limits")
    def set_limits() -> Response:
        body = read_body(LimitsRequest)
        return json_answer(_told(limits.set(body.values, body.was, g.who, body.window_id)))


def _told(limits: Limits) -> LimitsTold:
    return LimitsTold(
        limits=[
            LimitView(
                name=kind.name, title=kind.title, unit=kind.unit, of=kind.of, least=kind.least, most=kind.most,
                told_above=kind.told_above, value=getattr(limits, kind.name), usual=getattr(USUAL, kind.name),
            )
            for kind in LIMITS
        ],
        changed=limits.changed(),
    )  # fmt: skip
