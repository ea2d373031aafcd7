"""The bench: one step at a time, closed by what was seen."""

from collections import Counter
from typing import Any

from flask import Blueprint
from spectree import Response

from flaneur.api.models import (
    BenchOut,
    Changed,
    ErrorOut,
    RecordOut,
    ReopenIn,
    SeenOut,
    StepIn,
    StepResult,
)
from flaneur.api.spec import checked
from flaneur.api.work import JOB, Work, changing, reading
from flaneur.core.errors import StepError
from flaneur.core.plan.observe import Seen, check_step
from flaneur.core.plan.plan import Plan, PlanStep
from flaneur.store.changes import record
from flaneur.store.jobs import Bench, bench_of, hands_of, plan_of
from flaneur.store.reopening import reopen, resting_on
from flaneur.store.tables import BenchRecord

blueprint = Blueprint("bench", __name__)
FEW = 5


@blueprint.get(f"{JOB}/bench")
@checked(resp=Response(HTTP_200=BenchOut))
def get_bench(job_id: int) -> BenchOut:
    """Steps of the plan and what has been recorded of them."""
    with reading(job_id) as work:
        plan, bench = plan_of(work.job), bench_of(work.session, work.job)
        records = [
            RecordOut(
                step=r.step,
                seen=[_seen_out(Seen.model_validate(s)) for s in r.seen],
                is_right=r.right,
                departure=r.departure,
                by=r.done_by,
                at=r.done_at,
            )
            for r in bench.done.values()
        ]
        hands = hands_of(work.job)
        return BenchOut(
            steps=plan.steps if plan else [],
            records=records,
            occurrences=Counter(r.step for r in bench.records),
            pins_in=bench.pins_in,
            is_started=work.job.bench_started,
            is_stopped=hands.is_stopped,
            stops=hands.stops,
        )


def _seen_out(seen: Seen) -> SeenOut:
    return SeenOut(ask=seen.ask, typed=seen.typed, ok=seen.ok, words=seen.words)


@blueprint.post(f"{JOB}/bench/steps")
@checked(resp=Response(HTTP_200=StepResult, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def close_step(job_id: int, json: StepIn) -> StepResult:
    """Enter what was seen at a step. Right closes it; not right opens the remedy and reopens what
    rests on it.

    With a ``departure`` (a written reason) a step that is not right is closed as it is.
    """
    with changing(job_id, json.version) as work:
        plan = plan_of(work.job)
        if plan is None or not work.job.bench_started:
            raise StepError("The bench has not started.", advice="Start it from Plan.")
        step = next((s for s in plan.steps if s.ref == json.step), None)
        if step is None:
            raise StepError("The plan has no such step.", read=json.step)
        bench = bench_of(work.session, work.job)
        _in_order(plan, bench, step)
        seen = check_step(step, json.answers)
        right = all(s.ok for s in seen)
        departure = (json.departure or "").strip()
        if departure and len(departure) < 5:
            raise StepError(
                "The reason is too short.",
                read=f"“{departure}”",
                expected="why the step is left as it is",
            )
        return _record(
            work, plan, bench, step, seen, right, None if right or not departure else departure
        )


def _in_order(plan: Plan, bench: Bench, step: PlanStep) -> None:
    """Raise StepError when an earlier step is still open: order is what keeps valves straight."""
    for earlier in plan.steps:
        if earlier.ref == step.ref:
            return
        if earlier.ref not in bench.done:
            raise StepError(
                f"“{earlier.title}” comes first.",
                read=step.title,
                expected=earlier.title,
                advice="Close the steps in order.",
            )


def _record(
    work: Work,
    plan: Plan,
    bench: Bench,
    step: PlanStep,
    seen: list[Seen],
    right: bool,
    departure: str | None,
) -> StepResult:
    for row in bench.records:
        if row.step == step.ref and not row.reopened and step.ref not in bench.done:
            row.reopened = True  # an answer that was not right gives way to this one
            work.session.add(row)
    is_open = not right and departure is None
    steps = {step.ref, *(resting_on(work.session, work.job, step.ref) if is_open else ())}
    undone = reopen(
        work.session,
        work.job,
        bench,
        steps,
        f"{step.title} was not right" if is_open else f"{step.title} was done again",
    )
    new = BenchRecord(
        job_id=work.job.id or 0,
        step=step.ref,
        seen=[s.model_dump() for s in seen],
        right=right,
        departure=departure,
        done_by=work.by,
    )
    work.session.add(new)
    work.session.flush()
    figures = "; ".join(
        f"{s.ask} {s.typed}" if s.ask.endswith("?") else f"{s.ask}: {s.typed}" for s in seen
    )
    if right:
        words = f"{step.title}: done. {figures}."
    elif departure:
        words = f"{step.title}: left as it is, not right. {figures}. Reason: {departure}"
    else:
        words = f"{step.title}: not right. {figures}."
    others = sorted({r.step for r in bench.records if r.id in undone["reopened"]} - {step.ref})
    if others:
        words += f" Reopened: {', '.join(s.title for s in plan.steps if s.ref in others)}."
    record(work.session, work.job, work.by, "step", words, {"records": [new.id], **undone})
    closed = right or departure is not None
    return StepResult(
        version=work.job.version,
        closed=closed,
        seen=[_seen_out(s) for s in seen],
        remedy="" if closed else step.remedy,
        reopened=others,
    )


@blueprint.post(f"{JOB}/bench/reopen")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def reopen_step(job_id: int, json: ReopenIn) -> Changed:
    """Open a closed step again, with a reason; all that rests on it opens with it, and proof taken
    since counts no more.
    """
    with changing(job_id, json.version) as work:
        words, data = open_again(work, json.step, json.reason)
        return work.changed(record(work.session, work.job, work.by, "reopened", words, data))


def _with_it(titles: list[str]) -> str:
    if len(titles) > FEW:
        return (
            f" With it the {len(titles)} steps that rest on it, from {titles[0]} to {titles[-1]}."
        )
    return f" With it: {', '.join(titles)}." if titles else ""


def open_again(work: Work, ref: str, why: str) -> tuple[str, dict[str, Any]]:
    """Open a closed step of the plan; the words and data that the notebook keeps of it. Raises
    StepError.
    """
    plan, bench = plan_of(work.job), bench_of(work.session, work.job)
    step = next((s for s in plan.steps if s.ref == ref), None) if plan else None
    if plan is None or step is None:
        raise StepError("The plan has no such step.", read=ref, expected="a step of the plan")
    if step.ref not in bench.done:
        raise StepError("This step is open.", read=step.title, expected="a closed step")
    data = reopen(
        work.session, work.job, bench, {ref, *resting_on(work.session, work.job, ref)}, why
    )
    opened = {r.step for r in bench.records if r.id in data["reopened"]} - {ref}
    words = (
        f"{step.title}: opened again, because "
        f"{why.rstrip('.')}.{_with_it([s.title for s in plan.steps if s.ref in opened])}"
    )
    if data["unproven"] or data["hands_before"] is not None:
        words += " What was proven since counts no more."
    return words, data
