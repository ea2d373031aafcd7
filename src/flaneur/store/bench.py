"""Answers given at the bench."""

from typing import Any

from sqlalchemy import select
from sqlmodel import Session, col

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.tally import Answered
from flaneur.store.tables import BenchRecord


def answers_of(session: Session, job_id: int) -> list[Answered]:
    """Every answer of a job's bench, oldest first, reopened ones included."""
    r = BenchRecord
    columns = (r.id, r.step, r.seen, r.right, r.departure, r.done_by, r.done_at, r.reopened)
    query = select(*map(col, columns)).where(col(r.job_id) == job_id).order_by(col(r.id))
    return [_answered(*row) for row in session.execute(query)]


def _answered(key: int, step: str, seen: list[dict[str, Any]], *rest: Any) -> Answered:
    return Answered(key, step, tuple(Seen.model_validate(s) for s in seen), *rest)
