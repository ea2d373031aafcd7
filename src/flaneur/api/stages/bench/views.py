"""The bench: one step at a time, closed by what was seen."""

from collections import Counter

from flask import Blueprint
from spectree import Response

from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut
from flaneur.api.spec import checked
from flaneur.api.stages.bench.models import (
    BenchOut,
    RecordOut,
    ReopenIn,
    SeenOut,
    StepIn,
    StepResult,
)
from flaneur.api.work import JOB, changed, changing, reading
from flaneur.core.bench.answers import Seen
from flaneur.core.proof.turning import may_stand_alone
from flaneur.jobs import bench as jobs
from flaneur.jobs.standing import bench_of
from flaneur.store.jobs import hands_of, plan_of

blueprint = Blueprint("bench", __name__)


@blueprint.get(f"{JOB}/bench")
@kept_while_unchanged()
@checked(resp=Response(HTTP_200=BenchOut))
def get_bench(job_id: int) -> BenchOut:
    """Steps of the plan and what has been recorded of them."""
    with reading(job_id) as work:
        plan, bench = plan_of(work.job), bench_of(work.session, work.job)
        hands = hands_of(work.job)
        return BenchOut(
            steps=plan.steps if plan else [],
            records=[
                RecordOut(
                    step=r.step,
                    seen=[_seen_out(s) for s in r.seen],
                    is_right=r.is_right,
                    departure=r.departure,
                    by=r.by,
                    at=r.at,
                )
                for r in bench.done.values()
            ],
            occurrences=Counter(r.step for r in bench.records),
            pins_in=bench.pins_in,
            is_started=work.job.bench_started,
            is_stopped=hands.is_stopped,
            stops=hands.stops,
            cause_needs_step=not may_stand_alone(bench),
        )


def _seen_out(seen: Seen) -> SeenOut:
    return SeenOut(ask=seen.ask, typed=seen.typed, ok=seen.ok, words=seen.words, said=seen.said)


@blueprint.post(f"{JOB}/bench/steps")
@checked(resp=Response(HTTP_200=StepResult, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def close_step(job_id: int, json: StepIn) -> StepResult:
    """Enter what was seen at a step. Right closes it; not right opens the remedy and reopens what
    rests on it.

    With a ``departure`` (a written reason) a step that is not right is closed as it is.
    """
    with changing(job_id, json.version) as work:
        done = jobs.close_step(work, json.step, json.answers, json.departure)
        is_closed = done.closing.is_closed
        return StepResult(
            version=work.job.version,
            closed=is_closed,
            seen=[_seen_out(s) for s in done.closing.seen],
            remedy="" if is_closed else done.closing.step.remedy,
            reopened=done.reopened,
        )


@blueprint.post(f"{JOB}/bench/reopen")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def reopen_step(job_id: int, json: ReopenIn) -> Changed:
    """Open a closed step again, with a reason; all that rests on it opens with it, and proof taken
    since counts no more.
    """
    with changing(job_id, json.version) as work:
        return changed(work, jobs.reopen_step(work, json.step, json.reason))
