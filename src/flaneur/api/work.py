"""What every stage needs: the job at hand, reading it and changing it."""

from collections import Counter
from collections.abc import Iterator, Sequence
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
from flaneur.core.meters import Meter, run_words, total
from flaneur.core.readings.taken import PhaserState
from flaneur.core.record.bounds import printable, unprintable
from flaneur.core.signals.quality import quality_verdict
from flaneur.jobs import work as jobs
from flaneur.jobs.work import Work
from flaneur.store.database import transaction
from flaneur.store.depot import book_by_id, book_of
from flaneur.store.jobs import open_jobs
from flaneur.store.keys import own_key
from flaneur.store.queue import deferrer
from flaneur.store.tables import CaptureRow, Job, JournalEntry
from flaneur.store.units import Mounted, carrying, plain, readings_of_meters

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


def units_out(session: Session, found: Sequence[Mounted], waiting: dict[int, int]) -> list[UnitOut]:
    """Units with their engines for the screen; ``waiting`` as the store lists them, by
    engine.
    """
    read = readings_of_meters(session, [m.engine.id or 0 for m in found])
    carried = Counter(m.unit.id for m in found)
    return [
        UnitOut(
            id=m.unit.id or 0,
            tag=m.unit.tag,
            name=m.unit.name,
            kind=m.unit.kind,
            place=m.unit.place or "",
            engine_id=m.engine.id or 0,
            number=m.engine.number,
            position=m.position,
            is_one_of=carried[m.unit.id] > 1,
            run_words=run_words(total(plain(read[m.engine.id or 0])), Meter(m.engine.meter)),
            engine=book_of(session, m.engine.book_id).name,
            has_baseline=bool(m.engine.baseline_deg),
            open_job=waiting.get(m.engine.id or 0),
        )
        for m in found
    ]


def unit_of_job(session: Session, job: Job) -> UnitOut:
    """The unit of a job, with the engine the job is on."""
    return units_out(session, [carrying(session, job)], open_jobs(session, job.engine_id))[0]


def book_at(book_id: int) -> EngineBook:
    """An engine book by its row. Raises NotFound."""
    with transaction(database()) as session:
        return book_by_id(session, book_id)
