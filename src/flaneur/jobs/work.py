"""A job at hand: to look at, or to change, inside one transaction."""

from collections.abc import Generator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Engine
from sqlmodel import Session

from flaneur.core.book.bands import Bands, judged_by
from flaneur.core.book.schema import EngineBook
from flaneur.core.job.change import Change
from flaneur.core.people import Person
from flaneur.store.changes import job_for_change, record
from flaneur.store.database import transaction
from flaneur.store.depot import book_of
from flaneur.store.jobs import job_by_id
from flaneur.store.shop import shop_of
from flaneur.store.tables import Job, JournalEntry


@dataclass(frozen=True)
class Work:
    """A job inside a transaction, with its book and who is at work."""

    session: Session
    job: Job
    book: EngineBook
    person: Person

    @property
    def by(self) -> str:
        """Name of who is at work, as the record keeps it."""
        return self.person.name

    @property
    def bands(self) -> Bands:
        """What the shop judges by where a book gives no limit."""
        return Bands.model_validate(shop_of(self.session).bands or {})

    @property
    def judged_by(self) -> EngineBook:
        """The book, with the shop's bands where it gives no limit."""
        return judged_by(self.book, self.bands)

    @property
    def job_id(self) -> int:
        """Key of the job; it has one, since it was read or flushed."""
        assert self.job.id is not None
        return self.job.id

    def record(self, kind: Change, words: str, data: dict[str, Any] | None = None) -> JournalEntry:
        """Append to the job's journal and raise its version."""
        return record(self.session, self.job, self.by, kind, words, data)


@contextmanager
def looking(engine: Engine, job_id: int, person: Person) -> Generator[Work]:
    """A job to look at. Raises NotFound."""
    with transaction(engine, person) as session:
        job = job_by_id(session, job_id)
        yield Work(session, job, book_of(session, job.book_id), person)


@contextmanager
def changing(
    engine: Engine,
    job_id: int,
    version: int | None,
    person: Person,
    even_released: bool = False,
) -> Generator[Work]:
    """A job to change, locked; refused when stale, signed, or (unless ``even_released``)
    released.
    """
    with transaction(engine, person) as session:
        job = job_for_change(session, job_id, version, even_released)
        yield Work(session, job, book_of(session, job.book_id), person)
