"""Answers given at the bench, what was laid into the engine by hand, and shifts handed over."""

from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from sqlalchemy import select
from sqlmodel import Session, col

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.inside import Laid, LaidPiece
from flaneur.core.bench.tally import Answered
from flaneur.core.bench.within import Event, EventKind
from flaneur.store.asked import asked_once
from flaneur.store.tables import BenchEvent, BenchRecord, PutIn, SecondLook, Shift


@asked_once
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


@asked_once
def laid_of(session: Session, job_id: int) -> list[Laid]:
    """Every line of the count of what was laid into a job's engine by hand, oldest first."""
    return laid_of_each(session, [job_id])[job_id]


def laid_of_each(session: Session, job_ids: Sequence[int]) -> Mapping[int, list[Laid]]:
    """The same of each of these jobs, asked for in one go."""
    found: defaultdict[int, list[Laid]] = defaultdict(list)
    query = select(PutIn).where(col(PutIn.job_id).in_(job_ids)).order_by(col(PutIn.id))
    for row in session.scalars(query):
        found[row.job_id].append(Laid(LaidPiece(row.piece), row.place, row.count, row.by, row.at))
    return found


@asked_once
def shifts_of(session: Session, job_id: int) -> list[Shift]:
    """How often a job was handed over, the newest last."""
    query = select(Shift).where(col(Shift.job_id) == job_id).order_by(col(Shift.id))
    return list(session.scalars(query))


def looks_of(session: Session, job_id: int) -> list[SecondLook]:
    """Second looks asked for in a job, oldest first."""
    query = select(SecondLook).where(col(SecondLook.job_id) == job_id).order_by(col(SecondLook.id))
    return list(session.scalars(query))


@asked_once
def events_of(session: Session, job_id: int) -> list[Event]:
    """What happened within the steps of a job, oldest first, without what was taken back."""
    e = BenchEvent
    query = select(e).where(col(e.job_id) == job_id, ~col(e.is_struck)).order_by(col(e.id))
    rows = session.scalars(query)
    return [
        Event(r.step, r.answered, EventKind(r.kind), r.item, r.number, r.by, r.at) for r in rows
    ]
