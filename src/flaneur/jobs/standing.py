"""Where a job stands: its plan, its bench, its turning by hand, and what comes next."""

import logging
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlmodel import Session

from flaneur.core.bench.inside import Laid
from flaneur.core.bench.tally import Answered, Tally, tally
from flaneur.core.errors import FlaneurError
from flaneur.core.job.agreement import Agreed
from flaneur.core.job.progress import SIGNED, JobStage, NextAction, job_facts, next_action
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.measuring.marks import Miss, judge_miss, shaft_of
from flaneur.core.plan.plan import Plan
from flaneur.core.proof.check import Check
from flaneur.core.proof.hands import HandTurns
from flaneur.core.proof.left_in import wear_left_deg
from flaneur.core.proof.release import checks_of
from flaneur.core.proof.shown import missed_at_bench, proven_at, with_bench
from flaneur.core.proof.starting import InTheWay, before_start
from flaneur.core.readings.counting import cam_readings, counting
from flaneur.jobs.judging import verdict_of
from flaneur.jobs.work import Work
from flaneur.store.bench import answers_of, answers_of_each, laid_of, laid_of_each
from flaneur.store.depot import book_of
from flaneur.store.jobs import agreed_of_each, hands_of
from flaneur.store.plans import has_plan, plan_of
from flaneur.store.readings import readings_of, readings_of_each
from flaneur.store.tables import Job, ReadingRow

log = logging.getLogger(__name__)


@dataclass(frozen=True)
class Standing:
    """Where a job stands, read once."""

    plan: Plan | None
    bench: Tally
    hands: HandTurns
    readings: list[ReadingRow]
    next: NextAction


def bench_of(session: Session, job: Job) -> Tally:
    """What is closed and what is in the engine, from the answers given."""
    key = job.id or 0
    return tally(answers_of(session, key), laid_of(session, key))


def standing(session: Session, job: Job) -> Standing:
    """All of where a job stands."""
    key = job.id or 0
    agreed = agreed_of_each(session, _asking([job])).get(key)
    bench = bench_of(session, job)
    return _standing(session, job, bench, readings_of(session, key), agreed)


def _standing(
    session: Session,
    job: Job,
    bench: Tally,
    readings: list[ReadingRow],
    agreed: Agreed | None,
) -> Standing:
    plan, book = plan_of(job), book_of(session, job.book_id)
    hands = with_bench(book, plan, bench, hands_of(job))
    facts = job_facts(
        book,
        turned_since(readings, proven_at(book, plan, bench)),
        plan,
        bench,
        hands,
        job.intake,
        agreed,
        is_started=job.bench_started,
        is_released=job.released_by is not None,
        is_signed=job.signed_at is not None,
        is_ended=job.ended is not None,
    )
    return Standing(plan, bench, hands, readings, next_action(facts))


def next_of_each(session: Session, jobs: Sequence[Job]) -> dict[int, NextAction]:
    """What comes next in each of these jobs, asked for in as many queries as for one."""
    open_ids = [job.id or 0 for job in jobs if job.signed_at is None]
    answers, readings = answers_of_each(session, open_ids), readings_of_each(session, open_ids)
    agreed, laid = agreed_of_each(session, _asking(jobs)), laid_of_each(session, open_ids)
    return {job.id or 0: _next(session, job, answers, laid, readings, agreed) for job in jobs}


def _asking(jobs: Sequence[Job]) -> list[int]:
    """Jobs that wait for the owner's yes or have it: planned, and not begun."""
    return [job.id or 0 for job in jobs if not job.bench_started and has_plan(job)]


def _next(
    session: Session,
    job: Job,
    answers: Callable[[int], list[Answered]],
    laid: Mapping[int, list[Laid]],
    readings: Mapping[int, list[ReadingRow]],
    agreed: Mapping[int, Agreed],
) -> NextAction:
    """What comes next; a job whose record cannot be read stands in its lane and says so, and stops
    nobody else.
    """
    if job.signed_at:
        return SIGNED
    key = job.id or 0
    try:
        bench = tally(answers(key), laid[key])
        return _standing(session, job, bench, readings[key], agreed.get(key)).next
    except (FlaneurError, ValueError, TypeError, KeyError, AttributeError) as error:
        log.warning("job %s cannot be read: %s", job.number, str(error).splitlines()[0])
        return NextAction(
            JobStage.INTAKE,
            "This job's record cannot be read. A lead takes its file out and looks.",
            "Look at the job",
        )


@dataclass(frozen=True)
class Proof:
    """What is proven of a job: turning by hand with what the bench has shown, and every condition
    of release.
    """

    plan: Plan | None
    bench: Tally
    hands: HandTurns
    misses: list[Miss]
    checks: list[Check]

    @property
    def in_the_way(self) -> list[InTheWay]:
        """What stands between the engine and its starter."""
        return before_start(self.plan, self.bench, self.hands, self.checks)


def proof_of(work: Work) -> Proof:
    """All of it, read once."""
    plan, bench, book = plan_of(work.job), bench_of(work.session, work.job), work.book
    hands = with_bench(book, plan, bench, hands_of(work.job))
    after = counting(readings_of(work.session, work.job_id), Phase.AFTER)
    read = cam_readings(turned_since(after, proven_at(book, plan, bench)))
    misses = _misses(work, plan, after)
    typed = not all(hands_of(work.job).marks.values())
    missed = None if typed else missed_at_bench(book, plan, bench)
    checks = checks_of(book, plan, bench, hands, read, misses, missed)
    return Proof(plan, bench, hands, misses, checks)


def _misses(work: Work, plan: Plan | None, after: Sequence[ReadingRow]) -> list[Miss]:
    """Marks whose miss was measured of the repaired engine, the newest of each, judged by the wear
    that was left. They are read while it is turned: opening it again strikes them.
    """
    book = work.book
    newest = {r.part: r for r in after if r.kind == ReadingKind.MARK_MISS and r.part in book.marks}
    if not newest:
        return []
    renewed = plan.renewed if plan else []
    left = wear_left_deg(book, verdict_of(work, with_evidence=False).wear, renewed)
    return [
        judge_miss(book, r.part, r.value, r.stderr or 0.0, left[shaft_of(book, book.marks[r.part])])
        for r in newest.values()
        if r.value is not None
    ]


def turned_since(rows: Sequence[ReadingRow], proven: datetime | None) -> list[ReadingRow]:
    """Readings as they count for the proof: of the repaired engine only what was read since it was
    turned by hand.
    """
    return [r for r in rows if r.phase != Phase.AFTER or proven is None or r.taken_at >= proven]
