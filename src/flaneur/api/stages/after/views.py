"""After a job: what is due on its unit, and additions to its signed report."""

from flask import Blueprint
from flask import Response as Raw
from flask_login import current_user
from spectree import Response

from flaneur.api.models import Changed, ErrorOut
from flaneur.api.security import address, may_here, person
from flaneur.api.shop import shop_of
from flaneur.api.spec import checked
from flaneur.api.stages.after.models import (
    AddendumOut,
    AddIn,
    AfterOut,
    DueLine,
    DueOut,
    EndIn,
    FollowedIn,
    FollowUpOut,
)
from flaneur.api.work import JOB, changed, changing, database, reading, signing_key
from flaneur.core.choices import Choice, choices
from flaneur.core.job.ending import Ending, ending_words
from flaneur.core.job.following import OUTCOME_WORDS, OUTCOMES, FollowKind, Outcome, due_words
from flaneur.formats.calendar import Due, to_calendar
from flaneur.jobs import after
from flaneur.jobs.accounts import check_password
from flaneur.jobs.work import Work
from flaneur.store.after import addenda_of, follow_ups_of, open_follow_ups
from flaneur.store.database import transaction
from flaneur.store.tables import FollowUp, now

blueprint = Blueprint("after", __name__)


@blueprint.get(f"{JOB}/after")
@checked(resp=Response(HTTP_200=AfterOut))
def get_after(job_id: int) -> AfterOut:
    """What is or was due after a job, and what was added to its report."""
    with reading(job_id) as work:
        return _after(work)


def _after(work: Work) -> AfterOut:
    return AfterOut(
        follow_ups=[_due_out(row) for row in follow_ups_of(work.session, work.job_id)],
        addenda=[
            AddendumOut(place=a.place, text=a.text, by=a.by, at=a.at, signature=a.signature)
            for a in addenda_of(work.session, work.job_id)
        ],
        may_add=work.job.signed_at is not None and may_here("after.add"),
        ended=ending_words(Ending(work.job.ended), work.job.ended_why or "")
        if work.job.ended
        else None,
        endings=list(choices(Ending)),
        may_end=not (work.job.bench_started or work.job.ended or work.job.signed_at),
        unit_id=work.job.unit_id,
    )


def _due_out(row: FollowUp) -> FollowUpOut:
    kind = FollowKind(row.kind)
    return FollowUpOut(
        id=row.id or 0,
        kind=kind,
        title=after.title_of(row),
        words=row.words,
        due_at=row.due_at,
        due=due_words(row.due_at, now()),
        is_due=row.due_at <= now(),
        outcome=Outcome(row.outcome) if row.outcome else None,
        outcomes=[Choice(o, OUTCOME_WORDS[o]) for o in OUTCOMES[kind]],
        note=row.note,
        done_by=row.done_by,
        done_at=row.done_at,
    )


@blueprint.post(f"{JOB}/after/follow-up")
@checked(resp=Response(HTTP_200=AfterOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut))
def followed(job_id: int, json: FollowedIn) -> AfterOut:
    """Say what came of something due. Beside a signed report it becomes an addition to it, signed
    with the depot's key.
    """
    pem = signing_key()
    with after.even_signed(database(), job_id, person()) as work:
        depot = shop_of(work.session).name
        after.answer(work, json.id, json.outcome, json.note, pem, depot)
        return _after(work)


@blueprint.post(f"{JOB}/after/addenda")
@checked(resp=Response(HTTP_200=AfterOut, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def add(job_id: int, json: AddIn) -> AfterOut:
    """Add to a signed report, signed with one's password and the depot's key. The report stays as
    it was signed.
    """
    pem = signing_key()
    check_password(database(), str(current_user.login), json.password, address())
    with after.even_signed(database(), job_id, person()) as work:
        after.add(work, json.text, pem, shop_of(work.session).name)
        return _after(work)


@blueprint.post(f"{JOB}/after/end")
@checked(resp=Response(HTTP_200=Changed, HTTP_409=ErrorOut, HTTP_422=ErrorOut))
def end(job_id: int, json: EndIn) -> Changed:
    """End a job without a repair: neither plan nor proof is asked for, and its report says why."""
    with changing(job_id, json.version) as work:
        days, hours = json.again_in_days, json.at_hours
        return changed(work, after.end(work, json.ending, json.reason, days, hours))


@blueprint.get("/api/due")
@checked(resp=Response(HTTP_200=DueOut))
def get_due() -> DueOut:
    """Everything that is due and not answered, the earliest first."""
    with transaction(database()) as session:
        return DueOut(
            dues=[
                DueLine(
                    job_id=job.id or 0,
                    number=job.number,
                    unit=unit.name,
                    tag=unit.tag,
                    title=after.title_of(row),
                    words=row.words,
                    due=due_words(row.due_at, now()),
                    is_due=row.due_at <= now(),
                )
                for row, job, unit in open_follow_ups(session)
            ]
        )


@blueprint.get("/api/due.ics")
def calendar() -> Raw:
    """The same as a calendar."""
    with transaction(database()) as session:
        depot = shop_of(session).name
        dues = [
            Due(
                uid=f"follow-up-{row.id}@{job.number}",
                title=f"{unit.tag}: {after.title_of(row)}",
                words=f"Job {job.number}. {row.words}",
                place=unit.place or unit.name,
                at=row.due_at,
            )
            for row, job, unit in open_follow_ups(session)
        ]
    return Raw(to_calendar(depot, dues, now()), mimetype="text/calendar")
