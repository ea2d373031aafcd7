"""Working out ahead what the first person would wait for."""

import logging
import time

from sqlalchemy.exc import SQLAlchemyError

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.response import response_of
from flaneur.core.engine.compiled import compiled
from flaneur.core.picture.drawn import drawn
from flaneur.store.database import one_look
from flaneur.store.depot import book_of, newest_book_rows
from flaneur.store.jobs import books_at_work

log = logging.getLogger(__name__)

REST_AFTER_S, REST_EVERY_S, REST_S = 30.0, 1.0, 0.5  # requests go on between two books


def warm_at_work(url: str, budget_s: float) -> None:
    """Compile the books of open jobs, the newest job's first, for about so long."""
    end = time.monotonic() + budget_s
    try:
        with one_look(url) as session:
            for key in books_at_work(session):
                _compile(book_of(session, key))
                if time.monotonic() > end:
                    return
    except SQLAlchemyError as error:
        log.info("nothing compiled ahead: %s", type(error).__name__)


def warm(url: str, rest_after_s: float = REST_AFTER_S) -> None:
    """Compile the depot's books for verdicts and pictures: those of open jobs at once, all others
    when the process has been there for a while. A database that does not answer yet is left alone.
    """
    try:
        with one_look(url) as session:
            at_work = [book_of(session, key) for key in books_at_work(session)]
            others = [book for _, book in newest_book_rows(session) if book not in at_work]
    except SQLAlchemyError as error:
        log.info("nothing compiled ahead: %s", type(error).__name__)
        return
    for book in at_work:
        _compile(book)
        time.sleep(REST_S)
    time.sleep(rest_after_s)
    for book in others:
        _compile(book)
        time.sleep(REST_EVERY_S)


def _compile(book: EngineBook) -> None:
    response_of(book)
    _ = drawn(book).picture, compiled(book).facts
