"""The owner's estimate, both go-aheads, and the printed sheets of a plan."""

from flask import Blueprint
from flask import Response as FlaskResponse
from spectree import Response
from sqlmodel import Session

from flaneur.api.heavy import takes_a_while
from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut, VersionIn
from flaneur.api.spec import checked
from flaneur.api.stages.estimate.models import AgreeIn, EstimateOut, GoAheads
from flaneur.api.work import JOB, changed, changing, reading
from flaneur.core.choices import choices
from flaneur.core.job.agreement import Agreeing
from flaneur.formats.report import report_pdf
from flaneur.formats.sheets import SheetKind, sheet_html
from flaneur.jobs import agreeing
from flaneur.jobs.papers import estimate_page, sheet_content
from flaneur.jobs.stores import today
from flaneur.jobs.work import Work
from flaneur.store.jobs import mark_of
from flaneur.store.stores import mark_of_lists

blueprint = Blueprint("estimate", __name__)
SHEET = f"{JOB}/plan/sheets/<any({','.join(SheetKind)}):kind>.pdf"


def _mark(session: Session, job_id: int) -> str:
    """What an estimate rests on: the job, the shop's lists and settings, and the day."""
    return f"{mark_of(session, job_id)} {mark_of_lists(session)} {today(session)}"


@blueprint.get(f"{JOB}/plan/estimate")
@kept_while_unchanged(_mark)
@takes_a_while
@checked(resp=Response(HTTP_200=EstimateOut, HTTP_422=ErrorOut))
def get_estimate(job_id: int) -> EstimateOut:
    """The estimate of the plan that is kept, and whether the owner said yes."""
    with reading(job_id) as work:
        page = estimate_page(work)
        return EstimateOut(**page.__dict__, go=_go_aheads(work))


@blueprint.get(f"{JOB}/plan/go")
@checked(resp=Response(HTTP_200=GoAheads))
def get_go(job_id: int) -> GoAheads:
    """Both go-aheads as they stand for the plan that is kept."""
    with reading(job_id) as work:
        return _go_aheads(work)


@blueprint.post(f"{JOB}/plan/agreed")
@checked(resp=Response(HTTP_200=Changed, HTTP_422=ErrorOut))
def agree(job_id: int, json: AgreeIn) -> Changed:
    """Write the owner's go-ahead down."""
    with changing(job_id, json.version) as work:
        entry = agreeing.agree(work, json.owner, json.how, json.on, json.most)
        return changed(work, entry)


@blueprint.post(f"{JOB}/plan/go")
@checked(resp=Response(HTTP_200=Changed, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def give_go(job_id: int, json: VersionIn) -> Changed:
    """A lead's go past the plan's points of no return."""
    with changing(job_id, json.version) as work:
        return changed(work, agreeing.give_go(work))


@blueprint.get(SHEET)
@takes_a_while
def sheet(job_id: int, kind: str) -> FlaskResponse:
    """A sheet of the plan to print: estimate, work, parts and tools, or marks and counts."""
    with reading(job_id) as work:
        page = sheet_html(SheetKind(kind), sheet_content(work, SheetKind(kind)))
        name = f"{work.job.number}-{kind}.pdf"
    return FlaskResponse(
        report_pdf(page),
        mimetype="application/pdf",
        headers={"Content-Disposition": f'inline; filename="{name}"'},
    )


def _go_aheads(work: Work) -> GoAheads:
    found = agreeing.go_aheads(work)
    return GoAheads(
        agreed=found.agreed,
        agreed_words=found.agreed.words if found.agreed else "",
        why_not=found.why_not,
        needs_go=found.needs_go,
        go_by=found.go_by,
        may_start=found.agreed is not None and not found.why_not,
        ways_to_agree=list(choices(Agreeing)),
    )
