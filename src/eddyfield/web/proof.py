"""How a server shows to a command of this machine that it is the one whose token lies below var/, before it is told the token."""

from __future__ import annotations

import hashlib
import hmac


def proof(token: str, challenge: str, port: int) -> str:
    """What only who knows the token can answer to a challenge. It goes by the port: nobody on another one can pass it on."""
    return hmac.new(token.encode(), f"eddyfield {port} {challenge}".encode(), hashlib.sha256).hexdigest()
