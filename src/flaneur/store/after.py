"""What comes after a job, as the database has it: what is due, and additions to signed reports."""

from collections.abc import Sequence

from sqlmodel import Session, col, select

from flaneur.core.job.following import Outcome
from flaneur.store.tables import Addendum, FollowUp, Job, Unit, now


def follow_ups_of(session: Session, job_id: int) -> Sequence[FollowUp]:
    """What is or was due after a job, the earliest first."""
    f = FollowUp
    return session.exec(
        select(f).where(f.job_id == job_id).order_by(col(f.due_at), col(f.id))
    ).all()


def addenda_of(session: Session, job_id: int) -> Sequence[Addendum]:
    """What was added to a job's report, in order."""
    a = Addendum
    return session.exec(select(a).where(a.job_id == job_id).order_by(col(a.place))).all()


def open_follow_ups(session: Session) -> Sequence[tuple[FollowUp, Job, Unit]]:
    """Everything that is due and not answered, the earliest first, with its job and unit."""
    query = (
        select(FollowUp, Job, Unit)
        .join(Job, col(Job.id) == FollowUp.job_id)
        .join(Unit, col(Unit.id) == Job.unit_id)
        .where(col(FollowUp.outcome).is_(None))
        .order_by(col(FollowUp.due_at), col(FollowUp.id))
    )
    return session.exec(query).all()


def drop_open(session: Session, job_id: int, by: str, why: str) -> None:
    """Nothing of a job is due any longer: what was not answered is dropped, with the reason."""
    for row in follow_ups_of(session, job_id):
        if row.outcome is None:
            row.outcome, row.note, row.done_by, row.done_at = Outcome.DROPPED, why, by, now()
            session.add(row)
