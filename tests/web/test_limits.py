"""The production's limits over HTTP: told, set for every scene, kept, and never set over somebody else's."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

from eddyfield.core.readings.limits import LIMITS, USUAL
from eddyfield.store.conflicts import Conflict
from eddyfield.store.database import Database
from eddyfield.store.limits import ProductionLimits

from .conftest import ORIGIN, Api


def test_limits_are_told_and_set_for_every_scene(api: Api, demo: str, database: Database) -> None:
    told = api.client.get("/api/limits").json
    assert [one["name"] for one in told["limits"]] == [kind.name for kind in LIMITS]
    assert (told["limits"][0]["value"], told["changed"]) == (1.5, {})
    assert "strobes" in {r["kind"] for r in api.view(demo)["scene"]["readings"]}
    try:
        put = api.client.put("/api/limits", json={"values": {"slip_permille": 25.0}, "was": {}}, headers=ORIGIN)
        assert put.json["changed"] == {"slip_permille": 25.0}
        assert "strobes" not in {r["kind"] for r in api.view(demo)["scene"]["readings"]}
        assert ProductionLimits(database).get().slip_permille == 25.0, "kept"
        late = api.client.put("/api/limits", json={"values": {"slide_m": 0.1}, "was": {}}, headers=ORIGIN)
        assert late.status_code == 409
        assert "changed elsewhere" in late.json["message"]
        for wrong in ({"slip_permille": 1e9}, {"beauty": 1.0}, {"slide_m": float("inf")}, {"slide_m": "wide"}):
            refused = api.client.put("/api/limits", json={"values": wrong, "was": put.json["changed"]}, headers=ORIGIN)
            assert refused.status_code in (400, 422), wrong
        assert api.client.get("/api/limits").json["changed"] == {"slip_permille": 25.0}, (
            "nothing wrong changes anything"
        )
    finally:
        now = api.client.get("/api/limits").json["changed"]
        back = api.client.put("/api/limits", json={"values": {}, "was": now}, headers=ORIGIN)
    assert back.json["changed"] == {}
    assert ProductionLimits(database).get() == USUAL


def test_another_process_goes_by_them_at_once_and_is_told(database: Database) -> None:
    here, elsewhere = ProductionLimits(database), ProductionLimits(database)
    assert elsewhere.new() == []
    assert elsewhere.get() == USUAL
    here.set({"slide_m": 0.2}, {}, "Ada", None)
    assert elsewhere.get().slide_m == 0.2
    assert [(told.who, told.window_id) for told in elsewhere.new()] == [("Ada", None)]
    here.set({"slide_m": 0.3}, {"slide_m": 0.2})
    here.set({}, {"slide_m": 0.3})
    assert elsewhere.get() == USUAL
    assert len(elsewhere.new()) == 1, "the last alone"
    assert elsewhere.new() == []


def test_of_many_who_set_them_at_once_one_does(database: Database) -> None:
    limits = ProductionLimits(database)

    def set_to(value: float) -> float | None:
        try:
            return limits.set({"slide_m": value}, {}).slide_m
        except Conflict:
            return None
        finally:
            database.close()  # this thread's connection

    with ThreadPoolExecutor(6) as pool:
        stored = [value for value in pool.map(set_to, (0.11, 0.12, 0.13, 0.14, 0.15, 0.16)) if value is not None]
    assert stored == [limits.get().slide_m]
    limits.set({}, limits.get().changed())


def test_how_strictly_a_scene_is_judged_is_an_edit_of_it(api: Api, demo: str) -> None:
    revision = api.view(demo)["scene"]["revision"]
    edited = api.unpacked(api.edit(demo, revision, edit="judge scene", strictness="rough"))["scene"]
    assert edited["strictness"] == "rough"
    told = next(r for r in api.view(demo)["scene"]["readings"] if r["kind"] == "strobes")
    assert told["threshold"] == 2 * 1.08
    assert api.edit(demo, edited["revision"], edit="judge scene", strictness="kind").status_code == 400
