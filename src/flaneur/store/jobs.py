"""Jobs, what has been done on their bench, and what comes next."""

from dataclasses import dataclass

from sqlalchemy import text
from sqlmodel import Session, col, select

from flaneur.core.errors import FlaneurError
from flaneur.core.plan.plan import Plan
from flaneur.core.proof.progress import JobFacts, NextAction, next_action
from flaneur.core.proof.release import HandTurns
from flaneur.store.changes import NotFound, record
from flaneur.store.depot import book_of
from flaneur.store.readings import readings_of, valid
from flaneur.store.tables import BenchRecord, Book, Job, Unit


class JobRefused(FlaneurError):
    """A job cannot be opened."""


def new_number(session: Session, prefix: str) -> str:
    """The next job number, from the database's own sequence: two people at once get two numbers."""
    while True:
        count = session.execute(text("SELECT nextval('job_number')")).scalar_one()
        number = f"{prefix}-{count:04d}"
        if session.exec(select(Job.id).where(Job.number == number)).first() is None:
            return number


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
    record(session, job, by, "opened", f"Job {job.number} opened on {unit.name} ({unit.tag}).")
    return job


def job_by_id(session: Session, job_id: int) -> Job:
    job = session.get(Job, job_id)
    if job is None:
        raise NotFound("There is no such job.", read=str(job_id), advice="Go back to the yard.")
    return job


def jobs(session: Session) -> list[Job]:
    return list(session.exec(select(Job).order_by(col(Job.id))))


def open_jobs(session: Session) -> dict[int, int]:
    """The first job of every unit that is not signed yet, by unit."""
    rows = session.exec(
        select(Job.unit_id, Job.id).where(col(Job.signed_at).is_(None)).order_by(col(Job.id).desc())
    )
    return {unit: job for unit, job in rows if job is not None}


def plan_of(job: Job) -> Plan | None:
    return Plan.model_validate(job.plan) if job.plan else None


def hands_of(job: Job) -> HandTurns:
    """What was seen while turning a job's engine by hand."""
    return HandTurns.model_validate(job.hands)


@dataclass(frozen=True)
class Bench:
    """Where one stands: records that count by step, pins put in, tooth errors left in the engine,
    departures.
    """

    done: dict[str, BenchRecord]
    records: list[BenchRecord]
    pins_in: int
    tooth_errors: dict[str, int]
    departures: list[BenchRecord]


def bench_of(session: Session, job: Job) -> Bench:
    """State of a job's bench from its records."""
    rows = list(
        session.exec(
            select(BenchRecord).where(BenchRecord.job_id == job.id).order_by(col(BenchRecord.id))
        )
    )
    done = {r.step: r for r in rows if not r.reopened and (r.right or r.departure)}
    errors: dict[str, int] = {}
    pins = 0
    for row in sorted(done.values(), key=lambda r: r.id or 0):
        for seen in row.seen:
            pins += max(0, int(seen.get("pins", 0)))
            if seen.get("contact") and seen.get("teeth") is not None:
                # What was seen last counts: a contact found on its mark has no tooth left in it.
                errors[str(seen["contact"])] = int(seen["teeth"])
    return Bench(
        done,
        rows,
        pins,
        {c: n for c, n in errors.items() if n},
        [r for r in done.values() if r.departure],
    )


@dataclass(frozen=True)
class Standing:
    """Where a job stands: its plan, its bench, and what comes next."""

    plan: Plan | None
    bench: Bench
    next: NextAction


def progress(session: Session, job: Job) -> NextAction:
    """Stage and next action of a job."""
    return standing(session, job).next


def standing(session: Session, job: Job) -> Standing:
    """All of where a job stands, read once."""
    assert job.id is not None
    rows = valid(readings_of(session, job.id))
    plan = plan_of(job)
    bench, book = bench_of(session, job), book_of(session, job.book_id)
    hands = hands_of(job)
    facts = JobFacts(
        has_complaint=bool(job.intake.get("complaint")),
        readings_before=sum(r.phase == "before" for r in rows),
        has_plan=bool(plan and plan.steps),
        bench_started=job.bench_started,
        steps_total=len(plan.steps) if plan else 0,
        steps_done=len(bench.done),
        next_step=next((s.title for s in plan.steps if s.ref not in bench.done), None)
        if plan
        else None,
        turned_by_hand=hands.turns is not None,
        captured_after={r.part for r in rows if r.phase == "after" and r.kind == "cam"}
        >= set(book.cams),
        can_capture=book.can_be_captured,
        released=job.released_by is not None,
        signed=job.signed_at is not None,
        stopped=hands.is_stopped,
        pins_missing=abs(bench.pins_in - hands.pins_out) if hands.pins_out is not None else 0,
        marks_missed=not all(hands.marks.values()),
    )
    return Standing(plan, bench, next_action(facts))
