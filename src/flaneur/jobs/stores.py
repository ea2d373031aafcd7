"""The shop's lists: kept as a whole, taken out and in, and held against what a plan needs."""

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from zoneinfo import ZoneInfo

from sqlmodel import Session

from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.ready import make_ready
from flaneur.core.stores.at_hand import AtHand, at_hand
from flaneur.core.stores.lists import (
    LINES,
    ListKind,
    ListLine,
    OrderLine,
    Supplier,
    WearLine,
)
from flaneur.core.stores.told_before import part_named
from flaneur.core.trend.lives import wear_parts
from flaneur.formats.lists import ListRefused, check_once, line_of, read_list, write_list
from flaneur.jobs.deciding import rates_of
from flaneur.jobs.work import Work
from flaneur.store.depot import book_of, know_books
from flaneur.store.shop import shop_of
from flaneur.store.stores import hold_list, keep_list, list_of, stores_of
from flaneur.store.units import engines


@dataclass(frozen=True)
class Listed:
    """A list with its fingerprint: it is kept only as it was looked at."""

    kind: ListKind
    lines: list[ListLine]
    fingerprint: str


def look_at(session: Session, kind: ListKind) -> Listed:
    """A list as it is."""
    lines = list_of(session, kind)
    return Listed(kind, lines, _fingerprint(kind, lines))


def text_of(session: Session, kind: ListKind) -> str:
    """A list as CSV."""
    return write_list(list_of(session, kind), LINES[kind])


def read_text(kind: ListKind, text: str) -> list[ListLine]:
    """The lines of a CSV; nothing is kept. Raises ListRefused."""
    lines = read_list(text, LINES[kind], str(kind))
    check_once(lines, kind)
    return lines


def keep(
    session: Session, kind: ListKind, rows: Sequence[Mapping[str, str]], fingerprint: str
) -> Listed:
    """Keep a list as it was typed, in place of what it was: all of it or nothing. Raises
    ListRefused, for one that somebody else changed since too.
    """
    together = (ListKind.ORDERS, ListKind.SUPPLIERS)  # an order stands at a supplier
    for held in together if kind in together else (kind,):
        hold_list(session, held)
    if _fingerprint(kind, list_of(session, kind)) != fingerprint:
        raise ListRefused(
            "Somebody changed this list since you looked.",
            advice="Copy what you typed, look at the list again, and put it in anew.",
        )
    lines = [_typed(kind, row, place) for place, row in enumerate(rows)]
    check_once(lines, kind)
    _check_suppliers(session, kind, lines)
    _check_wear(session, lines)
    keep_list(session, kind, lines)
    return look_at(session, kind)


def at_hand_for(work: Work, plan: Plan, kit: str | None = None) -> AtHand:
    """What of a plan is at hand today, its parts bought in this kit (None: in its own)."""
    singly = make_plan(work.book, plan.scope, plan.kept, plan.ways, is_quick=True)
    ready = make_ready(work.book, singly, plan.kit if kit is None else kit)
    hours = rates_of(work.session).hours_a_day
    return at_hand(work.book, plan, ready, stores_of(work.session), today(work.session), hours)


def today(session: Session) -> date:
    """The day it is in the shop's time zone."""
    return datetime.now(ZoneInfo(shop_of(session).time_zone)).date()


def _typed(kind: ListKind, row: Mapping[str, str], place: int) -> ListLine:
    try:
        return line_of(row, LINES[kind], f"line {place + 1}")
    except ListRefused as error:
        error.field = f"{place}.{error.field}"
        raise


def _check_suppliers(session: Session, kind: ListKind, lines: Sequence[ListLine]) -> None:
    """Orders are at suppliers of the list, and none of those goes while an order is open."""
    if kind not in (ListKind.ORDERS, ListKind.SUPPLIERS):
        return
    other = list_of(session, ListKind.SUPPLIERS if kind is ListKind.ORDERS else ListKind.ORDERS)
    both = [*lines, *other]
    known = {line.name for line in both if isinstance(line, Supplier)}
    for place, line in enumerate(o for o in both if isinstance(o, OrderLine)):
        if line.supplier not in known:
            is_order = kind is ListKind.ORDERS
            raise ListRefused(
                "An order stands at a supplier that the list does not have.",
                read=f"{line.item} at {line.supplier}",
                expected=", ".join(sorted(known)) or "a supplier in the list of suppliers",
                advice="Add the supplier first." if is_order else "Take the order out first.",
                field=f"{place}.supplier" if is_order else "",
            )


def _check_wear(session: Session, lines: Sequence[ListLine]) -> None:
    """Wear is told of engines of this shop, and of parts that their books have."""
    told = [(place, line) for place, line in enumerate(lines) if isinstance(line, WearLine)]
    if not told:
        return
    numbers = {row.number: row for row in engines(session)}
    know_books(session, {row.book_id for row in numbers.values()})
    for place, line in told:
        row = numbers.get(line.engine)
        if row is None:
            raise ListRefused(
                "No engine of this shop has that number.",
                read=line.engine,
                expected="a number as it stands among the units",
                advice="Add the engine first.",
                field=f"{place}.engine",
            )
        book = book_of(session, row.book_id)
        if part_named(book, line.part) is None:
            raise ListRefused(
                f"{book.name} has no such part that wears.",
                read=line.part,
                expected=", ".join(part.name for part in wear_parts(book).values()),
                field=f"{place}.part",
            )


def _fingerprint(kind: ListKind, lines: Sequence[ListLine]) -> str:
    return hashlib.sha256(write_list(lines, LINES[kind]).encode()).hexdigest()
