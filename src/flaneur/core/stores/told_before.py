"""Wear told from before, as the trend takes it: what a closed job would have taught."""

from collections.abc import Iterable
from itertools import groupby

from flaneur.core.book.schema import EngineBook
from flaneur.core.stores.lists import Renewed, WearLine
from flaneur.core.trend.lessons import How, Lesson, WearNote
from flaneur.core.trend.lives import WearPart, wear_parts

GIVE_OR_TAKE = {"%": 0.04, "mm": 0.2}  # where a line says nothing of it


def part_named(book: EngineBook, name: str) -> WearPart | None:
    """A part that wears, by its name or key; None where the book has none of it."""
    said = name.strip().casefold()
    return next(
        (p for p in wear_parts(book).values() if said in (p.name.casefold(), p.key.casefold())),
        None,
    )


def lessons_told(book: EngineBook, lines: Iterable[WearLine]) -> list[Lesson]:
    """Lessons of one engine in the order of its hours. What names no part of the book is left."""
    known = [(line, part) for line in lines if (part := part_named(book, line.part)) is not None]
    known.sort(key=lambda told: told[0].hours)
    return [
        _lesson(hours, list(told)) for hours, told in groupby(known, key=lambda told: told[0].hours)
    ]


def _lesson(hours: float, told: list[tuple[WearLine, WearPart]]) -> Lesson:
    return Lesson(
        hours=hours,
        wear=[
            WearNote(
                part=part.key,
                value=line.measured,
                stderr=line.plus_minus or GIVE_OR_TAKE[part.unit],
                how=How.MEASURED,
            )
            for line, part in told
            if line.measured is not None
        ],
        renewed=[part.key for line, part in told if line.renewed is Renewed.YES],
    )
