"""Units and engines as a CSV list: out, and in again after a look at what it would change."""

import csv
import hashlib
import io
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from typing import TypeVar

from sqlmodel import Session, select

from flaneur.core.errors import FlaneurError
from flaneur.core.meters import Meter
from flaneur.core.record.bounds import unprintable
from flaneur.formats.lists import ListRefused, cells_of
from flaneur.jobs import units as jobs
from flaneur.store import units as store
from flaneur.store.depot import book_of, current_of
from flaneur.store.tables import EngineRow, Unit

COLUMNS: tuple[str, ...] = (
    "tag",
    "name",
    "kind",
    "place",
    "position",
    "engine",
    "book",
    "meter",
    "reading",
    "read_on",
)
T = TypeVar("T")
LONGEST = {"tag": 60, "name": 120, "kind": 60, "place": 120, "position": 40, "engine": 60}


class Effect(StrEnum):
    """What a line of a list would do."""

    NEW = "new"
    CHANGED = "changed"
    SAME = "same"
    REFUSED = "refused"


@dataclass
class ListLine:
    """A line of a list and what it would do; ``words``: each change, or why it is refused."""

    number: int
    tag: str
    effect: Effect = Effect.SAME
    words: list[str] = field(default_factory=list[str])

    def refuse(self, why: str) -> None:
        """Say why this line cannot be taken in."""
        self.effect = Effect.REFUSED
        self.words = [why]


@dataclass(frozen=True)
class Preview:
    """What a list would change. ``fingerprint`` is of the list and of what it meets: a list is
    taken in only as it was looked at.
    """

    lines: list[ListLine]
    fingerprint: str

    @property
    def is_good(self) -> bool:
        """Whether no line is refused."""
        return all(line.effect is not Effect.REFUSED for line in self.lines)


def write_list(session: Session) -> str:
    """Every unit at work with its engines, one line an engine."""
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    writer.writeheader()
    carried = store.mounted(session)
    read = store.readings_of_meters(session, [m.engine.id or 0 for m in carried])
    for unit in store.units(session):
        if unit.is_retired:
            continue
        mine = [m for m in carried if m.unit.id == unit.id]
        plain = {"tag": unit.tag, "name": unit.name, "kind": unit.kind, "place": unit.place or ""}
        for m in mine:
            last = read[m.engine.id or 0][-1:]
            writer.writerow(
                {
                    **plain,
                    "position": m.position,
                    "engine": m.engine.number,
                    "book": book_of(session, m.engine.book_id).name,
                    "meter": m.engine.meter,
                    "reading": f"{last[0].value:g}" if last else "",
                    "read_on": last[0].read_on.isoformat() if last else "",
                }
            )
        if not mine:
            writer.writerow(plain)
    return out.getvalue()


def preview(session: Session, text: str, by: str) -> Preview:
    """What a list would change, line by line; nothing is kept. Raises ListRefused for a text that
    is no list.
    """
    rows = _rows(text)
    trial = session.begin_nested()  # every line is tried for good, and all of it put back
    before = write_list(session)
    try:
        lines = [_line(session, number, row, by) for number, row in rows]
    finally:
        trial.rollback()
        session.expire_all()
    return Preview(lines, hashlib.sha256(f"{text}\n{before}".encode()).hexdigest())


def take(session: Session, text: str, fingerprint: str, by: str) -> Preview:
    """Take a list in as it was looked at. Raises ListRefused when a line is refused, or when
    something changed since.
    """
    seen = preview(session, text, by)
    if seen.fingerprint != fingerprint:
        raise ListRefused(
            "The list, or what it meets here, changed since you looked.",
            advice="Look at it again. Nothing was kept.",
        )
    if not seen.is_good:
        bad = next(line for line in seen.lines if line.effect is Effect.REFUSED)
        raise ListRefused(
            "A line of the list is refused.",
            read=f"line {bad.number}: {bad.words[0]}",
            advice="Mend it and look again. Nothing was kept.",
        )
    for number, row in _rows(text):
        _line(session, number, row, by)
    return seen


def _rows(text: str) -> list[tuple[int, dict[str, str]]]:
    """Lines by their number in the file. Raises ListRefused for a text that is no list."""
    return cells_of(text, COLUMNS, ("tag", "name", "kind"), "units")


def _line(session: Session, number: int, row: dict[str, str], by: str) -> ListLine:
    """Try one line; what it changes stays in the session unless it is refused."""
    line = ListLine(number, row["tag"])
    for column, longest in LONGEST.items():
        value = row.get(column, "")
        if len(value) > longest or unprintable(value) is not None:
            line.refuse(f"{column}: {value[:40]!r}, expected at most {longest} printable letters")
            return line
    if not (row["tag"] and row["name"] and row["kind"]):
        line.refuse("tag, name and kind are needed")
        return line
    try:
        with session.begin_nested():
            unit = _unit(session, row, line)
            if row.get("engine"):
                _engine(session, unit, row, line, by)
    except (FlaneurError, ValueError) as error:
        line.refuse(
            f"{error.message} {error.read}".strip()
            if isinstance(error, FlaneurError)
            else str(error)
        )
    return line


def _unit(session: Session, row: dict[str, str], line: ListLine) -> Unit:
    told = jobs.Told(row["tag"], row["name"], row["kind"], row.get("place", ""))
    unit = session.exec(select(Unit).where(Unit.tag == told.tag)).first()
    if unit is None:
        line.effect = Effect.NEW
        line.words.append(f"new unit {told.name}")
        return jobs.add_unit(session, told)
    was = jobs.Told(unit.tag, unit.name, unit.kind, unit.place or "")
    for what in ("name", "kind", "place"):
        _note(line, what, getattr(was, what), getattr(told, what))
    if was != told:
        jobs.change_unit(session, unit.id or 0, told, unit.is_retired)
    return unit


def _engine(session: Session, unit: Unit, row: dict[str, str], line: ListLine, by: str) -> None:
    number, position = row["engine"], row.get("position") or store.MAIN
    engine = session.exec(select(EngineRow).where(EngineRow.number == number)).first()
    if engine is None:
        book = current_of(session, row.get("book", ""))
        if book is None:
            raise ValueError(f"book: {row.get('book', '')!r}, expected a book of this shop")
        meter = _read("meter", row.get("meter") or Meter.HOURS.value, Meter, "h or km")
        engine = jobs.add_engine(session, number, book, meter)
        line.words.append(f"new engine {number}")
        line.effect = Effect.NEW
    elif row.get("book") and book_of(session, engine.book_id).name != row["book"]:
        raise ValueError(
            f"book: {row['book']!r}, but {number} is {book_of(session, engine.book_id).name}"
        )
    at = store.mount_of(session, engine.id or 0)
    if at is None or (at.unit_id, at.position) != (unit.id, position):
        jobs.mount(session, engine.id or 0, unit.id or 0, position)
        _note(line, f"engine {number}", "elsewhere", f"at {position}")
    if row.get("reading"):
        value = _read("reading", row["reading"], float, "a figure")
        on = _read("read_on", row.get("read_on", ""), date.fromisoformat, "a day as 2026-05-31")
        key = engine.id or 0
        last = store.readings_of_meters(session, [key])[key][-1:]
        if not last or (last[0].value, last[0].read_on) != (value, on):
            jobs.read_meter(session, key, value, on, by, is_new_meter=False)
            _note(line, "reading", f"{last[0].value:g}" if last else "none", f"{value:g} on {on}")


def _note(line: ListLine, what: str, was: str, becomes: str) -> None:
    if was == becomes:
        return
    line.words.append(f"{what}: {was or 'none'} becomes {becomes or 'none'}")
    if line.effect is Effect.SAME:
        line.effect = Effect.CHANGED


def _read(column: str, typed: str, read: Callable[[str], T], expected: str) -> T:
    try:
        return read(typed)
    except ValueError as error:
        raise ValueError(f"{column}: {typed!r}, expected {expected}") from error
