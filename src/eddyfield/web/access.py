"""The one gate for access: who may ask, from where, and how one signs in."""

from __future__ import annotations

import hmac
import os
import secrets
from pathlib import Path

from flask import Flask, Response, g, redirect, request, session

from .refusals import refuse

PUBLIC_ENDPOINTS = frozenset({"sign_in", "page", "static"})
SAFE_METHODS = frozenset({"GET", "HEAD"})


def session_secret(var: Path) -> bytes:
    """The key that session cookies are signed with, made once, readable by its owner only."""
    file = var / "session-secret"
    if not file.exists():
        handle = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(handle, "wb") as out:
            out.write(secrets.token_bytes(32))
    return file.read_bytes()


def install_gate(app: Flask, token: str, hosts: frozenset[str] | None) -> None:
    """Put the gate before every request. ``hosts`` are the names under which the server answers (None: any)."""

    @app.before_request
    def gate() -> Response | None:
        if hosts is not None and request.host not in hosts:
            return refuse(400, f"The server does not answer as “{request.host}”.", "Use the address that it printed.")
        if request.method not in SAFE_METHODS:
            origin = request.headers.get("Origin")
            if origin is None or origin.rstrip("/") != request.host_url.rstrip("/"):
                return refuse(403, "The request comes from another page.", "Use Eddyfield in its own window.")
        if request.endpoint in PUBLIC_ENDPOINTS:
            return None
        if not session.get("signed_in"):
            return refuse(401, "You are not signed in.", "Open the address that ./eddyfield printed.")
        g.who = "local"
        return None

    @app.get("/sign-in")
    def sign_in() -> Response:
        offered = request.args.get("token", "")
        if not hmac.compare_digest(offered.encode(), token.encode()):
            return refuse(403, "The address has run out.", "Open the one that ./eddyfield printed last.")
        session.clear()
        session["signed_in"] = True
        session.permanent = True
        return redirect("/")  # type: ignore[return-value]
