"""Answers given at the bench."""

from collections import defaultdict
from collections.abc import Callable, Sequence
from typing import Any

from sqlalchemy import select
from sqlmodel import Session, col

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.tally import Answered
from flaneur.store.tables import BenchRecord


def answers_of(session: Session, job_id: int) -> list[Answered]:
    """Every answer of a job's bench, oldest first, reopened ones included."""
    return answers_of_each(session, [job_id])(job_id)


def answers_of_each(session: Session, job_ids: Sequence[int]) -> Callable[[int], list[Answered]]:
    """Every answer of the bench of each of these jobs, asked for in one go. What is kept of a job
    is looked at when that job is asked for, so that a broken record concerns no other.
    """
    r = BenchRecord
    columns = (r.job_id, r.id, r.step, r.seen, r.right, r.departure, r.done_by, r.done_at)
    query = select(*map(col, (*columns, r.reopened))).where(col(r.job_id).in_(job_ids))
    kept: defaultdict[int, list[Any]] = defaultdict(list)
    for job_id, *row in session.execute(query.order_by(col(r.id))):
        kept[job_id].append(row)
    return lambda job_id: [_answered(*row) for row in kept[job_id]]


def _answered(key: int, step: str, seen: list[dict[str, Any]], *rest: Any) -> Answered:
    return Answered(key, step, tuple(Seen.model_validate(s) for s in seen), *rest)
