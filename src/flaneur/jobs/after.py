"""After a job: what is due on its unit, and what is added to its signed report."""

from collections.abc import Generator
from contextlib import contextmanager
from datetime import datetime, timedelta

from sqlalchemy import Engine
from sqlmodel import select

from flaneur.core.errors import ReleaseError
from flaneur.core.job.change import Change
from flaneur.core.job.ending import Ending, ending_words
from flaneur.core.job.ending import must_fit as must_end
from flaneur.core.job.following import (
    TITLES,
    FollowKind,
    Outcome,
    must_fit,
    outcome_words,
)
from flaneur.core.people import Person
from flaneur.core.plan.steps import PlanStep
from flaneur.core.proof.retest import due_at
from flaneur.core.record.canonical import canonical
from flaneur.formats.archive.seal import AddendumStatement, public_key_of, sign_text
from flaneur.jobs.work import Work
from flaneur.store.after import addenda_of
from flaneur.store.changes import NotFound
from flaneur.store.database import transaction
from flaneur.store.depot import book_of
from flaneur.store.exporting import report_of
from flaneur.store.tables import Addendum, FollowUp, Job, JournalEntry, now


@contextmanager
def even_signed(engine: Engine, job_id: int, person: Person) -> Generator[Work]:
    """A job held by its row, signed or not, to put something beside it. Raises NotFound."""
    with transaction(engine, person) as session:
        query = select(Job).where(Job.id == job_id).with_for_update(key_share=True)
        job = session.exec(query.execution_options(populate_existing=True)).first()
        if job is None:
            raise NotFound("There is no such job.", read=str(job_id), advice="Go to the yard.")
        yield Work(session, job, book_of(session, job.book_id), person)


def cold_start_is_due(work: Work, step: PlanStep) -> FollowUp:
    """Keep the cold start that was left for later as what is due on the unit."""
    return _due(work, FollowKind.COLD_START, step.text, due_at(step, now()))


def _due(work: Work, kind: FollowKind, words: str, at: datetime) -> FollowUp:
    row = FollowUp(job_id=work.job_id, kind=kind, words=words, due_at=at, made_by=work.by)
    work.session.add(row)
    work.session.flush()
    return row


def end(
    work: Work, ending: Ending, reason: str, again_in_days: int | None, at_hours: str
) -> JournalEntry:
    """End a job without a repair. An engine that is left is due to be measured again. Raises
    StepError.
    """
    must_end(ending, reason, again_in_days, work.job.bench_started)
    work.job.ended, work.job.ended_why = ending, reason.strip()
    if again_in_days is not None:
        at = f" At {at_hours.strip()}." if at_hours.strip() else ""
        _due(
            work,
            FollowKind.REMEASURE,
            f"Left as it was: {reason.strip().rstrip('.')}.{at}",
            now() + timedelta(days=again_in_days),
        )
    return work.record(Change.ENDED, ending_words(ending, reason))


def answer(work: Work, key: int, outcome: Outcome, note: str, pem: str, depot: str) -> str:
    """Say what came of something due: into the notebook, or beside a signed report as an addition
    to it. What was said, in words. Raises NotFound and StepError.
    """
    row = work.session.get(FollowUp, key)
    if row is None or row.job_id != work.job_id:
        raise NotFound("Nothing like that is due.", read=str(key), advice="Look at the job again.")
    kind = FollowKind(row.kind)
    must_fit(kind, outcome, note, is_open=row.outcome is None)
    row.outcome, row.note = outcome, note.strip()
    row.done_by, row.done_at = work.by, now()
    work.session.add(row)
    words = outcome_words(kind, outcome, note)
    if work.job.signed_at is None:
        work.record(Change.FOLLOWED, words)
    else:
        add(work, words, pem, depot)
    return words


def add(work: Work, text: str, pem: str, depot: str) -> Addendum:
    """Add to a signed report, signed by itself with the depot's key. The report stays as it is.
    Raises ReleaseError for a job that is not signed.
    """
    report = report_of(work.session, work.job)
    if report is None:
        raise ReleaseError(
            "There is no signed report to add to.",
            read=work.job.number,
            expected="a signed job",
            advice="Write it into the job itself.",
        )
    statement = AddendumStatement(
        depot=depot,
        number=work.job.number,
        head=report.head,
        place=len(addenda_of(work.session, work.job_id)) + 1,
        text=text.strip(),
        by=work.by,
        at=now(),
    )
    row = Addendum(
        job_id=work.job_id,
        place=statement.place,
        text=statement.text,
        by=statement.by,
        at=statement.at,
        statement=statement.model_dump(mode="json"),
        signature=sign_text(pem, canonical(statement.model_dump())),
        public_key=public_key_of(pem),
    )
    work.session.add(row)
    work.session.flush()
    return row


def title_of(row: FollowUp) -> str:
    """What is due, in words."""
    return TITLES[FollowKind(row.kind)]
