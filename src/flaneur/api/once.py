"""Changes that are made once, however often they are sent.

A request with an ``Idempotency-Key`` writes the key in the transaction of its change, with what it
answered. Sent again under the same key it changes nothing and is answered as before. What was
refused is not kept: the same key may be tried again.
"""

import hashlib
import re
from typing import Any

from flask import Flask, Response, request

from flaneur.api.errors import InvalidInput, KeyReused
from flaneur.api.rights import READS, RIGHTS
from flaneur.api.security import SAFE, person
from flaneur.api.work import database
from flaneur.store.database import joined
from flaneur.store.sent import Sending, answered, claim
from flaneur.store.tables import SentOnce

HEADER = "Idempotency-Key"
AGAIN = "Idempotency-Replayed"
KEY = re.compile(r"[A-Za-z0-9_-]{8,80}")
# Passwords are counted even where what they open is refused, and answers with one are not kept; a
# look at the box belongs to a process, not to the database.
_NOT_KEPT = (
    "session.",
    "people.",
    "live.",
    "handover.sign",
    "after.add",
    "hands.take_over",
    "look.",
    "openapi.",
)


def is_kept_once(endpoint: str | None, method: str) -> bool:
    """Whether a request to this endpoint is made once under its key."""
    return (
        method not in SAFE
        and endpoint in RIGHTS
        and endpoint not in READS
        and not endpoint.startswith(_NOT_KEPT)
    )


class OnceFlask(Flask):
    """The application, with keyed changes made once."""

    def dispatch_request(self) -> Any:
        """Answer a request; a change that was made under its key already as it was then."""
        key = request.headers.get(HEADER)
        if key is None or not is_kept_once(request.endpoint, request.method):
            return super().dispatch_request()
        return self._once(_checked(key))

    def _once(self, key: str) -> Response:
        sending = Sending(key, person().id or 0, f"{request.method} {request.path}"[:300], _body())
        with joined(database(), person()) as session:
            made = claim(session, sending)
            if made is not None:
                return _as_before(made, sending)
            response = self.make_response(super().dispatch_request())
            if response.status_code >= 400:
                session.rollback()
            else:
                answered(session, key, response.get_data(as_text=True))
            return response


def _checked(key: str) -> str:
    if not KEY.fullmatch(key):
        raise InvalidInput(
            f"{HEADER} is not a key.",
            read=repr(key[:40]),
            expected="8 to 80 letters, digits, - or _, such as a UUID",
        )
    return key


def _body() -> str:
    """SHA-256 of what was sent; a form with a file counts by its length, it is read elsewhere."""
    if request.mimetype == "multipart/form-data":
        return hashlib.sha256(str(request.content_length).encode()).hexdigest()
    return hashlib.sha256(request.get_data()).hexdigest()


def _as_before(made: SentOnce, sending: Sending) -> Response:
    if (made.person_id, made.what, made.body) != (sending.person_id, sending.what, sending.body):
        raise KeyReused(
            "This key was given to another change.",
            read=f"{made.what}, {made.at:%Y-%m-%d %H:%M} UTC",
            expected=f"a key of its own for {sending.what}",
            advice="Nothing was changed. Send it under a new key.",
        )
    response = Response(made.answer, mimetype="application/json")
    response.headers[AGAIN] = "true"
    return response
