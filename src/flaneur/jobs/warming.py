"""Working out at the start what the first person would wait for."""

import logging

from sqlalchemy.exc import SQLAlchemyError

from flaneur.core.diagnosis.wear import sensitivity
from flaneur.core.engine.compiled import compiled
from flaneur.core.picture.drawn import drawn
from flaneur.store.database import one_look
from flaneur.store.depot import newest_book_rows

log = logging.getLogger(__name__)


def warm(url: str) -> None:
    """Compile every book of the depot for verdicts and pictures. A database that does not answer
    yet is left alone.
    """
    try:
        with one_look(url) as session:
            books = [book for _, book in newest_book_rows(session)]
    except SQLAlchemyError as error:
        log.info("nothing compiled ahead: %s", type(error).__name__)
        return
    for book in books:
        sensitivity(book)
        engine = compiled(book)
        _ = drawn(book).picture, engine.facts
