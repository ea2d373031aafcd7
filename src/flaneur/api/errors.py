"""Every error leaves in one shape: what was read, what was expected, what to do. Never a stack
trace.
"""

import logging
import secrets
from collections.abc import Mapping
from types import MappingProxyType

from flask import Flask, Response, g, jsonify, request
from flask_wtf.csrf import CSRFError
from pydantic import ValidationError
from sqlalchemy.exc import DataError, DBAPIError, InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from werkzeug.exceptions import HTTPException, RequestEntityTooLarge

from flaneur.api.models import ErrorOut
from flaneur.core.errors import BookError, ErrorCode, FlaneurError
from flaneur.jobs.accounts import TooManyTries
from flaneur.store.changes import StaleJob

log = logging.getLogger("flaneur.api")


class TooLarge(FlaneurError):
    """An upload over the limit."""

    code = ErrorCode.TOO_LARGE


class NoRoom(FlaneurError):
    """The disk is nearly full."""

    code = ErrorCode.NO_ROOM


class Forbidden(FlaneurError):
    """Only a lead may do this, or the password is wrong."""

    code = ErrorCode.FORBIDDEN


class WrongBody(FlaneurError):
    """A body of another kind than the address takes."""

    code = ErrorCode.BODY_WRONG


class Unreadable(FlaneurError):
    """A body that is not what it calls itself."""

    code = ErrorCode.BODY_UNREADABLE


class KeyReused(FlaneurError):
    """A key that another change was sent under."""

    code = ErrorCode.KEY_REUSED


class InvalidInput(FlaneurError):
    """A request that does not fit its model."""

    code = ErrorCode.INPUT_INVALID


_STATUS: Mapping[ErrorCode, int] = MappingProxyType(
    {
        ErrorCode.JOB_STALE: 409,
        ErrorCode.STEP_ANSWERED: 409,
        ErrorCode.JOB_SIGNED: 409,
        ErrorCode.JOB_RELEASED: 409,
        ErrorCode.RECORD_BROKEN: 409,
        ErrorCode.BOX_TAKEN: 409,
        ErrorCode.BOX_OFF: 409,
        ErrorCode.BODY_WRONG: 415,
        ErrorCode.BODY_UNREADABLE: 400,
        ErrorCode.NOT_FOUND: 404,
        ErrorCode.TOO_LARGE: 413,
        ErrorCode.FORBIDDEN: 403,
        ErrorCode.PASSWORD_DUE: 403,
        ErrorCode.TOO_MANY: 429,
        ErrorCode.NO_ROOM: 507,
        ErrorCode.DEVICE_LOST: 502,
    }
)
_OF_HTTP: Mapping[int, ErrorCode] = MappingProxyType(
    {
        401: ErrorCode.NOT_SIGNED_IN,
        403: ErrorCode.FORBIDDEN,
        404: ErrorCode.ADDRESS_WRONG,
        405: ErrorCode.ADDRESS_WRONG,
        413: ErrorCode.TOO_LARGE,
        415: ErrorCode.BODY_WRONG,
        429: ErrorCode.TOO_MANY,
    }
)


def error_out(error: FlaneurError) -> ErrorOut:
    """An error of ours as it crosses the network."""
    return ErrorOut(
        code=error.code,
        message=error.message,
        read=error.read,
        expected=error.expected,
        advice=error.advice,
        field=error.field,
        faults=error.lines if isinstance(error, BookError) else [],
        changes=error.changes if isinstance(error, StaleJob) else [],
    )


def invalid(error: ValidationError) -> InvalidInput:
    """Turn a pydantic error into one sentence about its first fault."""
    first = error.errors()[0]
    where = ".".join(str(p) for p in first["loc"]) or "request"
    ours = first.get("ctx", {}).get("error")  # what a check of our own raised
    said = str(ours) if isinstance(ours, ValueError) else first["msg"]
    return InvalidInput(
        f"{where}: {said}.",
        read=repr(first.get("input"))[:80],
        advice="Correct it and send it again.",
        field=".".join(str(p) for p in first["loc"]),
    )


def answer(error: ErrorOut, status: int) -> tuple[Response, int]:
    """An error on the wire, with the number its request has in the log."""
    return jsonify({**error.model_dump(mode="json"), "request": request_number()}), status


def request_number() -> str:
    """The number of the request at hand: short enough to read out, kept in the log and in every
    error.
    """
    if "request_number" not in g:
        g.request_number = secrets.token_hex(4)
    return str(g.request_number)


def register_errors(app: Flask) -> None:
    """Translate our errors, the database's silence and HTTP errors."""

    @app.errorhandler(FlaneurError)
    def ours(error: FlaneurError) -> tuple[Response, int]:
        out, status = answer(error_out(error), _STATUS.get(error.code, 422))
        if isinstance(error, TooManyTries):
            out.headers["Retry-After"] = str(error.wait_s)
        return out, status

    @app.errorhandler(ValidationError)
    def misfit(error: ValidationError) -> tuple[Response, int]:
        return ours(invalid(error))

    @app.after_request
    def numbered(response: Response) -> Response:
        response.headers["X-Request-Number"] = request_number()
        return response

    @app.errorhandler(DataError)
    def unkeepable(error: DataError) -> tuple[Response, int]:
        log.warning(
            "request %s: the database cannot keep this: %s",
            request_number(),
            str(error.orig).splitlines()[0],
        )
        return answer(
            ErrorOut(
                code=ErrorCode.INPUT_INVALID,
                message="This cannot be kept.",
                advice="Look for odd characters or figures, and send it again.",
            ),
            422,
        )

    @app.errorhandler(DBAPIError)
    def refused(error: DBAPIError) -> tuple[Response, int]:
        # Only the first line: what follows quotes the row, and with it what somebody typed.
        log.error(
            "request %s: the database refuses: %s",
            request_number(),
            str(error.orig).splitlines()[0],
        )
        return answer(
            ErrorOut(
                code=ErrorCode.BROKEN,
                message="Something went wrong in Flaneur.",
                advice="Nothing was saved. Try again; tell the lead.",
            ),
            500,
        )

    @app.errorhandler(OperationalError)
    @app.errorhandler(InterfaceError)
    @app.errorhandler(PoolTimeout)
    def silent(error: Exception) -> tuple[Response, int]:
        log.warning(
            "request %s: the database does not answer: %s",
            request_number(),
            str(error).splitlines()[0],
        )
        return answer(
            ErrorOut(
                code=ErrorCode.DATABASE_AWAY,
                message="The database does not answer.",
                expected="a running database",
                advice="Nothing was saved. What you typed stays on the page; try again in a "
                "moment.",
            ),
            503,
        )

    @app.errorhandler(CSRFError)
    def stranger(_: CSRFError) -> tuple[Response, int]:
        return answer(
            ErrorOut(
                code=ErrorCode.PAGE_STALE,
                message="This page is out of date.",
                advice="Reload it and try again.",
            ),
            400,
        )

    @app.errorhandler(RequestEntityTooLarge)
    def too_large(_: RequestEntityTooLarge) -> tuple[Response, int]:
        limit = request.max_content_length or 0
        return answer(
            ErrorOut(
                code=ErrorCode.TOO_LARGE,
                message="This is too large.",
                expected=f"at most {limit:,} bytes",
            ),
            413,
        )

    @app.errorhandler(HTTPException)
    def plain(error: HTTPException) -> tuple[Response, int]:
        out, status = answer(
            ErrorOut(
                code=_OF_HTTP.get(error.code or 500, ErrorCode.REFUSED),
                message=error.description or error.name,
            ),
            error.code or 500,
        )
        for name, value in error.get_headers():
            if name not in ("Content-Type", "Content-Length"):
                out.headers[name] = value  # what a 405 allows, when a 429 may be tried again
        return out, status

    @app.errorhandler(Exception)
    def unexpected(error: Exception) -> tuple[Response, int]:
        log.exception("request %s: unexpected error", request_number(), exc_info=error)
        return answer(
            ErrorOut(
                code=ErrorCode.BROKEN,
                message="Something went wrong in Flaneur.",
                advice="Nothing was saved. Try again; tell the lead.",
            ),
            500,
        )
