"""Changing a job: lock it, check nobody was faster, append to the journal, all in one
transaction.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select as sql_select
from sqlmodel import Session, col, select

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.job.change import Change
from flaneur.core.record.chain import GENESIS, Entry, Sealed, entry_hash
from flaneur.core.wording import counted
from flaneur.store.database import JobClosed
from flaneur.store.tables import Job, JournalEntry, now


class StaleJob(FlaneurError):
    """Somebody else changed the job first; ``changes`` says what."""

    code = ErrorCode.JOB_STALE

    def __init__(self, read: int, now: int, changes: list[JournalEntry]) -> None:
        super().__init__(
            "Somebody else changed this job while you worked on it.",
            read=f"the job as it was {counted(now - read, 'change')} ago"
            if read < now
            else "a later state of the job than there is: this database was brought back from a "
            "backup",
            advice="What you typed is still here. Read what changed, then save again.",
        )
        # Put into words now: rows expire with the transaction this error ends.
        self.changes = [f"{e.by}: {e.words}" for e in changes]


class NotFound(FlaneurError):
    """There is no such thing here."""

    code = ErrorCode.NOT_FOUND


def job_for_change(
    session: Session, job_id: int, version: int | None, even_released: bool = False
) -> Job:
    """Lock a job for a change. Raises NotFound, JobClosed, or StaleJob with what changed since
    ``version``.

    Without a version (work that goes on in the background) nobody's copy can be stale. A released
    engine stands as it was proven: only what says ``even_released`` may still change its job.
    """
    # Whatever this session loaded before it waited for the lock is read anew: a copy may have grown
    # old meanwhile.
    query = (
        select(Job)
        .where(Job.id == job_id)
        .with_for_update(key_share=True)
        .execution_options(populate_existing=True)
    )
    job = session.exec(query).first()
    if job is None:
        raise NotFound("There is no such job.", read=str(job_id), advice="Go back to the yard.")
    if job.signed_at:
        raise JobClosed(
            "This job is signed and its report frozen.",
            read=job.number,
            advice="Start a new job on the unit to go on.",
        )
    if job.released_by and not even_released:
        raise JobClosed(
            "The engine is released; its job stands as proven.",
            code=ErrorCode.JOB_RELEASED,
            read=f"released by {job.released_by}",
            advice="Undo the release in the notebook to change something, then prove it again.",
        )
    if job.ended and not even_released:
        raise JobClosed(
            "This job was ended without a repair.",
            code=ErrorCode.JOB_RELEASED,
            read=job.ended_why or "",
            advice="Undo the ending in the notebook to go on with it.",
        )
    if version is not None and job.version != version:
        raise StaleJob(version, job.version, entries(session, job_id, after_version=version))
    return job


def record(
    session: Session,
    job: Job,
    by: str,
    kind: Change,
    words: str,
    data: dict[str, Any] | None = None,
    reverses: int | None = None,
) -> JournalEntry:
    """Append to the journal and raise the job's version; the entry is chained to the one before it.

    ``reverses`` is the id of the entry taken back. Only for a job that this transaction holds.
    """
    assert job.id is not None
    last = session.exec(
        select(JournalEntry)
        .where(JournalEntry.job_id == job.id)
        .order_by(col(JournalEntry.version).desc())
    ).first()
    taken_back = session.get(JournalEntry, reverses) if reverses is not None else None
    entry = Entry(
        version=job.version + 1,
        at=max(now(), last.at)
        if last
        else now(),  # a clock that was set back must not stop anybody
        by=by,
        kind=str(kind),
        words=words,
        data=data or {},
        reverses=taken_back.version if taken_back else None,
    )
    previous = last.hash if last else GENESIS
    job.version = entry.version
    session.add(job)
    return _append(
        session, job, Sealed(entry, previous, entry_hash(job.number, previous, entry)), reverses
    )


def _append(session: Session, job: Job, sealed: Sealed, reverses: int | None) -> JournalEntry:
    entry = sealed.entry
    row = JournalEntry(
        job_id=job.id or 0,
        version=entry.version,
        at=entry.at,
        by=entry.by,
        kind=entry.kind,
        words=entry.words,
        data=entry.data,
        reverses=reverses,
        previous=sealed.previous,
        hash=sealed.hash,
    )
    session.add(row)
    session.flush()
    return row


def append_whole(session: Session, job: Job, chain: Sequence[Sealed]) -> None:
    """Bring a verified journal in as it is, into a job that has none yet."""
    ids: dict[int, int | None] = {}
    for sealed in chain:
        row = _append(
            session, job, sealed, ids.get(sealed.entry.reverses) if sealed.entry.reverses else None
        )
        ids[sealed.entry.version] = row.id


def chain_of(session: Session, job_id: int) -> list[Sealed]:
    """A job's journal as a chain, oldest first."""
    rows = entries(session, job_id)
    version_of = {row.id: row.version for row in rows}
    return [
        Sealed(
            Entry(r.version, r.at, r.by, r.kind, r.words, r.data, version_of.get(r.reverses)),
            previous=r.previous,
            hash=r.hash,
        )
        for r in rows
    ]


@dataclass(frozen=True)
class Note:
    """An entry of the journal as the notebook shows it, without what only undoing it needs."""

    id: int
    at: datetime
    by: str
    kind: str
    words: str
    reverses: int | None


def notes_of(session: Session, job_id: int) -> list[Note]:
    """The notebook of a job, oldest first."""
    e = JournalEntry
    columns = (e.id, e.at, e.by, e.kind, e.words, e.reverses)
    query = sql_select(*map(col, columns)).where(col(e.job_id) == job_id).order_by(col(e.version))
    return [Note(*row) for row in session.execute(query)]


def entries(session: Session, job_id: int, after_version: int = 0) -> list[JournalEntry]:
    """The notebook of a job, oldest first."""
    found = session.exec(
        select(JournalEntry)
        .where(JournalEntry.job_id == job_id, JournalEntry.version > after_version)
        .order_by(col(JournalEntry.version))
    )
    return list(found)


def standing_entries(
    session: Session, job_ids: Collection[int], *kinds: Change
) -> dict[tuple[int, Change], JournalEntry]:
    """The newest entry of each of these kinds that was not taken back, by job and kind."""
    asked = (
        select(JournalEntry)
        .where(col(JournalEntry.job_id).in_(job_ids))
        .where(col(JournalEntry.kind).in_((*kinds, Change.UNDO)))
        .order_by(col(JournalEntry.version))
    )
    rows = session.exec(asked).all()
    taken_back = {row.reverses for row in rows if row.reverses}
    return {
        (row.job_id, Change(row.kind)): row
        for row in rows
        if row.kind != Change.UNDO and row.id not in taken_back
    }
