"""Handover: the report, the lead's signature and the depot's seal."""

import hashlib

from flask import Blueprint, Response
from flask_login import current_user
from spectree import Response as Answers

from flaneur.api.errors import Forbidden
from flaneur.api.models import Changed, ErrorOut, HandoverOut, SignInput
from flaneur.api.report_content import report_content
from flaneur.api.security import limiter
from flaneur.api.spec import checked
from flaneur.api.work import JOB, Work, changing, reading, settings, signing_key
from flaneur.core.errors import FlaneurError
from flaneur.core.proof.baseline import own_baseline_deg
from flaneur.core.record.canonical import digest, digest_of_text
from flaneur.formats.archive import Statement, sign_statement
from flaneur.formats.report import report_html, report_pdf, with_seal
from flaneur.store.accounts import verify
from flaneur.store.archive import export_job, report_of, seal_of, unit_now
from flaneur.store.changes import record
from flaneur.store.depot import unit_by_id
from flaneur.store.jobs import plan_of
from flaneur.store.readings import cam_readings, readings_of, valid
from flaneur.store.tables import Report, now

blueprint = Blueprint("handover", __name__)
REPORT_POLICY = (
    "default-src 'none'; style-src 'unsafe-inline'; img-src data:; frame-ancestors "
    "'self'; form-action 'none'; sandbox"
)


class SignatureError(FlaneurError):
    """The report cannot be signed yet."""


@blueprint.get(f"{JOB}/handover")
@checked(resp=Answers(HTTP_200=HandoverOut))
def get_handover(job_id: int) -> HandoverOut:
    """Where the report stands."""
    with reading(job_id) as work:
        report = report_of(work.session, work.job)
        content = report_content(work)
        unmet = [c.name for c in content.checks if c.state != "met"]
        summary = [
            content.headline,
            f"Renewed: {', '.join(content.renewed) or 'nothing'}.",
            f"Not met: {', '.join(unmet)}." if unmet else "Every condition of release is met.",
        ]
        return HandoverOut(
            is_released=work.job.released_by is not None,
            is_signed=work.job.signed_by is not None,
            signed_by=work.job.signed_by,
            signed_at=work.job.signed_at,
            signed_at_depot=work.job.signed_at_depot,
            sha256=report.sha256 if report else None,
            head=report.head if report else None,
            signing_key=report.public_key if report else None,
            left_over=work.job.left_over,
            summary=summary,
        )


@blueprint.post(f"{JOB}/handover/sign")
@limiter.limit("20 per minute")
@checked(resp=Answers(HTTP_200=Changed, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def sign(job_id: int, json: SignInput) -> Changed:
    """Sign the report with one's password and the depot's key; it is frozen from here. Only a lead,
    only a released engine.
    """
    pem = signing_key()
    with changing(job_id, json.version, even_released=True) as work:
        if verify(work.session, current_user.login, json.password) is None:
            raise Forbidden("The password is not right.", advice="Sign with your own password.")
        if work.job.released_by is None:
            raise SignatureError("The engine is not released.", advice="Finish Proof first.")
        work.job.left_over = json.left_over.strip()
        _keep_baseline(work)
        entry = record(
            work.session, work.job, work.by, "signed", f"Signed by {work.by}. The report is frozen."
        )
        work.job.signed_by, work.job.signed_at = (
            work.by,
            now(),
        )  # last of all: from here the database lets nothing in
        work.session.add(_sealed_report(work, pem, entry.hash))
        return work.changed(entry)


def _sealed_report(work: Work, pem: str, head: str) -> Report:
    """The report as it is frozen, with the depot's seal over it, the journal's head, and every row
    of the job.
    """
    job, signed_at = work.job, work.job.signed_at
    assert signed_at is not None
    work.session.flush()
    html = report_html(report_content(work, head))
    pdf, unit = report_pdf(html), unit_now(work.session, job)
    content = export_job(work.session, job, with_samples=False)
    statement = Statement(
        depot=settings().depot,
        number=job.number,
        head=head,
        content_sha256=digest(content.content()),
        book_sha256=digest_of_text(content.book),
        report_sha256=digest_of_text(html),
        pdf_sha256=hashlib.sha256(pdf).hexdigest(),
        signed_by=work.by,
        signed_at=signed_at,
    )
    seal = sign_statement(pem, statement)
    return Report(
        job_id=job.id or 0,
        html=html,
        pdf=pdf,
        sha256=statement.report_sha256,
        signed_by=work.by,
        signed_at=signed_at,
        head=head,
        unit=unit,
        statement=statement.model_dump(mode="json"),
        signature=seal.signature,
        public_key=seal.public_key,
    )


def _keep_baseline(work: Work) -> None:
    """Keep what of the capture after the repair may serve as the engine's own baseline; an old one
    is void.
    """
    plan = plan_of(work.job)
    after = cam_readings(valid(readings_of(work.session, work.job.id or 0, "after")))
    unit = unit_by_id(work.session, work.job.unit_id)
    found = own_baseline_deg(work.book, after, plan.renewed if plan else [])
    unit.baseline_deg, unit.baseline_job = found, work.job.number if found else None
    work.session.add(unit)


@blueprint.get(f"{JOB}/report.html")
def html(job_id: int) -> Response:
    """The report as a page: the frozen one when signed, else a draft."""
    with reading(job_id) as work:
        report = report_of(work.session, work.job)
        page = (
            with_seal(report.html, seal_of(report)) if report else report_html(report_content(work))
        )
    # A report shows; it runs nothing, loads nothing and sends nothing, whatever is written in it.
    return Response(page, mimetype="text/html", headers={"Content-Security-Policy": REPORT_POLICY})


@blueprint.get(f"{JOB}/report.pdf")
def pdf(job_id: int) -> Response:
    """The report as PDF."""
    with reading(job_id) as work:
        report = report_of(work.session, work.job)
        content = report.pdf if report else report_pdf(report_html(report_content(work)))
        name = f"{work.job.number}.pdf"
    return Response(
        content,
        mimetype="application/pdf",
        headers={"Content-Disposition": f'inline; filename="{name}"'},
    )
