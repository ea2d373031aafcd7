"""Jobs, what has been done on their bench, and what comes next."""

from dataclasses import dataclass

from sqlmodel import Session, col, func, select

from flaneur.core.plan.plan import Plan
from flaneur.core.proof.progress import JobFacts, NextAction, next_action
from flaneur.store.changes import NotFound, record
from flaneur.store.depot import book_of
from flaneur.store.readings import readings_of, valid
from flaneur.store.tables import BenchRecord, CaptureRow, Job, Unit


def open_job(session: Session, unit: Unit, by: str) -> Job:
    """Start a job on a unit; its number counts up from the last."""
    count = session.exec(select(func.count()).select_from(Job)).one()
    assert unit.id is not None
    job = Job(
        number=f"SI-{count + 1:04d}",
        unit_id=unit.id,
        book_id=unit.book_id,
        opened_by=by,
        baseline_deg=dict(unit.baseline_deg),
        intake={"hours": unit.hours} if unit.hours is not None else {},
    )
    session.add(job)
    session.flush()
    record(session, job, by, "opened", f"Job {job.number} opened on {unit.name} ({unit.tag}).")
    return job


def job_by_id(session: Session, job_id: int) -> Job:
    job = session.get(Job, job_id)
    if job is None:
        raise NotFound("There is no such job.", read=str(job_id), advice="Go back to the yard.")
    return job


def jobs(session: Session) -> list[Job]:
    return list(session.exec(select(Job).order_by(col(Job.id))))


def plan_of(job: Job) -> Plan | None:
    return Plan.model_validate(job.plan) if job.plan else None


@dataclass(frozen=True)
class Bench:
    """Where one stands: records that count by step, pins put in, tooth errors left in the engine, departures."""

    done: dict[str, BenchRecord]
    records: list[BenchRecord]
    pins_in: int
    tooth_errors: dict[str, int]
    departures: list[BenchRecord]


def bench_of(session: Session, job: Job) -> Bench:
    """State of a job's bench from its records."""
    rows = list(session.exec(select(BenchRecord).where(BenchRecord.job_id == job.id).order_by(col(BenchRecord.id))))
    done = {r.step: r for r in rows if not r.reopened and (r.right or r.departure)}
    errors: dict[str, int] = {}
    pins = 0
    for row in done.values():
        for seen in row.seen:
            pins += max(0, int(seen.get("pins", 0)))
            if seen.get("contact") and seen.get("teeth"):
                errors[str(seen["contact"])] = int(seen["teeth"])
    return Bench(done, rows, pins, errors, [r for r in done.values() if r.departure])


def progress(session: Session, job: Job) -> NextAction:
    """Stage and next action of a job."""
    assert job.id is not None
    rows = valid(readings_of(session, job.id))
    plan = plan_of(job)
    bench, book = bench_of(session, job), book_of(session, job.book_id)
    captured = session.exec(select(func.count()).select_from(CaptureRow).where(CaptureRow.job_id == job.id, CaptureRow.phase == "after"))
    facts = JobFacts(
        has_complaint=bool(job.intake.get("complaint")),
        readings_before=sum(r.phase == "before" for r in rows),
        has_plan=bool(plan and plan.steps),
        bench_started=job.bench_started,
        steps_total=len(plan.steps) if plan else 0,
        steps_done=len(bench.done),
        next_step=next((s.title for s in plan.steps if s.ref not in bench.done), None) if plan else None,
        turned_by_hand=job.hands.get("turns") is not None,
        captured_after=captured.one() > 0 if book.can_be_captured else {r.part for r in rows if r.phase == "after"} >= set(book.cams),
        can_capture=book.can_be_captured,
        released=job.released_by is not None,
        signed=job.signed_by is not None,
    )
    return next_action(facts)
