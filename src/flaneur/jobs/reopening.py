"""Opening steps again: what rests on them opens too, and what was proven of the engine since counts
no more.
"""

from collections.abc import Iterable
from typing import Any

from sqlmodel import Session, col, select

from flaneur.core.bench.tally import Tally
from flaneur.core.book.ways import on_ways
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.plan.order import dependents
from flaneur.jobs.work import Work
from flaneur.store.jobs import hands_of
from flaneur.store.plans import plan_of
from flaneur.store.readings import readings_of, restore
from flaneur.store.tables import BenchRecord, Job, ReadingRow


def resting_on(work: Work, step: str) -> set[str]:
    """Steps of the job's plan that rest on ``step``."""
    plan = plan_of(work.job)
    return (
        dependents(on_ways(work.book, tuple(plan.ways)), plan.scope, step, plan.kept)
        if plan
        else set()
    )


def reopen(work: Work, bench: Tally, steps: Iterable[str], why: str) -> dict[str, Any]:
    """Open steps again. Proof taken since the bench was done (turns by hand, readings after the
    repair) counts no more.

    Gives what the journal must keep to take it back: ids of records and readings, and what the
    turns by hand were.
    """
    session, job, wanted = work.session, work.job, set(steps)
    opened = [row.id for ref, row in bench.done.items() if ref in wanted]
    _mark(session, opened, is_reopened=True)
    if not opened:
        return {"reopened": [], "unproven": [], "hands_before": None}
    hands = hands_of(job)
    before = dict(job.hands) if hands != hands.anew() else None
    job.hands = hands.anew().model_dump(mode="json") if job.hands else {}
    proof: list[ReadingRow] = [
        r
        for r in readings_of(session, work.job_id, Phase.AFTER)
        if r.struck is None and r.kind in (ReadingKind.CAM, ReadingKind.MARK_MISS)
    ]
    for reading in proof:
        reading.struck = f"the engine was opened again: {why}"[:400]
        session.add(reading)
    return {"reopened": opened, "unproven": [r.id for r in proof], "hands_before": before}


def close_again(session: Session, job: Job, data: dict[str, Any]) -> None:
    """Take an opening back: the records, readings and turns by hand that it set aside count
    again.
    """
    _mark(session, data.get("reopened", []), is_reopened=False)
    restore(session, data.get("unproven", []))
    if data.get("hands_before") is not None:
        job.hands = dict(data["hands_before"])


def _mark(session: Session, records: list[int], is_reopened: bool) -> None:
    for row in session.exec(select(BenchRecord).where(col(BenchRecord.id).in_(records))):
        row.reopened = is_reopened
        session.add(row)
