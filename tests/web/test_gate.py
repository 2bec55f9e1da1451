"""Who gets in, and from where."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from pathlib import Path

import pytest
from flask.testing import FlaskClient

from eddyfield.web.open_sessions import OpenSessions
from eddyfield.web.proof import proof

from .conftest import ORIGIN, Api


def test_everything_but_the_page_is_behind_the_gate(make_client: Callable[..., FlaskClient]) -> None:
    client = make_client()
    rules = [
        r for r in client.application.url_map.iter_rules() if r.endpoint not in ("static", "page", "sign_in", "prove")
    ]
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


def test_a_cookie_is_good_for_nothing_once_somebody_has_signed_out(make_client: Callable[..., FlaskClient]) -> None:
    client = make_client()
    (cookie,) = [h for h in client.get("/sign-in?token=open").headers.getlist("Set-Cookie") if "eddyfield" in h]
    kept = cookie.split(";")[0]
    assert client.get("/api/scenes").status_code == 200
    assert client.post("/api/sign-out", headers=ORIGIN).status_code == 204
    again = client.application.test_client()
    assert again.get("/api/scenes", headers={"Cookie": kept}).status_code == 401


def test_a_server_proves_that_it_knows_the_token_without_telling_it(make_client: Callable[..., FlaskClient]) -> None:
    client = make_client()
    shown = client.get("/api/proof?challenge=abc").text
    assert shown == proof("open", "abc", 0)
    assert shown not in (proof("wrong", "abc", 0), proof("open", "abc", 8000), proof("open", "abd", 0))


def test_sessions_that_are_open_are_told_by_their_files(tmp_path: Path) -> None:
    sessions, other_process = OpenSessions(tmp_path / "sessions"), OpenSessions(tmp_path / "sessions")
    session_id = sessions.open()
    assert other_process.is_open(session_id)
    assert not other_process.is_open("../sign-in-token")
    other_process.close(session_id)
    assert not sessions.is_open(session_id)
