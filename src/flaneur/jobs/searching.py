"""Finding a job, a unit, an engine or a part by a piece of what it is called."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from sqlmodel import Session

from flaneur.core.engine.compiled import compiled
from flaneur.core.job.progress import JobStage
from flaneur.jobs.yard import YardLine
from flaneur.store import units as store
from flaneur.store.depot import newest_book_rows

MOST_HITS = 12


class HitKind(StrEnum):
    """What was found."""

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


def search(session: Session, typed: str, lines: Sequence[YardLine]) -> list[Hit]:
    """What holds every typed word in its name or details, best first: whole beginnings before words
    within, open work before the rest. Nothing typed finds nothing.
    """
    words = typed.casefold().split()
    if not words:
        return []
    found = [hit for hit in _all(session, lines) if _holds(hit, words)]
    found.sort(key=lambda hit: _rank(hit, words[0]))
    return found[:MOST_HITS]


def _holds(hit: Hit, words: Sequence[str]) -> bool:
    text = f"{hit.title} {hit.detail}".casefold()
    return all(word in text for word in words)


def _rank(hit: Hit, word: str) -> tuple[int, int]:
    title = hit.title.casefold()
    at = 0 if title.startswith(word) else 1 if f" {word}" in title else 2
    order = {HitKind.JOB: 0, HitKind.UNIT: 1, HitKind.ENGINE: 2, HitKind.PART: 3}[hit.kind]
    return at, order + (4 if hit.kind is HitKind.JOB and hit.stage is JobStage.DONE else 0)


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
