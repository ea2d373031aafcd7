"""What every stage needs: the job at hand, reading it and changing it."""

from collections.abc import Iterator
from contextlib import contextmanager

import procrastinate
from flask import current_app, request
from sqlalchemy import Engine
from sqlmodel import Session
from werkzeug.datastructures import FileStorage

from flaneur.api.errors import InvalidInput, TooLarge
from flaneur.api.models import CaptureOut, Changed, Named, PhaserIn, UnitOut
from flaneur.api.security import person
from flaneur.api.settings import Settings
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import FlaneurError
from flaneur.core.readings.taken import PhaserState
from flaneur.core.record.bounds import printable, unprintable
from flaneur.core.signals.quality import quality_verdict
from flaneur.jobs import work as jobs
from flaneur.jobs.work import Work
from flaneur.store.database import transaction
from flaneur.store.depot import book_by_id, book_of
from flaneur.store.keys import own_key
from flaneur.store.queue import deferrer
from flaneur.store.tables import CaptureRow, JournalEntry, Unit

JOB = "/api/jobs/<int(max=2147483647):job_id>"
BOOK = "/api/books/<int(max=2147483647):book_id>"


def settings() -> Settings:
    """The application's settings."""
    return current_app.config["SETTINGS"]


def database() -> Engine:
    """The application's pool of connections."""
    return current_app.config["ENGINE"]


def signing_key() -> str:
    """The depot's signing key as PEM text. Raises RecordError when it has none."""
    return own_key(settings().signing_key_file)


def file_name(upload: FileStorage, otherwise: str) -> str:
    """The name of a file that was sent, at most its last 120 letters. Raises InvalidInput for one
    that cannot be printed.
    """
    name = upload.filename or otherwise
    if unprintable(name) is not None:
        raise InvalidInput(
            "The file's name cannot be kept.",
            read=printable(name, 60),
            expected="a name that can be printed",
        )
    return name[-120:]


def too_large(what: str, read: str, limit: int) -> TooLarge:
    """The refusal of an upload over its limit."""
    return TooLarge(f"The {what} is too large.", read=read, expected=f"at most {limit:,} bytes")


def sent_file(what: str, limit: int, missing: FlaneurError) -> tuple[FileStorage, bytes]:
    """A file that was sent whole (multipart field ``file``). Raises ``missing`` without one, and
    TooLarge over ``limit`` bytes.
    """
    upload = request.files.get("file")
    if upload is None:
        raise missing
    content = upload.stream.read(limit + 1)
    if len(content) > limit:
        raise too_large(what, f"over {limit:,} bytes", limit)
    return upload, content


def queue() -> procrastinate.App:
    """The task queue, opened at its first use in this process."""
    if current_app.config.get("QUEUE") is None:
        app = deferrer(settings().database_url)
        app.open()
        current_app.config["QUEUE"] = app
    return current_app.config["QUEUE"]


@contextmanager
def reading(job_id: int) -> Iterator[Work]:
    """A job to look at."""
    with jobs.looking(database(), job_id, person()) as work:
        yield work


@contextmanager
def changing(job_id: int, version: int | None, even_released: bool = False) -> Iterator[Work]:
    """A job to change, locked; refused when stale, signed, or (unless ``even_released``)
    released.
    """
    with jobs.changing(database(), job_id, version, person(), even_released) as work:
        yield work


def changed(work: Work, entry: JournalEntry, made: int | None = None) -> Changed:
    """What a change made of the job."""
    return Changed(id=work.job_id, version=work.job.version, words=entry.words, made=made)


def capture_out(row: CaptureRow) -> CaptureOut:
    """A capture for a list."""
    plain = {k: getattr(row, k) for k in CaptureOut.model_fields if k != "quality_verdict"}
    return CaptureOut(**plain, quality_verdict=quality_verdict(row.quality))


def phasers_of(book: EngineBook) -> list[Named]:
    """Phasers of a book by name."""
    return [Named(id=key, name=phaser.name) for key, phaser in book.phasers.items()]


def phaser_states(said: dict[str, PhaserIn]) -> dict[str, PhaserState]:
    """What was said of the phasers, as the core takes it."""
    return {k: PhaserState(state=p.state, command_deg=p.command_deg) for k, p in said.items()}


def unit_out(session: Session, unit: Unit, open_jobs: dict[int, int]) -> UnitOut:
    """A unit for the screen; ``open_jobs`` as the store lists them, by unit."""
    return UnitOut(
        id=unit.id or 0,
        tag=unit.tag,
        name=unit.name,
        kind=unit.kind,
        place=unit.place,
        hours=unit.hours,
        engine=book_of(session, unit.book_id).name,
        has_baseline=bool(unit.baseline_deg),
        open_job=open_jobs.get(unit.id or 0),
    )


def book_at(book_id: int) -> EngineBook:
    """An engine book by its row. Raises NotFound."""
    with transaction(database()) as session:
        return book_by_id(session, book_id)
