"""The bench: one step at a time, closed by what was seen."""

from collections import Counter
from datetime import datetime

from flask import Blueprint, request
from spectree import Response

from flaneur.api.errors import InvalidInput
from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut, HardStopOut
from flaneur.api.security import require
from flaneur.api.spec import checked
from flaneur.api.stages.bench.hands import hands_on
from flaneur.api.stages.bench.models import (
    BenchOut,
    HappenedOut,
    LeverIn,
    NotAfterAll,
    RecordOut,
    ReopenIn,
    SeenOut,
    Standing,
    StepIn,
    StepResult,
    WithinIn,
)
from flaneur.api.work import JOB, changed, changing, reading
from flaneur.core.bench.answers import Seen
from flaneur.core.bench.later import Later, by_our_clock
from flaneur.core.book.units import parse_quantity
from flaneur.core.proof.shown import counted_out
from flaneur.core.proof.stopping import standing_view
from flaneur.core.proof.turning import may_stand_alone
from flaneur.core.stores import setting
from flaneur.core.stores.setting import WrenchSet
from flaneur.jobs import bench as jobs
from flaneur.jobs import within
from flaneur.jobs.agreeing import go_by
from flaneur.jobs.fitted import bench_plan
from flaneur.jobs.standing import bench_of
from flaneur.jobs.stores import today
from flaneur.store.bench import events_of
from flaneur.store.jobs import hands_of
from flaneur.store.stores import stores_of
from flaneur.store.tables import now

blueprint = Blueprint("bench", __name__)
SENT_HEADER = "X-Sent-At"


@blueprint.get(f"{JOB}/bench")
@kept_while_unchanged()
@checked(resp=Response(HTTP_200=BenchOut))
def get_bench(job_id: int) -> BenchOut:
    """Steps of the plan and what has been recorded of them."""
    with reading(job_id) as work:
        plan, bench = bench_plan(work), bench_of(work.session, work.job)
        hands = hands_of(work.job)
        times = Counter(r.step for r in bench.records)
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
            occurrences=times,
            pins_in=bench.pins_in,
            pins_left=max(0, bench.pins_in - counted_out(bench)),
            go_by=go_by(work),
            is_started=work.job.bench_started,
            is_stopped=hands.is_stopped,
            stops=[HardStopOut.of(stop) for stop in hands.stops],
            stop=standing_view(work.book, plan, bench, hands),
            cause_needs_step=not may_stand_alone(bench),
            within=[
                HappenedOut(**{k: getattr(e, k) for k in HappenedOut.model_fields})
                for e in events_of(work.session, job_id)
                if e.answered == times[e.step]
            ],
            **hands_on(work, plan, bench),
        )


def _seen_out(seen: Seen) -> SeenOut:
    return SeenOut(ask=seen.ask, typed=seen.typed, ok=seen.ok, words=seen.words, said=seen.said)


@blueprint.post(f"{JOB}/bench/steps")
@checked(resp=Response(HTTP_200=StepResult, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def close_step(job_id: int, json: StepIn) -> StepResult:
    """Enter what was seen at a step. Right closes it; not right opens the remedy and reopens what
    rests on it.

    With a ``departure`` (a lead's written reason) a step that is not right is closed as it is;
    never a whole tooth, nor an open count. What was
    written while the server was away is sent in the order it was written, under the key it was
    given then, with its writer's pen in X-Written-By, and what the tablet's clock shows as it is
    sent in X-Sent-At: a clock that goes wrong does no harm then.
    """
    if json.departure is not None:
        require("act:leave a step that is not right")
    with changing(job_id, json.version) as work:
        at = _ours(json.at)
        later = Later(at, json.answered) if at and json.answered is not None else None
        done = jobs.close_step(work, json.step, json.answers, json.departure, later, json.began)
        is_closed = done.closing.is_closed
        return StepResult(
            version=work.job.version,
            closed=is_closed,
            seen=[_seen_out(s) for s in done.closing.seen],
            remedy="" if is_closed else done.closing.step.remedy,
            reopened=done.reopened,
            means=done.means,
            stays_open_because=done.stays_open_because,
        )


def _ours(said: datetime | None) -> datetime | None:
    """A time by the tablet's clock, by ours. Raises InvalidInput."""
    shown = request.headers.get(SENT_HEADER)
    if said is None or shown is None:
        return said
    try:
        sent = datetime.fromisoformat(shown)
        return by_our_clock(said, sent, now())
    except (ValueError, TypeError) as error:  # no time, or one without its zone
        raise InvalidInput(
            f"{SENT_HEADER} is not a time.", read=shown[:40], expected="2026-11-28T09:30:00Z"
        ) from error


@blueprint.post(f"{JOB}/bench/within")
@checked(resp=Response(HTTP_200=Standing, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def happen(job_id: int, json: WithinIn) -> Standing:
    """Say what happened within a step before it is answered: a bolt brought to its stage, a timer
    begun. Everybody on the job sees it, and it is there after a restart. Written while the server
    was away, it is sent as a step's answer is.
    """
    with changing(job_id, None) as work:
        at = _ours(json.at)
        within.happen(work, json.step, json.answered, json.kind, json.item, json.number, at)
        return Standing(id=job_id, version=work.job.version)


@blueprint.post(f"{JOB}/bench/within/back")
@checked(resp=Response(HTTP_200=Standing, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def take_back(job_id: int, json: NotAfterAll) -> Standing:
    """Take back the last bolt of a stage, or a step's timer."""
    with changing(job_id, None) as work:
        within.take_back(work, json.step, json.kind, json.item)
        return Standing(id=job_id, version=work.job.version)


@blueprint.post(f"{JOB}/bench/wrench")
@checked(resp=Response(HTTP_200=WrenchSet, HTTP_422=ErrorOut))
def set_wrench(job_id: int, json: LeverIn) -> WrenchSet:
    """What to set on a wrench with an adapter on it. Nothing is kept."""
    with reading(job_id) as work:
        wrenches, day = stores_of(work.session).wrenches, today(work.session)
        target = parse_quantity(json.target, "torque").value
        return setting.set_wrench(wrenches, json.wrench, target, json.lever, day)


@blueprint.post(f"{JOB}/bench/reopen")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def reopen_step(job_id: int, json: ReopenIn) -> Changed:
    """Open a closed step again, with a reason; all that rests on it opens with it, and proof taken
    since counts no more.
    """
    with changing(job_id, json.version) as work:
        return changed(work, jobs.reopen_step(work, json.step, json.reason))
