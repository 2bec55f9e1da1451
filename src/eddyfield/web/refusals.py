"""Refusals: every error reaches the browser as the same kind of answer, in the user's words."""

from __future__ import annotations

import orjson
from flask import Flask, Response
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException, RequestEntityTooLarge

from eddyfield.core.edits import title_of
from eddyfield.core.errors import DomainError
from eddyfield.store.conflicts import Conflict, NotFound
from eddyfield.store.database import AlreadyThere, DiskFull, TooLarge, Unavailable
from eddyfield.store.journal import Heading
from eddyfield.store.replaying import CannotRedo, NothingToUndo, OthersStandOnIt

from .answers import Refusal
from .bodies import MOST_JSON_BYTES, BodyTooLarge
from .upload_places import TooManyUploads


def refuse(
    status: int,
    message: str,
    remedy: str = "",
    *,
    revision: int | None = None,
    since: tuple[str, ...] = (),
    asks: bool = False,
) -> Response:
    """An answer that says why something was not done; or ``asks`` whether it should be all the same."""
    body = Refusal(message=message, remedy=remedy, revision=revision, edits_since=list(since), asks=asks)
    return Response(orjson.dumps(body.model_dump()), status=status, content_type="application/json")


def install_refusals(app: Flask) -> None:
    """Turn the errors that routes raise into refusals."""

    @app.errorhandler(DomainError)
    def domain(error: DomainError) -> Response:
        return refuse(422, error.message, error.remedy)

    @app.errorhandler(ValidationError)
    def validation(error: ValidationError) -> Response:
        first = error.errors(include_url=False, include_input=False)[0]
        where = ".".join(str(p) for p in first["loc"]) or "request"
        return refuse(
            400, f"The request is not valid at {where}: {first['msg'][:200]}.", "Reload the page and try again."
        )

    @app.errorhandler(Conflict)
    def conflict(error: Conflict) -> Response:
        what = ", ".join(map(title_of, error.edits_since)) or "undo or redo"
        message = f"The {error.what} was changed elsewhere in the meantime ({what})."
        remedy = "The newest state is shown now; make the change again."
        return refuse(409, message, remedy, revision=error.revision, since=tuple(map(title_of, error.edits_since)))

    @app.errorhandler(NotFound)
    def not_found(error: NotFound) -> Response:
        return refuse(404, f"There is no such {error.what} any more.", "Go back to the Desk.")

    @app.errorhandler(NothingToUndo)
    def nothing(error: NothingToUndo) -> Response:
        return refuse(422, "There is nothing more in that direction.", "")

    @app.errorhandler(OthersStandOnIt)
    def others(error: OthersStandOnIt) -> Response:
        what = ", ".join(map(_whose, error.headings))
        if error.edit is None:
            message, remedy = f"Nothing more was changed in this window. The last change is {what}.", "Undo that one?"
        else:
            message = f"On “{title_of(error.edit)}” stands what was done since: {what}."
            remedy = "Undo all of it?"
        return refuse(428, message, remedy, asks=True)

    @app.errorhandler(CannotRedo)
    def cannot_redo(error: CannotRedo) -> Response:
        way = "undone" if error.heading.undone else "done"
        return refuse(
            422, f"“{title_of(error.edit)}” cannot be done again: {_whose(error.heading)} was {way} on the same since.",
            "Make the change anew.",
        )  # fmt: skip

    @app.errorhandler(TooManyUploads)
    def too_many_uploads(error: TooManyUploads) -> Response:
        return refuse(429, "Other files are being brought in just now.", "Try it again in a moment.")

    @app.errorhandler(Unavailable)
    def unavailable(error: Unavailable) -> Response:
        app.logger.warning("database unavailable: %s", error)
        return refuse(
            503, "The database does not answer just now; nothing was lost.", "Eddyfield tries again by itself."
        )

    @app.errorhandler(DiskFull)
    def disk_full(error: DiskFull) -> Response:
        app.logger.warning("disk full: %s", error)
        remedy = "Make room on the disk, then try again."
        return refuse(507, "The disk is full, so nothing can be stored; nothing was changed.", remedy)

    @app.errorhandler(TooLarge)
    def too_large_to_store(error: TooLarge) -> Response:
        app.logger.warning("too large: %s", error)
        return refuse(413, "That is more than can be stored at once; nothing was changed.", "Do it in smaller parts.")

    @app.errorhandler(AlreadyThere)
    def already_there(error: AlreadyThere) -> Response:
        return refuse(409, "That id is used elsewhere already; nothing was changed.", "Give the new thing another id.")

    @app.errorhandler(RequestEntityTooLarge)
    def too_large(error: RequestEntityTooLarge) -> Response:
        limit = app.config["MAX_CONTENT_LENGTH"] // 2**20
        if isinstance(error, BodyTooLarge):
            return refuse(413, f"The request is larger than {MOST_JSON_BYTES // 2**20} MB.", "Do it in smaller parts.")
        return refuse(413, f"The file is larger than {limit} MB.", "Bring in a smaller one.")

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> Response:
        return refuse(error.code or 500, error.description or error.name)

    @app.errorhandler(Exception)
    def unexpected(error: Exception) -> Response:
        app.logger.exception("unexpected error")
        return refuse(500, "Something went wrong inside Eddyfield; nothing was changed.", "Its log tells more.")


def _whose(heading: Heading) -> str:
    return f"“{title_of(heading.edit)}” ({heading.who or 'another window'})"
