"""What every stage needs: the job at hand, reading it and changing it."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

import procrastinate
from flask import current_app
from sqlmodel import Session
from werkzeug.datastructures import FileStorage

from flaneur.api.errors import InvalidInput
from flaneur.api.models import CaptureOut, Changed, Named
from flaneur.api.security import by_name
from flaneur.api.settings import Settings
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import Verdict
from flaneur.core.proof.ladder import Ladder, make_ladder
from flaneur.core.record.bounds import printable, unprintable
from flaneur.jobs.judging import judge
from flaneur.store.changes import job_for_change
from flaneur.store.database import transaction
from flaneur.store.depot import book_of
from flaneur.store.jobs import job_by_id
from flaneur.store.keys import own_key
from flaneur.store.readings import cam_readings, for_diagnosis, readings_of
from flaneur.store.tables import CaptureRow, Job, JournalEntry
from flaneur.worker import deferrer

JOB = "/api/jobs/<int(max=2147483647):job_id>"


@dataclass(frozen=True)
class Work:
    """A job inside a transaction, with its book and who is at work."""

    session: Session
    job: Job
    book: EngineBook
    by: str

    def changed(self, entry: JournalEntry, made: int | None = None) -> Changed:
        return Changed(id=self.job.id or 0, version=self.job.version, words=entry.words, made=made)


def settings() -> Settings:
    return current_app.config["SETTINGS"]


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
    with transaction(current_app.config["ENGINE"]) as session:
        job = job_by_id(session, job_id)
        yield Work(session, job, book_of(session, job.book_id), by_name())


@contextmanager
def changing(job_id: int, version: int | None, even_released: bool = False) -> Iterator[Work]:
    """A job to change, locked; refused when stale, signed, or (unless ``even_released``)
    released.
    """
    with transaction(current_app.config["ENGINE"]) as session:
        job = job_for_change(session, job_id, version, even_released)
        yield Work(session, job, book_of(session, job.book_id), by_name())


def capture_out(row: CaptureRow) -> CaptureOut:
    return CaptureOut.model_validate(row, from_attributes=True)


def verdict_of(work: Work, with_evidence: bool = True) -> Verdict:
    """The verdict on a job's valid readings, newest state."""
    return judge(work.book, for_diagnosis(work.session, work.job, work.book), with_evidence)


def ladder_of(work: Work) -> Ladder:
    """The job's ladder: readings not struck, in time order, before and after the repair."""
    rows = [
        r
        for r in readings_of(work.session, work.job.id or 0)
        if r.struck is None and r.kind == "cam"
    ]
    pairs = [(row.phase, found) for row in rows for found in cam_readings([row])]
    return make_ladder(work.book, pairs, work.job.baseline_deg)


def phasers_of(book: EngineBook) -> list[Named]:
    return [Named(id=key, name=phaser.name) for key, phaser in book.phasers.items()]
