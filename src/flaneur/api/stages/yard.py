"""The yard: units, open jobs by stage, and starting a job."""

import logging

from flask import Blueprint, current_app
from spectree import Response
from sqlmodel import Session

from flaneur.api.models import Changed, ErrorOut, JobLine, NewJob, UnitOut, Yard
from flaneur.api.security import by_name
from flaneur.api.spec import checked
from flaneur.api.work import settings
from flaneur.core.errors import FlaneurError
from flaneur.core.proof.progress import STAGES, NextAction
from flaneur.core.record.bounds import printable
from flaneur.store.database import transaction
from flaneur.store.depot import book_of, unit_by_id, units
from flaneur.store.jobs import jobs, open_job, open_jobs, progress
from flaneur.store.tables import Job, Unit

blueprint = Blueprint("yard", __name__)
log = logging.getLogger("flaneur.yard")


def unit_out(session: Session, unit: Unit, open_jobs: dict[int, int]) -> UnitOut:
    """A unit for the screen; ``open_jobs`` as the store lists them, by unit."""
    return UnitOut(
        id=unit.id or 0,
        tag=unit.tag,
        name=unit.name,
        kind=unit.kind,
        place=unit.place,
        hours=unit.hours,
        engine=book_of(session, unit.book_id).name,
        has_baseline=bool(unit.baseline_deg),
        open_job=open_jobs.get(unit.id or 0),
    )


def _step_of(session: Session, job: Job) -> NextAction:
    """Where a job stands; one whose record cannot be read stands in its lane and says so, and stops
    nobody else.
    """
    try:
        return progress(session, job)
    except (FlaneurError, ValueError, TypeError, KeyError, AttributeError) as error:
        log.warning("job %s cannot be read: %s", job.number, str(error).splitlines()[0])
        return NextAction(
            "done" if job.signed_at else "intake",
            "This job's record cannot be read. A lead takes its file out and looks.",
        )


@blueprint.get("/api/yard")
@checked(resp=Response(HTTP_200=Yard))
def yard() -> Yard:
    """All units, and jobs with their stage and next action."""
    with transaction(current_app.config["ENGINE"]) as session:
        every, waiting = jobs(session), open_jobs(session)
        known = {u.id: u for u in units(session)}
        lines: list[JobLine] = []
        for job in every:
            unit, step = known[job.unit_id], _step_of(session, job)
            lines.append(
                JobLine(
                    id=job.id or 0,
                    number=job.number,
                    unit=unit.name,
                    tag=unit.tag,
                    engine=book_of(session, job.book_id).name,
                    stage=step.stage,
                    next_action=step.words,
                    complaint=printable(str(job.intake.get("complaint", "")), 4000),
                    signed_at_depot=job.signed_at_depot,
                    is_imported=job.imported_by is not None,
                    opened_by=job.opened_by,
                    opened_at=job.opened_at,
                )
            )
        return Yard(
            units=[unit_out(session, u, waiting) for u in known.values()],
            jobs=lines,
            stages=list(STAGES),
        )


@blueprint.post("/api/jobs")
@checked(resp=Response(HTTP_200=Changed, HTTP_404=ErrorOut))
def start_job(json: NewJob) -> Changed:
    """Open a job on a unit."""
    with transaction(current_app.config["ENGINE"]) as session:
        unit = unit_by_id(session, json.unit_id)
        job = open_job(session, unit, by_name(), settings().job_prefix)
        return Changed(
            id=job.id or 0, version=job.version, words=f"Job {job.number} opened on {unit.name}."
        )
