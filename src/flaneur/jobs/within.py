"""What happens within a step of the bench before it is answered."""

from datetime import datetime

from sqlalchemy import update
from sqlmodel import col, select

from flaneur.core.bench.closing import step_of
from flaneur.core.bench.within import (
    WAITING,
    Event,
    EventKind,
    begun_at,
    fastener_of,
    fits,
    next_bolts,
    next_burst,
)
from flaneur.core.errors import ErrorCode, StepError
from flaneur.core.plan.steps import PlanStep
from flaneur.jobs.fitted import bench_plan
from flaneur.jobs.standing import bench_of
from flaneur.jobs.work import Work
from flaneur.store.bench import events_of
from flaneur.store.tables import BenchEvent, Job, now


def times_answered(work: Work, ref: str) -> int:
    """How often a step was answered."""
    return sum(r.step == ref for r in bench_of(work.session, work.job).records)


def must_be_open(work: Work, step: PlanStep, answered: int) -> None:
    """Raise StepError for a step that is closed, or answered since its sender looked."""
    bench, times = bench_of(work.session, work.job), times_answered(work, step.ref)
    if not work.job.bench_started or step.ref in bench.done or times != answered:
        raise StepError(
            f"“{step.title}” was answered meanwhile.",
            read=f"{times} answers here, {answered} known to the tablet",
            advice="Look at the step again.",
            code=ErrorCode.STEP_ANSWERED,
        )


def under_way(work: Work, ref: str) -> list[Event]:
    """What happened within a step since it was answered last."""
    times = times_answered(work, ref)
    return [
        e for e in events_of(work.session, work.job_id) if e.step == ref and e.answered == times
    ]


def happen(
    work: Work,
    ref: str,
    answered: int,
    kind: EventKind,
    item: str,
    number: int,
    at: datetime | None,
) -> None:
    """Bring bolts to a stage, begin a timer, or say what else is fitted, within an open step.
    ``answered``: how often the step had been answered as far as the sender knows. Raises
    StepError.
    """
    step = step_of(bench_plan(work), ref)
    must_be_open(work, step, answered)
    events = under_way(work, ref)
    if kind is EventKind.BOLT:
        numbers, when = next_bolts(step, events, item, number), begun_at(at, now())
    elif kind is EventKind.FITTED:
        fits(step, events, item)
        _own_again(work, ref, answered, item)
        numbers, when = [0], now()
    elif kind is EventKind.BURST:
        when = begun_at(at, now())
        numbers = [next_burst(step, events, when)]
    else:
        if item != WAITING or not step.waiting or any(e.kind is kind for e in events):
            raise StepError("No timer begins here.", read=item, expected="a step that waits, once")
        numbers, when = [0], begun_at(at, now())
    for one in numbers:
        work.session.add(
            BenchEvent(
                job_id=work.job_id,
                step=ref,
                answered=answered,
                kind=kind,
                item=item,
                number=one,
                by=work.by,
                at=when,
            )
        )
    seen_by_all(work)


def _own_again(work: Work, ref: str, answered: int, item: str) -> None:
    """Strike what else was said to be fitted in place of the same fastener."""
    e = BenchEvent
    rows = work.session.exec(
        select(e)
        .where(e.job_id == work.job_id, e.step == ref, e.answered == answered)
        .where(e.kind == EventKind.FITTED, ~col(e.is_struck))
    )
    for row in rows:
        if fastener_of(row.item) == fastener_of(item):
            row.is_struck = True
            work.session.add(row)
    work.session.flush()


def take_back(work: Work, ref: str, kind: EventKind, item: str) -> None:
    """Take back the last that happened: the last bolt of a stage, or the timer. Raises StepError
    where there is none.
    """
    if kind is EventKind.FITTED:
        fits(step_of(bench_plan(work), ref), under_way(work, ref), item)
    times = times_answered(work, ref)
    e = BenchEvent
    last = work.session.exec(
        select(e)
        .where(e.job_id == work.job_id, e.step == ref, e.answered == times)
        .where(e.kind == kind, e.item == item, ~col(e.is_struck))
        .order_by(col(e.number).desc())
    ).first()
    if last is None:
        raise StepError(
            "There is nothing to take back.", read=item, expected="a bolt that was done"
        )
    last.is_struck = True
    work.session.add(last)
    seen_by_all(work)


def seen_by_all(work: Work) -> None:
    """Write the job's row as it is: pages kept while it is unchanged are made anew."""
    work.session.flush()
    here = update(Job).where(col(Job.id) == work.job_id).values(version=Job.version)
    work.session.exec(here.execution_options(synchronize_session=False))
