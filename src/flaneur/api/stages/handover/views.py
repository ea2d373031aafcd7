"""Handover: the report, the lead's signature and the depot's seal."""

from flask import Blueprint, Response, request
from flask_login import current_user
from spectree import Response as Answers

from flaneur.api.heavy import takes_a_while
from flaneur.api.kept import kept_while_unchanged
from flaneur.api.models import Changed, ErrorOut
from flaneur.api.security import address
from flaneur.api.shop import shop_of
from flaneur.api.spec import checked
from flaneur.api.stages.handover.models import HandoverOut, PhotoChoice, SignInput
from flaneur.api.work import JOB, changed, changing, database, queue, reading, signing_key
from flaneur.formats.report import report_html, report_pdf, with_seal
from flaneur.jobs import signing
from flaneur.jobs.accounts import check_password
from flaneur.jobs.reporting import report_content
from flaneur.jobs.telling import which_photos
from flaneur.jobs.work import Work
from flaneur.store.exporting import report_of, seal_of
from flaneur.store.queue import ask_for_trends
from flaneur.store.readings import photos_listed

blueprint = Blueprint("handover", __name__)
SOON_S = 5
REPORT_POLICY = (
    "default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:; frame-ancestors "
    "'self'; form-action 'none'; sandbox"
)


@blueprint.get(f"{JOB}/handover")
@kept_while_unchanged()
@checked(resp=Answers(HTTP_200=HandoverOut))
def get_handover(job_id: int) -> HandoverOut:
    """Where the report stands."""
    with reading(job_id) as work:
        report = report_of(work.session, work.job)
        return HandoverOut(
            is_released=work.job.released_by is not None or work.job.ended is not None,
            is_signed=work.job.signed_by is not None,
            signed_by=work.job.signed_by,
            signed_at=work.job.signed_at,
            signed_at_depot=work.job.signed_at_depot,
            sha256=report.sha256 if report else None,
            head=report.head if report else None,
            signing_key=report.public_key if report else None,
            left_over=work.job.left_over,
            summary=report_content(work, chosen=[]).summary,
            photos=_photos(work),
        )


def _draft(work: Work) -> str:
    asked = request.args.get("photos")
    chosen = None if asked is None else [int(k) for k in asked.split(",") if k.isdecimal()]
    return report_html(report_content(work, chosen=chosen))


def _photos(work: Work) -> list[PhotoChoice]:
    listed = photos_listed(work.session, work.job_id)
    shown = which_photos([p.id for p in listed], None)
    return [
        PhotoChoice(id=p.id, caption=p.caption, taken_by=p.taken_by, is_shown=p.id in shown)
        for p in listed
    ]


@blueprint.post(f"{JOB}/handover/sign")
@takes_a_while
@checked(resp=Answers(HTTP_200=Changed, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def sign(job_id: int, json: SignInput) -> Changed:
    """Sign the report with one's password and the depot's key; it is frozen from here. Only a lead,
    only a released engine.
    """
    pem = signing_key()
    check_password(database(), str(current_user.login), json.password, address())
    with changing(job_id, json.version, even_released=True) as work:
        depot = shop_of(work.session).name
        done = changed(work, signing.sign(work, pem, depot, json.left_over, json.photos))
    ask_for_trends(queue(), SOON_S)  # what the job teaches is drawn beside
    return done


@blueprint.get(f"{JOB}/report.html")
def html(job_id: int) -> Response:
    """The report as a page: the frozen one when signed, else a draft, with the photographs that are
    asked for (``?photos=3,5``).
    """
    with reading(job_id) as work:
        report = report_of(work.session, work.job)
        page = with_seal(report.html, seal_of(report)) if report else _draft(work)
    # A report shows; it runs nothing, loads nothing and sends nothing, whatever is written in it.
    return Response(page, mimetype="text/html", headers={"Content-Security-Policy": REPORT_POLICY})


@blueprint.get(f"{JOB}/report.pdf")
def pdf(job_id: int) -> Response:
    """The report as PDF."""
    with reading(job_id) as work:
        report = report_of(work.session, work.job)
        content = report.pdf if report else report_pdf(_draft(work))
        name = f"{work.job.number}.pdf"
    return Response(
        content,
        mimetype="application/pdf",
        headers={"Content-Disposition": f'inline; filename="{name}"'},
    )
