"""Jobs, their plan, and what was seen while turning by hand."""

from sqlalchemy import text
from sqlmodel import Session, col, select

from flaneur.core.plan.plan import Plan
from flaneur.core.proof.release import HandTurns
from flaneur.store.changes import NotFound
from flaneur.store.tables import Job


def new_number(session: Session, prefix: str) -> str:
    """The next job number, from the database's own sequence: two people at once get two numbers."""
    while True:
        count = session.execute(text("SELECT nextval('job_number')")).scalar_one()
        number = f"{prefix}-{count:04d}"
        if session.exec(select(Job.id).where(Job.number == number)).first() is None:
            return number


def job_by_id(session: Session, job_id: int) -> Job:
    """A job. Raises NotFound."""
    job = session.get(Job, job_id)
    if job is None:
        raise NotFound("There is no such job.", read=str(job_id), advice="Go back to the yard.")
    return job


def jobs(session: Session) -> list[Job]:
    """Every job, oldest first."""
    return list(session.exec(select(Job).order_by(col(Job.id))))


def open_jobs(session: Session) -> dict[int, int]:
    """The first job of every unit that is not signed yet, by unit."""
    rows = session.exec(
        select(Job.unit_id, Job.id).where(col(Job.signed_at).is_(None)).order_by(col(Job.id).desc())
    )
    return {unit: job for unit, job in rows if job is not None}


def plan_of(job: Job) -> Plan | None:
    """The plan of a job; None before anything was chosen."""
    return Plan.model_validate(job.plan) if job.plan else None


def hands_of(job: Job) -> HandTurns:
    """What was seen while turning a job's engine by hand."""
    return HandTurns.model_validate(job.hands)
