"""Finding a job, a unit, an engine or a part by a piece of what it is called."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from sqlmodel import Session

from flaneur.core.engine.compiled import compiled
from flaneur.core.job.progress import JobStage
from flaneur.jobs.yard import YardLine
from flaneur.store import units as store
from flaneur.store.depot import newest_book_rows

MOST_HITS, WITHIN_FROM = 12, 3


class HitKind(StrEnum):
    """What was found, in the order of what is asked for most."""

    JOB = "job"
    UNIT = "unit"
    ENGINE = "engine"
    PART = "part"


@dataclass(frozen=True)
class Hit:
    """Something found: its name, what else is known of it, and where it leads: to a job at a stage,
    to a unit, or to a part of an engine book.
    """

    kind: HitKind
    title: str
    detail: str
    job: int | None = None
    stage: JobStage | None = None
    unit: int | None = None
    book: int | None = None
    part: str | None = None


def search(
    session: Session, typed: str, lines: Sequence[YardLine], at_work: int | None = None
) -> list[Hit]:
    """What holds every typed word in its name or details, best first: names that begin with all
    that was typed, then with its first word, then the rest; of parts those of the book ``at_work``
    first. Nothing typed finds nothing.
    """
    words = typed.casefold().split()
    if not words:
        return []
    found = [hit for hit in _all(session, lines) if _holds(hit, words)]
    found.sort(key=lambda hit: _rank(hit, words, at_work))
    return found[:MOST_HITS]


def _holds(hit: Hit, words: Sequence[str]) -> bool:
    """Whether every word is there; one or two letters only where a word begins with them."""
    text = f"{hit.title} {hit.detail}".casefold()
    begun = re.findall(r"\w+", text)
    return all(
        any(b.startswith(word) for b in begun) if len(word) < WITHIN_FROM else word in text
        for word in words
    )


def _rank(hit: Hit, words: Sequence[str], at_work: int | None) -> tuple[int, bool, int, bool]:
    title, phrase = hit.title.casefold(), " ".join(words)
    ways = (title.startswith(phrase), phrase in title, title.startswith(words[0]), True)
    return (
        ways.index(True),
        hit.book != at_work and hit.kind is HitKind.PART,
        list(HitKind).index(hit.kind),
        hit.stage is JobStage.DONE,
    )


def _all(session: Session, lines: Sequence[YardLine]) -> Iterator[Hit]:
    units = {unit.id: unit for unit in store.units(session)}
    for line in reversed(lines):
        unit = units[line.unit_id]
        detail = f"{unit.name} · {unit.tag} · {line.stage} · {line.complaint}"
        yield Hit(HitKind.JOB, line.number, detail, job=line.id, stage=line.stage)
    for unit in units.values():
        place = f" · {unit.place}" if unit.place else ""
        yield Hit(HitKind.UNIT, unit.name, f"{unit.tag} · {unit.kind}{place}", unit=unit.id)
    for found in store.mounted(session):
        detail = f"{found.position} on {found.unit.name} · {found.unit.tag}"
        yield Hit(HitKind.ENGINE, found.engine.number, detail, unit=found.unit.id)
    for key, book in newest_book_rows(session):
        for part in compiled(book).facts:
            detail = f"{part.kind} · {book.name}"
            yield Hit(HitKind.PART, part.name, detail, book=key, part=part.part)
