"""Units and the engine books they are worked by."""

import hashlib
from collections.abc import Callable, Collection

from sqlmodel import Session, col, select

from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.store.changes import NotFound
from flaneur.store.lately import Lately
from flaneur.store.tables import Book


def keep_book(session: Session, text: str, came_by: str | None = None) -> Book:
    """Store a book's text once; the same text is the same row. One that came with a job file is not
    adopted by that.
    """
    digest = hashlib.sha256(text.encode()).hexdigest()
    found = session.exec(select(Book).where(Book.sha256 == digest)).first()
    if found:
        return found
    book = parse_book(text)
    row = Book(
        name=book.name,
        revision=book.revision,
        sha256=digest,
        text=text,
        came_by=came_by,
        is_adopted=came_by is None,
    )
    session.add(row)
    session.flush()
    return row


_PARSED: Lately[str, EngineBook] = Lately(32)  # by their text's hash
BOOKS = "books"  # of a session: books it has asked for, by row


def _parsed(sha256: str, text: str) -> EngineBook:
    return _PARSED.of(sha256, lambda: parse_book(text))


def book_of(session: Session, book_id: int) -> EngineBook:
    """The engine book of a job or unit, parsed once per content; its text is fetched but once, and
    a session asks but once which content a row has: that never changes.
    """
    known: dict[int, EngineBook] = session.info.setdefault(BOOKS, {})
    if book_id not in known:
        sha256 = session.exec(select(Book.sha256).where(Book.id == book_id)).one()
        known[book_id] = _PARSED.of(sha256, _read(session, book_id))
    return known[book_id]


def knows_book(session: Session, book_id: int, sha256: str) -> None:
    """Tell a session which content a row has, where that came along with something else."""
    known: dict[int, EngineBook] = session.info.setdefault(BOOKS, {})
    if book_id not in known:
        known[book_id] = _PARSED.of(sha256, _read(session, book_id))


def know_books(session: Session, book_ids: Collection[int]) -> None:
    """Ask in one go which contents these rows have, before each is asked for alone."""
    known: dict[int, EngineBook] = session.info.setdefault(BOOKS, {})
    unknown = set(book_ids) - set(known)
    if not unknown:
        return
    asked = select(Book.id, Book.sha256).where(col(Book.id).in_(unknown))
    for book_id, sha256 in session.exec(asked):
        if book_id is not None:
            knows_book(session, book_id, sha256)


def _read(session: Session, book_id: int) -> Callable[[], EngineBook]:
    return lambda: parse_book(session.get_one(Book, book_id).text)


def newest_book_rows(session: Session) -> list[tuple[int, EngineBook]]:
    """Row id and content of the newest adopted revision of every engine book."""
    newest: dict[str, Book] = {}
    for row in session.exec(
        select(Book).where(col(Book.is_adopted)).order_by(col(Book.revision), col(Book.id))
    ):
        newest[row.name] = row
    return [(row.id or 0, _parsed(row.sha256, row.text)) for row in newest.values()]


def waiting_books(session: Session) -> list[tuple[Book, EngineBook]]:
    """Books that came with job files and that nobody has adopted."""
    rows = session.exec(select(Book).where(~col(Book.is_adopted)).order_by(col(Book.id)))
    return [(row, _parsed(row.sha256, row.text)) for row in rows]


def current_of(session: Session, name: str) -> int | None:
    """The newest adopted revision of an engine's book; None where nobody has adopted one."""
    adopted = select(Book.id).where(Book.name == name, col(Book.is_adopted))
    return session.exec(adopted.order_by(col(Book.revision).desc(), col(Book.id).desc())).first()


def book_for_change(session: Session, book_id: int) -> Book:
    """A book's row, held until the transaction ends. Raises NotFound."""
    row = session.exec(select(Book).where(Book.id == book_id).with_for_update()).first()
    if row is None:
        raise NotFound(
            "There is no such engine book.",
            read=str(book_id),
            advice="Choose one in the list of engine books.",
        )
    return row


def newest_books(session: Session) -> list[EngineBook]:
    """The newest revision of every engine book."""
    return [book for _, book in newest_book_rows(session)]


def book_by_id(session: Session, book_id: int) -> EngineBook:
    """An engine book by its row. Raises NotFound."""
    if session.get(Book, book_id) is None:
        raise NotFound(
            "There is no such engine book.",
            read=str(book_id),
            advice="Choose one in the list of engine books.",
        )
    return book_of(session, book_id)
