"""Opening steps again: what rests on them opens too, and what was proven of the engine since counts
no more.
"""

from collections.abc import Iterable
from typing import Any

from sqlmodel import Session, col, select

from flaneur.core.plan.order import dependents
from flaneur.store.depot import book_of
from flaneur.store.jobs import Bench, hands_of, plan_of
from flaneur.store.readings import readings_of, restore
from flaneur.store.tables import BenchRecord, Job, ReadingRow


def resting_on(session: Session, job: Job, step: str) -> set[str]:
    """Steps of the job's plan that rest on ``step``."""
    plan = plan_of(job)
    return dependents(book_of(session, job.book_id), plan.scope, step) if plan else set()


def reopen(
    session: Session, job: Job, bench: Bench, steps: Iterable[str], why: str
) -> dict[str, Any]:
    """Open steps again. Proof taken since the bench was done (turns by hand, readings after the
    repair) counts no more.

    Gives what the journal must keep to take it back: ids of records and readings, and what the
    turns by hand were.
    """
    opened = [row for ref, row in bench.done.items() if ref in set(steps)]
    for row in opened:
        row.reopened = True
        session.add(row)
    if not opened:
        return {"reopened": [], "unproven": [], "hands_before": None}
    hands = hands_of(job)
    before = dict(job.hands) if hands != hands.anew() else None
    job.hands = hands.anew().model_dump(mode="json") if job.hands else {}
    proof: list[ReadingRow] = [
        r
        for r in readings_of(session, job.id or 0, "after")
        if r.struck is None and r.kind == "cam"
    ]
    for reading in proof:
        reading.struck = f"the engine was opened again: {why}"[:400]
        session.add(reading)
    return {
        "reopened": [r.id for r in opened],
        "unproven": [r.id for r in proof],
        "hands_before": before,
    }


def close_again(session: Session, job: Job, data: dict[str, Any]) -> None:
    """Take an opening back: the records, readings and turns by hand that it set aside count
    again.
    """
    for row in session.exec(
        select(BenchRecord).where(col(BenchRecord.id).in_(data.get("reopened", [])))
    ):
        row.reopened = False
        session.add(row)
    restore(session, data.get("unproven", []))
    if data.get("hands_before") is not None:
        job.hands = dict(data["hands_before"])
