"""Engine books: the list, one laid open with its checks, and examining a text."""

from flask import Blueprint
from spectree import Response

from flaneur.api.heavy import takes_a_while
from flaneur.api.models import ErrorOut, Nothing
from flaneur.api.security import person
from flaneur.api.spec import checked
from flaneur.api.stages.books.models import (
    BookCheckLine,
    BookExamined,
    BookLine,
    Books,
    BookText,
    BookView,
    ChangesView,
    MarkLine,
    OffQuery,
    PositionLine,
    ToolLine,
)
from flaneur.api.turning import count_lines, turns_lines
from flaneur.api.work import BOOK, book_at, database
from flaneur.core.book.check import Check
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.loosened import Loosening
from flaneur.core.clearance.offview import OffView, off_view
from flaneur.core.clearance.view import ClearanceView, TouchMap
from flaneur.core.drive.facts import limit_facts
from flaneur.core.engine.compiled import compiled, touch_map_of
from flaneur.core.errors import BookError
from flaneur.core.wording import clock_words
from flaneur.formats.books import book_checks, examine
from flaneur.jobs import books as jobs
from flaneur.store.database import transaction
from flaneur.store.depot import (
    book_by_id,
    book_of,
    current_of,
    newest_book_rows,
    waiting_books,
)
from flaneur.store.tables import Book
from flaneur.store.units import mounted

blueprint = Blueprint("books", __name__)


@blueprint.get("/api/books")
@checked(resp=Response(HTTP_200=Books))
def books() -> Books:
    """The newest adopted revision of every engine book, with the units that carry it, and books
    that wait to be adopted.
    """
    return all_books()


def all_books() -> Books:
    """The list of engine books."""
    with transaction(database()) as session:
        carried: dict[str, list[str]] = {}
        for found in mounted(session):
            if not found.unit.is_retired:
                name = book_by_id(session, found.engine.book_id).name
                carried.setdefault(name, []).append(found.unit.name)
        lines: list[BookLine] = []
        for key, book in newest_book_rows(session):
            lines.append(_book_line(key, book, carried.get(book.name, [])))
        for row, book in waiting_books(session):
            lines.append(_book_line(row.id or 0, book, [], row))
        return Books(books=sorted(lines, key=lambda line: line.name))


def _book_line(
    key: int, book: EngineBook, carried: list[str], waiting: Book | None = None
) -> BookLine:
    return BookLine(
        id=key,
        name=book.name,
        kind=book.kind,
        revision=book.revision,
        chains=len(book.chains),
        links=sum(c.links for c in book.chains.values()),
        phasers=len(book.phasers),
        units=carried,
        knows_clearance=book.clearance is not None,
        is_adopted=waiting is None,
        came_by=waiting.came_by if waiting else None,
    )


@blueprint.post(f"{BOOK}/adopt")
@checked(resp=Response(HTTP_200=Books, HTTP_403=ErrorOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def adopt(book_id: int, json: Nothing) -> Books:
    """Make a book current for new jobs. Only a lead, who has read its checks and what it changes,
    and who did not take it in; in a shop with one lead, the same on a later day.
    """
    del json
    with transaction(database(), person()) as session:
        jobs.adopt(session, book_id, person())
    return all_books()


@blueprint.post("/api/books")
@takes_a_while
@checked(resp=Response(HTTP_200=Books, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def take_in(json: BookText) -> Books:
    """Take a book into the shop, once every check of it passes. The first of its engine serves at
    once; a further revision when a lead who did not take it in adopts it.
    """
    with transaction(database(), person()) as session:
        jobs.take_in(session, json.text, person())
    return all_books()


@blueprint.get(f"{BOOK}/changes")
@takes_a_while
@checked(resp=Response(HTTP_200=ChangesView, HTTP_404=ErrorOut))
def changes(book_id: int) -> ChangesView:
    """What a book that waits would change, in figures: limits, counts, positions, windows, torque
    programs, steps.
    """
    with transaction(database()) as session:
        current = current_of(session, book_by_id(session, book_id).name)
        is_other = current is not None and current != book_id
        return ChangesView(
            against=book_of(session, current).revision if current and is_other else None,
            changes=jobs.changes_of(session, book_id),
        )


@blueprint.get(BOOK)
@checked(resp=Response(HTTP_200=BookView, HTTP_404=ErrorOut))
def book(book_id: int) -> BookView:
    """One book laid open."""
    found = book_at(book_id)
    train = compiled(found).train
    turns, every = turns_lines(train)
    view = compiled(found).clearance
    wheels = {**found.sprockets, **found.gears}
    return BookView(
        id=book_id,
        name=found.name,
        kind=found.kind,
        revision=found.revision,
        notice=found.notice,
        service=found.service_position.text,
        checks=[_line(c) for c in book_checks(found)],
        facts=compiled(found).facts,
        limits=limit_facts(found),
        counts=count_lines(train),
        turns=turns,
        turns_for_all=every,
        positions=_positions(found),
        marks=[
            MarkLine(
                name=m.name,
                on=wheels[m.wheel].name,
                clock=clock_words(m.clock_deg),
                at_deg=found.mark_at_deg(m),
                is_timing=m.is_timing,
                meets=m.meets,
                purpose=m.purpose,
                miss_before_deg=m.miss_before_deg,
                miss_after_deg=m.miss_after_deg,
            )
            for m in found.marks.values()
        ],
        tools=[
            ToolLine(
                name=t.name, text=t.text, play_deg=t.play_deg, workshop_method=t.workshop_method
            )
            for t in found.tools.values()
        ],
        clearance=f"{view.words} Reserve: {view.reserve.words}." if view.reserve else view.words,
        components=len(found.components),
        operations=len(found.operations),
    )


def _positions(book: EngineBook) -> list[PositionLine]:
    service = book.service_position
    first = PositionLine(
        name="Service position", crank_deg=service.crank_deg, cams=[], tool=None, text=service.text
    )
    return [
        first,
        *(
            PositionLine(
                name=p.name,
                crank_deg=p.crank_deg,
                cams=[book.shafts[c].name for c in p.cams],
                tool=book.tools[p.tool].name if p.tool else None,
                text=p.text,
            )
            for p in book.check_positions
        ),
    ]


def _line(check: Check) -> BookCheckLine:
    return BookCheckLine(
        path=check.path, found=check.found, expected=check.expected, holds=check.holds
    )


@blueprint.post("/api/books/examine")
@takes_a_while
@checked(resp=Response(HTTP_200=BookExamined, HTTP_422=ErrorOut))
def post_examine(json: BookText) -> BookExamined:
    """Examine a book's text: every fault with its path, what was found and what was expected.
    Nothing is kept.
    """
    examined = examine(json.text)
    return BookExamined(
        name=examined.book.name if examined.book else None,
        faults=len(examined.faults),
        checks=[_line(c) for c in examined.checks],
    )


@blueprint.get(f"{BOOK}/clearance")
@takes_a_while
@checked(resp=Response(HTTP_200=ClearanceView, HTTP_404=ErrorOut))
def clearance(book_id: int) -> ClearanceView:
    """Windows, risks, ranges, teeth and jumps; unknown throughout for a book without the data."""
    return compiled(book_at(book_id)).clearance


@blueprint.get(f"{BOOK}/touch/<cam>")
@takes_a_while
@checked(resp=Response(HTTP_200=TouchMap, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def touch(book_id: int, cam: str) -> TouchMap:
    """The touch map of one cam, or of ``any``."""
    found = book_at(book_id)
    if cam != "any" and cam not in found.cams:
        raise BookError(
            "The book has no such cam.", read=cam, expected=", ".join(["any", *found.cams])
        )
    return touch_map_of(found, None if cam == "any" else cam)


@blueprint.get(f"{BOOK}/loose")
@takes_a_while
@checked(resp=Response(HTTP_200=OffView, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def loose(book_id: int, query: OffQuery) -> OffView:
    """Any set of chains off: what the cams they free may do, and how far the crank may turn."""
    found = book_at(book_id)
    chosen = tuple(dict.fromkeys(filter(None, query.chains.split(","))))
    loosening = Loosening(Contacts(found), compiled(found).train, query.parked)
    return off_view(
        loosening,
        chosen,
        found.service_position.crank_deg if query.crank is None else query.crank,
        query.hold,
    )
