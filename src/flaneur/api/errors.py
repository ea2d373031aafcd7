"""Every error leaves in one shape: what was read, what was expected, what to do. Never a stack trace."""

import logging

from flask import Flask, Response, jsonify
from flask_wtf.csrf import CSRFError
from pydantic import ValidationError
from sqlalchemy.exc import InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from werkzeug.exceptions import HTTPException, RequestEntityTooLarge

from flaneur.api.models import ErrorOut
from flaneur.core.errors import BookError, DeviceError, FlaneurError
from flaneur.store.changes import JobClosed, NotFound, StaleJob

log = logging.getLogger("flaneur.api")


class TooLarge(FlaneurError):
    """An upload over the limit."""


class Forbidden(FlaneurError):
    """Only a lead may do this, or the password is wrong."""


class InvalidInput(FlaneurError):
    """A request that does not fit its model."""


_STATUS: list[tuple[type[FlaneurError], int]] = [
    (StaleJob, 409),
    (JobClosed, 409),
    (NotFound, 404),
    (TooLarge, 413),
    (Forbidden, 403),
    (DeviceError, 502),
    (InvalidInput, 422),
]


def invalid(error: ValidationError) -> InvalidInput:
    """Turn a pydantic error into one sentence about its first fault."""
    first = error.errors()[0]
    where = ".".join(str(p) for p in first["loc"]) or "request"
    return InvalidInput(f"{where}: {first['msg']}.", read=repr(first.get("input"))[:80], advice="Correct it and send it again.")


def answer(error: ErrorOut, status: int) -> tuple[Response, int]:
    return jsonify(error.model_dump()), status


def register_errors(app: Flask) -> None:
    """Translate our errors, the database's silence and HTTP errors."""

    @app.errorhandler(FlaneurError)
    def ours(error: FlaneurError) -> tuple[Response, int]:
        status = next((s for kind, s in _STATUS if isinstance(error, kind)), 422)
        faults = error.faults if isinstance(error, BookError) else []
        changes = error.changes if isinstance(error, StaleJob) else []
        out = ErrorOut(message=error.message, read=error.read, expected=error.expected, advice=error.advice, faults=faults, changes=changes)
        return answer(out, status)

    @app.errorhandler(ValidationError)
    def misfit(error: ValidationError) -> tuple[Response, int]:
        return ours(invalid(error))

    @app.errorhandler(OperationalError)
    @app.errorhandler(InterfaceError)
    @app.errorhandler(PoolTimeout)
    def silent(error: Exception) -> tuple[Response, int]:
        log.warning("the database does not answer: %s", str(error).splitlines()[0])
        return answer(
            ErrorOut(
                message="The database does not answer.",
                expected="a running database",
                advice="Nothing was saved. What you typed stays on the page; try again in a moment.",
            ),
            503,
        )

    @app.errorhandler(CSRFError)
    def stranger(_: CSRFError) -> tuple[Response, int]:
        return answer(ErrorOut(message="This page is out of date.", advice="Reload it and try again."), 400)

    @app.errorhandler(RequestEntityTooLarge)
    def too_large(_: RequestEntityTooLarge) -> tuple[Response, int]:
        limit = app.config["SETTINGS"].upload_limit_bytes
        return answer(ErrorOut(message="The file is too large.", expected=f"at most {limit:,} bytes"), 413)

    @app.errorhandler(HTTPException)
    def plain(error: HTTPException) -> tuple[Response, int]:
        return answer(ErrorOut(message=error.description or error.name), error.code or 500)

    @app.errorhandler(Exception)
    def unexpected(error: Exception) -> tuple[Response, int]:
        log.exception("unexpected error", exc_info=error)
        return answer(ErrorOut(message="Something went wrong in Flaneur.", advice="Nothing was saved. Try again; tell the lead."), 500)
