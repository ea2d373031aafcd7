"""The yard's line of every job: where it stands and what comes next, worked out once for as long as
the job is not changed.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from threading import Lock

from sqlmodel import Session

from flaneur.core.job.progress import JobStage, NextAction
from flaneur.core.record.bounds import printable
from flaneur.jobs.standing import next_of_each
from flaneur.store.depot import book_of, know_books
from flaneur.store.jobs import jobs_by_id, marks
from flaneur.store.tables import Job

LINES_KEPT = 20_000


@dataclass(frozen=True)
class YardLine:
    """What the yard shows of a job; all of it follows from the job alone."""

    id: int
    number: str
    unit_id: int
    engine: str
    stage: JobStage
    next_action: str
    press: str
    step: str | None
    complaint: str
    opened_by: str
    opened_at: datetime
    signed_at_depot: str | None
    is_imported: bool


class YardLines:
    """Lines by job, each with the mark of the row it was made from."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._lines: dict[int, tuple[str, YardLine]] = {}

    def all(self, session: Session) -> list[YardLine]:
        """The line of every job, oldest first: only changed jobs are read."""
        now = marks(session)
        with self._lock:
            known = dict(self._lines)
        stale = [key for key, mark in now.items() if known.get(key, ("", None))[0] != mark]
        fresh = {line.id: (now[line.id], line) for line in _made(session, stale)}
        with self._lock:
            if len(self._lines) > LINES_KEPT:
                self._lines.clear()
            self._lines.update(fresh)
        known.update(fresh)
        return [known[key][1] for key in now]


def _made(session: Session, job_ids: Sequence[int]) -> list[YardLine]:
    if not job_ids:
        return []
    every = jobs_by_id(session, job_ids)
    know_books(session, {job.book_id for job in every})
    following = next_of_each(session, every)
    return [_line(session, job, following[job.id or 0]) for job in every]


def _line(session: Session, job: Job, following: NextAction) -> YardLine:
    return YardLine(
        id=job.id or 0,
        number=job.number,
        unit_id=job.unit_id,
        engine=book_of(session, job.book_id).name,
        stage=following.stage,
        next_action=following.words,
        press=following.press,
        step=following.step,
        complaint=printable(str(job.intake.get("complaint", "")), 4000),
        opened_by=job.opened_by,
        opened_at=job.opened_at,
        signed_at_depot=job.signed_at_depot,
        is_imported=job.imported_by is not None,
    )
