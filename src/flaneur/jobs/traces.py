"""Torque–angle traces of a step's bolts: kept, judged beside each other, held against closing."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlmodel import col, select

from flaneur.core.bench.closing import step_of
from flaneur.core.bench.within import EventKind, bolts_of
from flaneur.core.errors import ErrorCode, StepError
from flaneur.core.fasteners.judging import Judged, Program, judge
from flaneur.core.fasteners.trace import Trace
from flaneur.core.plan.steps import PlanStep
from flaneur.core.wording import counted
from flaneur.formats.traces import read_trace, write_trace
from flaneur.jobs.fitted import bench_plan
from flaneur.jobs.within import must_be_open, seen_by_all, times_answered
from flaneur.jobs.work import Work
from flaneur.store.changes import NotFound
from flaneur.store.tables import BenchEvent


@dataclass(frozen=True)
class Tightened:
    """One bolt's trace with how it was judged beside those of the same step."""

    id: int
    fastener: str
    bolt: int
    by: str
    at: datetime
    trace: Trace
    judged: Judged


def keep_trace(
    work: Work, ref: str, answered: int, fastener: str, bolt: int, content: str
) -> list[Tightened]:
    """Keep the trace of a bolt in place of an earlier one; all of the step, judged anew. Raises
    StepError, CaptureError or ReadingError for one that cannot be read.
    """
    step = step_of(bench_plan(work), ref)
    must_be_open(work, step, answered)
    count = bolts_of(step, fastener)
    if not 1 <= bolt <= count:
        raise StepError(
            "The step has no such bolt.", read=f"{fastener} {bolt}", expected=f"1 to {count}"
        )
    read = read_trace(content, f"bolt {bolt}")
    for old in _kept(work, ref, answered):
        if (old.item, old.number) == (fastener, bolt):
            old.is_struck = True
            work.session.add(old)
    work.session.flush()
    work.session.add(
        BenchEvent(
            job_id=work.job_id,
            step=ref,
            answered=answered,
            kind=EventKind.TRACE,
            item=fastener,
            number=bolt,
            data={"csv": write_trace(read)},
            by=work.by,
        )
    )
    seen_by_all(work)
    return traces_of(work, step)


def _kept(work: Work, ref: str, answered: int) -> Sequence[BenchEvent]:
    e = BenchEvent
    return work.session.exec(
        select(e)
        .where(e.job_id == work.job_id, e.step == ref, e.answered == answered)
        .where(e.kind == EventKind.TRACE, ~col(e.is_struck))
        .order_by(e.item, col(e.number))
    ).all()


def traces_of(work: Work, step: PlanStep) -> list[Tightened]:
    """The traces of a step since it was answered last, those of one fastener judged together."""
    return _judged(work, step, times_answered(work, step.ref))


def traces_closed(work: Work, step: PlanStep) -> list[Tightened]:
    """The traces by which a step was answered last."""
    return _judged(work, step, times_answered(work, step.ref) - 1)


def _judged(work: Work, step: PlanStep, answered: int) -> list[Tightened]:
    rows = _kept(work, step.ref, answered)
    found = list[Tightened]()
    for fastener in dict.fromkeys(row.item for row in rows):
        own = [row for row in rows if row.item == fastener]
        stages = [a.stage for a in step.asked if a.stage is not None and a.fastener == fastener]
        traces = [read_trace(row.data["csv"], f"bolt {row.number}") for row in own]
        judged = judge(traces, Program(fastener=fastener, stages=stages))
        found += [
            Tightened(row.id or 0, fastener, row.number, row.by, row.at, trace, one)
            for row, trace, one in zip(own, traces, judged, strict=True)
        ]
    return found


def trace_file(work: Work, trace_id: int) -> tuple[str, str]:
    """A kept trace as its file, and the file's name. Raises NotFound."""
    row = work.session.get(BenchEvent, trace_id)
    if row is None or row.job_id != work.job_id or row.kind != EventKind.TRACE:
        raise NotFound("There is no such trace.", read=str(trace_id))
    return str(row.data["csv"]), f"{work.job.number}-{row.item}-{row.number}.csv"


def bad_bolts(work: Work, step: PlanStep) -> StepError | None:
    """What the traces of a step's bolts say against closing it (code ``step_held``); None where
    they say nothing.
    """
    bad = [t for t in traces_of(work, step) if not t.judged.sound]
    if not bad:
        return None
    words = "; ".join(f"bolt {t.bolt}: {t.judged.words}" for t in bad)
    return StepError(
        f"By the wrench, {counted(len(bad), 'bolt')} not right.",
        read=words[:300],
        expected="every bolt through its program",
        advice="Take it out, look at it and its thread, and tighten it again by its stages.",
        code=ErrorCode.STEP_HELD,
    )
