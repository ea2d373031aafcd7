"""Answers given at the bench."""

from sqlmodel import Session, col, select

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.tally import Answered
from flaneur.store.tables import BenchRecord


def answers_of(session: Session, job_id: int) -> list[Answered]:
    """Every answer of a job's bench, oldest first, reopened ones included."""
    rows = session.exec(
        select(BenchRecord).where(BenchRecord.job_id == job_id).order_by(col(BenchRecord.id))
    )
    return [_answered(row) for row in rows]


def _answered(row: BenchRecord) -> Answered:
    return Answered(
        id=row.id or 0,
        step=row.step,
        seen=tuple(Seen.model_validate(s) for s in row.seen),
        is_right=row.right,
        departure=row.departure,
        by=row.done_by,
        at=row.done_at,
        is_reopened=row.reopened,
    )
