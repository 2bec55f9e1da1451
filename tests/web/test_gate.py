"""Who gets in, and from where."""

from __future__ import annotations

import uuid
from collections.abc import Callable

import pytest
from flask.testing import FlaskClient

from .conftest import ORIGIN, Api


def test_everything_but_the_page_is_behind_the_gate(make_client: Callable[..., FlaskClient]) -> None:
    client = make_client()
    rules = [r for r in client.application.url_map.iter_rules() if r.endpoint not in ("static", "page", "sign_in")]
    assert len(rules) >= 12
    for rule in rules:
        path = rule.rule.replace("<uuid:scene_id>", str(uuid.uuid4())).replace(
            "<any('arc.csv', 'slip.csv', 'corrections.csv', 'shot.glb'):what>", "arc.csv"
        )
        for method in (rule.methods or set()) - {"HEAD", "OPTIONS"}:
            answer = client.open(path, method=method, headers=ORIGIN)
            assert answer.status_code == 401, (method, path)
            assert "not signed in" in answer.json["message"]
    assert client.get("/").status_code == 200
    assert client.get("/sign-in?token=wrong").status_code == 403


def test_the_session_cookie_is_shut_to_scripts_and_other_sites(make_client: Callable[..., FlaskClient]) -> None:
    answer = make_client().get("/sign-in?token=open")
    assert answer.status_code == 302
    cookie = answer.headers["Set-Cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=Lax" in cookie
    assert "token" not in answer.headers["Location"]


@pytest.mark.parametrize("origin", [None, "http://evil.example", "null", "http://localhost:99"])
def test_changes_from_another_page_are_refused(api: Api, demo: str, origin: str | None) -> None:
    headers = {"Origin": origin} if origin else {}
    assert api.client.delete(f"/api/scenes/{demo}", headers=headers).status_code == 403
    assert api.client.post("/api/scenes", json={}, headers=headers).status_code == 403


def test_other_host_names_are_refused(make_client: Callable[..., FlaskClient]) -> None:
    client = make_client(hosts=frozenset({"127.0.0.1:8640"}))
    assert client.get("/", headers={"Host": "rebound.example"}).status_code == 400
    assert client.get("/", headers={"Host": "127.0.0.1:8640"}).status_code == 200
