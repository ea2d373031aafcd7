"""The report signed and sealed, and what of it becomes the engine's own baseline."""

import hashlib
from collections.abc import Sequence

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.job.change import Change
from flaneur.core.measuring.kinds import Phase
from flaneur.core.meters import Meter, Reading, fault
from flaneur.core.proof.baseline import own_baseline_deg
from flaneur.core.readings.counting import cam_readings, counting
from flaneur.core.record.canonical import canonical, digest, digest_of_text
from flaneur.formats.archive import Statement, sign_statement
from flaneur.formats.report import report_html, report_pdf
from flaneur.jobs.reporting import report_content
from flaneur.jobs.work import Work
from flaneur.store.exporting import export_job, unit_now
from flaneur.store.plans import plan_of
from flaneur.store.readings import readings_of
from flaneur.store.tables import JournalEntry, Report, now
from flaneur.store.units import add_reading, engine_by_id, plain, readings_of_meters


class SignatureError(FlaneurError):
    """The report cannot be signed yet."""

    code = ErrorCode.SIGNATURE_REFUSED


def sign(
    work: Work, pem: str, depot: str, left_over: str, photos: Sequence[int] | None = None
) -> JournalEntry:
    """Sign a released job's report with the depot's key, with these ``photos`` or the first ones;
    it is frozen from here. Raises SignatureError.
    """
    if work.job.released_by is None and work.job.ended is None:
        raise SignatureError("The engine is not released.", advice="Finish Proof first.")
    work.job.left_over = left_over.strip()
    if work.job.ended is None:
        _keep_baseline(work)
    _keep_hours(work)
    entry = work.record(Change.SIGNED, f"Signed by {work.by}. The report is frozen.")
    # Last of all: from here the database lets nothing in.
    work.job.signed_by, work.job.signed_at = work.by, now()
    work.session.add(_sealed_report(work, pem, depot, entry.hash, photos))
    return entry


def _sealed_report(
    work: Work, pem: str, depot: str, head: str, photos: Sequence[int] | None
) -> Report:
    """The report as it is frozen, with the depot's seal over it, the journal's head, and every row
    of the job.
    """
    job, signed_at = work.job, work.job.signed_at
    assert signed_at is not None
    work.session.flush()
    html = report_html(report_content(work, head, photos))
    unit, content = unit_now(work.session, job), export_job(work.session, job, with_samples=False)
    pdf = report_pdf(html, canonical(content.record()), f"{job.number}.json")
    statement = Statement(
        depot=depot,
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
        job_id=work.job_id,
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
    after = cam_readings(counting(readings_of(work.session, work.job_id), Phase.AFTER))
    engine = engine_by_id(work.session, work.job.engine_id)
    found = own_baseline_deg(work.book, after, plan.renewed if plan else [])
    engine.baseline_deg, engine.baseline_job = found, work.job.number if found else None
    work.session.add(engine)


def _keep_hours(work: Work) -> None:
    """Enter the hours told at intake as a reading of the engine's meter, where they go on from what
    it showed before.
    """
    hours = work.job.intake.get("hours")
    engine = engine_by_id(work.session, work.job.engine_id)
    if engine.meter != Meter.HOURS or not isinstance(hours, int | float):
        return
    key = engine.id or 0
    before = plain(readings_of_meters(work.session, [key])[key])
    on = work.job.opened_at.date()
    if before and before[-1].value == hours:
        return
    if not fault(before, Reading(float(hours), on)):
        add_reading(work.session, key, float(hours), on, work.by)
