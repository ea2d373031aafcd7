"""At the bench: steps answered, opened again, and what rests on them."""

from dataclasses import dataclass
from typing import Any

from flaneur.core.bench.closing import Closing, answer_step, closed_step, opened_words
from flaneur.core.errors import PlanError
from flaneur.core.job.change import Change
from flaneur.core.wording import counted
from flaneur.jobs.reopening import reopen, resting_on
from flaneur.jobs.standing import bench_of
from flaneur.jobs.work import Work
from flaneur.store.jobs import plan_of
from flaneur.store.tables import BenchRecord, JournalEntry


def start_bench(work: Work) -> JournalEntry:
    """Start on the bench; the plan is fixed from here. Raises PlanError."""
    plan = plan_of(work.job)
    if plan is None or not plan.steps:
        raise PlanError("There is no plan yet.", advice="Choose what to renew first.")
    if work.job.bench_started:
        raise PlanError("The bench has started already.", advice="Go on at the bench.")
    work.job.bench_started = True
    return work.record(Change.BENCH, f"Bench started: {counted(len(plan.steps), 'step')}.")


@dataclass(frozen=True)
class Closed:
    """A step as it was answered, and the steps that were opened again by it."""

    closing: Closing
    reopened: list[str]


def close_step(work: Work, ref: str, answers: list[str], departure: str | None) -> Closed:
    """Answer a step. Right closes it; not right opens it and reopens what rests on it. Raises
    StepError.
    """
    plan, bench = plan_of(work.job), bench_of(work.session, work.job)
    closing = answer_step(plan, work.job.bench_started, bench.done, ref, answers, departure)
    for row in bench.records:
        if row.step == ref and not row.is_reopened and ref not in bench.done:
            _set_reopened(work, row.id)  # an answer that was not right gives way to this one
    title = closing.step.title
    steps = {ref} if closing.is_closed else {ref, *resting_on(work, ref)}
    why = f"{title} was {'done again' if closing.is_closed else 'not right'}"
    undone = reopen(work, bench, steps, why)
    new = BenchRecord(
        job_id=work.job_id,
        step=ref,
        seen=[s.model_dump(mode="json") for s in closing.seen],
        right=closing.is_right,
        departure=closing.departure,
        done_by=work.by,
    )
    work.session.add(new)
    work.session.flush()
    others = sorted({r.step for r in bench.records if r.id in undone["reopened"]} - {ref})
    titles = [s.title for s in plan.steps if s.ref in others] if plan else []
    work.record(Change.STEP, closing.words(titles), {"records": [new.id], **undone})
    return Closed(closing, others)


def _set_reopened(work: Work, record_id: int) -> None:
    row = work.session.get_one(BenchRecord, record_id)
    row.reopened = True
    work.session.add(row)


def reopen_step(work: Work, ref: str, why: str) -> JournalEntry:
    """Open a closed step again, with a reason; all that rests on it opens with it. Raises
    StepError.
    """
    words, data = open_again(work, ref, why)
    return work.record(Change.REOPENED, words, data)


def open_again(work: Work, ref: str, why: str) -> tuple[str, dict[str, Any]]:
    """Open a closed step; the words and data that the notebook keeps of it. Raises StepError."""
    plan, bench = plan_of(work.job), bench_of(work.session, work.job)
    step = closed_step(plan, bench, ref)
    assert plan is not None
    data = reopen(work, bench, {ref, *resting_on(work, ref)}, why)
    opened = {r.step for r in bench.records if r.id in data["reopened"]}
    words = opened_words(plan, step, opened, why)
    if data["unproven"] or data["hands_before"] is not None:
        words += " What was proven since counts no more."
    return words, data
