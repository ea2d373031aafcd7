"""What this shop's closed jobs say of how parts wear: measured on the parts that came out."""

from collections.abc import Iterable
from functools import lru_cache

from pydantic import TypeAdapter

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.learned import learned_from
from flaneur.core.diagnosis.methods import learned_errors
from flaneur.core.measuring.kinds import MEASURED_OFF
from flaneur.core.readings.counting import for_diagnosis, known_hours
from flaneur.core.readings.renewed import latest, renewed_before, told_replaced
from flaneur.core.readings.taken import Learned, LearnedErrors, Readings
from flaneur.core.readings.tests import Replaced
from flaneur.jobs.work import Work
from flaneur.store.jobs import signed_like, signed_on
from flaneur.store.readings import readings_of_each
from flaneur.store.tables import Job
from flaneur.store.trend import missed_before

MOST_JOBS, KEPT = 200, 64
_MANY: TypeAdapter[list[Readings]] = TypeAdapter(list[Readings])


def learned_for(work: Work) -> list[Learned]:
    """How parts wear in engines of this job's book, by the jobs signed before it was opened: what a
    job was judged by stays as it was.
    """
    closed = {job.id or 0: job for job in signed_like(work.session, work.job, MOST_JOBS)}
    # What an older edition of the book called otherwise says nothing here.
    known = {*work.book.chains, *work.book.guides, *work.book.arms}
    found = readings_of_each(work.session, list(closed), MEASURED_OFF).items()
    measured = {
        key: those for key, rows in found if (those := [r for r in rows if r.part in known])
    }
    if not measured:
        return []
    signed = signed_on(work.session, {closed[key].engine_id for key in measured})
    every = [
        for_diagnosis(
            work.book, rows, closed[key].intake, {}, more=put_in_before(work, closed[key], signed)
        )
        for key, rows in measured.items()
    ]
    return _learned(work.book, _MANY.dump_json(every))


def errors_for(work: Work) -> list[LearnedErrors]:
    """How much readings err in this shop, by the jobs signed before this one was opened."""
    return learned_errors(missed_before(work.session, work.book.name, work.job, MOST_JOBS))


def put_in_before(work: Work, job: Job, signed: Iterable[Job]) -> list[Replaced]:
    """What earlier ones of the signed jobs put into a job's engine, by the hours of both, and what
    was said to have been put in elsewhere.
    """
    earlier = [
        (known_hours(done.intake), (done.plan or {}).get("renewed", []))
        for done in signed
        if done.engine_id == job.engine_id and (done.id or 0) < (job.id or 0)
    ]
    hours = known_hours(job.intake)
    told = told_replaced(work.book, job.intake, hours)
    return latest([*told, *renewed_before(work.book, hours, earlier)])


@lru_cache(maxsize=KEPT)
def _learned(book: EngineBook, closed: bytes) -> list[Learned]:
    return learned_from(book, _MANY.validate_json(closed))
