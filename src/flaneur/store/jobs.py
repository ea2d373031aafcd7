"""Jobs, their plan, and what was seen while turning by hand."""

import logging
from collections.abc import Collection

from pydantic import ValidationError
from sqlalchemy import TextClause, func, text
from sqlmodel import Session, col, select

from flaneur.core.job.agreement import Agreed
from flaneur.core.job.change import Change
from flaneur.core.proof.hands import HandTurns
from flaneur.store.changes import NotFound, standing_entries
from flaneur.store.plans import look_at
from flaneur.store.tables import Book, Job

log = logging.getLogger(__name__)

_MARK = text("""
SELECT job.xmin::text, unit.xmin::text, engine.xmin::text, mount.position,
  (SELECT md5(string_agg(id::text, ',' ORDER BY id)) FROM meter_reading
   WHERE engine_id = job.engine_id AND struck_by IS NULL),
  (SELECT min(id) FROM job AS other
   WHERE other.engine_id = job.engine_id AND other.signed_at IS NULL),
  (SELECT xmin::text FROM shop)
FROM job JOIN unit ON unit.id = job.unit_id JOIN engine ON engine.id = job.engine_id
  LEFT JOIN mount ON mount.engine_id = engine.id AND mount.until IS NULL
WHERE job.id = :job
""")
_MARK_OF_READINGS = text("""
SELECT md5(concat(job.intake, job.baseline_deg)),
  (SELECT md5(string_agg(concat(id, ' ', xmin), ',' ORDER BY id)) FROM reading
   WHERE job_id = job.id),
  (SELECT md5(string_agg(concat(id, ' ', xmin), ',' ORDER BY id)) FROM capture
   WHERE job_id = job.id),
  (SELECT count(*) FROM photo WHERE job_id = job.id),
  (SELECT count(*) FROM drive_log WHERE job_id = job.id),
  (SELECT md5(bands::text) FROM shop)
FROM job WHERE job.id = :job
""")


def new_number(session: Session, prefix: str) -> str:
    """The next job number, from the database's own sequence: two people at once get two numbers."""
    while True:
        count = session.execute(text("SELECT nextval('job_number')")).scalar_one()
        number = f"{prefix}-{count:04d}"
        if session.exec(select(Job.id).where(Job.number == number)).first() is None:
            return number


def signed_before(session: Session, job: Job) -> list[Job]:
    """Signed jobs of the same engine, opened before this one, oldest first."""
    return list(
        session.exec(
            select(Job)
            .where(Job.engine_id == job.engine_id, col(Job.id) < job.id)
            .where(col(Job.signed_at).is_not(None))
            .order_by(col(Job.id))
        )
    )


def signed_like(session: Session, job: Job, most: int) -> list[Job]:
    """The newest jobs on engines of a book of that name that were signed here before this one was
    opened, ``most`` of them at most.
    """
    name = select(Book.name).where(Book.id == job.book_id).scalar_subquery()
    alike = select(Book.id).where(Book.name == name)
    return list(
        session.exec(
            select(Job)
            .where(col(Job.book_id).in_(alike), col(Job.signed_at) < job.opened_at)
            .where(col(Job.signed_at_depot).is_(None))
            .order_by(col(Job.signed_at).desc())
            .limit(most)
        )
    )


def signed_on(session: Session, engine_ids: Collection[int]) -> list[Job]:
    """Every signed job of these engines, oldest first."""
    return list(
        session.exec(
            select(Job)
            .where(col(Job.engine_id).in_(engine_ids), col(Job.signed_at).is_not(None))
            .order_by(col(Job.id))
        )
    )


def jobs_on(session: Session, engine_id: int) -> list[Job]:
    """Every job of an engine, newest first."""
    asked = select(Job).where(Job.engine_id == engine_id).order_by(col(Job.id).desc())
    return list(session.exec(asked))


def comebacks(session: Session) -> dict[int, int]:
    """How many jobs of each engine came back after one that was signed; none for most."""
    asked = (
        select(Job.engine_id, func.count())
        .where(col(Job.comeback_of_id).is_not(None))
        .group_by(col(Job.engine_id))
    )
    return {engine: int(count) for engine, count in session.exec(asked)}


def job_by_id(session: Session, job_id: int) -> Job:
    """A job to look at. Raises NotFound."""
    job = next(iter(look_at(session, Job.id == job_id)), None)
    if job is None:
        raise NotFound("There is no such job.", read=str(job_id), advice="Go back to the yard.")
    return job


def jobs_by_id(session: Session, job_ids: Collection[int]) -> list[Job]:
    """These jobs, oldest first."""
    return look_at(session, col(Job.id).in_(job_ids))


def marks(session: Session) -> dict[int, str]:
    """What tells whether a job was changed, of every job, oldest first: the transaction that wrote
    its row last.
    """
    rows = session.execute(text("SELECT id, xmin::text FROM job ORDER BY id"))
    return {int(key): str(mark) for key, mark in rows}


def mark_of(session: Session, job_id: int) -> str:
    """What tells whether anything changed that a job's pages show: its row, its unit's, and which
    job of the unit is open. Empty for no job.
    """
    return _mark(session, job_id, _MARK)


def mark_of_readings(session: Session, job_id: int) -> str:
    """The same for what shows no more than readings, captures, photographs, and what was told at
    intake: it stays while steps are closed.
    """
    return _mark(session, job_id, _MARK_OF_READINGS)


def _mark(session: Session, job_id: int, asked: TextClause) -> str:
    found = session.execute(asked, {"job": job_id}).first()
    return " ".join(map(str, found)) if found else ""


def open_jobs(session: Session, engine_id: int | None = None) -> dict[int, int]:
    """The first job of every engine, or of one, that is not signed yet, by engine."""
    asked = select(Job.engine_id, Job.id).where(col(Job.signed_at).is_(None))
    if engine_id is not None:
        asked = asked.where(Job.engine_id == engine_id)
    rows = session.exec(asked.order_by(col(Job.id).desc()))
    return {engine: job for engine, job in rows if job is not None}


def books_at_work(session: Session) -> list[int]:
    """The books of jobs that are not signed yet, the newest job's first."""
    rows = session.exec(
        select(Job.book_id).where(col(Job.signed_at).is_(None)).order_by(col(Job.id).desc())
    )
    return list(dict.fromkeys(rows))


def hands_of(job: Job) -> HandTurns:
    """What was seen while turning a job's engine by hand."""
    return HandTurns.model_validate(job.hands)


def agreed_of_each(session: Session, job_ids: Collection[int]) -> dict[int, Agreed]:
    """The owner's go-ahead that was written down last and not taken back, of each of these jobs.
    One that cannot be read, as a file may bring it, is none.
    """
    found: dict[int, Agreed] = {}
    if not job_ids:
        return found
    for (job, _), entry in standing_entries(session, job_ids, Change.AGREED).items():
        try:
            found[job] = Agreed.model_validate(entry.data)
        except ValidationError:
            log.warning("entry %s: a go-ahead that cannot be read", entry.id)
    return found
