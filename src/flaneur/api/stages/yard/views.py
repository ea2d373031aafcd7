"""The yard: units, open jobs by stage, and starting a job."""

from flask import Blueprint
from spectree import Response

from flaneur.api.models import Changed, ErrorOut
from flaneur.api.security import by_name, person
from flaneur.api.spec import checked
from flaneur.api.stages.yard.models import JobLine, NewJob, Yard
from flaneur.api.work import database, settings, unit_out
from flaneur.core.job.progress import STAGES
from flaneur.core.record.bounds import printable
from flaneur.jobs.opening import open_job
from flaneur.jobs.standing import next_of_each
from flaneur.store.database import transaction
from flaneur.store.depot import book_of, know_books, unit_by_id, units
from flaneur.store.jobs import jobs, open_jobs

blueprint = Blueprint("yard", __name__)


@blueprint.get("/api/yard")
@checked(resp=Response(HTTP_200=Yard))
def yard() -> Yard:
    """All units, and jobs with their stage and next action."""
    with transaction(database()) as session:
        every, waiting = jobs(session), open_jobs(session)
        known = {u.id: u for u in units(session)}
        know_books(session, {row.book_id for row in (*every, *known.values())})
        following = next_of_each(session, every)
        lines: list[JobLine] = []
        for job in every:
            unit, step = known[job.unit_id], following[job.id or 0]
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
    with transaction(database(), person()) as session:
        unit = unit_by_id(session, json.unit_id)
        job = open_job(session, unit, by_name(), settings().job_prefix)
        return Changed(
            id=job.id or 0, version=job.version, words=f"Job {job.number} opened on {unit.name}."
        )
