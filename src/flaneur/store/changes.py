"""Changing a job: lock it, check nobody was faster, append to the journal, all in one transaction."""

from typing import Any

from sqlmodel import Session, col, select

from flaneur.core.errors import FlaneurError
from flaneur.store.tables import Job, JournalEntry


class StaleJob(FlaneurError):
    """Somebody else changed the job first; ``changes`` says what."""

    def __init__(self, read: int, now: int, changes: list[JournalEntry]) -> None:
        super().__init__(
            "Somebody else changed this job while you worked on it.",
            read=f"your copy is version {read}",
            expected=f"version {now}",
            advice="What you typed is still here. Read what changed, then save again.",
        )
        # Put into words now: rows expire with the transaction this error ends.
        self.changes = [f"{e.by}: {e.words}" for e in changes]


class JobClosed(FlaneurError):
    """The job is signed and frozen, or its engine released."""


class NotFound(FlaneurError):
    """There is no such thing here."""


def job_for_change(session: Session, job_id: int, version: int | None, even_released: bool = False) -> Job:
    """Lock a job for a change. Raises NotFound, JobClosed, or StaleJob with what changed since ``version``.

    Without a version (work that goes on in the background) nobody's copy can be stale. A released engine stands as it
    was proven: only what says ``even_released`` may still change its job.
    """
    job = session.exec(select(Job).where(Job.id == job_id).with_for_update(key_share=True)).first()
    if job is None:
        raise NotFound("There is no such job.", read=str(job_id), advice="Go back to the yard.")
    if job.signed_by:
        raise JobClosed("This job is signed and its report frozen.", read=job.number, advice="Start a new job on the unit to go on.")
    if job.released_by and not even_released:
        raise JobClosed(
            "The engine is released; its job stands as proven.",
            read=f"released by {job.released_by}",
            advice="Undo the release in the notebook to change something, then prove it again.",
        )
    if version is not None and job.version != version:
        raise StaleJob(version, job.version, entries(session, job_id, after_version=version))
    return job


def record(
    session: Session, job: Job, by: str, kind: str, words: str, data: dict[str, Any] | None = None, reverses: int | None = None
) -> JournalEntry:
    """Append to the journal and raise the job's version."""
    job.version += 1
    assert job.id is not None
    entry = JournalEntry(job_id=job.id, version=job.version, by=by, kind=kind, words=words, data=data or {}, reverses=reverses)
    session.add(job)
    session.add(entry)
    session.flush()
    return entry


def entries(session: Session, job_id: int, after_version: int = 0) -> list[JournalEntry]:
    """The notebook of a job, oldest first."""
    found = session.exec(
        select(JournalEntry).where(JournalEntry.job_id == job_id, JournalEntry.version > after_version).order_by(col(JournalEntry.id))
    )
    return list(found)
