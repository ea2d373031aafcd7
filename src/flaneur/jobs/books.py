"""Engine books of the shop's own: taken in once every check passes, current once a lead says so."""

from datetime import datetime

from sqlmodel import Session

from flaneur.core.engine.difference import Difference, differences
from flaneur.core.errors import BookError, ErrorCode, FlaneurError
from flaneur.core.people import Person
from flaneur.formats.books import check_book
from flaneur.store.accounts import leads_at_work
from flaneur.store.depot import book_for_change, book_of, current_of, keep_book
from flaneur.store.tables import Book, now


class AdoptionRefused(FlaneurError):
    """A book may not become current yet, or not by this person."""

    code = ErrorCode.BOOK_UNUSABLE


def take_in(session: Session, text: str, person: Person) -> Book:
    """Keep a book that passes every check. The first of its engine serves at once; a further
    revision when another lead adopts it. Raises BookError with every fault, and for a revision
    that is here with other content.
    """
    book = check_book(text)
    row = keep_book(session, text, came_by=person.name)
    current = current_of(session, book.name)
    if not row.is_adopted and current is not None:
        newest = book_of(session, current)
        if book.revision <= newest.revision:
            raise BookError(
                "This revision is here already, with other content.",
                read=f"{book.name}, revision {book.revision}",
                expected=f"revision {newest.revision + 1} or later",
                advice="Raise the number in the file and take it in again. Nothing was kept.",
            )
    if current is None:
        _make_current(session, row, person, now())
    return row


def _make_current(session: Session, row: Book, person: Person, at: datetime) -> None:
    row.is_adopted, row.adopted_by, row.adopted_at = True, person.name, at
    session.add(row)
    session.flush()


def adopt(session: Session, book_id: int, person: Person, at: datetime | None = None) -> Book:
    """Make a book current for new jobs; jobs under way keep theirs. Whoever took it in does not
    adopt it, save in a shop with one lead, and then on a later day. Raises AdoptionRefused.
    """
    row, today = book_for_change(session, book_id), (at or now()).date()
    if row.is_adopted:
        return row
    is_own = row.came_by_id is not None and row.came_by_id == person.id
    if is_own and len(leads_at_work(session)) > 1:
        raise AdoptionRefused(
            "Another lead decides about this book.",
            read=f"taken in by {row.came_by}, as you are",
            expected="a lead who did not take it in",
            advice="Ask one to read what it changes.",
        )
    if is_own and today <= row.came_at.date():
        raise AdoptionRefused(
            "Sleep on it.",
            read=f"taken in today by {row.came_by}, the only lead",
            expected="a later day, since nobody else can look at it",
            advice="Read what it changes again tomorrow.",
        )
    _make_current(session, row, person, at or now())
    return row


def changes_of(session: Session, book_id: int) -> list[Difference]:
    """What a book changes in figures against the current revision of its engine; empty for the
    current one and for the first of its engine.
    """
    book = book_of(session, book_id)
    current = current_of(session, book.name)
    if current is None or current == book_id:
        return []
    return differences(book_of(session, current), book)
