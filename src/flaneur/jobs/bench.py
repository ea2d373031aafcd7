"""At the bench: steps answered, opened again, and what rests on them."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from flaneur.core.bench.closing import (
    Closing,
    answer_step,
    closed_step,
    opened_words,
    step_of,
)
from flaneur.core.bench.inside import must_be_counted_out, turning_steps
from flaneur.core.bench.later import Later
from flaneur.core.bench.meaning import meanings, why_it_stays_open
from flaneur.core.bench.within import still_waiting, stop_gap
from flaneur.core.errors import PlanError, StepError
from flaneur.core.job.change import Change
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.shown import is_hard_stop
from flaneur.core.proof.turning import felt_at_bench, must_be_explained
from flaneur.core.wording import counted
from flaneur.jobs.agreeing import must_be_agreed, must_have_go
from flaneur.jobs.fitted import bench_plan
from flaneur.jobs.planning import kept_plan
from flaneur.jobs.reopening import reopen, resting_on
from flaneur.jobs.standing import bench_of
from flaneur.jobs.traces import bad_bolts
from flaneur.jobs.within import under_way
from flaneur.jobs.work import Work
from flaneur.store.jobs import hands_of
from flaneur.store.plans import plan_of
from flaneur.store.tables import BenchRecord, JournalEntry, now


def start_bench(work: Work) -> JournalEntry:
    """Start on the bench; the plan is fixed from here. Raises PlanError, and GoAheadMissing where
    the owner has not said yes to it.
    """
    plan = kept_plan(work)
    if work.job.bench_started:
        raise PlanError("The bench has started already.", advice="Go on at the bench.")
    must_be_agreed(work)
    work.job.bench_started = True
    return work.record(Change.BENCH, f"Bench started: {counted(len(plan.steps), 'step')}.")


@dataclass(frozen=True)
class Closed:
    """A step as it was answered, and the steps that were opened again by it; what is not right in
    it means, and why nobody may leave it so (empty: a lead may).
    """

    closing: Closing
    reopened: list[str]
    means: list[str]
    stays_open_because: str


def close_step(
    work: Work,
    ref: str,
    answers: list[str],
    departure: str | None,
    later: Later | None = None,
    began: datetime | None = None,
) -> Closed:
    """Answer a step. Right closes it; not right opens it and reopens what rests on it; ``later``:
    it was written while the server was away; ``began``: when its waiting was, where no timer was.
    Raises StepError, at a point of no return too that no lead has passed.
    """
    plan, bench = bench_plan(work), bench_of(work.session, work.job)
    if ref in turning_steps(work.book, plan):
        must_be_explained(hands_of(work.job))
    if later is not None:
        title = step_of(plan, ref).title
        later.must_still_fit(title, [r for r in bench.records if r.step == ref])

    def against(step: PlanStep) -> list[StepError]:
        found = (
            still_waiting(step, under_way(work, ref), began, now()),
            bad_bolts(work, step),
            stop_gap(step),
        )
        return [error for error in found if error is not None]

    closing = answer_step(
        plan, work.job.bench_started, bench.done, ref, answers, departure, against
    )
    if closing.is_closed:
        must_be_counted_out(work.book, plan, closing.step, bench.laid)
        must_have_go(work, closing.step)
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
    words = f"{closing.words(titles)} {later.words(now()) if later else ''}".rstrip()
    if any(is_hard_stop(a, s) for a, s in zip(closing.step.asked, closing.seen, strict=True)):
        at = now().isoformat()
        work.job.hands = felt_at_bench(hands_of(work.job), work.by, at).model_dump(mode="json")
        work.record(Change.HARD_STOP, words)  # it stays: undo does not take it back
    else:
        work.record(Change.STEP, words, {"records": [new.id], **undone})
    is_closed = closing.is_closed
    means = [] if is_closed else meanings(work.book, closing.step, closing.seen)
    because = "" if is_closed else why_it_stays_open(closing.step, closing.seen)
    return Closed(closing, others, means, because)


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
