"""The one gate for access: who may ask, from where, and how one signs in and out."""

from __future__ import annotations

import hashlib
import hmac
import secrets
from pathlib import Path

from flask import Flask, Response, g, redirect, request, session

from eddyfield.store.private_file import write_private

from .answers import Access
from .bodies import json_answer, read_body
from .open_sessions import OpenSessions
from .proof import proof
from .refusals import refuse
from .requests import SetName

PUBLIC_ENDPOINTS = frozenset({"sign_in", "page", "static", "prove"})
LONGEST_CHALLENGE = 200
SAFE_METHODS = frozenset({"GET", "HEAD"})
SECRET_BYTES, LEAST_TOKEN = 32, 16


def session_secret(var: Path) -> bytes:
    """The key that session cookies are signed with, made once, readable by its owner only."""
    file = var / "session-secret"
    secret = file.read_bytes() if file.exists() else b""
    if len(secret) < SECRET_BYTES:  # never made, or cut short while it was
        secret = secrets.token_bytes(SECRET_BYTES)
        write_private(file, secret)
    return secret


class Token:
    """What one signs in with. Kept in a file, so that the address outlives a start of the server and can be renewed; whoever
    signed in with an older one is signed out by that."""

    def __init__(self, file: Path | None, fixed: str = "") -> None:
        self._file, self._fixed = file, fixed

    @property
    def value(self) -> str:
        if self._file is None:
            return self._fixed
        value = self._file.read_text() if self._file.exists() else ""
        return value if len(value) >= LEAST_TOKEN else self.renew()

    def renew(self) -> str:
        """Make a new one; the old one is good for nothing any more."""
        value = secrets.token_urlsafe(24)
        if self._file is None:
            self._fixed = value
        else:
            write_private(self._file, value.encode())
        return value

    def mark(self) -> str:
        """What a session remembers of the token that it was opened with."""
        return hashlib.sha256(self.value.encode()).hexdigest()[:24]


def install_gate(app: Flask, token: Token, hosts: frozenset[str] | None, sessions: OpenSessions, port: int) -> None:
    """Put the gate before every request. ``hosts`` are the names under which the server answers (None: any), on its ``port``."""

    def open_session(name: str = "") -> None:
        sessions.close(str(session.get("id", "")))
        session.clear()
        session["signed_in"], session["name"], session["id"] = token.mark(), name, sessions.open()
        session.permanent = True

    @app.before_request
    def gate() -> Response | None:
        if hosts is not None and request.host not in hosts:
            return refuse(400, f"The server does not answer as “{request.host[:80]}”.", "Use the address it printed.")
        if request.method not in SAFE_METHODS:
            origin = request.headers.get("Origin")
            if origin is None or origin.rstrip("/") != request.host_url.rstrip("/"):
                return refuse(403, "The request comes from another page.", "Use Eddyfield in its own window.")
        if request.endpoint in PUBLIC_ENDPOINTS:
            return None
        known = hmac.compare_digest(str(session.get("signed_in", "")), token.mark())
        if not known or not sessions.is_open(str(session.get("id", ""))):
            return refuse(401, "You are not signed in.", "Open the address that ./eddyfield printed.")
        g.who = str(session.get("name", ""))
        return None

    @app.get("/sign-in")
    def sign_in() -> Response:
        offered = request.args.get("token", "")
        if not hmac.compare_digest(offered.encode(), token.value.encode()):
            return refuse(403, "The address has run out.", "Open the one that ./eddyfield printed last.")
        open_session(str(session.get("name", "")))
        return redirect("/")  # type: ignore[return-value]

    @app.get("/api/proof")
    def prove() -> Response:
        challenge = request.args.get("challenge", "")[:LONGEST_CHALLENGE]
        return Response(proof(token.value, challenge, port), content_type="text/plain")

    @app.get("/api/access")
    def who_is_signed_in() -> Response:
        return json_answer(Access(name=g.who))

    @app.put("/api/access")
    def set_name() -> Response:
        session["name"] = " ".join(read_body(SetName).name.split())
        return Response(status=204)

    @app.post("/api/sign-out")
    def sign_out() -> Response:
        sessions.close(str(session.get("id", "")))
        session.clear()
        return Response(status=204)

    @app.post("/api/renew-address")
    def renew_address() -> Response:
        """A new address to sign in with. All other windows are signed out."""
        address = f"{request.host_url}sign-in?token={token.renew()}"
        open_session(g.who)
        return Response(address, content_type="text/plain")
