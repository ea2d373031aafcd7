"""Answers kept while nothing they rest on has changed.

What a page of a job shows follows from the job, its unit, which job of the unit is open, and what
whoever asks may do. Every change of a job writes its row, so that the numbers of the transactions
that wrote the rows last (``xmin``) are as good as all of its content.
"""

from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from threading import Lock
from typing import Any

from flask import Response, current_app, request
from flask_login import current_user
from sqlmodel import Session

from flaneur.api.work import database
from flaneur.store.database import transaction
from flaneur.store.jobs import mark_of

MOST_BYTES = 48_000_000


class KeptAnswers:
    """Answers by what they rest on; those not asked for longest go first."""

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        self._most, self._lock, self._bytes = most_bytes, Lock(), 0
        self._answers: OrderedDict[tuple[str, ...], bytes] = OrderedDict()

    def get(self, key: tuple[str, ...]) -> bytes | None:
        """A kept answer."""
        with self._lock:
            if key in self._answers:
                self._answers.move_to_end(key)
            return self._answers.get(key)

    def put(self, key: tuple[str, ...], answer: bytes) -> None:
        """Keep an answer."""
        with self._lock:
            self._bytes += len(answer) - len(self._answers.pop(key, b""))
            self._answers[key] = answer
            while self._bytes > self._most:
                self._bytes -= len(self._answers.popitem(last=False)[1])


View = Callable[..., Any]


def kept_while_unchanged(mark: Callable[[Session, int], str] = mark_of) -> Callable[[View], View]:
    """Give a job's page again as it was while what it rests on (``mark``) and rights are as they
    were.
    """

    def decorate(view: View) -> View:
        @wraps(view)
        def look(job_id: int) -> Any:
            with transaction(database()) as session:
                marked = mark(session, job_id)
            answers: KeptAnswers = current_app.config["KEPT"]
            key = (str(request.endpoint), str(job_id), marked, str(current_user.role))
            found = answers.get(key)
            if found is not None:
                return Response(found, mimetype="application/json")
            answer = view(job_id=job_id)
            if isinstance(answer, Response) and answer.status_code == 200:
                answers.put(key, answer.get_data())
            return answer

        return look

    return decorate
