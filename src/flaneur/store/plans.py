"""Plans as jobs keep them. A plan is large and hardly ever changes: to look at a job it stays in
the database, and what is asked for is its digest; only a plan that is not known is fetched.
"""

from contextlib import suppress
from typing import Any

from sqlalchemy import Text, cast, func, inspect
from sqlalchemy.exc import NoResultFound
from sqlalchemy.orm import defer, object_session
from sqlmodel import Session, col, select

from flaneur.core.plan.plan import Plan
from flaneur.store.depot import knows_book
from flaneur.store.lately import Lately
from flaneur.store.tables import Book, Job

DIGESTS = "plan digests"  # of a session: by the jobs it looked at
KEPT = 128
_PLAN: Any = Job.plan  # as SQLAlchemy sees it
_PLAN_DIGEST: Any = func.md5(func.nullif(cast(_PLAN, Text), "null"))

_PARSED: Lately[str, Plan | None] = Lately(KEPT)


def look_at(session: Session, *which: Any) -> list[Job]:
    """Jobs to look at, oldest first, each with its book known and its plan left in the database."""
    asked = select(Job, Book.sha256, _PLAN_DIGEST).join(Book, col(Book.id) == Job.book_id)
    asked = asked.where(*which)
    found = list[Job]()
    digests: dict[int, str] = session.info.setdefault(DIGESTS, {})
    for job, book, plan in session.exec(asked.order_by(col(Job.id)).options(defer(_PLAN))):
        knows_book(session, job.book_id, book)
        digests[job.id or 0] = plan or ""
        found.append(job)
    return found


def has_plan(job: Job) -> bool:
    """Whether anything was chosen for a job."""
    digest = _digest(job)
    return bool(job.plan) if digest is None else bool(digest)


def plan_of(job: Job) -> Plan | None:
    """The plan of a job; None before anything was chosen."""
    digest, session = _digest(job), object_session(job)
    if digest == "":
        return None
    if digest is not None and session is not None:
        # The plan of that digest and no other: somebody may have chosen anew since it was asked.
        asked = select(_PLAN).where(Job.id == job.id, digest == _PLAN_DIGEST)
        with suppress(NoResultFound):
            return _PARSED.of(digest, lambda: _parsed(session.execute(asked).scalar_one()))
    return _parsed(job.plan)


def _parsed(plan: dict[str, Any] | None) -> Plan | None:
    return Plan.model_validate(plan) if plan else None


def _digest(job: Job) -> str | None:
    """Digest of a plan that was left in the database, empty where there is none; None for one that
    is here: it may have been written anew.
    """
    session = object_session(job)
    if session is None or "plan" not in inspect(job).unloaded:
        return None
    return session.info.get(DIGESTS, {}).get(job.id)
