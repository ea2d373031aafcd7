"""Opening a job on a unit."""

from sqlmodel import Session

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.job.change import Change
from flaneur.store.changes import record
from flaneur.store.jobs import new_number
from flaneur.store.tables import Book, Job, Unit


class JobRefused(FlaneurError):
    """A job cannot be opened."""

    code = ErrorCode.BOOK_UNUSABLE


def open_job(session: Session, unit: Unit, by: str, prefix: str) -> Job:
    """Start a job on a unit. Raises JobRefused when the unit's engine book was never adopted
    here.
    """
    assert unit.id is not None
    book = session.get_one(Book, unit.book_id)
    if not book.is_adopted:
        raise JobRefused(
            "Nobody has adopted this unit's engine book yet.",
            read=f"{book.name}, which came with a job file",
            expected="a book that a lead has adopted",
            advice="A lead reads its checks under Engine books and adopts it.",
        )
    job = Job(
        number=new_number(session, prefix),
        unit_id=unit.id,
        book_id=unit.book_id,
        opened_by=by,
        baseline_deg=dict(unit.baseline_deg),
        intake={"hours": unit.hours} if unit.hours is not None else {},
    )
    session.add(job)
    session.flush()
    record(session, job, by, Change.OPENED, f"Job {job.number} opened on {unit.name} ({unit.tag}).")
    return job
