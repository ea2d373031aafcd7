"""Handover: the report, the lead's signature, and the job as a file."""

import hashlib

from flask import Blueprint, Response, current_app, request
from flask_login import current_user
from pydantic import ValidationError
from spectree import Response as Answers
from sqlmodel import select

from flaneur.api.errors import Forbidden
from flaneur.api.models import Changed, ErrorOut, HandoverOut, SignInput
from flaneur.api.report_content import report_content
from flaneur.api.security import by_name, limiter, require_lead
from flaneur.api.spec import checked
from flaneur.api.work import JOB, Work, changing, reading
from flaneur.core.errors import FlaneurError
from flaneur.core.proof.baseline import own_baseline_deg
from flaneur.formats.report import report_html, report_pdf
from flaneur.store.accounts import verify
from flaneur.store.archive import Archive, ArchiveError, export_job, import_job
from flaneur.store.changes import record
from flaneur.store.database import transaction
from flaneur.store.depot import unit_by_id
from flaneur.store.jobs import plan_of
from flaneur.store.readings import cam_readings, readings_of, valid
from flaneur.store.tables import Report, now

blueprint = Blueprint("handover", __name__)


class SignatureError(FlaneurError):
    """The report cannot be signed yet."""


@blueprint.get(f"{JOB}/handover")
@checked(resp=Answers(HTTP_200=HandoverOut))
def get_handover(job_id: int) -> HandoverOut:
    """Where the report stands."""
    with reading(job_id) as work:
        report = _report(work)
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
            sha256=report.sha256 if report else None,
            left_over=work.job.left_over,
            summary=summary,
        )


def _report(work: Work) -> Report | None:
    return work.session.exec(select(Report).where(Report.job_id == work.job.id)).first()


@blueprint.post(f"{JOB}/handover/sign")
@limiter.limit("20 per minute")
@checked(resp=Answers(HTTP_200=Changed, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def sign(job_id: int, json: SignInput) -> Changed:
    """Sign the report with one's password; it is frozen from here. Only a lead, only a released engine."""
    require_lead()
    with changing(job_id, json.version, even_released=True) as work:
        if verify(work.session, current_user.login, json.password) is None:
            raise Forbidden("The password is not right.", advice="Sign with your own password.")
        if work.job.released_by is None:
            raise SignatureError("The engine is not released.", advice="Finish Proof first.")
        work.job.left_over = json.left_over.strip()
        work.job.signed_by, work.job.signed_at = work.by, now()
        entry = record(work.session, work.job, work.by, "signed", f"Signed by {work.by}. The report is frozen.")
        html = report_html(report_content(work))
        work.session.add(
            Report(
                job_id=job_id,
                html=html,
                pdf=report_pdf(html),
                sha256=hashlib.sha256(html.encode()).hexdigest(),
                signed_by=work.by,
                signed_at=work.job.signed_at,
            )
        )
        _keep_baseline(work)
        return work.changed(entry)


def _keep_baseline(work: Work) -> None:
    """Keep what of the capture after the repair may serve as the engine's own baseline; an old one is void."""
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
        report = _report(work)
        return Response(report.html if report else report_html(report_content(work)), mimetype="text/html")


@blueprint.get(f"{JOB}/report.pdf")
def pdf(job_id: int) -> Response:
    """The report as PDF."""
    with reading(job_id) as work:
        report = _report(work)
        content = report.pdf if report else report_pdf(report_html(report_content(work)))
        name = f"{work.job.number}.pdf"
    return Response(content, mimetype="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'})


@blueprint.get(f"{JOB}/archive.json")
def archive(job_id: int) -> Response:
    """The whole job as a JSON file."""
    with reading(job_id) as work:
        text, name = export_job(work.session, work.job).model_dump_json(), f"{work.job.number}.json"
    return Response(text, mimetype="application/json", headers={"Content-Disposition": f'attachment; filename="{name}"'})


@blueprint.post("/api/import")
@checked(resp=Answers(HTTP_200=Changed, HTTP_422=ErrorOut))
def import_archive() -> Changed:
    """Add a job from its JSON file (multipart field ``file``)."""
    upload = request.files.get("file")
    if upload is None:
        raise ArchiveError("No file arrived.", expected="a job file in the field “file”")
    try:
        found = Archive.model_validate_json(upload.stream.read())
    except ValidationError as error:
        raise ArchiveError("This is not a job file.", read=error.errors()[0]["msg"], expected="a JSON file exported by Flaneur") from error
    with transaction(current_app.config["ENGINE"]) as session:
        job = import_job(session, found)
        entry = record(session, job, by_name(), "imported", f"Job {job.number} imported from a file.") if not job.signed_by else None
        return Changed(id=job.id or 0, version=job.version, words=entry.words if entry else f"Job {job.number} imported, signed.")
